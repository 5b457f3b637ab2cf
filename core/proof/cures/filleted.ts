import { defaultFields, type EdgeRule, edgeRulesText } from '../../fields/index.ts'
import { newTreatment, treatmentOf } from '../../operations/index.ts'
import { type Built, copiesOf, namedSolid } from '../../solids/index.ts'
import { formatLength } from '../../units/index.ts'
import { type Found, type FoundCure, stepName } from '../define.ts'
import { clause, mm } from '../phrase.ts'
import type { CureKind } from './define.ts'
import { freeId } from './freeId.ts'
import { readable } from './resized.ts'

/** What is said of a corner that is filled. */
const texts = {
  'fillet-foot': 'Fill the corner where {one} meets {other} with a fillet of {radius}',
  'fillet-foot-then': 'It widens by {radius} all round where they meet.',
} as const

/** Codes of what hangs together by too little. */
const narrow: readonly string[] = ['joined-narrow', 'necks-thread', 'necks-weak', 'load-breaks', 'load-near']
/** Radii that are tried, as shares of what the neck lacks in width. */
const shares = [1, 2, 4]
/** Where it is not known how much it lacks, it lacks so many lines. */
const lines = 2
/** No corner is filled with less, nor with more, mm. */
const [least, most] = [0.4, 12]

/** What hangs together by too little where one step meets another is filled in there by a fillet. */
export const filleted: CureKind = (built, found) => {
  const round = treatmentOf('round')
  const { code, pattern, values, resize, about } = found
  const piece = about.find(({ kind }) => kind === 'piece')?.id
  if (!round || !piece || !narrow.includes(code) || built.motions) return []
  const { part, printer } = built.resolved
  const lacks = resize ? resize.to - resize.from : lines * printer.lineWidth
  const radii = new Set(shares.map((share) => readable(Math.min(most, Math.max(least, share * lacks)), part.unit)))
  const met = meetingsOf(built, piece, found)
  return [...radii].flatMap((radius) =>
    met.map(([one, other]): FoundCure => {
      const rule: EdgeRule = {
        less: false,
        traits: ['inner'],
        where: {
          kind: 'meets',
          faces: [
            { step: one, face: undefined },
            { step: other, face: undefined },
          ],
        },
      }
      const fields = {
        ...defaultFields(round.fields),
        edges: edgeRulesText([rule]),
        radius: formatLength(radius, part.unit),
      }
      const step = { ...newTreatment(freeId(part, 'fillet'), { treatment: round, fields }), name: 'fillet' }
      const [first, second] = [one, other].map((id) => stepName(built.resolved, id)) as [string, string]
      return {
        label: clause(texts, 'fillet-foot', { one: first, other: second, radius: mm(radius) }),
        edits: [{ type: 'add-step', piece, step }],
        ...{ free: 'borders', before: { code, pattern, values } },
        after: clause(texts, 'fillet-foot-then', { radius: mm(radius) }),
      }
    }),
  )
}

/** Turning less than this is no corner that could be filled, degrees. */
const sharply = 20

/** Pairs of steps that meet in inner edges, of which one is what was found. */
function meetingsOf({ pieces, plan }: Built, id: string, { about }: Found): readonly (readonly [string, string])[] {
  const piece = pieces.find((each) => each.piece.id === id)
  if (!piece?.solid) return []
  const { faces, edges } = namedSolid(piece.solid, copiesOf(plan), piece.ownerOf)
  const isOfIt = (step: string) => about.some((each) => each.kind === 'step' && each.id === step)
  const pairs = edges.flatMap(({ bend, faces: both }) => {
    const [a, b] = both.map((face) => faces[face]!.owner) as [
      { kind: string; id: string },
      { kind: string; id: string },
    ]
    if (bend > -sharply || a.kind !== 'step' || b.kind !== 'step' || a.id === b.id) return []
    return isOfIt(a.id) || isOfIt(b.id) ? [[a.id, b.id].sort() as unknown as readonly [string, string]] : []
  })
  return [...new Map(pairs.map((pair) => [pair.join(' '), pair])).values()]
}
