import type { Material, Printer } from '../fits/index.ts'
import { formatLengthWithUnit, type PartUnit } from '../units/index.ts'

/** What is made up for in a file, so that the print comes out as it was drawn. */
export interface Compensation {
  /** how much too small holes print and too large outsides print, per side, mm */
  readonly holes: number
  readonly outsides: number
  /** how much smaller it is when it has cooled, % */
  readonly shrinkage: number
  /** what these are of, as they are called */
  readonly printer: string
  readonly material: string
}

export function compensationFor({ printer, material }: { printer: Printer; material: Material }): Compensation {
  return {
    holes: printer.holeOffset,
    outsides: printer.outsideOffset,
    shrinkage: material.shrinkage,
    printer: printer.name,
    material: material.name,
  }
}

/** Whether anything is to be made up for. */
export function compensates({ holes, outsides, shrinkage }: Compensation): boolean {
  return holes !== 0 || outsides !== 0 || shrinkage !== 0
}

/** "holes 0.08 mm larger and outsides 0.02 mm smaller per side, all of it 0.301 % larger"; empty where nothing is made up for. */
export function compensationText({ holes, outsides, shrinkage }: Compensation, unit: PartUnit): string {
  const side = (what: string, mm: number, inwards: string, outwards: string) =>
    mm === 0 ? [] : [`${what} ${formatLengthWithUnit(Math.abs(mm), unit)} ${mm > 0 ? inwards : outwards}`]
  const sides = [...side('holes', holes, 'larger', 'smaller'), ...side('outsides', outsides, 'smaller', 'larger')]
  const grown = (100 / (100 - shrinkage) - 1) * 100
  return [
    ...(sides.length > 0 ? [`${sides.join(' and ')} per side`] : []),
    ...(shrinkage === 0 ? [] : [`all of it ${Number(grown.toFixed(3))} % ${grown > 0 ? 'larger' : 'smaller'}`]),
  ].join(', ')
}
