import type { ChoiceField } from '../fields/index.ts'
import sans from './fonts/sans.json' with { type: 'json' }
import slab from './fonts/slab.json' with { type: 'json' }
import stencil from './fonts/stencil.json' with { type: 'json' }

/** The outlines of a font, in font units with y up. `scripts/fonts.mjs` writes them. */
export interface FontData {
  readonly capHeight: number
  readonly unitsPerEm: number
  readonly kerning: Readonly<Record<string, number>>
  /** closed lines from where they start, each point from the one before it: L x y, Q x y x y, C x y x y x y */
  readonly contours: readonly string[]
  /** character -> advance, and for each of its contours where that starts and its place in the list: "x y place;x y place" */
  readonly glyphs: Readonly<Record<string, readonly [advance: number, contours: string]>>
}

interface Font {
  readonly label: string
  readonly data: FontData
}

/** The shipped fonts. A stencil's letters hang together when they are cut through. */
export const fonts = {
  sans: { label: 'upright', data: sans as unknown as FontData },
  slab: { label: 'slab', data: slab as unknown as FontData },
  stencil: { label: 'stencil', data: stencil as unknown as FontData },
} as const satisfies Readonly<Record<string, Font>>
export type FontName = keyof typeof fonts

/** Which letters, for everything that has words. */
export const fontField = {
  kind: 'choice',
  label: 'Letters',
  default: 'sans',
  choices: { sans: fonts.sans.label, slab: fonts.slab.label, stencil: fonts.stencil.label },
  meaning: 'Upright is a plain sans, slab has feet, stencil hangs together when it is cut through.',
} as const satisfies ChoiceField
