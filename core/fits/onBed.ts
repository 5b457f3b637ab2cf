type Size = readonly [width: number, depth: number, height: number]

/** How a box of this size lies on a bed; undefined where it does not fit. All in mm. */
export function liesOn([w, d, h]: Size, [x, y, z]: Size): 'as it is' | 'turned' | undefined {
  if (h > z) return undefined
  return w <= x && d <= y ? 'as it is' : d <= x && w <= y ? 'turned' : undefined
}
