import { listed } from '../document/index.ts'
import { isOutside, isSliver, type MeshFigures, shellsOf } from '../mesh/index.ts'
import { sinkOntoRound } from '../planning/index.ts'
import type { BuiltPiece } from '../solids/index.ts'
import { type Check, cubicMillimetres, type Finding, millimetres, stepName } from './define.ts'

/** Whether a piece is one body, as it must be to print as one; what does not touch the rest comes first. */
export const bodiesCheck: Check = {
  id: 'bodies',
  label: 'One solid',
  meaning: 'Each piece is one connected solid.',
  scope: 'piece',
  // Steps are called by their names and numbers.
  from: ({ built }) => built.resolved.part.pieces,
  run({ built: part }, { built, figures }): Finding[] {
    if (!figures) return []
    const about = { kind: 'piece', id: built.piece.id } as const
    const { name } = built.piece
    if (figures.solids === 1)
      return [{ check: 'bodies', rank: 'pass', text: `${name} is one solid${cavityWords(figures)}.`, about: [about] }]
    const text = `${name} falls into ${figures.solids} separate solids; join them, or make pieces of them.`
    const bodies = ownersOfBodies(built)
    // What hangs in one another is meant to be apart, but for what is beside it.
    const isLoose = (id: string) => part.resolved.steps.get(id)?.shape?.loose ?? false
    const loose = bodies.filter((ids) => ids.size > 0 && [...ids].every(isLoose))
    if (loose.length > 0 && bodies.length - loose.length <= 1) {
      const names = [...new Set(loose.flatMap((ids) => [...ids]))].map((id) => stepName(part.resolved, id))
      return [
        {
          ...{ check: 'bodies', rank: 'pass', about: [about] },
          text: `${name} is ${figures.solids} solids that hang in one another, as ${listed(names)} is meant to be.`,
        },
      ]
    }
    const ids = stepsApart(bodies)
    const lines = ids.flatMap((id) => {
      const sink = sinkOntoRound(part.plan, id)
      const how =
        sink !== undefined && `touches the round it stands on along a line only: sink it by ${millimetres(sink)}`
      return how ? [` ${stepName(part.resolved, id)} ${how}.`] : []
    })
    const apart = ids.map((id) => ({ kind: 'step', id }) as const)
    return [{ check: 'bodies', rank: 'fault', text: text + lines.join(''), about: [...apart, about] }]
  },
}

/** ", with closed cavities of 4 mm³ and 2 mm³" */
function cavityWords({ cavities }: MeshFigures): string {
  if (cavities.length === 0) return ''
  const largest = [...cavities].sort((a, b) => b - a)
  const more = largest.length - mostListed
  const shown = [...largest.slice(0, mostListed).map(cubicMillimetres), ...(more > 0 ? [`${more} more`] : [])]
  return `, with ${cavities.length === 1 ? 'a closed cavity' : 'closed cavities'} of ${listed(shown)}`
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

/** The steps that have surfaces on other bodies than the largest one, and none on that. */
function stepsApart([main, ...others]: readonly ReadonlySet<string>[]): string[] {
  return [...new Set(others.flatMap((ids) => [...ids]))].filter((id) => !main!.has(id))
}
