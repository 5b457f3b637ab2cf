export { type Compensated, compensated, type PieceOnBed, type Stayed } from './compensated.ts'
export {
  type Compensation,
  compensates,
  compensationFor,
  compensationText,
  isMadeUp,
  roundsBy,
  scaledCompensation,
  smallRound,
} from './compensation.ts'
export type { Kept } from './walls.ts'
