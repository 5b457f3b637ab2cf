import type { Mark, SurfaceField } from '@makrel/core/proof'
import { formatNumber, formatSize, type PartUnit } from '@makrel/core/units'
import { create } from 'zustand'

export type FieldMark = Extract<Mark, { kind: 'field' }>

interface Shown {
  /** what is looked at, and what was worked out of it; undefined until that is there */
  readonly mark: FieldMark | undefined
  readonly field: SurfaceField | undefined
  /** why there is none */
  readonly failure: string | undefined
  /** what the pointer is on */
  readonly at: { readonly value: number; readonly x: number; readonly y: number } | undefined
}

export const nothingShown: Shown = { mark: undefined, field: undefined, failure: undefined, at: undefined }

/** The field that is on the drawing. */
export const useShown = create<Shown>()(() => nothingShown)

/** "0.44 mm", "50°" */
export function fieldText(value: number, { unit: of }: SurfaceField, unit: PartUnit): string {
  return of === 'mm' ? `${formatSize(value, unit)} ${unit}` : `${formatNumber(value, 1)}°`
}

/** "at least 0.44 mm" */
export function limitText(field: SurfaceField, unit: PartUnit): string {
  return `${field.broken === 'below' ? 'at least' : 'at most'} ${fieldText(field.limit, field, unit)}`
}

/** How far along its scale a value is, 0 to 1. */
export function shareOf(value: number, { from, to }: SurfaceField): number {
  return Math.min(1, Math.max(0, (value - from) / (to - from)))
}
