export {
  holds,
  mapCondition,
} from './condition.ts'
export { copyNumbers, withCopyNumbers } from './copyNames.ts'
export { countsThatFit } from './counts.ts'
export {
  asDifference,
  type Beside,
  type Evaluated,
  evaluate,
  evaluateFree,
  functions,
  impliedLengths,
  type Names,
  type Value,
  type ValueKind,
  valueKinds,
} from './evaluate.ts'
export { expressionLimits, parseExpression, reservedWords } from './parse.ts'
export { type ReadingFigures, readingFigures } from './readings.ts'
export { withoutWrittenUnits, withRenamed, withWrittenUnits } from './rewrite.ts'
export {
  computeMeasures,
  type GivenValue,
  type Measure,
  type MeasureKind,
  type MeasureTable,
  type MeasureValue,
  measureKinds,
  type Reading,
  standInOf,
  unfitName,
  type WordKind,
} from './table.ts'
export { filledTemplate, mapTemplate } from './template.ts'
