import { newPart, type Outline, onBed, type Part, type Place } from '../document/index.ts'
import { defaultFields } from '../fields/index.ts'
import { Sketch } from '../outline/index.ts'
import { newStep, type ShapeDefinition, shapeOf } from '../shapes/index.ts'

const empty = (id: string): Outline => ({
  ...{ id, name: id, on: { kind: 'bed' }, points: [], curves: [], constraints: [], derived: [], toggled: [] },
})

/** Regions with and without a hole, a small round and a way: what shapes that are drawn are shown with. */
function sampleOutlines(): readonly Outline[] {
  const at = (x: number, y: number) => ({ at: [x, y] as const })
  const drawn = (id: string, draw: (sketch: Sketch) => void) => {
    const sketch = new Sketch(empty(id))
    draw(sketch)
    return sketch.outline
  }
  return [
    drawn('plain', (sketch) => sketch.rectangle(at(-9, -7), at(9, 7), false)),
    drawn('small', (sketch) => sketch.circle(at(0, 0), 1.7)),
    drawn('way', (sketch) => sketch.line(at(0, 6), at(0, 24))),
    drawn('holed', (sketch) => {
      sketch.rectangle(at(5, 0), at(23, 14), false)
      sketch.circle(at(11, 7), 4)
    }),
  ]
}

/** Which of them a field is shown with. */
function sampleText(shape: ShapeDefinition, name: string, text: string): string {
  const { kind } = shape.fields[name]!
  if (kind === 'sections') return 'plain, 0; small, 24'
  if (kind !== 'outline') return text
  if (name === 'path') return 'way'
  return shape.fields.path || shape.kind === 'helix' ? 'small' : 'holed'
}

/**
 * A part that shows a kind of shape with its usual sizes: by itself, or cut from a plate, or standing on one. Undefined of what
 * has no solid of its own.
 */
export function samplePart(shape: ShapeDefinition): Part | undefined {
  if (shape.datum || shape.meets || Object.values(shape.fields).some(({ kind }) => kind === 'asset')) return undefined
  const ids = { part: 'sample', piece: 'piece' }
  const texts = Object.fromEntries(
    Object.entries(defaultFields(shape.fields)).map(([name, text]) => [name, sampleText(shape, name, text)]),
  )
  const cuts = shape.operation !== 'add'
  const onBar = shape.roundOnly || shape.kind === 'emboss'
  const under = onBar ? barUnder(shape.roundOnly ? texts.round! : '40') : cuts ? plateUnder() : undefined
  const on = { kind: 'face', step: 'base', face: onBar ? 'side' : 'top' } as const
  const place: Partial<Place> = under ? { on } : {}
  const step = newStep('shown', { shape, fields: texts }, { ...onBed, ...place })
  const base = newPart(ids, 'Sample')
  const [piece] = base.pieces
  return {
    ...base,
    outlines: sampleOutlines(),
    pieces: [{ ...piece!, steps: under ? [under, step] : [step] }],
  }
}

const plateUnder = () => bodyUnder('plate', { width: '34', depth: '26', height: '10' })
const barUnder = (diameter: string) => bodyUnder('bar', { diameter, height: '26' })

function bodyUnder(kind: string, sizes: Readonly<Record<string, string>>) {
  const shape = shapeOf(kind)!
  return newStep('base', { shape, fields: { ...defaultFields(shape.fields), ...sizes } })
}
