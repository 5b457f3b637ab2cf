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
  run({ built: part }, { built, figures }): Finding[] {
    if (!figures) return []
    const about = { kind: 'piece', id: built.piece.id } as const
    const { name } = built.piece
    if (figures.solids === 1)
      return [{ check: 'bodies', rank: 'pass', text: `${name} is one solid${cavityWords(figures)}.`, about: [about] }]
    const text = `${name} falls into ${figures.solids} separate solids; join them, or make pieces of them.`
    const ids = stepsApart(built)
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

/** The steps that have surfaces on other bodies than the largest one, and none on that. */
function stepsApart({ solid, ownerOf }: BuiltPiece): string[] {
  if (!solid) return []
  const mesh = solid.mesh()
  const { shells, shellOf } = shellsOf(mesh)
  // A cavity belongs to the body round it.
  const bodies = shells.map((shell, i) => (isOutside(shell) ? i : shell.within))
  const largest = bodies.reduce((best, body) => (shells[body]!.volume > shells[best]!.volume ? body : best), bodies[0]!)
  const main = new Set<string>()
  const others = new Set<string>()
  for (const { original, from, to } of mesh.runs) {
    const owner = ownerOf(original)
    if (!owner || owner.kind === 'joint') continue
    for (let t = from; t < to; t++) {
      const body = bodies[shellOf[t]!]!
      if (body === largest) main.add(owner.id)
      else if (!isSliver(shells[body]!)) others.add(owner.id)
    }
  }
  return [...others].filter((id) => !main.has(id))
}
