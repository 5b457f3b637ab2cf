import fc from 'fast-check'
import { cross, type Frame, frame, unit, type Vec3 } from '../place/index.ts'
import { real } from './sample.ts'

/** A place and a way to stand, whichever. */
export const standing = fc
  .tuple(real(-1, 1), real(0, 2 * Math.PI), real(0, 2 * Math.PI), real(-90, 90), real(-90, 90))
  .map(([up, round, turn, x, y]): Frame => {
    const flat = Math.sqrt(1 - up * up)
    const n: Vec3 = [flat * Math.cos(round), flat * Math.sin(round), up]
    const side = unit(cross(n, Math.abs(up) < 0.9 ? [0, 0, 1] : [1, 0, 0]))
    const other = cross(n, side)
    const u = [0, 1, 2].map((k) => Math.cos(turn) * side[k]! + Math.sin(turn) * other[k]!) as unknown as Vec3
    return frame([x, y, 37.3], u, cross(n, u))
  })
