import type { Cells } from './cells.ts'
import { stridesOf } from './cells.ts'

/**
 * How deep each cell lies: the square of how many cells it is from the nearest one that is outside, 0 outside. Exact: one axis after the
 * other, by the lowest of parabolas (Felzenszwalb and Huttenlocher, Distance Transforms of Sampled Functions, 2012).
 */
export function depthsOf(cells: Cells): Int32Array {
  const { counts, isInside } = cells
  const strides = stridesOf(cells)
  const depths = new Int32Array(isInside.length)
  nearestAlongX(isInside, counts[0], depths)
  const longest = Math.max(...counts)
  const [values, vertices, bounds] = [new Float64Array(longest), new Int32Array(longest), new Float64Array(longest + 1)]
  for (const axis of [1, 2] as const) {
    const [count, stride] = [counts[axis], strides[axis]]
    for (let begin = 0; begin < depths.length; begin += count * stride)
      for (let start = begin; start < begin + stride; start++)
        // From one that is outside to the next: what lies beyond is no nearer.
        for (let from = 0; from + 1 < count; ) {
          let to = from + 1
          while (to + 1 < count && depths[start + to * stride] !== 0) to++
          if (to > from + 1) {
            for (let i = from; i <= to; i++) values[i - from] = depths[start + i * stride]!
            lowest(values, to - from + 1, vertices, bounds)
            for (let [i, k] = [1, 0]; i < to - from; i++) {
              while (bounds[k + 1]! < i) k++
              const apart = i - vertices[k]!
              depths[start + (from + i) * stride] = apart * apart + values[vertices[k]!]!
            }
          }
          from = to
        }
  }
  return depths
}

/** The square of how many cells each is from the nearest one outside in its row: rows begin and end outside. */
function nearestAlongX(isInside: Uint8Array, long: number, depths: Int32Array): void {
  for (let start = 0; start < isInside.length; start += long)
    for (let from = start; from < start + long; from++) {
      if (!isInside[from]) continue
      let to = from
      while (isInside[to]) to++
      for (let i = from; i < to; i++) depths[i] = Math.min(i - from + 1, to - i) ** 2
      from = to
    }
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
