export { type Compensated, compensated } from './compensated.ts'
export { type Compensation, compensates, compensationFor, compensationText } from './compensation.ts'
export { type Side, sidesOf } from './sides.ts'
