import type { Family } from '../define.ts'

/** O-rings as shops sell them, called by inside diameter and cord. */
export const oRing: Family = {
  id: 'usual-o-ring',
  kind: 'o-ring',
  label: 'O-ring',
  words: ['o-ring', 'oring', 'o ring', 'seal', 'round cord ring'],
  standard: 'usual size',
  columns: { inside: 'inside diameter', cord: 'thickness of its cord' },
  rows: Object.fromEntries(
    (
      [
        [1, [3, 4, 5, 6, 8, 10, 12]],
        [1.5, [4, 5, 6, 8, 10, 12, 14, 16, 20]],
        [2, [5, 6, 8, 10, 12, 14, 15, 16, 18, 20, 22, 24, 25, 28, 30, 35, 40]],
        [2.5, [10, 12, 15, 18, 20, 22, 25, 28, 30, 35, 40, 45, 50]],
        [3, [12, 15, 18, 20, 22, 24, 25, 28, 30, 35, 40, 45, 50, 60]],
        [4, [20, 25, 30, 35, 40, 45, 50, 60, 70, 80]],
      ] as const
    ).flatMap(([cord, all]) => all.map((inside) => [`${inside} × ${cord}`, [inside, cord]])),
  ),
}
