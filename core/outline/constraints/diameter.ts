import { at, type ConstraintDefinition, isRound, radiusOf, roundVars, single } from './define.ts'

export const diameter: ConstraintDefinition = {
  kind: 'diameter',
  label: 'diameter',
  meaning: 'The diameter of a circle or arc.',
  sign: 'M6 1 A5 5 0 1 1 5.99 1 M2.5 9.5 L9.5 2.5',
  takes: [['round']],
  value: 'length',
  above: 0,
  equation([round], { value }) {
    return isRound(round!) ? single(roundVars(round), (x) => 2 * radiusOf(x, round) - value) : undefined
  },
  measured: ([round], x) =>
    isRound(round!) ? { kind: 'round', centre: at(x, round.c), radius: radiusOf(x, round), across: true } : undefined,
}
