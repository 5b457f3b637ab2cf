import fc from 'fast-check'
import { afterEach, describe, expect, it } from 'vitest'
import type { Part, Step } from '../document/index.ts'
import { isNumberField } from '../fields/index.ts'
import { meshFigures } from '../mesh/index.ts'
import { edgeCalled, isSmooth, type SolidEdge } from '../naming/index.ts'
import { Sketch } from '../outline/index.ts'
import { repeats } from '../repeats/index.ts'
import { shapes } from '../shapes/index.ts'
import { bundleOf, onFace, partOf, repeat, seeded, step, testKernel } from '../testing/index.ts'
import { emptyOutline } from '../testing/outlines.ts'
import { runs, sampled } from '../testing/sample.ts'
import { Builder, type RenderMesh, renderMeshOf } from './index.ts'

const kernel = await testKernel()
afterEach(() => expect(kernel.live).toBe(0))

/** The drawings of a part's pieces, built by a builder of their own. */
async function drawn(part: Part, fineness = 0.05): Promise<RenderMesh[]> {
  const builder = new Builder(kernel)
  try {
    const built = await builder.build(part, { fineness })
    return built.pieces.flatMap((piece) => renderMeshOf(built, piece) ?? [])
  } finally {
    builder.clear()
  }
}

const faceNames = ({ faces }: RenderMesh) => faces.map(({ owner, copy, face }) => `${owner.id} ${copy} ${face}`)
const between = ({ named }: RenderMesh, ...of: readonly string[]) =>
  named.filter(({ key }) => of.every((each) => pairOf(key).includes(`step/${each}`)))
const pairOf = (key: string) => key.split('|').slice(0, 2)
const pointsOf = ({ points }: SolidEdge) =>
  Array.from({ length: points.length / 3 }, (_, i) => [...points.subarray(3 * i, 3 * i + 3)])
/** Where copies of a face lie in one plane and overlap: which of them has it there is chance, and nobody sees it. */
const isWithinLevel = ({ key, bend }: SolidEdge) => {
  const [one, two] = pairOf(key).map((face) => face.replace(/\/\d+\//, '/'))
  return one === two && Math.abs(bend) < 0.01
}
const long = (edge: SolidEdge) =>
  pointsOf(edge).reduce((sum, p, i) => {
    const q = pointsOf(edge)[i + 1] ?? (edge.closed ? pointsOf(edge)[0]! : p)
    return sum + Math.hypot(...p.map((x, k) => q[k]! - x))
  }, 0)

const plate = step('base', 'plate', { width: '60', depth: '40', height: '8' })

describe('the edges of a solid', () => {
  it('of a plate are twelve, each between two faces, outwards by a right angle', async () => {
    const [mesh] = await drawn(partOf([plate]))
    const { named } = mesh!
    expect(named).toHaveLength(12)
    for (const { bend, closed, next, number } of named) {
      expect(bend).toBeCloseTo(90, 4)
      expect([closed, next, number]).toEqual([false, [], 1])
    }
    expect(named.map(long).sort((a, b) => a - b)).toEqual([8, 8, 8, 8, 40, 40, 40, 40, 60, 60, 60, 60])
    const [corner] = between(mesh!, 'base/1/front', 'base/1/left')
    expect(pointsOf(corner!).map((p) => p.slice(0, 2))).toEqual([
      [-30, -20],
      [-30, -20],
    ])
    // What is drawn is of them, each once.
    expect([...mesh!.edgeOf].sort((a, b) => a - b)).toEqual(named.map((_, i) => i))
  })
  it('of what stands on a plate go inwards at its foot, and one goes round where it goes round', async () => {
    const [mesh] = await drawn(
      partOf([plate, step('boss', 'bar', { diameter: '15.3', height: '12' }, { place: onFace('base', 'top') })]),
      0.01,
    )
    const [foot, ...more] = between(mesh!, 'base/1/top', 'boss/1/side')
    expect(more).toEqual([])
    expect([foot!.closed, Math.round(foot!.bend)]).toEqual([true, -90])
    expect(long(foot!)).toBeCloseTo(Math.PI * 15.3, 1)
    expect(between(mesh!, 'boss/1/end', 'boss/1/side')[0]!.bend).toBeCloseTo(90, 3)
  })
  it('go on into each other over rounded corners, where faces run on smoothly', async () => {
    const [mesh] = await drawn(partOf([step('p', 'plate', { width: '60', depth: '40', height: '8', corner: '7.3' })]))
    const { named } = mesh!
    const top = between(mesh!, 'p/1/top')
    expect(top).toHaveLength(8)
    // Once round the top, and back where it began.
    const [start] = top
    const way = [start!]
    for (let at = start!.next.map((i) => named[i]!); ; ) {
      const on = at.find((edge) => pairOf(edge.key).includes('step/p/1/top') && !way.includes(edge))
      if (!on) break
      way.push(on)
      at = on.next.map((i) => named[i]!)
    }
    expect(way).toHaveLength(8)
    const corners = between(mesh!, 'p/1/corner').filter(({ key }) => !/top|bottom/.test(pairOf(key).join()))
    expect(corners).toHaveLength(8)
    expect(corners.every(isSmooth)).toBe(true)
    // They are not drawn.
    const shown = new Set(mesh!.edgeOf)
    expect(corners.some((edge) => shown.has(named.indexOf(edge)))).toBe(false)
  })
  it('are numbered where two faces meet more than once, whichever way the part is turned', async () => {
    const slotted = (turn: string) =>
      partOf([
        { ...plate, place: { ...plate.place, turn } },
        step('cut', 'slot', { length: '80', width: '6', ends: 'square' }, { place: onFace('base', 'top') }),
      ])
    const pair = async (turn: string) =>
      between((await drawn(slotted(turn)))[0]!, 'base/1/left', 'base/1/top').map((edge) => ({
        number: edge.number,
        middle: pointsOf(edge)[0]!.map((x, i) => (x + pointsOf(edge).at(-1)![i]!) / 2),
      }))
    const [level, turned] = [await pair('0'), await pair('137.3')]
    // Told apart by what they end at.
    expect(level.map(({ number }) => number)).toEqual([1, 1])
    const rad = (137.3 * Math.PI) / 180
    level.forEach(({ middle }, i) => {
      const [x, y] = [middle[0]!, middle[1]!]
      expect(turned[i]!.middle[0]).toBeCloseTo(x * Math.cos(rad) - y * Math.sin(rad), 4)
      expect(turned[i]!.middle[1]).toBeCloseTo(x * Math.sin(rad) + y * Math.cos(rad), 4)
    })
  })
})

describe('the faces of a solid', () => {
  it('are told by copy, in bundles and of what has the same shape as well', async () => {
    const pins = step(
      'pin',
      'bar',
      { diameter: '4', height: '9' },
      {
        place: onFace('base', 'top'),
        repeats: [repeat('row', { count: '3', spacing: '12.7' })],
      },
    )
    const [mesh] = await drawn(partOf([plate, pins]))
    expect(faceNames(mesh!).filter((name) => name.endsWith('end'))).toEqual(['pin 1 end', 'pin 2 end', 'pin 3 end'])
    const content = { ...pins, place: { ...pins.place, on: { kind: 'bed' } as const } }
    const bundle = bundleOf('group', [content], {
      place: { lift: '8', along: plate.place.along },
      repeats: [repeat('row', { count: '2', spacing: '10', direction: 'along' })],
    })
    const [twice] = await drawn(partOf([plate, bundle]))
    expect(
      faceNames(twice!)
        .filter((name) => name.endsWith('end'))
        .sort(),
    ).toEqual(['pin 1.1 end', 'pin 1.2 end', 'pin 1.3 end', 'pin 2.1 end', 'pin 2.2 end', 'pin 2.3 end'])
  })
})

/** Something of every kind on a plate, by numbers that nobody chose. */
function randomPart(seed: number, grown = 1, of = shapes): Part {
  const random = seeded(seed)
  const among = <T>(...all: readonly T[]): T => all[Math.floor(random() * all.length)]!
  const sketch = new Sketch(emptyOutline('closed'))
  const at = (x: number, y: number) => ({ at: [x * grown, y] as const })
  sketch.rectangle(at(5, 1), at(9.3, 6), false)
  const small = new Sketch(emptyOutline('small'))
  small.circle(at(0, 0), 1.5 * grown)
  const open = new Sketch(emptyOutline('open'))
  open.line(at(0, 12), at(10, 0))
  const base = step('base', 'plate', {
    width: `${(60 + 20 * random()) * grown}`,
    depth: `${50 + 20 * random()}`,
    height: `${6 + 4 * random()}`,
    corner: among('0', '3.3'),
  })
  const steps = Array.from({ length: 4 }, (_, i): Step => {
    const shape = among(...of.filter(({ datum, kind, meets }) => !datum && !meets && kind !== 'emboss'))
    const fields = Object.fromEntries(
      Object.entries(shape.fields).map(([name, field]) => {
        if (field.kind === 'outline') return [name, name === 'path' ? 'open' : among('closed', 'small')]
        if (field.kind === 'sections') return [name, 'closed, 0; small, 20']
        // Each size a little off its default, so that no two are level by chance.
        if (isNumberField(field) && field.kind === 'length')
          return [name, `(${field.default}) * ${(0.9 + 0.2 * random()) * grown}`]
        return [name, field.default]
      }),
    )
    const place = {
      ...onFace('base', 'top'),
      across: { from: 'centre' as const, to: 'centre' as const, by: `${25 * (random() - 0.5)}` },
      along: { from: 'centre' as const, to: 'centre' as const, by: `${25 * (random() - 0.5)}` },
      turn: among('0', '37.3', '90'),
      lift: shape.operation === 'add' ? '-0.7' : '0',
    }
    const definition = among(...repeats)
    const again = random() < 0.3 ? [repeat(definition.kind)] : []
    return step(`s${i}`, shape.kind, fields, { operation: among(shape.operation, 'add', 'cut'), place, repeats: again })
  })
  return partOf([base, ...steps], { outlines: [sketch.outline, small.outline, open.outline] })
}

describe('parts put together at random', () => {
  it('have a name of their shapes for every triangle, and edges that close the gaps between them', async () => {
    let looked = 0
    for (const seed of sampled(500, 1, 20)) {
      const part = randomPart(seed)
      const builder = new Builder(kernel)
      const built = await builder.build(part, { fineness: 0.1 })
      const [piece] = built.pieces
      const mesh = renderMeshOf(built, piece!)
      if (mesh) {
        const { faceOf, faces, named } = mesh
        const surfaces = (id: string, copy: string) => {
          const { body, copies } = built.plan.operands.get(id)!
          const values = copies.find(({ number }) => `${number}` === copy)!.values
          return body.kind === 'shape' ? body.shape.surfaces(values).all.map(({ name }) => name) : []
        }
        for (const { owner, copy, face } of faces) {
          expect(owner.kind, `part ${seed}`).toBe('step')
          expect(surfaces(owner.id, copy), `part ${seed}: ${owner.id}`).toContain(face)
        }
        expect(faceOf.reduce((most, face) => Math.max(most, face), -1)).toBe(faces.length - 1)
        expect(new Set(named.map(({ key }) => key)).size).toBe(named.length)
        const { triangles } = piece!.solid!.mesh()
        expect(faceOf).toHaveLength(triangles.length / 3)
        for (const { points, next, closed } of named) {
          expect(points.length).toBeGreaterThan(5)
          expect(closed && next.length > 0).toBe(false)
        }
        expect(meshFigures(piece!.solid!.mesh()).closed).toBe(true)
        looked += named.length
      }
      builder.clear()
    }
    expect(looked).toBeGreaterThan(100)
  }, 900_000)

  // Some grow into others, which takes edges away and brings others: what is as many as before is the same ones.
  it('have the same names when they are built anew; and after a small change of every size each edge is found, and taken for no other', async () => {
    const edges = async (part: Part) => (await drawn(part, 0.1)).flatMap(({ named }) => named)
    const byPair = (all: readonly SolidEdge[]) => {
      const pairs = new Map<string, SolidEdge[]>()
      for (const edge of all) {
        if (isWithinLevel(edge)) continue
        const pair = pairOf(edge.key).join('|')
        pairs.set(pair, [...(pairs.get(pair) ?? []), edge])
      }
      return pairs
    }
    let [alone, gone] = [0, 0]
    for (const seed of sampled(30)) {
      const before = await edges(randomPart(seed))
      expect(await edges(randomPart(seed)), `part ${seed}`).toEqual(before)
      const after = await edges(randomPart(seed, 1.004))
      const now = byPair(after)
      for (const [pair, own] of byPair(before)) {
        const others = now.get(pair) ?? []
        if (others.length !== own.length) continue
        const found = own.map(({ key }) => edgeCalled(after, key))
        const there = found.filter((edge) => edge !== undefined)
        const told = `part ${seed}: ${pair}`
        expect(others, told).toEqual(expect.arrayContaining(there))
        expect(new Set(there).size, told).toBe(there.length)
        if (own.length > 1) continue
        alone++
        if (there.length === 0) gone++
      }
    }
    expect(alone).toBeGreaterThan(50)
    // What ends at something else now, and is told apart from nothing, may be told as gone.
    expect(gone / alone).toBeLessThan(0.01)
  }, 900_000)
})

describe('the mouth of a cut that leans', () => {
  it('is gone with what it cuts, however it leans, is turned and is broken into flats', async () => {
    const angle = fc.integer({ min: -550, max: 550 }).map((tenths) => `${tenths / 10}`)
    const kinds = [
      ['hole', { diameter: '5.3' }],
      ['slot', { length: '9.7', width: '4.1' }],
      ['teardrop', { diameter: '4.4' }],
    ] as const
    await fc.assert(
      fc.asyncProperty(
        angle,
        angle,
        angle,
        fc.constantFrom(...kinds),
        fc.constantFrom(0.1, 0.03),
        async (tilt, lean, turn, [shape, fields], fineness) => {
          const place = { ...onFace('base', 'top'), tilt, lean, turn }
          const cut = step('c', shape, fields, { place })
          const block = step('base', 'plate', { width: '90', depth: '90', height: '5' })
          const [mesh] = await drawn(partOf([block, cut]), fineness)
          const own = mesh!.faces.filter(({ owner }) => owner.id === 'c').map(({ face }) => face)
          expect(own.length).toBeGreaterThan(0)
          expect(own).not.toContain('mouth')
        },
      ),
      { numRuns: runs(60) },
    )
  })
})
