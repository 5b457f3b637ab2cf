import type { PieceColour } from '@makrel/core/document'

/** The part's own pewter, and muted tints of it for further pieces. */
const tints: Readonly<Record<string, string>> = {
  pewter: '#c7d0d3',
  sand: '#d8cfba',
  slate: '#aebac6',
  sage: '#bccdb9',
  clay: '#d6bfb2',
}

export function pieceColour(colour: PieceColour): string {
  return tints[colour] ?? colour
}

/** The look's tokens where three.js needs them as values; the same as in styles.css. */
export const ink = '#14282c'
export const mackerel = '#0f6a70'
export const plum = '#6b4c86'
export const line = '#c9d3d0'
