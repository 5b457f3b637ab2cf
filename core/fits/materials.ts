import type { FitOrigin } from './printers.ts'

export interface Material {
  readonly id: string
  readonly name: string
  /** g/cm³ */
  readonly density: number
  /** per kg, in whatever money the maker counts in */
  readonly price: number
  /** how much smaller it is when it has cooled, % */
  readonly shrinkage: number
  /** where that comes from; shipped where nothing says so */
  readonly measured?: FitOrigin
  /** Young's modulus of the print, MPa */
  readonly stiffness: number
  /** the strain that it bears once, and again and again, % */
  readonly strainOnce: number
  readonly strainOften: number
  /** what holds between two layers, as a share of what it bears along them, %; left out, it is not known */
  readonly acrossLayers?: number
  /** up to which temperature it keeps its form under load, °C */
  readonly keepsForm: number
}

/**
 * As commonly given for unfilled filament. What is borne often is 60 % of what is borne once, the usual rule for snap fits
 * (Bonenberger, The First Snap-Fit Handbook). What holds between layers is a guess between what bars printed upright and lying are told to
 * bear: nobody has measured it on the maker's printer.
 */
export const shippedMaterials: readonly Material[] = [
  material('pla', 'PLA', 1.24, 22, 0.3, 3300, 2, 55, 52),
  material('petg', 'PETG', 1.27, 24, 0.4, 2000, 3.5, 60, 68),
  material('asa', 'ASA', 1.07, 30, 0.6, 2000, 3.5, 45, 92),
  material('pa', 'Nylon (PA 6)', 1.14, 48, 1.2, 1400, 6, 60, 90),
  material('tpu', 'TPU 95A', 1.21, 36, 0.6, 45, 50, 70, 60),
]

function material(
  id: string,
  name: string,
  density: number,
  price: number,
  shrinkage: number,
  stiffness: number,
  strainOnce: number,
  acrossLayers: number,
  keepsForm: number,
): Material {
  const strainOften = Number((0.6 * strainOnce).toFixed(2))
  return { id, name, density, price, shrinkage, stiffness, strainOnce, strainOften, acrossLayers, keepsForm }
}

/** Of a material that nobody has told it of, %. */
const acrossLayersUnknown = 50

/** What it bears before it breaks, MPa, along layers or across them: its stiffness by the strain that it bears once. */
export function strengthOf({ stiffness, strainOnce, acrossLayers = acrossLayersUnknown }: Material): {
  readonly along: number
  readonly across: number
} {
  const along = (stiffness * strainOnce) / 100
  return { along, across: (along * acrossLayers) / 100 }
}
