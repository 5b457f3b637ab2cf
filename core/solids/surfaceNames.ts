import type { AnyValues } from '../fields/index.ts'
import type { JointDefinition } from '../joints/index.ts'
import type { SurfaceTelling } from '../naming/index.ts'
import { tried } from '../problems/index.ts'
import type { ShapeDefinition } from '../shapes/index.ts'
import type { CarvedRegion, RegionSource } from './carving/index.ts'

/** A shape that cannot tell its surfaces has sides. */
export function surfaceNames(shape: ShapeDefinition, values: AnyValues): SurfaceTelling {
  const surfaces = tried(() => shape.surfaces(values))
  return (point, normal) => ({ face: (surfaces && tried(() => surfaces.at(point, normal))) ?? 'side' })
}

/** What is made in the plane has surfaces of all the steps that it is of. */
export function carvedNames(region: CarvedRegion): SurfaceTelling {
  const known = new Map<RegionSource, SurfaceTelling>()
  return (point, normal) => {
    const own = region.sourceAt(point, normal)
    const { source } = own
    const tell = known.get(source) ?? surfaceNames(source.shape, source.values)
    known.set(source, tell)
    return { ...tell(own.point, own.normal), step: source.step, copy: source.copy }
  }
}

export function jointNames(definition: JointDefinition, values: AnyValues, side: 0 | 1): SurfaceTelling {
  const surfaces = tried(() => definition.surfaces(values, side))
  return (point, normal) => ({ face: (surfaces && tried(() => surfaces.at(point, normal))) ?? 'side' })
}
