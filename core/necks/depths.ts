import type { Cells } from './cells.ts'
import { stridesOf } from './cells.ts'

/**
 * How deep each cell lies: the square of how many cells it is from the nearest one that is outside, 0 outside. Exact: one axis after the
 * other, by the lowest of parabolas (Felzenszwalb and Huttenlocher, Distance Transforms of Sampled Functions, 2012).
 */
export function depthsOf(cells: Cells): Int32Array {
  const { counts, isInside } = cells
  const strides = stridesOf(cells)
  const far = counts[0] + counts[1] + counts[2]
  const depths = Int32Array.from(isInside, (inside) => (inside ? far * far : 0))
  const longest = Math.max(...counts)
  const [values, vertices, bounds] = [new Float64Array(longest), new Int32Array(longest), new Float64Array(longest + 1)]
  for (const axis of [0, 1, 2] as const) {
    const [count, stride] = [counts[axis], strides[axis]]
    for (let start = 0; start < depths.length; start++) {
      if (Math.floor(start / stride) % count !== 0) continue
      let isEmpty = true
      for (let i = 0; i < count; i++) {
        values[i] = depths[start + i * stride]!
        if (values[i] !== 0) isEmpty = false
      }
      if (isEmpty) continue
      lowest(values, count, vertices, bounds)
      let k = 0
      for (let i = 0; i < count; i++) {
        while (bounds[k + 1]! < i) k++
        const apart = i - vertices[k]!
        depths[start + i * stride] = apart * apart + values[vertices[k]!]!
      }
    }
  }
  return depths
}

/** Which parabolas are the lowest, from left to right, and where each begins to be. */
function lowest(values: Float64Array, count: number, vertices: Int32Array, bounds: Float64Array): void {
  let k = 0
  vertices[0] = 0
  bounds[0] = Number.NEGATIVE_INFINITY
  bounds[1] = Number.POSITIVE_INFINITY
  for (let i = 1; i < count; i++) {
    let at = meeting(values, i, vertices[k]!)
    while (at <= bounds[k]!) at = meeting(values, i, vertices[--k]!)
    vertices[++k] = i
    bounds[k] = at
    bounds[k + 1] = Number.POSITIVE_INFINITY
  }
}

function meeting(values: Float64Array, i: number, k: number): number {
  return (values[i]! + i * i - values[k]! - k * k) / (2 * (i - k))
}
