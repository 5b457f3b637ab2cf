import type { Vec3 } from '../place/index.ts'

/** What a surface of an original is called, and of which step's which copy it is where that is not its owner's own. */
export interface SurfaceName {
  readonly step?: string
  /** its number among the copies of the owner, or all that tells it: "2.3" */
  readonly copy?: number | string
  readonly face: string
}

/** Says what the surface is that holds a point, with the outward normal there, both in the original's own frame. */
export type SurfaceTelling = (point: Vec3, normal: Vec3) => SurfaceName

/** The same, looked up when it is first needed. */
export function whenAsked(make: () => SurfaceTelling): SurfaceTelling {
  let tell: SurfaceTelling | undefined
  return (point, normal) => {
    tell ??= make()
    return tell(point, normal)
  }
}
