export { holds, mapCondition } from './condition.ts'
export {
  type Evaluated,
  evaluate,
  evaluateFree,
  functions,
  type Names,
  type Value,
  type ValueKind,
  valueKinds,
} from './evaluate.ts'
export { expressionLimits, parseExpression, reservedWords } from './parse.ts'
export { withRenamed, withWrittenUnits } from './rewrite.ts'
export {
  computeMeasures,
  type Measure,
  type MeasureKind,
  type MeasureTable,
  type MeasureValue,
  measureKinds,
  unfitName,
} from './table.ts'
export { filledTemplate, mapTemplate } from './template.ts'
