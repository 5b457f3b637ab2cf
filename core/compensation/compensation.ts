import type { FitOrigin, Material, Printer } from '../fits/index.ts'
import { formatLengthWithUnit, type PartUnit } from '../units/index.ts'

/** What is made up for in a file, so that the print comes out as it was drawn. Lengths in mm. */
export interface Compensation {
  /** how far any wall prints out of its material, per side */
  readonly walls: number
  /** how much too small round holes print, per side, up to `smallRound`; of what goes beyond `walls` larger ones have less */
  readonly rounds: number
  /** how far the first layer is pressed out, per side */
  readonly flare: number
  /** how much smaller it is when it has cooled, % */
  readonly shrinkage: number
  /** how high the first layer is, and how wide a line: no wall is made thinner than its lines */
  readonly firstLayer: number
  readonly lineWidth: number
  /** up to which diameter a round hole prints too small by all of it; `smallRound` where it is not told */
  readonly small?: number
  /** what these are of, as they are called */
  readonly printer: string
  readonly material: string
  /** where the printer's and the material's numbers come from, as far as they are used */
  readonly origins: readonly FitOrigin[]
}

/** A round hole of this diameter, and any smaller one, prints too small by all that the printer's record says, mm. */
export const smallRound = 10

/** Whether a record's numbers were measured, and not shipped as a guess. */
function isMeasured({ measured }: { readonly measured?: FitOrigin }): boolean {
  return measured !== undefined && measured.kind !== 'shipped'
}

/** Whether anything was measured that is to be made up for: else a file leaves as it is drawn, unless it is asked for. */
export function isMadeUp({ printer, material }: { printer: Printer; material: Material }): boolean {
  return (isMeasured(printer) || isMeasured(material)) && compensates(compensationFor({ printer, material }))
}

/**
 * What a printer and a material do, from their records. Where one of them was measured, the guesses that the other one shipped with are
 * left out.
 */
export function compensationFor({ printer, material }: { printer: Printer; material: Material }): Compensation {
  const guesses = !isMeasured(printer) && !isMeasured(material)
  const [ofPrinter, ofMaterial] = [guesses || isMeasured(printer), guesses || isMeasured(material)]
  return {
    walls: ofPrinter ? printer.outsideOffset : 0,
    rounds: ofPrinter ? printer.holeOffset : 0,
    flare: ofPrinter ? printer.flare : 0,
    shrinkage: ofMaterial ? material.shrinkage : 0,
    firstLayer: printer.firstLayer,
    lineWidth: printer.lineWidth,
    printer: printer.name,
    material: material.name,
    origins: [...(ofPrinter ? [originOf(printer)] : []), ...(ofMaterial ? [originOf(material)] : [])],
  }
}

function originOf({ measured }: { readonly measured?: FitOrigin }): FitOrigin {
  return measured ?? { kind: 'shipped' }
}

/** Whether anything is to be made up for. */
export function compensates({ walls, rounds, flare, shrinkage }: Compensation): boolean {
  return walls !== 0 || rounds !== 0 || flare !== 0 || shrinkage !== 0
}

/** How far a round hole is to be made larger, per side, mm. */
export function roundsBy(
  { walls, rounds, small = smallRound }: Pick<Compensation, 'walls' | 'rounds' | 'small'>,
  diameter: number,
): number {
  return walls + (rounds - walls) * Math.min(1, small / diameter)
}

/** What is to be made up for in a part that is so many times as large. */
export function scaledCompensation(of: Compensation, by: number): Compensation {
  const { walls, rounds, flare, firstLayer, lineWidth, small = smallRound } = of
  const lengths = { walls, rounds, flare, firstLayer, lineWidth, small }
  return { ...of, ...Object.fromEntries(Object.entries(lengths).map(([name, mm]) => [name, mm * by])) }
}

/**
 * "walls 0.02 mm thinner and small round holes 0.08 mm larger per side, the first layer 0.15 mm narrower, all of it 0.301 % larger";
 * empty where nothing is made up for.
 */
export function compensationText({ walls, rounds, flare, shrinkage }: Compensation, unit: PartUnit): string {
  const side = (what: string, mm: number, inwards: string, outwards: string) =>
    mm === 0 ? [] : [`${what} ${formatLengthWithUnit(Math.abs(mm), unit)} ${mm > 0 ? inwards : outwards}`]
  const sides = [
    ...side('walls', walls, 'thinner', 'thicker'),
    ...(rounds === walls ? [] : side('small round holes', rounds, 'larger', 'smaller')),
  ]
  const grown = (100 / (100 - shrinkage) - 1) * 100
  return [
    ...(sides.length > 0 ? [`${sides.join(' and ')} per side`] : []),
    ...side('the first layer', flare, 'narrower all round', 'wider all round'),
    ...(shrinkage === 0 ? [] : [`all of it ${Number(grown.toFixed(3))} % ${grown > 0 ? 'larger' : 'smaller'}`]),
  ].join(', ')
}
