import type { Beside } from '../measures/index.ts'

/** The named clearances, from tight to loose. A fit's value is a gap per side, in mm. */
export const fitNames = ['press', 'snug', 'slide', 'free', 'captive'] as const
export type FitName = (typeof fitNames)[number]

export function isFitName(word: string): word is FitName {
  return fitNames.some((name) => name === word)
}

export const fitMeanings: Readonly<Record<FitName, string>> = {
  press: 'pushed in with force, holds by itself',
  snug: 'goes in by hand, does not rattle',
  slide: 'slides along or turns with light contact',
  free: 'drops in, plays visibly',
  captive: 'printed in place and moves when freed',
}

/** A round hole prints tighter than the gap between two flats: each pair has its own. */
export const fitPairs = ['round', 'flat'] as const
export type FitPair = (typeof fitPairs)[number]

/** Where a gap comes from. Dates are ISO 8601. */
export type FitOrigin =
  | { readonly kind: 'shipped' }
  | { readonly kind: 'set'; readonly on: string }
  /** from a printed gauge; `spread`: give or take, mm */
  | { readonly kind: 'calibrated'; readonly from: string; readonly on: string; readonly spread: number }

export interface FitGap {
  /** per side, mm */
  readonly gap: number
  readonly origin: FitOrigin
}

/** What a printer can do; lengths in mm. */
export interface Printer {
  readonly id: string
  readonly name: string
  /** printing space: x, y, height */
  readonly bed: readonly [number, number, number]
  readonly lineWidth: number
  readonly layerHeight: number
  readonly firstLayer: number
  /** the smallest gap that does not fuse sideways, per side */
  readonly leastGap: number
  /** the fewest layers that two surfaces above each other must be apart by, so that they do not fuse */
  readonly leastLayers: number
  /** how far off upright a surface may lean without help, degrees */
  readonly overhang: number
  /** the longest stretch it spans between two walls without help */
  readonly bridge: number
  /** how far any wall prints out of its material, per side: outsides come out larger, pockets and slots narrower */
  readonly outsideOffset: number
  /** how much too small round holes up to 10 mm print, per side; of what goes beyond `outsideOffset` larger ones have less */
  readonly holeOffset: number
  /** how far the first layer is pressed out sideways, per side */
  readonly flare: number
  /** where these three come from; shipped where nothing says so */
  readonly measured?: FitOrigin
  readonly fits: Readonly<Record<FitName, Readonly<Record<FitPair, FitGap>>>>
}

const shipped = { kind: 'shipped' } as const

/** Fits as they ship: gaps from tight to loose, of round and of flat pairs. */
function fitsOf(round: readonly number[], flat: readonly number[]): Printer['fits'] {
  const both = (i: number) => ({
    round: { gap: round[i]!, origin: shipped },
    flat: { gap: flat[i]!, origin: shipped },
  })
  return { press: both(0), snug: both(1), slide: both(2), free: both(3), captive: both(4) }
}

/** All made up, in the trade's usual ranges. */
export const shippedPrinters: readonly Printer[] = [
  {
    id: 'tern-220',
    name: 'Tern 220',
    bed: [220, 220, 240],
    lineWidth: 0.44,
    layerHeight: 0.2,
    firstLayer: 0.24,
    leastGap: 0.25,
    leastLayers: 2,
    overhang: 50,
    bridge: 15,
    holeOffset: 0.08,
    outsideOffset: 0.02,
    flare: 0.15,
    fits: fitsOf([0, 0.1, 0.2, 0.35, 0.35], [0, 0.08, 0.15, 0.3, 0.3]),
  },
  {
    id: 'dunlin-140',
    name: 'Dunlin 140',
    bed: [140, 140, 130],
    lineWidth: 0.42,
    layerHeight: 0.16,
    firstLayer: 0.2,
    leastGap: 0.2,
    leastLayers: 2,
    overhang: 55,
    bridge: 12,
    holeOffset: 0.06,
    outsideOffset: 0.01,
    flare: 0.1,
    fits: fitsOf([0, 0.08, 0.16, 0.3, 0.3], [0, 0.06, 0.12, 0.25, 0.25]),
  },
  {
    id: 'gannet-350',
    name: 'Gannet 350',
    bed: [350, 350, 400],
    lineWidth: 0.64,
    layerHeight: 0.3,
    firstLayer: 0.36,
    leastGap: 0.4,
    leastLayers: 2,
    overhang: 45,
    bridge: 20,
    holeOffset: 0.14,
    outsideOffset: 0.04,
    flare: 0.25,
    fits: fitsOf([0.05, 0.18, 0.3, 0.5, 0.5], [0.04, 0.15, 0.25, 0.45, 0.45]),
  },
]

/** What a fit of flat pairs is called in expressions; one of round pairs goes by the fit's own name. */
export function flatFit(name: FitName): string {
  return `${name}_flat`
}

/** The gaps of all fits by the names that they have in expressions, per side, mm. */
export function fitGaps({ fits }: Pick<Printer, 'fits'>): Readonly<Record<string, number>> {
  return Object.fromEntries(
    fitNames.flatMap((name) => [
      [name, fits[name].round.gap],
      [flatFit(name), fits[name].flat.gap],
    ]),
  )
}

/**
 * What a fit's name behind the size of something adds to it that another one goes into: its gap on both sides. Undefined of other words,
 * and where nothing goes in.
 */
export function besideOf(takes: FitPair | undefined): Beside | undefined {
  if (!takes) return undefined
  return (word) => {
    if (!isFitName(word)) return undefined
    return { name: takes === 'round' ? word : flatFit(word), times: 2 }
  }
}

/** The fit in words like "8 slide", where it has one, and what it is beside. */
export function fitBeside(text: string): { readonly fit: FitName; readonly size: string } | undefined {
  const [, size, word] = /^(.*\S)\s+([a-z]+)\s*$/s.exec(text) ?? []
  if (size === undefined || word === undefined || !isFitName(word) || /[-+*/^(,×·÷−]$/.test(size)) return undefined
  return { fit: word, size }
}

/** What is said of a gap beside it. */
export function originText(origin: FitOrigin, day: (iso: string) => string): string {
  switch (origin.kind) {
    case 'shipped':
      return 'shipped'
    case 'set':
      return `set by hand on ${day(origin.on)}`
    case 'calibrated':
      return `calibrated on ${day(origin.on)} from ${origin.from}, ± ${origin.spread} mm`
  }
}
