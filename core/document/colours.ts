import type { PieceColour } from './format.ts'

/** The part's own pewter, and muted tints of it for further pieces. */
export const pieceTints = {
  pewter: '#c7d0d3',
  sand: '#d8cfba',
  slate: '#aebac6',
  sage: '#bccdb9',
  clay: '#d6bfb2',
} as const

/** As #rrggbb. */
export function colourHex(colour: PieceColour): `#${string}` {
  return Object.hasOwn(pieceTints, colour) ? pieceTints[colour as keyof typeof pieceTints] : (colour as `#${string}`)
}
