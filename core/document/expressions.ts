import { fieldKind } from '../fields/index.ts'
import { type Measure, type MeasureKind, mapTemplate, type WordKind } from '../measures/index.ts'
import type { FieldKindOf, FieldOwner, FieldTexts, Part, Place } from './format.ts'
import { outlinesOf } from './outlines.ts'
import { ownerOf } from './references.ts'
import { allSteps, hasBody, mapSteps } from './tree.ts'

/** What kind of value an expression gives: `any` in texts, `switch` for a condition. */
export type ExpressionKind = Exclude<MeasureKind, WordKind> | 'any'

/** The measures with the values of the variant in force. */
export function measuresInForce({ measures, variants, variant }: Part): readonly Measure[] {
  const values = variants.find(({ id }) => id === variant)?.values ?? {}
  return measures.map((measure) =>
    Object.hasOwn(values, measure.id) ? { ...measure, expression: values[measure.id]! } : measure,
  )
}

/** Every expression of the part put through `change`, with the kind of value it gives and the id of its owner. */
export function mapExpressions(
  part: Part,
  kindOf: FieldKindOf,
  change: (text: string, kind: ExpressionKind, owner: string) => string,
): Part {
  const fieldsOf = (owner: FieldOwner, id: string, fields: FieldTexts): FieldTexts =>
    Object.fromEntries(
      Object.entries(fields).map(([field, text]) => {
        const kind = fieldKind(kindOf(owner, field))
        return [field, kind ? kind.mapExpressions(text, (inner, gives) => change(inner, gives, id)) : text]
      }),
    )
  const placeOf = (place: Place, id: string): Place => ({
    ...place,
    across: { ...place.across, by: change(place.across.by, 'length', id) },
    along: { ...place.along, by: change(place.along.by, 'length', id) },
    lift: change(place.lift, 'length', id),
    turn: change(place.turn, 'angle', id),
    tilt: change(place.tilt, 'angle', id),
    lean: change(place.lean, 'angle', id),
    ...(place.pivot ? { pivot: { ...place.pivot, by: change(place.pivot.by, 'angle', id) } } : {}),
    ...(place.until ? { until: { ...place.until, less: change(place.until.less, 'length', id) } } : {}),
  })
  const measured = (text: string, kind: MeasureKind | undefined, id: string): string => {
    if (kind === 'choice') return text
    return kind === 'text' ? mapTemplate(text, (inner) => change(inner, 'any', id)) : change(text, kind ?? 'any', id)
  }
  return {
    ...part,
    measures: part.measures.map((measure) => ({
      ...measure,
      expression: measured(measure.expression, measure.kind, measure.id),
    })),
    variants: part.variants.map((variant) => ({
      ...variant,
      values: Object.fromEntries(
        Object.entries(variant.values).map(([id, text]) => {
          const kind = part.measures.find((measure) => measure.id === id)?.kind
          return [id, measured(text, kind, id)]
        }),
      ),
    })),
    outlines: part.outlines.map((outline) => ({
      ...outline,
      curves: outline.curves.map((curve) =>
        curve.fields ? { ...curve, fields: fieldsOf({ curve: curve.kind }, outline.id, curve.fields) } : curve,
      ),
      constraints: outline.constraints.map((constraint) => {
        const kind = constraint.value === undefined ? undefined : kindOf({ constraint: constraint.kind }, 'value')
        return kind === 'length' || kind === 'angle'
          ? { ...constraint, value: change(constraint.value!, kind, outline.id) }
          : constraint
      }),
      derived: outline.derived.map((each) => ({
        ...each,
        fields: fieldsOf({ derived: each.kind }, outline.id, each.fields),
      })),
    })),
    pieces: part.pieces.map((piece) => ({
      ...piece,
      steps: mapSteps(piece.steps, (step) => {
        const own = {
          ...step,
          fields: fieldsOf(ownerOf(step), step.id, step.fields),
          when: step.when === '' ? '' : change(step.when, 'switch', step.id),
        }
        if (!hasBody(own)) return own
        return {
          ...own,
          place: placeOf(own.place, own.id),
          repeats: own.repeats.map(({ kind, fields }) => ({
            kind,
            fields: fieldsOf({ repeat: kind }, own.id, fields),
          })),
        }
      }),
    })),
    flexes: part.flexes.map((flex) => ({
      ...flex,
      way: change(flex.way, 'angle', flex.id),
      distance: change(flex.distance, 'length', flex.id),
      force: change(flex.force, 'ratio', flex.id),
    })),
    loads: part.loads.map((load) => ({ ...load, force: change(load.force, 'ratio', load.id) })),
    leastWall: part.leastWall === '' ? '' : change(part.leastWall, 'length', part.id),
    joints: part.joints.map((joint) => ({
      ...joint,
      fields: fieldsOf({ joint: joint.kind }, joint.id, joint.fields),
      place: placeOf(joint.place, joint.id),
    })),
  }
}

/** Ids of the steps, joints and outlines that read a measure with one of these ids, directly or through other measures. */
export function usersOf(part: Part, measures: Iterable<string>, kindOf: FieldKindOf): ReadonlySet<string> {
  const uses = usesOfNames(part, kindOf)
  const byId = new Map(part.measures.map((measure) => [measure.id, measure]))
  const found = new Set<string>()
  const open = [...measures]
  for (let id = open.pop(); id !== undefined; id = open.pop()) {
    const measure = byId.get(id)
    for (const user of measure ? (uses.get(measure.name) ?? []) : [])
      if (!found.has(user)) {
        found.add(user)
        open.push(user)
      }
  }
  // Who is made from an outline changes with it.
  for (const step of allSteps(part)) if (outlinesOf(step, kindOf).some((id) => found.has(id))) found.add(step.id)
  return found
}

/** Where each name is read: name -> ids of measures, steps and joints. */
export function usesOfNames(part: Part, kindOf: FieldKindOf): ReadonlyMap<string, readonly string[]> {
  const uses = new Map<string, string[]>()
  mapExpressions(part, kindOf, (text, _, owner) => {
    for (const word of text.match(/[\p{L}_][\p{L}\p{N}_]*/gu) ?? []) {
      const users = uses.get(word) ?? []
      if (!users.includes(owner)) uses.set(word, [...users, owner])
    }
    return text
  })
  return uses
}
