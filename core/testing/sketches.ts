import { defaultFields, type FieldValue, isNumberField } from '../fields/index.ts'
import {
  type ConstraintDefinition,
  type DerivedDefinition,
  derivedKinds,
  holdsFor,
  measuredBy,
  type OutlineValues,
  Sketch,
  type SolvedOutline,
  solveOutline,
} from '../outline/index.ts'
import type { Vec2 } from '../plane/index.ts'
import { emptyOutline } from './outlines.ts'
import { among } from './parts.ts'

/** What random drawings are held and derived by. */
export interface SketchKinds {
  readonly derived: readonly DerivedDefinition[]
  readonly constraints: readonly ConstraintDefinition[]
}

/** A drawing of a few things of every kind, held and measured here and there, with something derived from it; about 60 mm wide. */
export function randomSketch(random: () => number, { derived, constraints }: SketchKinds): SolvedOutline {
  const at = (): Vec2 => [Math.round(600 * random() - 300) / 10, Math.round(600 * random() - 300) / 10]
  const sketch = new Sketch(emptyOutline())
  const point = () => {
    const [known] = sketch.outline.points.slice(Math.floor(random() * (sketch.outline.points.length + 3)))
    return known ? { at: [known.at[0], known.at[1]] as const, point: known.id } : { at: at() }
  }
  const draw = [
    () => sketch.line(point(), point()),
    () => sketch.line(point(), point()),
    () => sketch.rectangle({ at: at() }, { at: at() }, random() < 0.5),
    () => sketch.polygon({ at: at() }, { at: at() }, 3 + Math.floor(4 * random())),
    () => sketch.slot({ at: at() }, { at: at() }, 1 + 4 * random()),
    () => sketch.arc(point(), at(), point()),
    () => sketch.circle(point(), 2 + 8 * random()),
    () => sketch.ellipse(point(), { at: at() }, 2 + 6 * random()),
    () =>
      sketch.spline(
        among(random, 'through', 'near'),
        [point(), { at: at() }, { at: at() }, { at: at() }, point()],
        random() < 0.3,
      ),
  ]
  for (let i = 0; i < 3 + Math.floor(4 * random()); i++) among(random, ...draw)()
  const ids = () => [...sketch.outline.points, ...sketch.outline.curves].map(({ id }) => id)
  for (let i = 0; i < 4; i++) {
    const solved = solveOutline(sketch.outline, valuesOf(sketch))
    const chosen = Array.from({ length: 1 + Math.floor(2 * random()) }, () =>
      among(random, 'x-axis', ...ids(), ...ids()),
    )
    const ways = holdsFor(solved, [...new Set(chosen)]).filter(({ definition }) => constraints.includes(definition))
    if (ways.length === 0) continue
    const { definition, each } = among(random, ...ways)
    for (const of of each) {
      const now = measuredBy(solved, { kind: definition.kind, of })
      const value = now === undefined ? undefined : (now * (0.95 + 0.1 * random())).toFixed(3)
      sketch.hold(definition.kind, of, definition.value ? (value ?? '5') : undefined)
    }
  }
  for (let i = 0; i < 2; i++) derive(random, sketch, derived)
  return solveOutline(sketch.outline, valuesOf(sketch))
}

function derive(random: () => number, sketch: Sketch, kinds: readonly DerivedDefinition[]): void {
  const { points, curves } = sketch.outline
  const some = <T>(all: readonly T[], most: number) => all.filter(() => random() < 0.4).slice(0, most)
  const lines = curves.filter(({ kind }) => kind === 'line')
  const chosen = { points: some(points, 2), curves: some(curves, 6) }
  const found = kinds.filter(({ fits }) =>
    fits({
      points: chosen.points.length,
      curves: chosen.curves.length,
      lines: chosen.curves.filter((curve) => lines.includes(curve)).length,
    }),
  )
  if (found.length === 0) return
  const { kind, fields } = among(random, ...found)
  const changed = Object.entries(fields).map(([name, field]): [string, string] => {
    if (field.kind === 'choice') return [name, among(random, ...Object.keys(field.choices))]
    if (field.kind === 'count') return [name, among(random, '2', '3')]
    return [name, (Number(field.default) * (0.3 + random())).toFixed(2)]
  })
  sketch.derive(
    kind,
    [...chosen.points, ...chosen.curves].map(({ id }) => id),
    Object.fromEntries(changed),
  )
}

/** What its numbers come to, which are all written plainly. */
export function valuesOf({ outline }: Pick<Sketch, 'outline'>): OutlineValues {
  return {
    values: new Map(outline.constraints.flatMap(({ id, value }) => (value ? [[id, Number(value)]] : []))),
    taken: new Map(),
    fields: new Map(
      outline.derived.map(({ id, kind, fields }) => {
        const definition = derivedKinds.find((each) => each.kind === kind)!
        const of = (name: string, text: string): FieldValue =>
          isNumberField(definition.fields[name]!) ? Number(text) : text
        const all = { ...defaultFields(definition.fields), ...fields }
        return [id, Object.fromEntries(Object.entries(all).map(([name, text]) => [name, of(name, text)]))]
      }),
    ),
  }
}
