import { type Asset, assetOf } from '../document/index.ts'
import { AssetValue } from '../fields/index.ts'
import { packedMesh, type TriangleMesh } from '../mesh/index.ts'

/** Meshes as they come from elsewhere, for tests: written here, without the solid library. */

/** Two rings of points, one behind the other, closed by strips of two triangles. */
export function strips(rings: readonly (readonly (readonly [number, number, number])[])[]): TriangleMesh {
  const n = rings[0]!.length
  const positions = Float32Array.from(rings.flat(2))
  const triangles: number[] = []
  for (const r of rings.keys())
    for (let i = 0; i < n; i++) {
      const [a, b] = [r * n + i, r * n + ((i + 1) % n)]
      const next = ((r + 1) % rings.length) * n
      const [c, d] = [next + i, next + ((i + 1) % n)]
      triangles.push(a, b, d, a, d, c)
    }
  return { positions, triangles: Uint32Array.from(triangles) }
}

/** A tube about z, standing on z = 0: 4 walls of `n` flats each. */
export function tubeMesh(outside: number, bore: number, height: number, n = 48): TriangleMesh {
  const ring = (diameter: number, z: number) =>
    Array.from({ length: n }, (_, i) => {
      const angle = (2 * Math.PI * i) / n
      return [(diameter / 2) * Math.cos(angle), (diameter / 2) * Math.sin(angle), z] as const
    })
  return strips([ring(outside, 0), ring(outside, height), ring(bore, height), ring(bore, 0)])
}

/** A block with its lowest corner at the origin. */
export function boxMesh(width: number, depth: number, height: number): TriangleMesh {
  const corners = [0, 1, 2, 3, 4, 5, 6, 7].map((i) => [i & 1 ? width : 0, i & 2 ? depth : 0, i & 4 ? height : 0])
  const faces = [
    [0, 2, 3, 1],
    [4, 5, 7, 6],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 4, 6, 2],
    [1, 3, 7, 5],
  ]
  return {
    positions: Float32Array.from(corners.flat()),
    triangles: Uint32Array.from(faces.flatMap(([a, b, c, d]) => [a!, b!, c!, a!, c!, d!])),
  }
}

export function movedMesh({ positions, triangles }: TriangleMesh, by: readonly number[], factor = 1): TriangleMesh {
  return { positions: Float32Array.from(positions, (x, i) => factor * x + by[i % 3]!), triangles }
}

/** All of these as one mesh, whether they meet or not. */
export function joinedMesh(meshes: readonly TriangleMesh[]): TriangleMesh {
  let first = 0
  const triangles = meshes.flatMap((mesh) => {
    const own = Array.from(mesh.triangles, (v) => v + first)
    first += mesh.positions.length / 3
    return own
  })
  return {
    positions: Float32Array.from(meshes.flatMap(({ positions }) => [...positions])),
    triangles: Uint32Array.from(triangles),
  }
}

/** The same with all triangles facing the other way, as the wall of a cavity. */
export function insideOut({ positions, triangles }: TriangleMesh): TriangleMesh {
  return { positions, triangles: triangles.map((_, i) => triangles[i - (i % 3) + (2 - (i % 3))]!) }
}

export function meshAsset(mesh: TriangleMesh, name = 'housing.stl'): Asset {
  return assetOf(name, packedMesh(mesh))
}

/** What an asset field comes to, of a tube ⌀ 24 with a bore of 10, 15 high. */
export const sampleAsset = () => new AssetValue(meshAsset(tubeMesh(24, 10, 15)))
