/**
 * Flats that meet flatter than this stand for one round, as a cosine: 35°. Where a round has as few as four flats to a quarter, each turns by
 * 22.5°; what is meant as a corner turns by 45° or more.
 */
export const oneRound = Math.cos((35 * Math.PI) / 180)
