import { describe, expect, it } from 'vitest'
import { newPiece, type Part, type Place } from '../document/index.ts'
import { norm } from '../place/index.ts'
import { built, onFace, partOf, step, testKernel } from '../testing/index.ts'
import { fieldOf, type Mark, proofOf } from './index.ts'

const kernel = await testKernel()

const at = (mm: number) => ({ from: 'centre', to: 'centre', by: `${mm}` }) as const
const beside = (across: number, along: number, more: Partial<Place> = {}) => ({
  ...more,
  across: at(across),
  along: at(along),
})
const twoPieces = (one: Part['pieces'][number]['steps'], other: Part['pieces'][number]['steps']): Part => {
  const part = partOf(one)
  return { ...part, pieces: [part.pieces[0]!, { ...newPiece('p2', 'Other', 'sand'), steps: other }] }
}
async function gapOf(part: Part) {
  const drawn = await built(kernel, part)
  const finding = (await proofOf(kernel, drawn, { only: ['gap'] })).find(({ check }) => check === 'gap')!
  const mark = finding.marks!.find((each): each is Extract<Mark, { kind: 'field' }> => each.kind === 'field')!
  return { finding, mark, drawn, field: await fieldOf(kernel, drawn, mark) }
}
function* told({ points, values }: { readonly points: Float32Array; readonly values: Float32Array }) {
  for (const [i, value] of values.entries())
    yield { value, at: [points[3 * i]!, points[3 * i + 1]!, points[3 * i + 2]!] as const }
}

describe('the gap over two pieces', () => {
  // A pin that stands to one side in its bore: both are round, and the gap runs from 0.34 to 0.56.
  const [boreAt, bore] = [[3.3, -2.1] as const, 9.3 / 2]
  const [pinAt, pin] = [[3.37, -2.01] as const, 8.4 / 2]
  const part = twoPieces(
    [
      step('b', 'plate', { width: '31.3', depth: '27.7', height: '12.1' }, { place: beside(0, 0) }),
      step(
        'h',
        'hole',
        { diameter: `${2 * bore}` },
        { place: beside(...boreAt, onFace('b', 'top')), operation: 'cut' },
      ),
    ],
    [step('p', 'bar', { diameter: `${2 * pin}`, length: '17.9' }, { place: beside(...pinAt) })],
  )
  const off = norm([boreAt[0] - pinAt[0], boreAt[1] - pinAt[1], 0])

  it('is that of the true walls, on both of them', async () => {
    const { field } = await gapOf(part)
    expect([field.from, field.limit, field.broken, field.unit]).toEqual([0, part.printer.leastGap, 'below', 'mm'])
    const [inBore, onPin] = field.surfaces
    let [least, most, count] = [Infinity, 0, 0]
    // From the wall of the bore to the pin, and the other way round, at half of its height.
    for (const [{ points, values }, own, other, radius, otherRadius] of [
      [inBore!, boreAt, pinAt, bore, pin],
      [onPin!, pinAt, boreAt, pin, bore],
    ] as const)
      for (const { at, value } of told({ points, values })) {
        const [x, y] = [at[0] - own[0], at[1] - own[1]]
        const far = Math.hypot(x, y)
        // The ends of the bore are rims of its faces as well.
        if (Math.abs(far - radius) > 0.05 || at[2] < 0.5 || at[2] > 11.5) continue
        const on = [own[0] + (x / far) * radius, own[1] + (y / far) * radius] as const
        const gap = Math.abs(Math.hypot(on[0] - other[0], on[1] - other[1]) - otherRadius)
        ;[least, most, count] = [Math.min(least, value), Math.max(most, value), count + 1]
        expect(value).toBeCloseTo(gap, 3)
      }
    expect(count).toBeGreaterThan(200)
    expect(least).toBeCloseTo(bore - pin - off, 2)
    expect(most).toBeCloseTo(bore - pin + off, 2)
  })

  it('is told of the pieces that the finding is about, and of no others', async () => {
    const { field, mark, drawn, finding } = await gapOf(part)
    expect(mark.pieces).toEqual(finding.about.map(({ id }) => id))
    expect(field.surfaces.map(({ piece }) => piece)).toEqual(mark.pieces)
    expect(() => fieldOf(kernel, drawn, { ...mark, pieces: ['p1', 'gone'] })).toThrow('not there any more')
    expect(() => fieldOf(kernel, drawn, { ...mark, field: 'warmth' })).toThrow('not there any more')
  })

  it('is not told through the material', async () => {
    // The back of a plate of 0.3 is 0.63 from what lies below it, and that is no gap.
    const plate = (width: string, height: string) => step('under', 'plate', { width, depth: '21.3', height })
    const lifted = step('over', 'plate', { width: '15.3', depth: '11.7', height: '0.3' }, { place: { lift: '4.33' } })
    const { field } = await gapOf(twoPieces([plate('31.3', '4')], [lifted]))
    expect(field.to).toBeGreaterThan(0.63)
    const [below, above] = field.surfaces
    for (const { at } of told(above!)) expect(at[2]).toBeLessThan(4.34)
    const faces = [...told(above!)].filter(({ at }) => Math.abs(at[2] - 4.33) < 1e-3)
    expect(faces.length).toBeGreaterThan(10)
    for (const { value } of faces) expect(value).toBeCloseTo(0.33, 3)
    for (const { at, value } of told(below!))
      if (Math.abs(at[0]) < 7.6 && Math.abs(at[1]) < 5.8) expect(value).toBeCloseTo(0.33, 3)
  })

  it('of what is far apart shows where it comes nearest', async () => {
    const block = (id: string, turn: number, x: number) =>
      step(id, 'plate', { width: '15.3', depth: '21.7', height: '12' }, { place: beside(x, 0, { turn: `${turn}` }) })
    const { field, finding } = await gapOf(twoPieces([block('a', 0, 0)], [block('b', 37.3, 27.3)]))
    const least = Number(/stay ([\d.]+) mm/.exec(finding.text)![1])
    // A corner comes nearest to a wall: of that wall no corner of a triangle need lie just there.
    const [one, other] = field.surfaces.map(({ values }) => Math.min(...values)) as [number, number]
    expect(Math.min(one, other)).toBeCloseTo(least, 2)
    expect(Math.max(one, other)).toBeLessThan(least + 0.3)
    expect(field.to).toBeCloseTo(2 * least, 2)
  })
})
