import { fieldKind, type OutlineText } from '../fields/index.ts'
import { flattened } from './tree.ts'
import type { FieldKindOf, FieldOwner, FieldTexts, Outline, Step, TakenPoint } from './types.ts'

/** Ids of the outlines that a step, its repeats, and what it holds are made from. */
export function outlinesOf(step: Step, kindOf: FieldKindOf): string[] {
  return outlineTexts(step, kindOf).flatMap(({ outline }) => (outline === '' ? [] : [outline]))
}

/** Keys of the regions of an outline that a step, its repeats, and what it holds have chosen. */
export function regionsChosen(step: Step, outline: string, kindOf: FieldKindOf): string[] {
  return outlineTexts(step, kindOf).flatMap((text) => (text.outline === outline ? (text.regions ?? []) : []))
}

function outlineTexts(step: Step, kindOf: FieldKindOf): OutlineText[] {
  return flattened([step]).flatMap(({ shape, fields, repeats }) => [
    ...named({ shape }, fields, kindOf),
    ...repeats.flatMap((repeat) => named({ repeat: repeat.kind }, repeat.fields, kindOf)),
  ])
}

function named(owner: FieldOwner, fields: FieldTexts, kindOf: FieldKindOf): OutlineText[] {
  const found: OutlineText[] = []
  const outline = (chosen: OutlineText) => {
    found.push(chosen)
    return chosen
  }
  for (const [field, text] of Object.entries(fields)) fieldKind(kindOf(owner, field))?.mapReferences(text, { outline })
  return found
}

/** The outline with points and sizes that it took over where they are now. */
export function withTakenHeld(outline: Outline, places: Readonly<Record<string, readonly [number, number]>>): Outline {
  return {
    ...outline,
    points: outline.points.map((point) => ({ ...point, at: places[point.id] ?? point.at })),
    curves: outline.curves.map((curve) => (places[curve.id] ? { ...curve, size: places[curve.id]![0] } : curve)),
  }
}

/** The steps that an outline took something over from. */
export function takenFrom({ points, curves }: Outline): string[] {
  return [...points, ...curves].flatMap(({ taken }) =>
    !taken ? [] : 'edges' in taken ? taken.edges.map(({ step }) => step) : [taken.step],
  )
}

/** The outline with what it took over from steps taken over from others. */
export function withTakenSteps(outline: Outline, other: (step: string) => string): Outline {
  const edge = <E extends { readonly step: string }>(taken: E): E => ({ ...taken, step: other(taken.step) })
  const moved = (taken: TakenPoint): TakenPoint =>
    'edges' in taken ? { ...taken, edges: [edge(taken.edges[0]), edge(taken.edges[1])] } : edge(taken)
  return {
    ...outline,
    points: outline.points.map((point) => (point.taken ? { ...point, taken: moved(point.taken) } : point)),
    curves: outline.curves.map((curve) => (curve.taken ? { ...curve, taken: edge(curve.taken) } : curve)),
  }
}

/** The step, and what it holds, made from other outlines or other regions of them. */
export function withOutlines(step: Step, other: (chosen: OutlineText) => OutlineText, kindOf: FieldKindOf): Step {
  const changed = (owner: FieldOwner, fields: FieldTexts): FieldTexts =>
    Object.fromEntries(
      Object.entries(fields).map(([field, text]) => {
        const kind = fieldKind(kindOf(owner, field))
        return [field, kind ? kind.mapReferences(text, { outline: other }) : text]
      }),
    )
  return {
    ...step,
    fields: changed({ shape: step.shape }, step.fields),
    repeats: step.repeats.map(({ kind, fields }) => ({ kind, fields: changed({ repeat: kind }, fields) })),
    ...(step.steps ? { steps: step.steps.map((inner) => withOutlines(inner, other, kindOf)) } : {}),
  }
}
