export { regionsFollowed, toggledAfter, withRegions } from './chosen.ts'
export type { ConstraintDefinition, Ref, RefKind } from './constraints/define.ts'
export { amountOf, type Measured } from './constraints/measured.ts'
export { constraintOf, constraints } from './constraints/registry.ts'
export type { CurveDefinition } from './curves/define.ts'
export { curveOf, curves } from './curves/registry.ts'
export { type Cut, extended, isCut, split, trimmed } from './cutting.ts'
export type { DerivedDefinition } from './derived/define.ts'
export { derivedKinds, derivedOf } from './derived/registry.ts'
export { conflictsOf, type Freedom, freedomOf } from './freedom.ts'
export { drawnSegment, Ends } from './fromSegments.ts'
export { grownAlone } from './grown.ts'
export { type Hold, holdsFor } from './holds.ts'
export { goingOn, type Inferred, infer } from './infer.ts'
export { derivedAt, madeOwn } from './own.ts'
export { middleOf, type OutlineParts, partsOf, type Similarity, withChanged, withParts } from './parts.ts'
export { flattestArc, itself, joinedInto, Sketch, type Spot, tangentCentre, type Wish, withoutParts } from './sketch.ts'
export { type Pull, type Solution, solved } from './solve.ts'
export {
  constraintWords,
  measuredBy,
  measuredPlace,
  type OutlineValues,
  pointsOf,
  type SolvedOutline,
  settled,
  shownOutline,
  solveOutline,
} from './solved.ts'
export { builtIn, isClosed, refsOf, type System, systemOf, takesThese } from './system.ts'
