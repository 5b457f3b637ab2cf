/** From none to all of the strain that the material takes once: pale, then deeper, and rust beyond it. */
const steps = [
  [0, [214, 224, 221]],
  [0.35, [137, 180, 178]],
  [0.6, [226, 196, 120]],
  [1, [196, 112, 66]],
  [1.3, [150, 40, 24]],
] as const

/** `share`: of the strain that the material takes once. */
export function strainColour(share: number): string {
  const high = steps.findIndex(([at]) => at >= share)
  if (high === 0) return mixed(steps[0][1], steps[0][1], 0)
  if (high < 0) return mixed(steps[4][1], steps[4][1], 0)
  const [from, low] = steps[high - 1]!
  const [to, top] = steps[high]!
  return mixed(low, top, (share - from) / (to - from))
}

function mixed(a: readonly number[], b: readonly number[], part: number): string {
  return `rgb(${a.map((x, i) => Math.round(x + (b[i]! - x) * part)).join(' ')})`
}
