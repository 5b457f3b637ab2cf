import { expect, it } from 'vitest'
import { applyEdit, newPiece } from '../document/index.ts'
import { fieldKindOf } from '../planning/index.ts'
import { built, bundleOf, partOf, repeat, sameAs, step, testKernel } from '../testing/index.ts'

const kernel = await testKernel()
const off = (by: number) => ({ from: 'centre', to: 'centre', by: `${by}` }) as const

it('a piece has the shape of another one, mirrored alone and turned, and follows it', async () => {
  // Neither side of it is like the other.
  const arm = bundleOf('arm', [
    step('a', 'plate', { width: '31.7', depth: '6', height: '5' }),
    step('b', 'bar', { diameter: '4.1', height: '9' }, { place: { across: off(11.3), along: off(1) } }),
  ])
  const mirrored = repeat('mirror', { direction: 'across', at: '0', keep: 'mirrored' })
  const other = sameAs('m', 'arm', { place: { along: off(37.3), turn: '15.3' }, repeats: [mirrored] })
  const part = {
    ...partOf([arm]),
    pieces: [partOf([arm]).pieces[0]!, { ...newPiece('p2', 'Left', 'sand'), steps: [other] }],
  }
  for (const wide of ['31.7', '40.1']) {
    const now = applyEdit(part, { type: 'set-field', id: 'a', field: 'width', text: wide }, fieldKindOf)
    const done = await built(kernel, now)
    expect(done.problems).toEqual([])
    const [one, two] = done.pieces.map(({ solid }) => solid!)
    expect(two!.volume()).toBeCloseTo(one!.volume(), 9)
    // No turn in the plane makes one of the other: the bar lies to the right of it, seen from its middle, or to the left.
    expect(handOf(one!.mesh())).toBeCloseTo(-handOf(two!.mesh()), 3)
    expect(Math.abs(handOf(one!.mesh()))).toBeGreaterThan(1)
  }
})

/** A number that a turn about z leaves alone and a mirror changes the sign of: moments of what stands above 5 mm about the middle. */
function handOf({ positions }: { readonly positions: Float32Array }): number {
  const points = Array.from({ length: positions.length / 3 }, (_, i) => [0, 1, 2].map((k) => positions[3 * i + k]!))
  const low = points.filter(([, , z]) => z! < 0.01)
  const high = points.filter(([, , z]) => z! > 8.9)
  const mean = (all: number[][], k: number) => all.reduce((sum, p) => sum + p[k]!, 0) / all.length
  const [mx, my] = [mean(high, 0), mean(high, 1)]
  // The longest way from the bar to a corner of the plate, against that to the next one.
  const corners = low.map(([x, y]) => [x! - mx, y! - my] as const)
  const far = [...corners].sort((p, q) => Math.hypot(...q) - Math.hypot(...p))
  return (far[0]![0] * far[1]![1] - far[0]![1] * far[1]![0]) / 100
}
