export { colourHex as pieceColour } from '@makrel/core/document'

/** The look's tokens where three.js needs them as values; the same as in styles.css. */
export const ink = '#14282c'
export const inkSoft = '#4f6468'
export const mackerel = '#0f6a70'
export const plum = '#6b4c86'
export const rust = '#b23a2a'
export const line = '#c9d3d0'
export const belly = '#c7d0d3'
export const sheet = '#fbfcfa'
/** A piece that is in another one: rust, light enough for its edges to be seen. */
export const clashColour = '#d98a7e'

/** What things are called in the drawing that only show what is selected. */
export const selectionWash = 'selected'
