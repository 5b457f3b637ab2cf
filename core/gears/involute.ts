/**
 * The involute of a circle, as used for gears (ISO 21771:2007). Angles in radians here, lengths in mm.
 */

/** tan α − α (ISO 21771, 4.2.4). */
export function inv(alpha: number): number {
  return Math.tan(alpha) - alpha
}

/** The angle whose involute function is `value`, by Newton's method. @throws Error below 0 */
export function inverseInv(value: number): number {
  if (!(value >= 0)) throw new Error('an involute function is never below 0')
  if (value === 0) return 0
  const cube = (3 * value) ** (1 / 3)
  // Cheng's series (1992) where that is near; else from above, whence the method comes down without passing by.
  let alpha = value < 0.3 ? cube - (2 / 15) * cube ** 3 + (9 / 175) * cube ** 5 : Math.atan(value + Math.PI / 2)
  for (let i = 0; i < 50; i++) {
    const tan = Math.tan(alpha)
    const step = (tan - alpha - value) / (tan * tan)
    alpha -= step
    if (Math.abs(step) < 1e-16) break
  }
  return alpha
}

/** The pressure angle of an involute of the circle `base` at a radius; 0 within that. */
export function pressureAt(base: number, radius: number): number {
  return radius <= base ? 0 : Math.acos(base / radius)
}
