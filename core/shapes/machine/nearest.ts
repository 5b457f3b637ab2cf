/** The largest hundredth below a value that will do; 0 where none does. */
export function largest(from: number, will: (value: number) => boolean): number {
  let [low, high] = [0, from]
  if (!will(low)) return 0
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2
    if (will(middle)) low = middle
    else high = middle
  }
  return floored(low)
}

/** Down to a hundredth. */
export function floored(value: number): number {
  return Math.floor(value * 100 + 1e-9) / 100
}
