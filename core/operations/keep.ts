import type { BodyOperation } from './define.ts'

/** Less than this is no solid, mm³: a millionth of the smallest cube that is printed. */
const leastVolume = 1e-6

export const keep: BodyOperation = {
  kind: 'keep',
  label: 'Keep',
  hint: 'only what lies inside',
  look: 'within',
  material: 'other',
  acts: 'with-body',
  rest: 'on',
  gathers: false,
  idle: 'keep-leaves-nothing',
  apply({ scope, standing, acting }) {
    const kept = scope.intersection([standing!, scope.union(acting.map(({ grown }) => grown))])
    // What only touches leaves a flat without volume.
    const empty = kept.isEmpty() || kept.volume() < leastVolume
    return { solid: empty ? scope.union([]) : kept, idle: empty ? acting.map((_, i) => i) : [] }
  },
}
