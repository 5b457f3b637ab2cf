import type { OutlineText } from '../fields/index.ts'
import type { FieldKindOf, Outline, Step } from './format.ts'
import { mapStep } from './references.ts'

/** Ids of the outlines that a step, its repeats, and what it holds are made from. */
export function outlinesOf(step: Step, kindOf: FieldKindOf): string[] {
  return outlineTexts(step, kindOf).flatMap(({ outline }) => (outline === '' ? [] : [outline]))
}

/** Keys of the regions of an outline that a step, its repeats, and what it holds have chosen. */
export function regionsChosen(step: Step, outline: string, kindOf: FieldKindOf): string[] {
  return outlineTexts(step, kindOf).flatMap((text) => (text.outline === outline ? (text.regions ?? []) : []))
}

function outlineTexts(step: Step, kindOf: FieldKindOf): OutlineText[] {
  const found: OutlineText[] = []
  withOutlines(
    step,
    (chosen) => {
      found.push(chosen)
      return chosen
    },
    kindOf,
  )
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

/** The step, and what it holds, made from other outlines or other regions of them. */
export function withOutlines(step: Step, other: (chosen: OutlineText) => OutlineText, kindOf: FieldKindOf): Step {
  return mapStep(step, { outline: other }, kindOf)
}
