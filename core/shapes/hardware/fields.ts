import type { ItemField, NumberField } from '../../fields/index.ts'
import type { ItemKind } from '../../hardware/index.ts'
import { type Frame, world } from '../../place/index.ts'

/** What holes for items have in common: which item, and how it fits. */

export function itemField(
  label: string,
  of: readonly ItemKind[],
  standard: string,
): ItemField & { readonly kind: 'item' } {
  return { kind: 'item', label, of, default: standard, meaning: 'The item that it is for, from the hardware tables.' }
}

/** The gap to an item, by a fit's name or as a size. */
export function gapField(fit: string): NumberField & { readonly kind: 'length' } {
  return {
    kind: 'length',
    label: 'Gap',
    default: fit,
    least: -1,
    most: 10,
    meaning: 'Gap to the item on each side: the name of a fit, or a size.',
  }
}

/** How far an item lies below the face. */
export function sunkField(standard: string, meaning: string): NumberField & { readonly kind: 'length' } {
  return { kind: 'length', label: 'Below the face', default: standard, least: 0, most: 1000, meaning }
}

/** The middle of the upper end of what lies so far below the face. */
export function below(sunk: number): Frame {
  return { ...world, origin: [0, 0, -sunk] }
}

/** By how much a gap presses what goes in, mm on each side. */
export function pressedBy(gap: number): number {
  return Math.max(0, -gap)
}

/** Where a screw's head lies. */
export const headFields = {
  seat: {
    kind: 'choice',
    label: 'Head',
    default: 'seated',
    choices: { none: 'on the face', seated: 'sunk into the face' },
    meaning: 'Whether its head lies on the face, or in a counterbore or countersink of its own size.',
  },
  sunk: sunkField('0', 'How far the top of its head lies below the face.'),
} as const

/** How what hangs over a wider mouth below it is printed: as it is drawn, or bridged over. */
export const hangFields = {
  hang: {
    kind: 'choice',
    label: 'Printed',
    default: 'plain',
    choices: { plain: 'as it is', bridged: 'bridged over' },
    meaning:
      'Where it is printed upside down, its hole hangs over a wider mouth. Bridged over, three layers narrow it one after the other, so that each has something to lie on.',
  },
  layer: {
    kind: 'length',
    label: 'Layer',
    default: '0.2',
    above: 0,
    most: 5,
    layered: true,
    rare: true,
    meaning: 'How high each of the three layers is that it is bridged with, in whole layers of the printer.',
  },
} as const
export interface Hanging {
  readonly hang: 'plain' | 'bridged'
  readonly layer: number
}
