import { isOutside, isSliver, shellsOf } from '../mesh/index.ts'
import { sinkOntoRound } from '../planning/index.ts'
import type { BuiltPiece } from '../solids/index.ts'
import { type Check, type Found, findingOf, stepName } from './define.ts'
import { clause, mm, mm3, sentences, type Value } from './phrase.ts'

/** What is found. */
const texts = {
  'bodies-one': '{piece} is one solid.',
  'bodies-cavity':
    '{piece} is one solid, with a closed cavity of {cavities}: nothing comes out of it, and it holds air.',
  'bodies-cavities':
    '{piece} is one solid, with closed cavities of {cavities}: nothing comes out of them, and they hold air.',
  'bodies-hang': '{piece} is {count} solids that hang in one another, as {steps} is meant to be.',
  'bodies-apart': '{piece} falls into {count} separate solids; join them, or make pieces of them.{touching}',
  'bodies-cut': '{piece} is cut into {count} separate solids by {steps}; let it leave some, or make pieces of them.',
  more: '{count} more',
  'touches-along-line': ' {step} touches the round it stands on along a line only: sink it by {sink}.',
} as const

/** Whether a piece is one body, as it must be to print as one; what does not touch the rest comes first. */
export const bodiesCheck: Check = {
  id: 'bodies',
  label: 'One solid',
  meaning: 'Each piece is one connected solid.',
  texts,
  scope: 'piece',
  // Steps are called by their names and numbers.
  from: ({ built }) => built.resolved.part.pieces,
  run({ built: part }, { built, figures }): readonly Found[] {
    if (!figures) return []
    const about = { kind: 'piece', id: built.piece.id } as const
    const { name } = built.piece
    const finding = findingOf('bodies', texts, [about])
    if (figures.solids === 1) {
      const { length } = figures.cavities
      if (length === 0) return [finding('pass', 'bodies-one', { piece: name })]
      const code = length === 1 ? 'bodies-cavity' : 'bodies-cavities'
      return [finding('advice', code, { piece: name, cavities: largestOf(figures.cavities) })]
    }
    const bodies = ownersOfBodies(built)
    // What hangs in one another is meant to be apart, but for what is beside it.
    const isLoose = (id: string) => part.resolved.steps.get(id)?.shape?.loose ?? false
    const loose = bodies.filter((ids) => ids.size > 0 && [...ids].every(isLoose))
    if (loose.length > 0 && bodies.length - loose.length <= 1) {
      const names = [...new Set(loose.flatMap((ids) => [...ids]))].map((id) => stepName(part.resolved, id))
      return [finding('pass', 'bodies-hang', { piece: name, count: figures.solids, steps: names })]
    }
    const cut = (id: string) => part.plan.operands.get(id)?.operation.material === 'less'
    // What was cut or eased in what a cut has parted does not stand apart itself.
    const ids = stepsApart(bodies).filter((id) => !cut(id) && !part.resolved.steps.get(id)?.treatment)
    const cuts = cutsBetween(bodies).filter(cut)
    // What stands apart by itself is told first: no cut has parted it from the rest.
    if (ids.length === 0 && cuts.length > 0) {
      const steps = cuts.map((id) => stepName(part.resolved, id))
      const parting = cuts.map((id) => ({ kind: 'step', id }) as const)
      const told = { piece: name, count: figures.solids, steps }
      return [findingOf('bodies', texts, [...parting, about])('fault', 'bodies-cut', told)]
    }
    const touching = ids.flatMap((id) => {
      const sink = sinkOntoRound(part.plan, id)
      return sink === undefined
        ? []
        : [clause(texts, 'touches-along-line', { step: stepName(part.resolved, id), sink: mm(sink) })]
    })
    const apart = ids.map((id) => ({ kind: 'step', id }) as const)
    const told = { piece: name, count: figures.solids, touching: sentences(...touching) }
    return [findingOf('bodies', texts, [...apart, about])('fault', 'bodies-apart', told)]
  },
}

/** The largest cavities, and how many more there are. */
function largestOf(cavities: readonly number[]): readonly Value[] {
  const largest = [...cavities].sort((a, b) => b - a)
  const count = largest.length - mostListed
  return [
    ...largest.slice(0, mostListed).map((each) => mm3(each)),
    ...(count > 0 ? [clause(texts, 'more', { count })] : []),
  ]
}
const mostListed = 5

/** Whose surfaces each body has, by the ids of steps; the largest first, crumbs left out. */
function ownersOfBodies({ solid, ownerOf }: BuiltPiece): readonly ReadonlySet<string>[] {
  if (!solid) return []
  const mesh = solid.mesh()
  const { shells, shellOf } = shellsOf(mesh)
  // A cavity belongs to the body round it.
  const bodies = shells.map((shell, i) => (isOutside(shell) ? i : shell.within))
  const owners = new Map<number, Set<string>>()
  for (const body of bodies) if (!isSliver(shells[body]!)) owners.set(body, new Set())
  for (const { original, from, to } of mesh.runs) {
    const owner = ownerOf(original)
    if (!owner || owner.kind === 'joint') continue
    for (let t = from; t < to; t++) owners.get(bodies[shellOf[t]!]!)?.add(owner.id)
  }
  return [...owners].sort(([a], [b]) => shells[b]!.volume - shells[a]!.volume).map(([, ids]) => ids)
}

/** The steps that have surfaces on the largest body and on another one: where a cut has parted them, it is among these. */
function cutsBetween([main, ...others]: readonly ReadonlySet<string>[]): string[] {
  return [...new Set(others.flatMap((ids) => [...ids]))].filter((id) => main!.has(id))
}

/** The steps that have surfaces on other bodies than the largest one, and none on that. */
function stepsApart([main, ...others]: readonly ReadonlySet<string>[]): string[] {
  return [...new Set(others.flatMap((ids) => [...ids]))].filter((id) => !main!.has(id))
}
