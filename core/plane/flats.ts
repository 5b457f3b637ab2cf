/**
 * How many flats stand for a curve. Three things are asked of the number:
 *
 *   chord      no flat is farther than the fineness from the curve;
 *   angle      no two flats meet at more than 360°/32 at a fineness of 0.03 mm, and less at a smaller one: a small round is
 *              round, and its area right to half a per cent when it is handed off at 0.02 mm;
 *   halves     at four times the fineness there are half as many, so that what is measured at both leads to the true curve
 *              (Richardson: the error goes with the square of the flats, and with the fineness).
 *
 * The last one holds since both bounds go with 1/√fineness, and since half of every number in use is in use as well:
 * 1, 2, 3, 4, 5, 6, and twice, four times, … 3, 4, 5 and 6.
 */

/** Flats round a whole circle at the fineness that `angleFineness` says, however small the circle is. */
const leastRound = 32
const angleFineness = 0.03
/** Never fewer than this round a whole circle. */
const fewest = 12

/** The number in use that is `least` or more. */
export function flatsInUse(least: number): number {
  const wanted = least - 1e-9
  if (wanted <= 2) return Math.max(1, Math.ceil(wanted))
  // `wanted` lies in (3, 6] times a power of two, or between 2 and 3.
  const scale = 2 ** Math.max(0, Math.ceil(Math.log2(wanted / 6) - 1e-12))
  return Math.max(3, Math.ceil(wanted / scale)) * scale
}

/** The least for a stretch that turns by `turnRad` in all, by the rule for angles; not rounded. */
export function flatsForTurn(turnRad: number, fineness: number): number {
  const round = Math.max(fewest, leastRound * Math.sqrt(angleFineness / fineness))
  return (round * turnRad) / (2 * Math.PI)
}

/**
 * Flats round a whole circle of `radius` mm, a multiple of four. Sagitta of an inscribed flat r (1 − cos(π/n)) ≤ r π²/2n²;
 * of a circumscribed one r (1/cos(π/n) − 1), which is 3 % more at twelve flats.
 */
export function flatsRound(radius: number, fineness: number, circumscribed = false): number {
  const chord = Math.PI * Math.sqrt(radius / (2 * fineness)) * (circumscribed ? 1.015 : 1)
  return 4 * flatsInUse(Math.max(chord, flatsForTurn(2 * Math.PI, fineness)) / 4)
}
