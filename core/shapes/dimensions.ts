import type { Ring } from '../kernel/index.ts'
import type { Vec3 } from '../place/index.ts'
import type { Vec2 } from '../plane/index.ts'
import type { DimensionLine } from './define.ts'

/** Where dimensions that several shapes have are drawn. */

/** Width, depth and height of a block about the z axis, along its lower edges and its left front one. */
export function blockDimensions(
  width: string,
  depth: string,
  height: string,
  [x, y, z]: readonly [number, number, number],
): DimensionLine[] {
  const [right, back] = [x / 2, y / 2]
  return [
    { kind: 'linear', field: width, from: [-right, -back, 0], to: [right, -back, 0], offset: [0, -1, 0] },
    { kind: 'linear', field: depth, from: [right, -back, 0], to: [right, back, 0], offset: [1, 0, 0] },
    { kind: 'linear', field: height, from: [-right, -back, 0], to: [-right, -back, z], offset: [-1, 0, 0] },
  ]
}

/** Length and width about the origin, on the face that something stands on or is sunk into. */
export function lengthAndWidth(length: number, width: number): DimensionLine[] {
  const [x, y] = [length / 2, width / 2]
  return [
    { kind: 'linear', field: 'length', from: [-x, 0, 0], to: [x, 0, 0], offset: [0, -1, 0] },
    { kind: 'linear', field: 'width', from: [x, -y, 0], to: [x, y, 0], offset: [1, 0, 0] },
  ]
}

/** A diameter at the mouth of what is sunk, drawn aslant so that it hides no edge of what it is sunk into. */
export function mouthDimension(field: string, diameter: number): DimensionLine {
  return diameterAt(field, -Math.PI / 4, diameter, 0)
}

/** A diameter about the z axis at a height, with its arrow in a direction, radians. */
export function diameterAt(field: string, rad: number, diameter: number, height: number): DimensionLine {
  const direction: Vec3 = [Math.cos(rad), Math.sin(rad), 0]
  return { kind: 'diameter', field, centre: [0, 0, height], direction, radius: diameter / 2 }
}

/** A height over the foot, beside a place of it. */
export function heightBeside([x, y]: Vec2, height: number): DimensionLine {
  return { kind: 'linear', field: 'height', from: [x, y, 0], to: [x, y, height], offset: [-1, 0, 0] }
}

/** The corner of an outline that lies farthest to the left. */
export function leftmost(ring: Ring): Vec2 {
  return ring.reduce((best, p) => (p[0] < best[0] ? p : best))
}
