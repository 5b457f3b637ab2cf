import { at, both, type ConstraintDefinition, double, isRound } from './define.ts'

export const concentric: ConstraintDefinition = {
  kind: 'concentric',
  label: 'concentric',
  meaning: 'Two rounds share one centre.',
  sign: 'M6 1 A5 5 0 1 1 5.99 1 M6 4 A2 2 0 1 1 5.99 4',
  takes: [['round', 'round']],
  equation([one, two]) {
    if (!isRound(one!) || !isRound(two!)) return undefined
    return double(
      both(one.c, two.c),
      (x) => {
        const [a, b] = [at(x, one.c), at(x, two.c)]
        return [a[0] - b[0], a[1] - b[1]]
      },
      true,
    )
  },
}
