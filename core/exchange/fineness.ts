/** Files are written at this fineness where nothing asks for a finer one, mm; the others are what is taken then. */
const finenesses = [0.02, 0.01, 0.005, 0.002] as const

/** Flats may take away or add so much of what a part is, where its fineness is chosen by itself. */
const mostOff = 0.001
/** A round is so many times as large as the distance of its flats from it. */
const roundsTo = 50

/** The fineness that fits a part, and what it follows from. */
export interface UsualFineness {
  readonly fineness: number
  /** what asks for it: nothing, the volume that flats take away or add, or the smallest round */
  readonly for: 'nothing' | 'volume' | 'round'
  /** the share of its volume that it would be off at the usual fineness */
  readonly off: number
}

/**
 * The coarsest usual fineness at which a part keeps its volume to a thousandth, and its smallest round is 50 times as large as its flats
 * lie off it. `off`: the share of the volume that flats are off at the fineness `at`; it shrinks as that does (a flat lies so far off its
 * round all over). `smallest`: the radius of the smallest round, mm; undefined where there is none.
 */
export function usualFineness(off: number, at: number, smallest: number | undefined): UsualFineness {
  const [usual] = finenesses
  const share = Math.abs(off) * (usual / at)
  const first = (fits: (fineness: number) => boolean) => finenesses.find(fits) ?? finenesses.at(-1)!
  const forVolume = first((fineness) => share * (fineness / usual) <= mostOff)
  const forRound = smallest === undefined ? usual : first((fineness) => fineness * roundsTo <= smallest)
  const fineness = Math.min(forVolume, forRound)
  const reason = fineness === usual ? 'nothing' : fineness === forVolume ? 'volume' : 'round'
  return { fineness, for: reason, off: share }
}
