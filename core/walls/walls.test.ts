import { describe, expect, it } from 'vitest'
import type { Place, Step } from '../document/index.ts'
import { meshFigures, shellsOf, skinEdges, TriangleTree } from '../mesh/index.ts'
import type { Vec3 } from '../place/index.ts'
import { flatsRound } from '../plane/index.ts'
import { built, inTurn, onFace, partOf, step, testKernel, treatment } from '../testing/index.ts'

const kernel = await testKernel()

const hollow = (thick: number, more: Record<string, string> = {}) => treatment('hollow', { thick: `${thick}`, ...more })
const [w, d, h] = [40.3, 30.1, 20.7]
const block = step('b', 'plate', { width: `${w}`, depth: `${d}`, height: `${h}` })
const onTop = (place: Partial<Place> = {}) => ({ place: { ...onFace('b', 'top'), ...place } })
const off = (by: string) => ({ from: 'centre', to: 'centre', by }) as const

async function solidOf(steps: readonly Step[], fineness = 0.02) {
  const { pieces, buildProblems } = await built(kernel, partOf([...steps]), fineness)
  return { solid: pieces[0]!.solid!, told: buildProblems.map(({ code }) => code) }
}
const volumeOf = async (steps: readonly Step[], fineness?: number) => (await solidOf(steps, fineness)).solid.volume()

/** What volumes at two finenesses lead to. */
async function limitOf(steps: readonly Step[]): Promise<number> {
  const [coarse, fine] = [await volumeOf(steps, 0.04), await volumeOf(steps, 0.01)]
  return (4 * fine - coarse) / 3
}

/** The least and the greatest distance from the outer surface to the cavity of a hollow solid, over so many places. */
async function wallOf(steps: readonly Step[], fineness = 0.02, places = 3000) {
  const { solid, told } = await solidOf(steps, fineness)
  const mesh = solid.mesh()
  const { shellOf, shells } = shellsOf(mesh)
  const inner = new Set(shells.flatMap(({ volume }, i) => (volume < 0 ? [i] : [])))
  const pick = (inside: boolean) =>
    Uint32Array.from(
      [...shellOf].flatMap((shell, t) =>
        inner.has(shell) === inside ? [...mesh.triangles.subarray(3 * t, 3 * t + 3)] : [],
      ),
    )
  const cavity = new TriangleTree({ positions: mesh.positions, triangles: pick(true) })
  const outer = pick(false)
  const point = (v: number): Vec3 => [mesh.positions[3 * v]!, mesh.positions[3 * v + 1]!, mesh.positions[3 * v + 2]!]
  const count = outer.length / 3
  const areas = Array.from({ length: count }, (_, t) => {
    const [a, b, c] = [0, 1, 2].map((i) => point(outer[3 * t + i]!)) as [Vec3, Vec3, Vec3]
    const [u, v] = [b.map((x, i) => x - a[i]!), c.map((x, i) => x - a[i]!)] as [number[], number[]]
    return Math.hypot(u[1]! * v[2]! - u[2]! * v[1]!, u[2]! * v[0]! - u[0]! * v[2]!, u[0]! * v[1]! - u[1]! * v[0]!)
  })
  const whole = areas.reduce((sum, each) => sum + each, 0)
  let [least, most, t, gone] = [Infinity, 0, 0, areas[0]!]
  for (let i = 0; i < places; i++) {
    const wanted = ((i + 0.5) / places) * whole
    while (gone < wanted && t + 1 < count) gone += areas[++t]!
    // A place within it that takes turns.
    const [r, s] = [(i * 0.618) % 1, (i * 0.414) % 1]
    const [x, y] = r + s > 1 ? [1 - r, 1 - s] : [r, s]
    const [a, b, c] = [0, 1, 2].map((k) => point(outer[3 * t + k]!)) as [Vec3, Vec3, Vec3]
    const p = a.map((at, k) => at + (b[k]! - at) * x + (c[k]! - at) * y) as unknown as Vec3
    const far = cavity.nearest(p)!.distance
    least = Math.min(least, far)
    most = Math.max(most, far)
  }
  return { least, most, told, cavities: inner.size }
}

describe('a hollow solid', () => {
  it('of a block has a block in it, to the last digit', async () => {
    const closed = await volumeOf([block, hollow(2.3)])
    expect(closed).toBeCloseTo(w * d * h - (w - 4.6) * (d - 4.6) * (h - 4.6), 8)
    const { solid } = await solidOf([block, hollow(2.3)])
    expect(solid.bounds()).toEqual((await solidOf([block])).solid.bounds())
  })
  it('is open at chosen faces, with other walls at others', async () => {
    const open = await volumeOf([block, hollow(2.3, { open: 'b/top' })])
    expect(open).toBeCloseTo(w * d * h - (w - 4.6) * (d - 4.6) * (h - 2.3), 6)
    const floor = await volumeOf([block, hollow(2.3, { open: 'b/top', other: 'b/bottom, 3.1; b/left, 1 + 0.4' })])
    expect(floor).toBeCloseTo(w * d * h - (w - 2.3 - 1.4) * (d - 4.6) * (h - 3.1), 6)
    const through = await volumeOf([block, hollow(2.3, { open: 'b/top; b/bottom; b/left' })])
    expect(through).toBeCloseTo(w * d * h - (w - 2.3) * (d - 4.6) * h, 5)
  })
  it.each(['c/side', 'p/left'])('has no skin left at %s where it is open, however it is turned', async (open) => {
    const areas: number[] = []
    for (const place of [{}, { turn: '37.3', tilt: '21', lean: '-13.7' }, { tilt: '85.1', across: off('15.3') }]) {
      const bar = step(
        'c',
        'bar',
        { diameter: '12.3', height: '9.1' },
        onTop({ across: off('8.3'), along: off('3.1') }),
      )
      const pocket = { width: '9.3', depth: '11.1', height: '5.7' }
      const { solid, told } = await solidOf([
        step('b', 'plate', { width: `${w}`, depth: `${d}`, height: `${h}` }, { place }),
        bar,
        step('p', 'plate', pocket, { operation: 'cut', ...onTop({ across: off('-9.3'), rest: 'in' }) }),
        hollow(1.9, { open }),
      ])
      expect(told).toEqual([])
      const mesh = { positions: solid.corners(), triangles: solid.mesh().triangles }
      expect(skinEdges(mesh)).toBe(0)
      const { closed, oriented, cavities, area } = meshFigures(mesh)
      expect({ closed, oriented, cavities }).toEqual({ closed: true, oriented: true, cavities: [] })
      areas.push(area)
    }
    for (const area of areas) expect(area).toBeCloseTo(areas[0]!, 2)
  })
  it('lies outside, or half and half, where that is said', async () => {
    const rounded = (by: number) =>
      w * d * h + 2 * by * (w * d + d * h + w * h) + Math.PI * by ** 2 * (w + d + h) + (4 / 3) * Math.PI * by ** 3
    const out = await limitOf([block, hollow(2, { side: 'out' })])
    expect(Math.abs(out / (rounded(2) - w * d * h) - 1)).toBeLessThan(2e-5)
    const half = await limitOf([block, hollow(2, { side: 'half' })])
    expect(Math.abs(half / (rounded(1) - (w - 2) * (d - 2) * (h - 2)) - 1)).toBeLessThan(2e-5)
  })
  it('outside is open where it should be: from there only its floor is met', async () => {
    for (const side of ['out', 'half', 'in']) {
      const { solid } = await solidOf([block, hollow(2, { side, open: 'b/top' })], 0.02)
      const met = solid.crossings([1.3, -2.1, 60], [0, 0, -1])
      expect(met).toHaveLength(2)
      expect(met[1]! - met[0]!).toBeCloseTo(2, 6)
      expect(solid.crossings([1.3, 60, 9], [0, -1, 0])).toHaveLength(4)
    }
  })
  it('of a bar, a ball and a cone has the same in it, smaller', async () => {
    const bar = step('b', 'bar', { diameter: '18.4', height: '21.3' })
    const expected = Math.PI * (9.2 ** 2 * 21.3 - 7.1 ** 2 * 17.1)
    expect(Math.abs((await limitOf([bar, hollow(2.1)])) / expected - 1)).toBeLessThan(1e-5)
    const ball = step('b', 'ball', { diameter: '18.4' })
    const shell = (4 / 3) * Math.PI * (9.2 ** 3 - 7.1 ** 3)
    expect(Math.abs((await limitOf([ball, hollow(2.1)])) / shell - 1)).toBeLessThan(1e-4)
    const cone = step('b', 'bar', { diameter: '24', height: '20', form: 'tapered', end: '0' })
    // The cone inside has the same slope: its tip lies lower by t / sin of half the angle at the tip.
    const half = Math.atan(12 / 20)
    const tall = 20 - 2 - 2 / Math.sin(half)
    const small = (Math.PI * (tall * Math.tan(half)) ** 2 * tall) / 3
    expect(Math.abs((await limitOf([cone, hollow(2)])) / ((Math.PI * 144 * 20) / 3 - small) - 1)).toBeLessThan(1e-4)
  })
  it('keeps the wall of a bore, unless that opens into the cavity', async () => {
    const bore = step('o', 'hole', { diameter: '6' }, onTop({ across: off('3.3') }))
    const walls = await volumeOf([block, bore, hollow(2)], 0.002)
    const own = w * d * h - (w - 4) * (d - 4) * (h - 4) + Math.PI * (25 - 9) * (h - 4) - Math.PI * 9 * 4
    expect(Math.abs(walls / own - 1)).toBeLessThan(1e-3)
    const open = await volumeOf([block, bore, hollow(2, { open: 'o/wall' })], 0.002)
    expect(Math.abs(open / (w * d * h - (w - 4) * (d - 4) * (h - 4) - Math.PI * 9 * 4) - 1)).toBeLessThan(1e-3)
  })
  it('has the wall of each bore to the last digit where it is a parallel of all its flats', async () => {
    const bores = [-11.3, 0.7, 12.2].map((x, i) =>
      step(`o${i}`, 'hole', { diameter: `${4.3 + i}` }, onTop({ across: off(`${x}`), along: off(`${2.1 * i - 3}`) })),
    )
    const plain = (await solidOf([block, ...bores], 0.03)).solid
    for (const thick of [1.7, 2.15]) {
      const { solid } = await solidOf([block, ...bores, hollow(thick)], 0.03)
      // Flats of a bore touch its circle from outside; those of its wall lie as deep under each of them.
      const bored = bores.reduce((sum, _, i) => {
        const radius = (4.3 + i) / 2
        const count = flatsRound(radius, 0.03, true)
        return sum + count * (radius + thick) ** 2 * Math.tan(Math.PI / count)
      }, 0)
      const cavity = ((w - 2 * thick) * (d - 2 * thick) - bored) * (h - 2 * thick)
      expect(plain.volume() - solid.volume()).toBeCloseTo(cavity, 6)
    }
  })
  it('has one wall between bores that pass each other by less than two, wherever their corners are', async () => {
    const along = step('o', 'bar', { diameter: '6.1', height: '80' }, { operation: 'cut', place: { tilt: '90' } })
    const bore = step('q', 'hole', { diameter: '5.3' }, onTop({ across: off('7.4') }))
    for (const steps of [
      // Crossing at a right angle and apart by 1.5, the middle of long flats.
      [block, { ...along, place: { ...along.place, lift: `${h / 2}` } }, bore],
      [block, bore, step('r', 'hole', { diameter: '4.7' }, onTop({ across: off('1.1') }))],
    ]) {
      const { least, told } = await wallOf([...steps, hollow(2.2)])
      expect(told).toEqual([])
      expect(least).toBeGreaterThan(2.2 - 0.03)
    }
  })
  it.each<[string, Step[]]>([
    [
      'stepped',
      [block, step('c', 'plate', { width: '17', depth: '13', height: '14.3' }, onTop({ turn: '37.3' })), hollow(2)],
    ],
    [
      'with a bar on it',
      [block, step('c', 'bar', { diameter: '15.3', height: '14.3' }, onTop({ across: off('4') })), hollow(2)],
    ],
    [
      'notched',
      [
        block,
        step('c', 'plate', { width: '9', depth: '80', height: '8' }, { ...onTop(), operation: 'cut' }),
        hollow(2),
      ],
    ],
    ['bored', [block, step('o', 'hole', { diameter: '7.7' }, onTop({ across: off('-5') })), hollow(2)]],
    [
      'rounded',
      [
        step('b', 'plate', { width: '40', depth: '30', height: '20', corner: '1.3', top: 'round', topSize: '1.1' }),
        hollow(2),
      ],
    ],
    ['a ring', [step('b', 'ring', { diameter: '40', thick: '12' }), hollow(2)]],
    ['a prism', [step('b', 'prism', { sides: '5', size: '30', height: '20' }, { place: { turn: '11' } }), hollow(2)]],
  ])('%s has its wall everywhere, and no thicker where it is flat', async (_, steps) => {
    const { least, most, told, cavities } = await wallOf(steps, 0.02, 10_000)
    expect(told).toEqual([])
    expect(cavities).toBe(1)
    expect(least).toBeGreaterThan(2 - 0.01)
    // At an outer corner the cavity's own corner is nearest.
    expect(most).toBeLessThan(2 * Math.sqrt(3) + 0.5)
  })
  it('that its wall would fill stays full, and a face that is not there is told', async () => {
    const full = await solidOf([block, hollow(15)])
    expect(full.told).toEqual(['hollow-none'])
    expect(full.solid.volume()).toBeCloseTo(w * d * h, 9)
    // Open at one side its walls pass each other on all of them.
    for (const open of ['b/top', 'b/left', 'b/top; b/left']) {
      const past = await solidOf([block, hollow(31, { open })])
      expect(past.told).toEqual(['hollow-none'])
      expect(past.solid.volume()).toBeCloseTo(w * d * h, 9)
    }
    const odd = await solidOf([block, hollow(2, { open: 'b/lid; b/top' })])
    expect(odd.told).toEqual(['face-not-here'])
    expect(odd.solid.volume()).toBeCloseTo(w * d * h - (w - 4) * (d - 4) * (h - 2), 6)
  })
})

describe('a hollow solid with pockets whose rims are eased', () => {
  it('keeps its wall along rims that are rounder than it is thick, and in the corners between them', async () => {
    const hex = step(
      'n',
      'prism',
      { sides: '6', size: '13', height: '7' },
      { operation: 'cut', ...onTop({ across: off('-8') }) },
    )
    const bore = step('o', 'hole', { diameter: '9.3', reach: 'blind', depth: '6' }, onTop({ across: off('9.1') }))
    for (const radius of ['0.6', '1.3']) {
      const eased = treatment('round', { edges: 'of b/top; upright of b', radius }, 'e')
      const { least, most, told, cavities } = await wallOf([block, hex, bore, eased, hollow(1.9)], 0.02, 4000)
      expect(told).toEqual([])
      expect(cavities).toBe(1)
      expect(least).toBeGreaterThan(1.9 - 0.01)
      // Nowhere is it thicker than between a pocket's floor and the side of its corner.
      expect(most).toBeLessThan(6)
    }
  })
  const corners: readonly (readonly [string, string, string, number, string])[] = [
    ['6', '0', '1.3', 1.9, 'in'],
    ['6', '0', '1.3', 1.9, 'out'],
    ['5', '11', '1.3', 1.9, 'out'],
    ['4', '7', '1.9', 1.3, 'out'],
    ['6', '3', '0.7', 3.1, 'out'],
  ]
  it.each(inTurn(5, corners))(
    'keeps it where rounds meet in inner corners: %s sides turned by %s, round %s, wall %d %s',
    async (...values) => {
      const [sides, turn, radius, thick, side] = values
      const pocket = step(
        'n',
        'prism',
        { sides, size: '13', height: '7' },
        { operation: 'cut', place: { ...onFace('b', 'top'), turn } },
      )
      const eased = treatment('round', { edges: 'of b/top', radius }, 'e')
      const { least, told, cavities } = await wallOf([block, pocket, eased, hollow(thick, { side })], 0.02, 4000)
      expect([told, cavities]).toEqual([[], 1])
      expect(least).toBeGreaterThan(thick - 0.02)
    },
  )
  it('has flat walls of just its thickness beside rounds, at any fineness', async () => {
    const pocket = step('n', 'prism', { sides: '6', size: '13', height: '7' }, { operation: 'cut', ...onTop() })
    const eased = treatment('round', { edges: 'of b/top', radius: '1.3' }, 'e')
    for (const fineness of [0.05, 0.02]) {
      const { solid } = await solidOf([block, pocket, eased, hollow(1.9)], fineness)
      const [from, to] = solid.crossings([16.3, -11.1, 60], [0, 0, -1])
      expect(to! - from!).toBeCloseTo(1.9, 6)
    }
  })
  it('keeps it outside of them as well', async () => {
    const bore = step('o', 'hole', { diameter: '13.3', reach: 'blind', depth: '6' }, onTop({ across: off('-4.1') }))
    const eased = treatment('round', { edges: 'of b/top; upright of b', radius: '1.3' }, 'e')
    const { least, told, cavities } = await wallOf([block, bore, eased, hollow(1.9, { side: 'out' })], 0.02, 3000)
    expect([told, cavities]).toEqual([[], 1])
    expect(least).toBeGreaterThan(1.9 - 0.02)
  })
})

describe('a shifted face', () => {
  const shift = (faces: string, by: number) => treatment('shift', { faces, by: `${by}` })
  it('of a block makes it longer or shorter, to the last digit', async () => {
    for (const by of [1.3, -2.7]) {
      const { solid, told } = await solidOf([block, shift('b/right', by)])
      expect(told).toEqual([])
      expect(solid.volume()).toBeCloseTo((w + by) * d * h, 9)
      expect(solid.bounds()!.max[0]).toBe(w / 2 + by)
    }
    const corner = (await solidOf([block, shift('b/right; b/top; b/back', 1.1)])).solid
    expect(corner.volume()).toBeCloseTo((w + 1.1) * (d + 1.1) * (h + 1.1), 9)
  })
  it('makes a bore wider or narrower, and a bar thicker, with what meets them going on', async () => {
    const bore = step('o', 'hole', { diameter: '6' }, onTop({ across: off('3.3') }))
    const [plain, wider] = [
      await volumeOf([block, bore], 0.002),
      await volumeOf([block, bore, shift('o/wall', -0.2)], 0.002),
    ]
    expect(plain - wider).toBeCloseTo(Math.PI * (3.2 ** 2 - 9) * h, 1)
    const bar = step('c', 'bar', { diameter: '8', height: '9' }, onTop())
    const [thin, thick] = [
      await volumeOf([block, bar], 0.002),
      await volumeOf([block, bar, shift('c/side', 0.7)], 0.002),
    ]
    expect(thick - thin).toBeCloseTo(Math.PI * (4.7 ** 2 - 16) * 9, 0)
  })
  it('keeps sides that lean as they lean', async () => {
    const cone = step('b', 'bar', { diameter: '24', height: '20', form: 'tapered', end: '12' })
    const by = 3.7
    const end = 6 - (by * 6) / 20
    const cut = (a: number, b: number, tall: number) => (Math.PI * tall * (a * a + a * b + b * b)) / 3
    expect(await volumeOf([cone, shift('b/end', by)], 0.0005)).toBeCloseTo(cut(12, end, 20 + by), 0)
  })
  it('that would go through the other side stays, and is told with how far it can go', async () => {
    const { solid, told } = await solidOf([block, shift('b/top', -25)])
    expect(told).toEqual(['shift-too-far'])
    expect(solid.volume()).toBeCloseTo(w * d * h, 9)
    // As far as to what lies behind it, whichever face it is and however the block stands.
    const place = { turn: '37.3', tilt: '21', across: off('15.3') }
    const turned = step('b', 'plate', { width: `${w}`, depth: `${d}`, height: `${h}` }, { place })
    const through = { left: w, right: w, front: d, back: d, bottom: h, top: h }
    for (const [face, room] of Object.entries(through)) {
      const { buildProblems } = await built(kernel, partOf([turned, shift(`b/${face}`, -45)]))
      expect(buildProblems.map(({ code }) => code)).toEqual(['shift-too-far'])
      const { value: mm } = buildProblems[0]!.offer!
      expect(Math.abs(mm + room), face).toBeLessThan(0.011)
    }
    const odd = await solidOf([block, shift('b/lid', 1)])
    expect(odd.told).toEqual(['face-not-here'])
  })
})
