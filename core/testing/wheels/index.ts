import { newPiece, type Part, type Place, type ShapeStep } from '../../document/index.ts'
import type { Kernel } from '../../kernel/index.ts'
import { compose } from '../../place/index.ts'
import { workOut } from '../../planning/index.ts'
import { shapeOf } from '../../shapes/index.ts'
import { partOf, step } from '../index.ts'

const teeth = { module: '1.27', play: '0.15', height: '3.1' }
export const wheel = (
  id: string,
  kind: string,
  fields: Record<string, string>,
  place: Partial<Place> = {},
  operation = 'add',
) =>
  step(id, kind, { ...teeth, ...(kind === 'gear' ? { bore: 'none' } : {}), ...fields }, { operation, place: at(place) })
const at = (place: Partial<Place>): Place => ({ ...step('x', 'plate', {}).place, ...place })
export const beside = (x: number, y: number): Partial<Place> => ({
  across: { from: 'centre', to: 'own', by: `${x}` },
  along: { from: 'centre', to: 'own', by: `${y}` },
})

/** Wheels in pieces of their own, each in mesh with the next. */
export function train(...wheels: readonly ShapeStep[]): Part {
  const part = partOf([wheels[0]!])
  const [piece] = part.pieces
  const pieces = wheels.map((own, i) => ({
    ...(i === 0 ? piece! : newPiece(`p${i + 1}`, `Piece ${i + 1}`, 'pewter')),
    steps: [own],
  }))
  const joints = wheels.slice(1).map((own, i) => ({
    id: `j${i + 1}`,
    name: '',
    kind: 'gear-mesh',
    pieces: [pieces[i]!.id, pieces[i + 1]!.id] as const,
    fields: { first: wheels[i]!.id, second: own.id },
    place: at({}),
  }))
  return { ...part, pieces, joints: joints as never }
}

export const found = (part: Part, id = 'j1') => {
  const { resolved, plan } = workOut(part)
  const { definition, values, problems } = resolved.joints.get(id)!
  const placed = plan.joints.get(id)
  const told = [...problems, ...plan.problems].map(({ code, text, rank }) => ({ code, text, rank }))
  return { resolved, plan, between: definition?.between, values: values!, placed, told }
}

/** What two wheels share over a pitch once the second is settled, mm³, and how near they come. */
export function runInMesh(kernel: Kernel, part: Part, places = 8) {
  const { between, values, placed, plan } = found(part)
  const settled = between!.settled(values, placed!.second!)!
  return kernel.scope((scope) => {
    const solids = between!.steps(values).map((id) => {
      const { body } = plan.operands.get(id)!
      if (body.kind !== 'shape') throw new Error('no shape')
      const { values: own } = plan.operands.get(id)!.copies[0]!
      const cuts = id.startsWith('cut')
      const made = shapeOf(body.shape.kind)!.solid(own, {
        ...{ scope, fineness: 0.01, cuts, through: 20, overlap: 0.005, up: [0, 0, 1] },
      })
      if (!cuts) return made
      const round = scope.cylinder(3.1, 60, 60, 90)
      return scope.difference(round, [made])
    })
    const { freedoms } = workOut(part).resolved.joints.get('j1')!.definition!
    const period = freedoms(values)[0]!.period!
    let [overlap, least, most] = [0, Infinity, 0]
    for (let i = 0; i < places; i++)
      kernel.scope((inner) => {
        const [one, two] = between!.motions(values, settled, [(period * i) / places])
        const [a, b] = [inner.placed(solids[0]!, one), inner.placed(solids[1]!, compose(two, settled))]
        overlap = Math.max(overlap, inner.intersection([a, b]).volume())
        const gap = a.gapTo(b, 0.5)
        least = Math.min(least, gap)
        most = Math.max(most, gap)
      })
    return { overlap, least, most, settled }
  })
}
