import type { Ring } from '../../kernel/index.ts'

/** Whether all rings lie within the outline, and no two of them, by their boxes, come near each other. */
export function areApart(outline: readonly Ring[], tools: readonly Ring[]): boolean {
  const [border, ...more] = outline
  if (!border || more.length > 0) return false
  const boxes = tools.map(boundsOf).sort((a, b) => a.left - b.left)
  const clear = 1e-6
  for (const [i, a] of boxes.entries()) {
    for (let k = i + 1; k < boxes.length && boxes[k]!.left <= a.right + clear; k++)
      if (boxes[k]!.low <= a.high + clear && a.low <= boxes[k]!.high + clear) return false
    if (!contains(border, a, clear)) return false
  }
  return true
}

interface Bounds {
  readonly left: number
  readonly right: number
  readonly low: number
  readonly high: number
}

function boundsOf(ring: Ring): Bounds {
  let [left, right, low, high] = [Infinity, -Infinity, Infinity, -Infinity]
  for (const [x, y] of ring) {
    left = Math.min(left, x)
    right = Math.max(right, x)
    low = Math.min(low, y)
    high = Math.max(high, y)
  }
  return { left, right, low, high }
}

/** Whether a rectangle lies within a ring: its middle does, and no edge of the ring comes into it. */
function contains(ring: Ring, { left, right, low, high }: Bounds, clear: number): boolean {
  const [x, y] = [(left + right) / 2, (low + high) / 2]
  const [wide, tall] = [(right - left) / 2 + clear, (high - low) / 2 + clear]
  let inside = false
  for (const [i, a] of ring.entries()) {
    const b = ring[(i + 1) % ring.length]!
    if (a[1] > y !== b[1] > y && x < ((b[0] - a[0]) * (y - a[1])) / (b[1] - a[1]) + a[0]) inside = !inside
    // Separated along x, along y, or across the edge; else they meet.
    const [ax, ay, bx, by] = [a[0] - x, a[1] - y, b[0] - x, b[1] - y]
    if (Math.min(ax, bx) > wide || Math.max(ax, bx) < -wide || Math.min(ay, by) > tall || Math.max(ay, by) < -tall)
      continue
    const [nx, ny] = [by - ay, ax - bx]
    if (Math.abs(nx * ax + ny * ay) <= Math.abs(nx) * wide + Math.abs(ny) * tall) return false
  }
  return inside
}
