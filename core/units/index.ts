/** Units of length and angle. Inside, lengths are millimetres and angles degrees; other units exist in text only. */

/** Millimetres in one unit. The inch is 25.4 mm exactly (ISO 80000-3). */
export const lengthUnits = { mm: 1, cm: 10, m: 1000, in: 25.4, inch: 25.4, '"': 25.4, ft: 304.8 } as const

/** Degrees in one unit. */
export const angleUnits = { deg: 1, '°': 1, rad: 180 / Math.PI, turn: 360 } as const

/** The units a part can be shown in; a bare number in one of its expressions is in this unit. */
export type PartUnit = 'mm' | 'in'
export const partUnits: readonly PartUnit[] = ['mm', 'in']

export function mmPer(unit: PartUnit): number {
  return lengthUnits[unit]
}

/**
 * What a number measures, as powers: `{ length: 1, angle: 0 }` is a length, `{ length: 2, … }` an area.
 * Plain numbers (counts, ratios) have both powers zero.
 */
export interface Dimension {
  readonly length: number
  readonly angle: number
}
export const plain: Dimension = { length: 0, angle: 0 }
export const length: Dimension = { length: 1, angle: 0 }
export const angle: Dimension = { length: 0, angle: 1 }

export function sameDimension(a: Dimension, b: Dimension): boolean {
  return a.length === b.length && a.angle === b.angle
}

/** With its article, for sentences: "a length". */
export function dimensionName(d: Dimension): string {
  if (sameDimension(d, plain)) return 'a plain number'
  if (sameDimension(d, length)) return 'a length'
  if (sameDimension(d, angle)) return 'an angle'
  if (d.angle === 0 && d.length === 2) return 'an area'
  if (d.angle === 0 && d.length === 3) return 'a volume'
  return 'a product of lengths and angles'
}

/** Rounded to a whole number; what halves two but for the noise of arithmetic goes up. */
export function rounded(value: number): number {
  return Math.round(Number(value.toPrecision(13)))
}

/** Rounded to so many decimals. */
export function toDecimals(value: number, decimals: number): number {
  return Number(value.toFixed(decimals))
}

/** The shortest decimal within half of the last place; never "-0". */
export function formatNumber(value: number, decimals = 3): string {
  const scale = 10 ** decimals
  const text = Number.isFinite(value * scale) ? (rounded(value * scale) / scale).toFixed(decimals) : String(value)
  const short = text.includes('.') ? text.replace(/\.?0+$/, '') : text
  return short === '-0' ? '0' : short
}

/** A length in mm as the number shown in `unit` (without the unit): 1/1000 mm, or 1/10000 inch. */
export function formatLength(mm: number, unit: PartUnit): string {
  return formatNumber(mm / mmPer(unit), unit === 'mm' ? 3 : 4)
}

export function formatLengthWithUnit(mm: number, unit: PartUnit): string {
  return `${formatLength(mm, unit)} ${unit}`
}

/** Sizes rounded for reading at a glance (title block): 1/100 mm or 1/1000 inch. */
export function formatSize(mm: number, unit: PartUnit): string {
  return formatNumber(mm / mmPer(unit), unit === 'mm' ? 2 : 3)
}

/**
 * A text that was written in mm, with its lengths, areas and volumes in inches where that is the part's unit: "84 × 44 mm"
 * becomes "3.3071 × 1.7323 in". What is quoted stays as it was typed, and so do these names: a step called "Gauge 5 mm" is called so.
 */
export function inUnit(text: string, unit: PartUnit, names: readonly string[] = []): string {
  if (unit === 'mm') return text
  const kept = names.filter((name) => converted(name, unit) !== name).sort((a, b) => b.length - a.length)
  const literal = kept.map((name) => name.replace(/[\\^$.*+?()[\]{}|]/g, '\\$&'))
  // Split by a group, what matched it is every second piece.
  return text
    .split(new RegExp(`(${['“[^”]*”', ...literal].join('|')})`))
    .map((piece, i) => (i % 2 === 1 ? piece : converted(piece, unit)))
    .join('')
}

function converted(text: string, unit: PartUnit): string {
  return text.replace(
    /((?:[-−]?\d[\d,]*(?:\.\d+)? × )*[-−]?\d[\d,]*(?:\.\d+)?) mm(³|²|\b)/g,
    (_, numbers: string, power: string) => {
      const factor = mmPer(unit) ** (power === '³' ? 3 : power === '²' ? 2 : 1)
      const shown = numbers
        .split(' × ')
        .map((each) => formatNumber(Number(each.replaceAll(',', '').replace('−', '-')) / factor, power ? 6 : 4))
      return `${shown.join(' × ')} ${unit}${power}`
    },
  )
}

/** A share of a figure that is as good as nothing beside it. */
export const untoldShare = 1e-4

/**
 * A volume in mm³ shown in cm³ or cubic inches, to four significant figures; with how far it may be off, where that is more than
 * its ten-thousandth: "≈ 9.469 ± 0.003 cm³".
 */
export function formatVolume(mm3: number, unit: PartUnit, off = 0): string {
  const per = unit === 'mm' ? 1000 : 25.4 ** 3
  if (!(off > untoldShare * Math.abs(mm3))) return `${significant(mm3 / per)} ${unit === 'mm' ? 'cm' : unit}³`
  const [value, error] = [mm3 / per, off / per]
  const places = Math.max(0, -Math.floor(Math.log10(error)))
  const most = Math.ceil(error * 10 ** places) / 10 ** places
  return `≈ ${formatNumber(value, places)} ± ${formatNumber(most, places)} ${unit === 'mm' ? 'cm' : unit}³`
}

export function formatArea(mm2: number, unit: PartUnit): string {
  return unit === 'mm' ? `${significant(mm2)} mm²` : `${significant(mm2 / 25.4 ** 2)} in²`
}

/** A mass in g to three significant figures, in tenths of a gram at most; kilograms from 10 kg on. */
export function formatMass(grams: number): string {
  if (grams >= 10_000) return `${formatNumber(grams / 1000, 2)} kg`
  if (grams >= 10 || grams === 0) return `${formatNumber(grams, 1)} g`
  return `${formatNumber(grams, Math.min(6, Math.max(0, 2 - Math.floor(Math.log10(grams)))))} g`
}

function significant(value: number): string {
  if (value === 0) return '0'
  const decimals = Math.min(6, Math.max(0, 3 - Math.floor(Math.log10(Math.abs(value)))))
  return formatNumber(value, decimals)
}
