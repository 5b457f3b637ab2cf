import { add, cross, dot, norm, scaled, subtract } from '../place/index.ts'
import { length } from '../units/index.ts'
import { axisOf, type ReadoutDefinition, type ReadPlace, type ReadResult } from './define.ts'

/** Less than this between two unit directions counts as parallel (about 0.0001°). */
const parallel = 2e-6

/** Square between what is parallel; between axes, along their common perpendicular. */
export const distance: ReadoutDefinition = {
  kind: 'distance',
  label: 'distance',
  dimension: length,
  takes: 2,
  from: 'faces',
  meaning:
    'Between two faces or axes, measured square to them; between faces that are not parallel, from middle to middle.',
  read: ([a, b]) =>
    a!.kind === 'flat' ? fromPlane(a!, b!) : b!.kind === 'flat' ? fromPlane(b!, a!) : betweenAxes(a!, b!),
}

function fromPlane({ frame }: ReadPlace, other: ReadPlace): ReadResult {
  const { point, direction } = other.kind === 'flat' ? { point: other.frame.origin, direction: frame.n } : axisOf(other)
  const away = dot(subtract(point, frame.origin), frame.n)
  const foot = subtract(point, scaled(frame.n, away))
  const square = { value: Math.abs(away), between: [foot, point] } as const
  if (other.kind === 'flat')
    return norm(cross(frame.n, other.frame.n)) < parallel
      ? { ...square, how: 'square between the faces' }
      : {
          value: norm(subtract(point, frame.origin)),
          how: 'from middle to middle, since the faces are not parallel',
          between: [frame.origin, point],
        }
  const along = Math.abs(dot(direction, frame.n)) < parallel
  return { ...square, how: along ? 'from the face to the axis' : 'from the face to the middle' }
}

function betweenAxes(a: ReadPlace, b: ReadPlace): ReadResult {
  const [one, two] = [axisOf(a), axisOf(b)]
  const away = subtract(two.point, one.point)
  const across = cross(one.direction, two.direction)
  const size = norm(across)
  if (size < parallel) {
    const foot = add(one.point, scaled(one.direction, dot(away, one.direction)))
    return { value: norm(subtract(two.point, foot)), how: 'between the axes', between: [foot, two.point] }
  }
  // The feet of the common perpendicular.
  const from = add(one.point, scaled(one.direction, dot(cross(away, two.direction), across) / size ** 2))
  const to = add(two.point, scaled(two.direction, dot(cross(away, one.direction), across) / size ** 2))
  return {
    value: Math.abs(dot(away, across)) / size,
    how: 'between the axes, where they are nearest',
    between: [from, to],
  }
}
