import type { FitPair } from '../../fits/index.ts'
import type { ValueKind } from '../../measures/index.ts'
import { type FieldBase, type FieldKindDefinition, type FieldWorking, refersToNothing } from '../define.ts'

/** An expression. All sizes in mm, angles in degrees. */
export interface NumberField extends FieldBase {
  readonly kind: ValueKind
  /** smallest value allowed; `above` excludes the value itself */
  readonly least?: number
  readonly above?: number
  readonly most?: number
  /** another part goes into it: a fit may be named behind its size, which is added on both sides */
  readonly takes?: FitPair
  /** where that is so only of a step that takes material away */
  readonly takesWhenCut?: boolean
  /** it is printed in layers: the value is rounded up to whole ones */
  readonly layered?: boolean
}

export function numberKind(kind: ValueKind): FieldKindDefinition<NumberField, number> {
  return {
    mapExpressions: (text, change) => change(text, kind),
    mapReferences: refersToNothing,
    resolve(definition, text, working) {
      const typed = working.number(text, kind, definition.takes)
      const value = typed !== undefined && definition.layered ? inLayers(typed, working.layerHeight) : typed
      return value === undefined || !withinBounds(definition, value, working) ? undefined : value
    },
  }
}

/** mm, up to whole layers; as it is where these have no height. */
function inLayers(value: number, height: number): number {
  return height > 0 ? Math.ceil(value / height - 1e-9) * height : value
}

type Bounded = Pick<NumberField, 'label' | 'kind' | 'above' | 'least' | 'most'>

function withinBounds({ label, kind, above, least, most }: Bounded, value: number, { tell }: FieldWorking): boolean {
  const told = (code: 'not-above' | 'too-small' | 'too-large', bound: number) => {
    const rounded = Math.round(value * 1e6) / 1e6
    // What must be more than a bound has no nearest value.
    tell(
      code,
      { label, value: inMm(kind, rounded), bound: inMm(kind, bound) },
      code === 'not-above' ? undefined : bound,
    )
    return false
  }
  if (above !== undefined && value <= above) return told('not-above', above)
  if (least !== undefined && value < least) return told('too-small', least)
  if (most !== undefined && value > most) return told('too-large', most)
  return true
}

/** A length with its unit, any other value as it is. */
function inMm(kind: ValueKind, value: number): string | number {
  return kind === 'length' ? `${value} mm` : value
}
