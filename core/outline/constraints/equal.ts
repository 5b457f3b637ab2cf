import { norm2 } from '../../plane/index.ts'
import { along, type ConstraintDefinition, isLine, isRound, lineVars, radiusOf, roundVars, single } from './define.ts'

export const equal: ConstraintDefinition = {
  kind: 'equal',
  label: 'equal',
  meaning: 'Two lines have the same length, or two rounds the same radius.',
  sign: 'M2 4 H10 M2 8 H10',
  takes: [
    ['line', 'line'],
    ['round', 'round'],
  ],
  equation([one, two]) {
    if (isLine(one!) && isLine(two!))
      return single([...lineVars(one), ...lineVars(two)], (x) => norm2(along(x, one)) - norm2(along(x, two)))
    if (isRound(one!) && isRound(two!))
      return single([...roundVars(one), ...roundVars(two)], (x) => radiusOf(x, one) - radiusOf(x, two))
    return undefined
  },
}
