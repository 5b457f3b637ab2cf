import { circumradius, type Ring, type Solid, segmentsFor } from '../../kernel/index.ts'
import { add, type Box } from '../../place/index.ts'
import type { ShapeContext } from '../define.ts'
import { roundFace, topFace } from '../faces.ts'
import { sinkEnd } from '../sunk.ts'
import { type Surface, type Surfaces, surfacesOf } from '../surfaces.ts'

/** One stretch of a turned hole, the first one from the face down; mm. */
export interface Stretch {
  /** what its wall is called */
  readonly name: string
  /** diameter at its upper end, and at its lower one where that is another: then it is a cone */
  readonly across: number
  readonly narrows?: number
  /** how deep below the face it ends */
  readonly to: number
}

/** Round holes of several diameters, one below the other. */
export function turnedHole(stretches: readonly Stretch[], { scope, fineness, overlap }: ShapeContext): Solid {
  const widest = stretches.reduce((most, { across }) => Math.max(most, across), 0)
  const segments = segmentsFor(widest / 2, fineness, true)
  const radius = (diameter: number) => circumradius(diameter / 2, segments)
  const [first] = stretches
  const profile: Ring = [
    [0, -stretches.at(-1)!.to],
    ...stretches.toReversed().flatMap(({ across, narrows, to }, i): Ring => {
      const lower = [radius(narrows ?? across), -to] as const
      const from = stretches[stretches.length - 2 - i]?.to
      if (from !== undefined) return [lower, [radius(across), -from]]
      if (narrows === undefined) return [lower, [radius(across), overlap]]
      return [lower, ...sinkEnd(radius(across), (radius(across) - radius(narrows)) / first!.to, overlap)]
    }),
    [0, overlap],
  ]
  return scope.revolve(profile, segments)
}

/** Its extents. */
export function turnedBox(stretches: readonly Stretch[]): Box {
  const r = stretches.reduce((most, { across }) => Math.max(most, across), 0) / 2
  return { min: [-r, -r, -stretches.at(-1)!.to], max: [r, r, 0] }
}

/** A level ring between two stretches on which something rests. */
const ledge = (above: Stretch) => topFace(-above.to, above.across, above.across, `${above.name} ledge`)

/** Its walls, the ledges between them, its bottom and its mouth. `through`: its last stretch ends wherever the material does. */
export function turnedSurfaces(stretches: readonly Stretch[], through: boolean): Surfaces {
  const last = stretches.at(-1)!
  const bottom = through ? { name: 'bottom' } : topFace(-last.to, last.across, last.across, 'bottom')
  const walls = stretches.flatMap((own, i): readonly Surface[] => {
    const from = stretches[i - 1]?.to ?? 0
    const next = stretches[i + 1]
    // How far down a through hole goes is not its own to say.
    const low = through && !next ? from + (from > 0 ? beginning : 0) : own.to
    const wall = own.narrows === undefined ? roundFace(own.name, -own.across / 2, -low, -from) : { name: own.name }
    return next && next.across < (own.narrows ?? own.across) - hardly ? [wall, ledge(own)] : [wall]
  })
  return surfacesOf([bottom, ...walls, { name: 'mouth' }], {
    within: true,
    at(p, normal) {
      if (normal[2] > 0.999) return 'mouth'
      if (normal[2] < -0.999 && p[2] < (through ? -0.01 - (stretches.at(-2)?.to ?? 0) : 0.01 - last.to)) return 'bottom'
      if (Math.abs(normal[2]) < leans) return undefined
      const cone = stretches.find(({ narrows, to }) => narrows !== undefined && p[2] > -to - hardly)
      return Math.abs(normal[2]) < 0.999 ? cone?.name : undefined
    },
  })
}
/** The same so much deeper, under material. */
export function loweredSurfaces({ all, faces, at }: Surfaces, by: number): Surfaces {
  if (by === 0) return { all, faces, at }
  const lowered = <S extends Surface>(surface: S): S =>
    'frame' in surface
      ? { ...surface, frame: { ...surface.frame, origin: add(surface.frame.origin, [0, 0, -by]) } }
      : surface
  return { all: all.map(lowered), faces: faces.map(lowered), at: (p, normal) => at(add(p, [0, 0, by]), normal) }
}

/** So much of a through hole below a ledge is its own to say, mm. */
const beginning = 1
/** Diameters that differ by less are one, mm. */
const hardly = 1e-6
/** A wall that leans by less is upright, as a sine. */
const leans = 0.02
