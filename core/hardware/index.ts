export {
  type BodyOptions,
  type ItemBody,
  itemBodies,
  reachOf,
  sidesOf,
  toolAcross,
  wrench,
} from './bodies.ts'
export { type Clearance, clearanceHole, clearances, looseHole } from './clearance.ts'
export { type Family, type Item, type ItemKind, itemKinds, type ThreadSize } from './define.ts'
export { metric, type ThreadForm, type ThreadHalf, type ThreadSizes, threadForms } from './forms/index.ts'
export { itemOf, itemsFor, itemsOf } from './items.ts'
export { lengthFrom, lengthUpTo } from './lengths.ts'
export { families } from './registry.ts'
export { findItems, namesSize } from './search.ts'
export { type SectionOptions, type SectionPoint, type ThreadSection, threadSection } from './section.ts'
export { metricCoarse, minorDiameter, pitchDiameter, unifiedCoarse } from './threads.ts'
