import { circleSegment, line, type Segment, type Vec2 } from '../plane/index.ts'

/** An edge of a shape as it is seen along the shape's own axis, in the shape's own plane, called by the face that it bounds. */
export interface ShapeEdge {
  readonly name: string
  readonly segment: Segment
}

export function circleEdge(name: string, diameter: number): ShapeEdge {
  return { name, segment: circleSegment([0, 0], diameter / 2) }
}

/** A round about `centre` from one angle counter-clockwise to another one, in degrees. */
export function arcEdge(name: string, centre: Vec2, radius: number, from: number, to: number): ShapeEdge {
  const rad = (degrees: number) => (degrees * Math.PI) / 180
  return { name, segment: { kind: 'arc', centre, radius, startRad: rad(from), sweepRad: rad(to - from) } }
}

export function lineEdge(name: string, from: Vec2, to: Vec2): ShapeEdge {
  return { name, segment: line(from, to) }
}
