import type { Part } from '@makrel/core/document'
import type { PartUnit } from '@makrel/core/units'

/** What sizes are rounded to while dragging and nudging. */
export interface StepSize {
  readonly label: string
  readonly mm: number
}

const inch = 25.4

/** Metric steps, and the inch's tenths and halves down to a sixty-fourth. */
const metric = [0.01, 0.05, 0.1, 0.25, 0.5, 1, 2, 5, 10].map((mm): StepSize => ({ label: `${mm} mm`, mm }))
const imperial = [
  ...[0.001, 0.01, 0.1].map((inches): StepSize => ({ label: `${inches} in`, mm: inches * inch })),
  ...[64, 32, 16, 8, 4, 2].map((part): StepSize => ({ label: `1/${part} in`, mm: inch / part })),
  { label: '1 in', mm: inch },
]

/** Those of the part's own unit first. */
export function stepSizesOf(unit: PartUnit): readonly StepSize[] {
  return unit === 'mm' ? [...metric, ...imperial] : [...imperial, ...metric]
}

/** The part's own, or a plain one of its unit. */
export function stepSizeOf({ stepSize, unit }: Pick<Part, 'stepSize' | 'unit'>): StepSize {
  const all = stepSizesOf(unit)
  return all.find(({ label }) => label === stepSize) ?? all.find(({ label }) => label === plain[unit])!
}

const plain: Readonly<Record<PartUnit, string>> = { mm: '1 mm', in: '1/16 in' }
