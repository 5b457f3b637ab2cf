import { at, type ConstraintDefinition, isRound, radiusOf, roundVars, single } from './define.ts'

export const radius: ConstraintDefinition = {
  kind: 'radius',
  label: 'radius',
  meaning: 'The radius of a circle or arc.',
  sign: 'M6 1 A5 5 0 1 1 5.99 1 M6 6 L9.5 2.5',
  takes: [['round']],
  value: 'length',
  above: 0,
  equation([round], { value }) {
    return isRound(round!) ? single(roundVars(round), (x) => radiusOf(x, round) - value) : undefined
  },
  measured: ([round], x) =>
    isRound(round!) ? { kind: 'round', centre: at(x, round.c), radius: radiusOf(x, round), across: false } : undefined,
}
