import type { RenderMesh } from '@makrel/core/solids'

/** Whether all of a step's face on a drawing looks one way. */
export function isFlatFace({ faces, faceOf, positions }: RenderMesh, step: string, name: string): boolean {
  const own = new Set(faces.flatMap(({ owner, face }, i) => (owner.id === step && face === name ? [i] : [])))
  let first: readonly number[] | undefined
  for (let t = 0; t < faceOf.length; t++) {
    if (!own.has(faceOf[t]!)) continue
    const normal = normalOf(positions, t)
    // Slivers look anywhere.
    if (!normal) continue
    first ??= normal
    if (normal.reduce((sum, x, i) => sum + x * first![i]!, 0) < 0.9999) return false
  }
  return first !== undefined
}

/** Unit; undefined where the triangle has next to no area. */
function normalOf(positions: Float32Array, t: number): readonly number[] | undefined {
  const p = (corner: number, i: number) => positions[9 * t + 3 * corner + i]!
  const side = (corner: number) => [0, 1, 2].map((i) => p(corner, i) - p(0, i)) as [number, number, number]
  const [a, b] = [side(1), side(2)]
  const n = [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]]
  const size = Math.hypot(...n)
  return size < 1e-5 ? undefined : n.map((x) => x / size)
}
