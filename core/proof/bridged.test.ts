import { expect, it } from 'vitest'
import type { Part, Step } from '../document/index.ts'
import type { SolidMesh } from '../kernel/index.ts'
import { layerMiddle } from '../layers/index.ts'
import { columnsOf, filledAt, grownBy, type Squares } from '../testing/columns.ts'
import { built, partOf, seeded, step, testKernel } from '../testing/index.ts'
import { sampled } from '../testing/sample.ts'
import { proofOf } from './index.ts'

const kernel = await testKernel()

/** Decks on posts, turned as they come and with holes through them, for a printer that spans as much as it happens to. */
function deck(random: () => number): Part {
  const between = (low: number, high: number) => low + (high - low) * random()
  const at = (mm: number) => ({ from: 'centre', to: 'centre', by: `${mm}` }) as const
  // What is no more than a mm over something lies on that.
  const tall = between(3, 7)
  const put = (far: number, lift: number) => ({
    ...{ across: at(between(-far, far)), along: at(between(-far, far)), rest: 'on' as const },
    ...{ turn: `${between(-180, 180)}`, lift: `${lift}` },
  })
  const posts = Array.from({ length: 2 + Math.floor(3 * random()) }, (_, i): Step => {
    const isRound = random() < 0.4
    const fields: Record<string, string> = isRound
      ? { diameter: `${between(2.5, 7)}`, height: `${tall}` }
      : { width: `${between(2, 5)}`, depth: `${between(4, 18)}`, height: `${tall}` }
    return step(`post${i}`, isRound ? 'bar' : 'plate', fields, { place: put(11, 0) })
  })
  const wide = { width: `${between(9, 26)}`, depth: `${between(5, 18)}`, height: `${between(1.5, 4)}` }
  const over = step('deck', 'plate', wide, { place: put(3, tall - 0.4) })
  const holes = Array.from({ length: Math.floor(3 * random()) }, (_, i) =>
    step(
      `hole${i}`,
      'bar',
      { diameter: `${between(2, 6)}`, height: '5' },
      { operation: 'cut', place: put(7, tall - 0.6) },
    ),
  )
  const part = partOf([step('foot', 'plate', { width: '30', depth: '30', height: '1' }), ...posts, over, ...holes])
  return { ...part, printer: { ...part.printer, bridge: between(3, 12) } }
}

const squares: Squares = { side: 0.3, count: 160 }
const { side, count } = squares
const ways = Array.from({ length: 48 }, (_, w) => (w * Math.PI) / 48)

/** A region of a layer with nothing below it, bridged in the way that leaves least of it free, and then over the shortest lines. */
interface Bridged {
  /** of its squares that lie farther out than what may lean, those whose line is free at an end */
  readonly free: number
  readonly squares: number
  /** of lines that are held at both ends, mm */
  readonly longest: number
  /** in the way that is best without those that leave something free: undefined where all do */
  readonly unbroken: number | undefined
}

/** All regions of all layers that have no squares below them, walked square by square. */
function bridgedIn(mesh: SolidMesh, { printer }: Part): readonly Bridged[] {
  const columns = columnsOf(mesh, squares)
  const top = Math.max(...columns.map((column) => column.at(-1) ?? 0))
  const layers = Array.from({ length: 400 }, (_, layer) => layerMiddle(layer, printer)).filter((z) => z < top)
  const filled = layers.map((z) => filledAt(columns, z))
  const found: Bridged[] = []
  for (const [layer, own] of filled.entries()) {
    if (layer === 0) continue
    const held = filled[layer - 1]!.slice()
    for (let k = layer - 2; k >= 0 && layers[layer]! - layers[k]! < 1.1; k--)
      for (const [i, is] of filled[k]!.entries()) if (is) held[i] = 1
    const may = (layers[layer]! - layers[layer - 1]!) * Math.tan((printer.overhang * Math.PI) / 180)
    const reached = grownBy(squares, held, may + side)
    const region = Uint8Array.from(own, (is, i) => (is && !held[i] ? 1 : 0))
    for (const members of piecesOf(region)) {
      const beyond = members.filter((i) => !reached[i])
      if (beyond.length > 0) found.push(bestOf(beyond, region, held))
    }
  }
  return found
}

function piecesOf(region: Uint8Array): readonly (readonly number[])[] {
  const seen = new Uint8Array(region.length)
  const out: number[][] = []
  for (const [start, is] of region.entries()) {
    if (!is || seen[start]) continue
    const own = [start]
    seen[start] = 1
    for (const i of own)
      for (const next of [i - 1, i + 1, i - count, i + count])
        if (region[next] && !seen[next]) {
          seen[next] = 1
          own.push(next)
        }
    out.push(own)
  }
  return out
}

function bestOf(beyond: readonly number[], region: Uint8Array, held: Uint8Array): Bridged {
  const step = 0.5
  const tries = ways.map((way) => {
    const [dx, dy] = [step * Math.cos(way), step * Math.sin(way)]
    let [free, longest] = [0, 0]
    for (const at of beyond) {
      const ends = [1, -1].map((sign) => {
        for (let far = 1; ; far++) {
          const i = Math.round(Math.floor(at / count) + sign * far * dx)
          const k = Math.round((at % count) + sign * far * dy)
          if (!region[i * count + k]) return { far: (far - 0.5) * step * side, isHeld: held[i * count + k] === 1 }
        }
      })
      if (ends.every(({ isHeld }) => isHeld)) longest = Math.max(longest, ends[0]!.far + ends[1]!.far)
      else free++
    }
    return { free, longest }
  })
  const least = Math.min(...tries.map(({ free }) => free))
  const unbroken = tries.filter(({ free }) => free === 0).map(({ longest }) => longest)
  return {
    ...{ free: least, squares: beyond.length },
    longest: Math.min(...tries.filter(({ free }) => free === least).map(({ longest }) => longest)),
    unbroken: unbroken.length > 0 ? Math.min(...unbroken) : undefined,
  }
}

it.each(sampled(200, 1, 20))(
  'is told of a deck on posts by how long it is bridged, and nothing else (%i)',
  async (i) => {
    const part = deck(seeded(7901 * i))
    const { bridge } = part.printer
    const drawn = await built(kernel, part, 0.05)
    const findings = await proofOf(kernel, drawn, { only: ['overhangs', 'islands', 'bridges'] })
    const told = findings.filter(({ rank }) => rank !== 'pass')
    const said = findings.map(({ text }) => text).join('\n')
    const regions = bridgedIn(drawn.pieces[0]!.solid!.mesh(), part)
    // Squares tell a line to within two or so of them.
    const rough = 3 * side
    const large = regions.filter((region) => region.squares > 12)
    const isLong = large.some(({ free, longest }) => free > 0 || longest > bridge + rough)
    if (
      large.some(
        ({ free, squares: all, unbroken }) =>
          (unbroken ?? bridge + rough + 1) > bridge + rough && (free === 0 || free > 0.1 * all),
      )
    )
      expect(told.length, said).toBeGreaterThan(0)
    const isShort = regions.every(({ unbroken }) => unbroken !== undefined && unbroken < bridge - rough)
    if (isShort) expect(told.map(({ text }) => text)).toEqual([])
    // Where nothing is free in any way, how long it is told to be is how long it is.
    if (regions.some(({ free }) => free > 0) || regions.length === 0) return
    const longest = Math.max(...regions.map((region) => region.longest))
    const bridges = findings.find(({ check }) => check === 'bridges')!
    const span = bridges.code === 'bridges-none' ? 0 : (bridges.values.span as { of: readonly number[] }).of[0]!
    if (isLong || longest > rough)
      expect(Math.abs(span - longest), `${span} for ${longest}: ${said}`).toBeLessThan(rough)
  },
)
