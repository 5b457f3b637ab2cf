export { type Judged, type Lying, type LyingOptions, lyingOf, lyingSo, togetherOf } from './judged.ts'
export { waysToLie } from './ways.ts'
