export { bySurface, openedAt, thinIn } from './bySurface.ts'
export {
  type Construction,
  deeperIn,
  type Eased,
  type Fills,
  grownBy,
  type Placed,
  type Walls,
} from './construction.ts'
export { goalsOf, type Moved, movable, redrawn } from './moved.ts'
export { type Shift, shiftOf } from './shifted.ts'
export type { Thin } from './thinnest.ts'
