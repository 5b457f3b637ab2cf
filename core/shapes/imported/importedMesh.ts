import type { AssetValue } from '../../fields/index.ts'
import { unpackedMesh } from '../../mesh/index.ts'
import { type Box, dot, scaled, subtract, type Vec3 } from '../../place/index.ts'
import { flatFaceAt, type NamedFace, type Surfaces } from '../surfaces.ts'
import { type FlatNames, facesOfMesh } from './features.ts'

/** A mesh that was brought in, with all that is known of it. */
export interface ImportedMesh {
  readonly positions: Float32Array
  readonly triangles: Uint32Array
  readonly box: Box
  surfaces(names: FlatNames): Surfaces
  /** how far it reaches from its origin along a unit direction, mm */
  reach(direction: Vec3): number
}

/** Unpacked meshes by their hash, which stands for what they hold; the latest used last. */
const known = new Map<string, ImportedMesh>()
const mostKnown = 8

/** @throws ProblemError asset-broken */
export function importedMesh(asset: AssetValue): ImportedMesh {
  const found = known.get(asset.hash) ?? opened(asset.data)
  known.delete(asset.hash)
  known.set(asset.hash, found)
  if (known.size > mostKnown) known.delete(known.keys().next().value!)
  return found
}

function opened(data: string): ImportedMesh {
  const { positions, triangles } = unpackedMesh(data)
  const reaches = new Map<string, number>()
  const reach = (d: Vec3) => {
    const key = d.join(' ')
    const before = reaches.get(key)
    if (before !== undefined) return before
    let far = -Infinity
    for (let i = 0; i < positions.length; i += 3)
      far = Math.max(far, positions[i]! * d[0] + positions[i + 1]! * d[1] + positions[i + 2]! * d[2])
    if (reaches.size > 200) reaches.clear()
    reaches.set(key, far)
    return far
  }
  const along = (i: 0 | 1 | 2, sign: 1 | -1) => {
    const d: [number, number, number] = [0, 0, 0]
    d[i] = sign
    return sign * reach(d)
  }
  const box: Box = { min: [along(0, -1), along(1, -1), along(2, -1)], max: [along(0, 1), along(1, 1), along(2, 1)] }
  const surfaces = new Map<FlatNames, Surfaces>()
  return {
    positions,
    triangles,
    box,
    surfaces(names) {
      const own = surfaces.get(names) ?? surfacesOfFaces(facesOfMesh({ positions, triangles }, names))
      surfaces.set(names, own)
      return own
    },
    reach,
  }
}

/** Farther from a named round than this, mm, or this share of its radius, a point is of something else. */
const offRound = 0.02

function surfacesOfFaces(faces: readonly NamedFace[]): Surfaces {
  return {
    all: [...faces, { name: 'surface' }],
    faces,
    at: (point, normal) => flatFaceAt(faces, point, normal) ?? roundAt(faces, point, normal) ?? 'surface',
  }
}

function roundAt(faces: readonly NamedFace[], point: Vec3, normal: Vec3): string | undefined {
  return faces.find(({ frame, round, size }) => {
    if (round === undefined || Math.abs(dot(frame.v, normal)) > 0.02) return false
    const from = subtract(point, subtract(frame.origin, scaled(frame.n, round)))
    const up = dot(from, frame.v)
    const radial = subtract(from, scaled(frame.v, up))
    const far = Math.hypot(...radial)
    const within = Math.abs(up) < size[1] / 2 + offRound
    // The middle of a flat lies within the round that its corners are on.
    return (
      within &&
      dot(radial, normal) > 0 === round > 0 &&
      Math.abs(far - Math.abs(round)) < offRound * Math.abs(round) + offRound
    )
  })?.name
}
