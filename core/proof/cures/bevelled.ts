import { defaultFields, type EdgeRule, edgeRulesText } from '../../fields/index.ts'
import type { SolidEdge } from '../../naming/index.ts'
import { newTreatment, treatmentOf } from '../../operations/index.ts'
import type { Vec3 } from '../../place/index.ts'
import { type Built, copiesOf, type FaceRef, namedSolid } from '../../solids/index.ts'
import { formatLength } from '../../units/index.ts'
import { type Found, type FoundCure, stepName } from '../define.ts'
import { clause, mm } from '../phrase.ts'
import type { CureKind } from './define.ts'
import { freeId } from './freeId.ts'

/** What is said of a bevel below what hangs. */
const texts = {
  'bevel-under': 'Bevel the corner under {ledge} by {size}',
  'bevel-under-then': 'It rises from its wall at {lean}°, which the {printer} lays without help.',
} as const

/** So much of what hangs is left beyond the bevel, mm: nothing, or less than a line reaches by itself, where a bevel cannot end in an edge. */
const left = [0, 0.01, 0.02]
/** What reaches out less needs none, mm. */
const leastOut = 0.2
/** Steeper than the printer lays by so much, degrees: a bevel is made of numbers that are rounded. */
const steeper = 1

/** What hangs out from a wall gets a bevel in the corner below it, as steep as the printer lays. */
export const bevelled: CureKind = (built, found) => {
  const corner = found.under && cornerUnder(built, found.under)
  const bevel = treatmentOf('bevel')
  if (!corner || !bevel || !found.under) return []
  const { part, printer } = built.resolved
  // The same on both faces rises at 45°.
  const lean = Math.min(45, printer.overhang - steeper)
  if (!(corner.out > leastOut) || lean < 5) return []
  const form: Readonly<Record<string, string>> =
    lean >= 45 ? { form: 'even' } : { form: 'angle', angle: String(90 - lean) }
  const { pattern, code, values } = found
  return left.map((less): FoundCure => {
    const out = corner.out - less
    const fields = { ...defaultFields(bevel.fields), edges: corner.edges, size: formatLength(out, part.unit), ...form }
    const step = { ...newTreatment(freeId(part, 'bevel'), { treatment: bevel, fields }), name: 'support' }
    return {
      label: clause(texts, 'bevel-under', { ledge: corner.ledge, size: mm(out) }),
      edits: [{ type: 'add-step', piece: found.under!.piece, step }],
      ...{ free: 'borders', before: { pattern, code, values } },
      after: clause(texts, 'bevel-under-then', { lean, printer: printer.name }),
    }
  })
}

interface Corner {
  /** rules for the field of a treatment */
  readonly edges: string
  /** the steps that hang */
  readonly ledge: readonly string[]
  /** how far it hangs out from them, mm */
  readonly out: number
}

/** The inner edges between what hangs and the walls that it hangs out from. */
function cornerUnder(
  { pieces, plan, resolved }: Built,
  { piece: id, triangles }: NonNullable<Found['under']>,
): Corner | undefined {
  const piece = pieces.find(({ piece }) => piece.id === id)
  if (!piece?.solid) return undefined
  const { faces, faceOf, edges, mesh } = namedSolid(piece.solid, copiesOf(plan), piece.ownerOf)
  const hanging = new Set(triangles.map((t) => faceOf[t]!))
  const own = edges.filter(
    ({ bend, faces: [a, b] }) =>
      bend < -sharply && hanging.has(a) !== hanging.has(b) && isOfStep(faces[a]!) && isOfStep(faces[b]!),
  )
  if (own.length === 0) return undefined
  const rules = [...new Set(own.map((edge) => ruleOf(edge, faces)))]
  const corners = triangles.flatMap((t) => [0, 1, 2].map((k) => cornerAt(mesh, 3 * t + k)))
  const out = corners.reduce((most, p) => Math.max(most, Math.min(...own.map((edge) => awayFrom(p, edge)))), 0)
  const steps = [...new Set([...hanging].map((face) => faces[face]!.owner.id))]
  return { edges: rules.join('; '), out, ledge: steps.map((step) => stepName(resolved, step)) }
}

/** Turning less than this is no corner that could be filled, degrees. */
const sharply = 30

const isOfStep = ({ owner }: FaceRef) => owner.kind === 'step'

function ruleOf({ faces: [a, b] }: SolidEdge, faces: readonly FaceRef[]): string {
  const [one, other] = [faces[a]!, faces[b]!].map(({ owner, face }) => ({ step: owner.id, face }))
  const rule: EdgeRule = { less: false, traits: ['inner'], where: { kind: 'meets', faces: [one!, other!] } }
  return edgeRulesText([rule])
}

function cornerAt(
  { positions, triangles }: { positions: ArrayLike<number>; triangles: Uint32Array },
  corner: number,
): Vec3 {
  const v = 3 * triangles[corner]!
  return [positions[v]!, positions[v + 1]!, positions[v + 2]!]
}

/** How far a place is from an edge, seen from above, mm. */
function awayFrom([x, y]: Vec3, { points, closed }: SolidEdge): number {
  let least = Number.POSITIVE_INFINITY
  const count = points.length / 3
  for (let i = 0; i + (closed ? 0 : 1) < count; i++) {
    const [a, b] = [3 * i, 3 * ((i + 1) % count)]
    const [dx, dy] = [points[b]! - points[a]!, points[b + 1]! - points[a + 1]!]
    const long = dx * dx + dy * dy
    const t = long > 0 ? Math.min(1, Math.max(0, ((x - points[a]!) * dx + (y - points[a + 1]!) * dy) / long)) : 0
    least = Math.min(least, Math.hypot(x - points[a]! - t * dx, y - points[a + 1]! - t * dy))
  }
  return least
}
