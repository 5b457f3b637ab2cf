import { Surface } from '../edges/index.ts'
import type { Solid } from '../kernel/index.ts'
import type { NamedSolid, SurfaceTelling } from '../naming/index.ts'
import { dot, scaled, type Vec3 } from '../place/index.ts'
import { shiftOf } from '../walls/index.ts'
import { defineTreatment } from './define.ts'
import { facesCalled } from './faceWords.ts'

/** Faces moved outward or inward; what meets them goes on as it lies. */
export const shift = defineTreatment({
  kind: 'shift',
  label: 'Shift',
  hint: 'a face outward or inward',
  look: 'changed',
  material: 'other',
  acts: 'alone',
  words: ['move face', 'offset face', 'thicken a wall', 'widen', 'narrow'],
  offer: (face) => `Shift its ${face}`,
  quick: ['by'],
  icon: 'M6 20V8H18V20ZM20 14H29M26 11L29 14L26 17',
  leader: { field: 'by', form: 'leader' },
  fields: {
    faces: { kind: 'faces', label: 'Faces', default: '', meaning: 'The faces that are moved.' },
    by: {
      kind: 'length',
      label: 'Distance',
      default: '1',
      least: -1000,
      most: 1000,
      meaning: 'How far they move outward; below 0, inward. A bore that moves outward gets narrower.',
    },
  },
  sentence: () => [{ field: 'faces' }, 'outward by', { field: 'by' }],
  impossible: ({ faces, by }) =>
    faces.length === 0
      ? { field: 'faces', detail: 'Choose the faces that are to be moved.' }
      : by === 0
        ? { field: 'by', detail: 'A distance of 0 moves nothing.' }
        : undefined,
  moves: ({ faces, by }) => ({ faces, by }),
  apply({ faces, by }, { scope, solid, named, own, miss, advise }) {
    const now = named(solid)
    const moved = new Set<number>()
    for (const name of faces) {
      const found = facesCalled(now, name)
      if (found.length === 0) miss('face-not-here', { where: name.face ?? 'This step' })
      for (const face of found) moved.add(face)
    }
    if (moved.size === 0) return [solid]
    const surface = new Surface(now, solid.corners())
    const { body, volume, room } = shiftOf(surface, (face) => moved.has(face), by, clearance)
    const far = (most: number) => {
      const rounded = Math.trunc(most * 100) / 100
      advise('shift-too-far', { most: rounded }, rounded === 0 ? undefined : { field: 'by', value: rounded })
      return [solid]
    }
    if (room < 1) return far(by * room)
    const made = own(scope.surface(body.points, body.triangles), tellingOf(now, moved))
    if (by > 0) return [scope.union([solid, made])]
    const less = scope.difference(solid, [made])
    // Where it went through the other side, less was there to be taken than lies between.
    const taken = solid.volume() - less.volume()
    return taken < volume * (1 - 1e-6) - 1e-6 ? far(roomInwards(solid, now, moved, by)) : [less]
  },
})

/** How far a body goes beyond the faces that it begins at, mm. */
const clearance = 5e-3

/** What is moved keeps its name, and what goes on beside it has that of what it goes on from. */
function tellingOf({ faces, faceOf, normals }: NamedSolid, moved: ReadonlySet<number>): SurfaceTelling {
  const directions = new Map<number, Vec3[]>()
  faceOf.forEach((face, t) => {
    const n: Vec3 = [normals[3 * t]!, normals[3 * t + 1]!, normals[3 * t + 2]!]
    const all = directions.get(face)
    if (!all) directions.set(face, [n])
    else if (!all.some((each) => dot(each, n) > 1 - 1e-6)) all.push(n)
  })
  return (_, normal) => {
    let best: { face: number; like: number } | undefined
    for (const [face, all] of directions) {
      // Of several that look one way, a moved one.
      const like = Math.max(...all.map((n) => dot(n, normal))) + (moved.has(face) ? 1e-4 : 0)
      if (!best || like > best.like) best = { face, like }
    }
    const [, step = '', copy = '', ...name] = faces[best!.face]!.key.split('/')
    const number = Number(copy.split('.').at(-1))
    return { step, ...(Number.isFinite(number) && copy !== '' ? { copy: number } : {}), face: name.join('/') }
  }
}

/** How far the faces can go in, by what lies under the middles of their triangles. */
function roomInwards(
  solid: Solid,
  { positions, triangles, faceOf, normals }: NamedSolid,
  moved: ReadonlySet<number>,
  by: number,
) {
  let least = Math.abs(by)
  faceOf.forEach((face, t) => {
    if (!moved.has(face)) return
    const middle = [0, 1, 2].map(
      (i) => [0, 1, 2].reduce((sum, k) => sum + positions[3 * triangles[3 * t + k]! + i]!, 0) / 3,
    ) as unknown as Vec3
    const inwards = scaled([normals[3 * t]!, normals[3 * t + 1]!, normals[3 * t + 2]!], -1)
    const next = solid.crossings(middle, inwards).find((far) => far > 1e-3)
    if (next !== undefined) least = Math.min(least, next)
  })
  return -least
}
