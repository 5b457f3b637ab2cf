import type { AnyValues } from '../fields/index.ts'
import type { Mass } from '../mesh/index.ts'
import type { Frame, Vec3 } from '../place/index.ts'
import type { Dimension } from '../units/index.ts'

/** What a read-out is taken from: a flat or round face of a step, its own axis through its middle, or an edge of the solid. */
export interface ReadPlace {
  readonly frame: Frame
  /** of a round face: its signed radius, as a seat has it */
  readonly round?: number | undefined
  readonly kind: 'flat' | 'round' | 'axis' | 'edge'
  /** the name of an edge */
  readonly edge?: string | undefined
  /** of an axis: the step that it is of, and what its values come to */
  readonly step?: { readonly shape: string; readonly adds: boolean; readonly values: AnyValues } | undefined
}

/** The finished piece that the first of the places belongs to. */
export interface ReadSolid {
  /** its integrals; their volume in mm³ */
  mass(): Mass
  /** Distances along a ray at which it enters or leaves the solid, ascending, mm. `direction` is unit. */
  crossings(from: Vec3, direction: Vec3): readonly number[]
  /** The edge of this name; undefined where there is none. */
  edge(key: string): ReadEdge | undefined
}

/** What an edge measures, mm and degrees. */
export interface ReadEdge {
  readonly length: number
  readonly radius: number | undefined
  readonly angle: number
}

/** A value with how it was taken, in words; or why it cannot be. */
export type ReadResult =
  | {
      readonly value: number
      readonly how: string
      /** the ends of what was measured, for drawing it */
      readonly between?: readonly [Vec3, Vec3]
    }
  | { readonly detail: string }

interface ReadoutBase {
  /** stored in part files */
  readonly kind: string
  readonly label: string
  readonly dimension: Dimension
  /** how many places it is taken between */
  readonly takes: 1 | 2
  /** what these are: faces and axes where nothing is said; an edge, or the axis of a gear */
  readonly of?: 'edge' | 'gear'
  readonly meaning: string
}

/** What can be read off a part: by its faces alone, or off the finished solid. mm, degrees, mm³. */
export type ReadoutDefinition =
  | (ReadoutBase & { readonly from: 'faces'; read(places: readonly ReadPlace[]): ReadResult })
  | (ReadoutBase & { readonly from: 'solid'; read(places: readonly ReadPlace[], solid: ReadSolid): ReadResult })

/** The line that a round face or a step turns about. */
export function axisOf({ frame, round, kind }: ReadPlace): { readonly point: Vec3; readonly direction: Vec3 } {
  if (kind === 'axis' || round === undefined) return { point: frame.origin, direction: frame.n }
  const { origin, n, v } = frame
  return { point: [origin[0] - n[0] * round, origin[1] - n[1] * round, origin[2] - n[2] * round], direction: v }
}
