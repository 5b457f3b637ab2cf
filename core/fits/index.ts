/** Printers, materials and fits. All made up, in the trade's usual ranges; a printed gauge calibrates them later. */

/** The named clearances, from tight to loose. A fit's value is a gap per side, in mm. */
export const fitNames = ['press', 'snug', 'slide', 'free', 'captive'] as const
export type FitName = (typeof fitNames)[number]

export const fitMeanings: Readonly<Record<FitName, string>> = {
  press: 'pushed in with force, holds by itself',
  snug: 'goes in by hand, does not rattle',
  slide: 'slides along or turns with light contact',
  free: 'drops in, plays visibly',
  captive: 'printed in place and moves when freed',
}

export interface Printer {
  readonly id: string
  readonly name: string
  /** printing space, mm: x, y, height */
  readonly bed: readonly [number, number, number]
  readonly lineWidth: number
  readonly layerHeight: number
  /** the smallest gap that does not fuse, per side, mm */
  readonly leastGap: number
  readonly fits: Readonly<Record<FitName, number>>
}

export const printers: readonly Printer[] = [
  {
    id: 'tern-220',
    name: 'Tern 220',
    bed: [220, 220, 240],
    lineWidth: 0.44,
    layerHeight: 0.2,
    leastGap: 0.25,
    fits: { press: 0, snug: 0.1, slide: 0.2, free: 0.35, captive: 0.35 },
  },
  {
    id: 'dunlin-140',
    name: 'Dunlin 140',
    bed: [140, 140, 130],
    lineWidth: 0.42,
    layerHeight: 0.16,
    leastGap: 0.2,
    fits: { press: 0, snug: 0.08, slide: 0.16, free: 0.3, captive: 0.3 },
  },
  {
    id: 'gannet-350',
    name: 'Gannet 350',
    bed: [350, 350, 400],
    lineWidth: 0.64,
    layerHeight: 0.3,
    leastGap: 0.4,
    fits: { press: 0.05, snug: 0.18, slide: 0.3, free: 0.5, captive: 0.5 },
  },
]

/** The printer with `id`, or the first one where it is not known. */
export function printerFor(id: string): Printer {
  return printers.find((printer) => printer.id === id) ?? printers[0]!
}

export interface Material {
  readonly id: string
  readonly name: string
  /** g/cm³ */
  readonly density: number
}

/** Densities as commonly given for unfilled filament, g/cm³. */
export const materials: readonly Material[] = [
  { id: 'pla', name: 'PLA', density: 1.24 },
  { id: 'petg', name: 'PETG', density: 1.27 },
  { id: 'asa', name: 'ASA', density: 1.07 },
  { id: 'pa', name: 'Nylon (PA 6)', density: 1.14 },
  { id: 'tpu', name: 'TPU 95A', density: 1.21 },
]

export function materialFor(id: string): Material {
  return materials.find((material) => material.id === id) ?? materials[0]!
}
