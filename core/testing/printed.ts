import type { Step } from '../document/index.ts'
import type { Kernel, Solid } from '../kernel/index.ts'
import { TriangleTree } from '../mesh/index.ts'
import type { Ring } from '../plane/index.ts'
import { onFace, step, treatment } from './index.ts'
import { among } from './parts.ts'

/** How much of the outlines of a solid's layers lies elsewhere than `by` mm inside of where it is drawn, as a share of their length. */
export interface Off {
  readonly share: number
  /** mm, of all that is not off by more than is looked for */
  readonly worst: number
  /** mm of outlines that were looked at */
  readonly length: number
  /** where it is off, and by how much */
  readonly places: readonly (readonly [x: number, y: number, z: number, off: number])[]
}

/** What lies farther off than this is off, mm. */
const near = 0.005
/** Heights that are looked at, at most. */
const mostHeights = 15
/** Nearer to the height of a corner than this nothing is looked at, mm. */
const clear = 0.02

/** Reads the layers of a solid and asks of each place of their outlines how far from its goal the surface of the other one is. */
export function offSideways(kernel: Kernel, drawn: Solid, printed: Solid, by: number): Off {
  const heights = heightsOf(drawn)
  let [length, off, worst] = [0, 0, 0]
  const places: [number, number, number, number][] = []
  const tree = new TriangleTree({ positions: printed.corners(), triangles: printed.mesh().triangles })
  for (const z of heights) {
    const before = kernel.scope((scope) => scope.slice(drawn, z).rings)
    for (const ring of before)
      for (let i = 0; i < ring.length; i++) {
        const [a, b] = [ring[i]!, ring[(i + 1) % ring.length]!]
        const long = Math.hypot(b[0] - a[0], b[1] - a[1])
        if (long < 1e-6) continue
        // Material lies to the left of an outline.
        const out = [(b[1] - a[1]) / long, (a[0] - b[0]) / long] as const
        const count = Math.ceil(long)
        for (let k = 0; k < count; k++) {
          const share = (k + 0.5) / count
          const at = [a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share] as const
          const goal = [at[0] - by * out[0], at[1] - by * out[1]] as const
          // What another wall takes with it is not there any more.
          if (farFrom(before, goal) < Math.abs(by) - 1e-4) continue
          const found = tree.nearest([...goal, z])!.distance
          length += long / count
          if (found > near) {
            off += long / count
            places.push([at[0], at[1], z, found])
          } else worst = Math.max(worst, found)
        }
      }
  }
  return { share: length > 0 ? off / length : 0, worst, length, places }
}

/** Between those of corners. */
function heightsOf(solid: Solid): number[] {
  const corners = solid.corners()
  const all = [
    ...new Set(Array.from({ length: corners.length / 3 }, (_, i) => Math.round(corners[3 * i + 2]! / clear))),
  ]
  all.sort((a, b) => a - b)
  const between = all.slice(1).flatMap((z, i) => (z - all[i]! > 1 ? [((z + all[i]!) / 2) * clear] : []))
  const every = Math.max(1, Math.ceil(between.length / mostHeights))
  return between.filter((_, i) => i % every === 0)
}

function farFrom(rings: readonly Ring[], p: readonly [number, number]): number {
  let least = Number.POSITIVE_INFINITY
  for (const ring of rings)
    for (let i = 0; i < ring.length; i++) {
      const [a, b] = [ring[i]!, ring[(i + 1) % ring.length]!]
      const [u, v] = [b[0] - a[0], b[1] - a[1]]
      const whole = u * u + v * v
      const share = whole > 0 ? Math.min(1, Math.max(0, ((p[0] - a[0]) * u + (p[1] - a[1]) * v) / whole)) : 0
      least = Math.min(least, Math.hypot(a[0] + u * share - p[0], a[1] + v * share - p[1]))
    }
  return least
}

/** A body with solids, bores and pockets on it that lean and break out anywhere, some of its edges eased. */
export function randomToPrint(random: () => number): Step[] {
  const size = (low: number, high: number) => (low + (high - low) * random()).toFixed(3)
  const by = (most: number) => ({ from: 'centre', to: 'centre', by: size(-most, most) }) as const
  const tilt = () => among(random, '0', '0', size(-25, 25))
  const corner = among(random, '0', '0', size(1, 4))
  const placed = { across: by(30), along: by(30), turn: size(-90, 90) }
  const base = among(
    random,
    () =>
      step('b', 'plate', { width: size(25, 50), depth: size(25, 50), height: size(5, 18), corner }, { place: placed }),
    () => step('b', 'bar', { diameter: size(25, 45), height: size(6, 18) }, { place: placed }),
    () =>
      step(
        'b',
        'prism',
        { sides: among(random, '5', '6', '7'), size: size(30, 50), height: size(6, 18) },
        { place: placed },
      ),
  )()
  const others = Array.from({ length: 1 + Math.floor(random() * 5) }, (_, i): Step => {
    const place = {
      ...onFace('b', base.shape === 'bar' ? 'end' : 'top'),
      across: by(13),
      along: by(13),
      turn: among(random, '0', size(0, 90)),
      // What leans would stand on an edge alone.
      lift: '-2.3',
      tilt: tilt(),
      lean: tilt(),
    }
    const cut = random() < 0.5 ? { operation: 'cut' } : {}
    return among(
      random,
      () =>
        step(
          `s${i}`,
          'plate',
          { width: size(5, 15), depth: size(5, 15), height: size(2, 8), corner: among(random, '0', size(0.5, 2)) },
          { place, ...cut },
        ),
      () => step(`s${i}`, 'bar', { diameter: size(4, 12), height: size(2, 8) }, { place, ...cut }),
      () => step(`s${i}`, 'hole', { diameter: size(2, 9) }, { place, operation: 'cut' }),
      () => step(`s${i}`, 'prism', { sides: among(random, '3', '5', '6'), size: size(6, 14) }, { place, ...cut }),
      () => step(`s${i}`, 'ball', { diameter: size(6, 14) }, { place, ...cut }),
      () => step(`s${i}`, 'slot', { length: size(9, 16), width: size(3, 6) }, { place, operation: 'cut' }),
      () =>
        step(
          `s${i}`,
          'text',
          { text: among(random, 'B3', 'Rk', '&8'), size: size(6, 11), depth: '0.9' },
          { place, ...cut },
        ),
    )()
  })
  const eased =
    random() < 0.4
      ? [
          treatment('round', {
            edges: among(random, 'of b/top', 'outer of b/top', 'upright outer'),
            radius: size(0.6, 1.8),
          }),
        ]
      : []
  return [base, ...others, ...eased]
}
