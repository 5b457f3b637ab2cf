import type { FieldBase, FieldKindDefinition } from '../define.ts'
import { behindComma, replaced } from '../stretches.ts'
import { type FaceName, faceNameOf, faceNameText } from './edges.ts'

/**
 * A plane: square to an axis of the bed, or along a flat face or a datum, and how far along the axis or beyond the face it
 * lies: "x, 37.3", "base/top, 2". The distance may be an expression.
 */
export interface PlaneField extends FieldBase {
  readonly kind: 'plane'
  /** that of a new step goes through the middle of its piece */
  readonly halves?: true
}

export const planeAxes = ['x', 'y', 'z'] as const
export type PlaneAxis = (typeof planeAxes)[number]

/** What a plane lies square to, or along. */
export type PlaneOf = { readonly axis: PlaneAxis } | { readonly face: FaceName }

export interface PlaneValue {
  readonly of: PlaneOf
  /** mm */
  readonly at: number
}

export const plane: FieldKindDefinition<PlaneField, PlaneValue> = {
  mapExpressions(text, change) {
    const at = behindComma(text)
    return at ? replaced(text, [at], (distance) => change(distance, 'length')) : text
  },
  mapReferences(text, { step }) {
    const { of, at } = planeText(text)
    if (!step || 'axis' in of) return text
    const moved = step(of.face.step)
    return moved === undefined || moved === of.face.step
      ? text
      : planeTextOf({ of: { face: { ...of.face, step: moved } }, at })
  },
  resolve({ label }, text, working) {
    const { of, at } = planeText(text)
    if ('face' in of && of.face.face === undefined) return working.tell('plane-choose', { label })
    const mm = working.number(at, 'length')
    return mm === undefined ? undefined : { of, at: mm }
  },
}

/** What a plane's text says, with its distance as it was typed. */
export function planeText(text: string): { readonly of: PlaneOf; readonly at: string } {
  const at = behindComma(text)
  const word = (at ? text.slice(0, at.start - 1) : text).trim()
  const axis = planeAxes.find((each) => each === word)
  return { of: axis ? { axis } : { face: faceNameOf(word) }, at: at?.text.trim() ?? '' }
}

export function planeTextOf({ of, at }: { readonly of: PlaneOf; readonly at: string }): string {
  return `${'axis' in of ? of.axis : faceNameText(of.face)}, ${at}`
}
