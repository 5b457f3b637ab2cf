import type { Ring } from '../../kernel/index.ts'
import type { Box, Vec3 } from '../../place/index.ts'
import { bottomFace, topFace } from '../faces.ts'
import { cornerRounds, prismReach } from '../prismatic.ts'
import { type NamedFace, plainSurfaces, type Surfaces, surfacesOf } from '../surfaces.ts'

/** How far an upright strip reaches, of an outline that is as dense as its extents are to be exact. */
export function stripReach(ring: Ring, height: number, d: Vec3): number {
  return prismReach(cornerRounds(ring), 0, height, d)
}

export function stripBox(ring: Ring, height: number): Box {
  const [xs, ys] = [ring.map(([x]) => x), ring.map(([, y]) => y)]
  return { min: [Math.min(...xs), Math.min(...ys), 0], max: [Math.max(...xs), Math.max(...ys), height] }
}

/** An upright strip of such an outline: its level sides, what lies along it, and its ends as `isEnd` tells them. */
export function stripSurfaces(ring: Ring, height: number, isEnd: (p: Vec3, n: Vec3) => boolean): Surfaces {
  const { min, max } = stripBox(ring, height)
  const [wide, deep] = [max[0] - min[0], max[1] - min[1]]
  const placed = (face: NamedFace): NamedFace => {
    const origin: Vec3 = [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2, face.frame.origin[2]]
    return { ...face, frame: { ...face.frame, origin } }
  }
  const level = [topFace(height, wide, deep), bottomFace(0, wide, deep)].map(placed)
  return surfacesOf([...level, ...plainSurfaces('side', 'end')], {
    at(p, n) {
      if (n[2] > 0.9) return 'top'
      if (n[2] < -0.9) return 'bottom'
      return isEnd(p, n) ? 'end' : 'side'
    },
  })
}

/** An arc of a strip's middle, from `from` to `to` degrees, so far out of it: into so many flats. */
export function arcAlong(radius: number, from: number, to: number, count: number): (readonly [number, number])[] {
  return Array.from({ length: count + 1 }, (_, i) => {
    const at = ((from + ((to - from) * i) / count) * Math.PI) / 180
    return [radius * Math.cos(at), radius * Math.sin(at)] as const
  })
}

/** Strain on the inside of a bend, which has so much moment, by Winkler's and Bach's theory of curved beams (Timoshenko, Strength of Materials II). */
export function curvedStrain(
  moment: number,
  {
    radius,
    wide,
    height,
    stiffness,
  }: { readonly radius: number; readonly wide: number; readonly height: number; readonly stiffness: number },
): number {
  const [inner, outer] = [radius - wide / 2, radius + wide / 2]
  const neutral = wide / Math.log(outer / inner)
  return (moment * (neutral - inner)) / (height * wide * (radius - neutral) * inner * stiffness)
}
