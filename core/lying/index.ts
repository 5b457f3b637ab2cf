export { type Judged, type Lying, type LyingOptions, lyingOf } from './judged.ts'
export { waysToLie } from './ways.ts'
