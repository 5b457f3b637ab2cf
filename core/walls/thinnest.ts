import { TriangleTree } from '../mesh/index.ts'
import type { NamedSolid } from '../naming/index.ts'

export interface Thin {
  readonly least: number
  readonly thick: number
}

/**
 * Where corners of what was made of a solid, x y z each, lie nearer to its surface than the wall there less `slack`: the least and
 * what it should be, mm, to two digits; undefined where none do. Faces of thickness 0 have no wall.
 */
export function thinnest(
  { positions, triangles, faces, faceOf }: NamedSolid,
  thick: (face: number) => number,
  corners: Float64Array,
  slack: number,
): Thin | undefined {
  const sizes = new Set(faces.map((_, face) => thick(face)).filter((size) => size > 0))
  for (const size of sizes) {
    const own = Array.from(triangles).filter((_, h) => thick(faceOf[(h / 3) | 0]!) === size)
    const tree = new TriangleTree({ positions: Float32Array.from(positions), triangles: Uint32Array.from(own) })
    // Only what is nearer than may be is looked for.
    const may = size - slack
    let least = may
    for (let i = 0; i < corners.length; i += 3) {
      const near = tree.nearest([corners[i]!, corners[i + 1]!, corners[i + 2]!], least)
      if (near && near.distance < least) least = near.distance
    }
    if (least < may) return { least: toHundredths(least), thick: toHundredths(size) }
  }
  return undefined
}

function toHundredths(mm: number): number {
  return Math.round(mm * 100) / 100
}
