import { type FieldTexts, findStep, hasBody, type Piece } from '@makrel/core/document'
import {
  defaultFields,
  edgeRulesText,
  faceNamesText,
  type PlaneField,
  planeAxes,
  planeTextOf,
  usualSize,
} from '@makrel/core/fields'
import { type FoundTreatment, newTreatment, operations, type Treatment } from '@makrel/core/operations'
import { type Box, joined } from '@makrel/core/place'
import { adds } from '@makrel/core/planning'
import { newId } from '../ids.ts'
import { workedOf } from '../state/build.ts'
import { type Selection, usePart } from '../state/part.ts'
import { withOutlinesChosen } from './newOutline.ts'

/** Puts a found treatment on the sheet: of the edge, the face or the step that is selected. */
export function treat(
  pieceId: string,
  found: Pick<FoundTreatment, 'treatment' | 'fields'> & Partial<Pick<FoundTreatment, 'complete'>>,
): void {
  const { edit, select, selection, part } = usePart.getState()
  const piece = part?.pieces.find((candidate) => candidate.id === pieceId)
  if (!part || !piece) return
  const within = selection && findStep(part, selection.id)
  const after = within && within.bundles.length > 0 && within.piece === piece ? within.step.id : undefined
  const id = newId()
  // What a treatment made has hardly an edge of its own: the next one is of all of the piece, unless a face of it is chosen.
  const isPlace = within && (hasBody(within.step) || selection?.face !== undefined)
  const of = within?.piece === piece && isPlace ? selection : undefined
  const outlined = withOutlinesChosen(part, found.treatment.fields, found.fields)
  const fields = { ...outlined, ...chosenFor(found.treatment, of, piece) }
  edit({ type: 'add-step', piece: pieceId, after, step: newTreatment(id, { ...found, fields }) })
  // With all of its sizes typed, the next step can be.
  select({ kind: 'step', id }, found.complete ? undefined : found.treatment.quick[0])
}

/** The fields that say what it works on, for what is selected, or for all of the piece. */
function chosenFor(treatment: Treatment, of: Selection | undefined, piece: Piece): FieldTexts {
  const [field, definition] =
    Object.entries(treatment.fields).find(([, { kind }]) => kind === 'edges' || kind === 'faces' || kind === 'plane') ??
    []
  if (field === undefined) return {}
  if (definition?.kind === 'plane') return { [field]: planeFor(definition, of, piece) }
  if (!of) return {}
  if (definition?.kind === 'edges') return { [field]: edgesRuleFor(of) }
  return of.face === undefined ? {} : { [field]: faceNamesText([{ step: of.id, face: of.face }]) }
}

/** Along the selected face where it is flat; else, where it halves the piece, through its middle, across its longest side. */
function planeFor(definition: PlaneField, of: Selection | undefined, piece: Piece): string {
  const { plan } = workedOf(usePart.getState().part!)
  const face = of && plan.geometry.get(of.id)?.faces.find(({ name }) => name === of.face)
  if (of && face && face.round === undefined)
    return planeTextOf({ of: { face: { step: of.id, face: face.name } }, at: '0' })
  const operands = plan.pieces.find(({ piece: { id } }) => id === piece.id)?.operands ?? []
  const box = operands.filter(adds).reduce<Box | undefined>((whole, { box: own }) => joined(whole, own), undefined)
  if (!box || !definition.halves) return definition.default
  const sides = box.max.map((high, i) => high - box.min[i]!)
  const longest = sides.indexOf(Math.max(...sides))
  const middle = (box.max[longest]! + box.min[longest]!) / 2
  const { unit } = usePart.getState().part!
  return planeTextOf({ of: { axis: planeAxes[longest]! }, at: usualSize(Math.round(10 * middle) / 10, unit) })
}

function edgesRuleFor({ id: step, face, edge }: Selection): string {
  if (edge !== undefined) return edgeRulesText([{ less: false, traits: [], where: { kind: 'edge', key: edge } }])
  const where = { kind: 'of', of: { step, face } } as const
  return edgeRulesText([{ less: false, traits: face === undefined ? ['outer'] : [], where }])
}

/** What can be done with the edges of a step, or with a face of it that is selected, each in a step of its own. */
export function offeredTreatments(
  face: string | undefined,
): { readonly words: string; readonly treatment: Treatment }[] {
  return operations.flatMap((treatment) => {
    if (treatment.acts !== 'alone') return []
    if (Object.values(treatment.fields).some(({ kind }) => kind === 'edges'))
      return [{ words: `${treatment.label} ${face ? `the edges of its ${face}` : 'its edges'}`, treatment }]
    return face && treatment.offer ? [{ words: treatment.offer(face), treatment }] : []
  })
}

/** Puts a treatment on the sheet as it is by default. */
export function treatSelected(treatment: Treatment): void {
  const { part, selection } = usePart.getState()
  const piece = part && selection && findStep(part, selection.id)?.piece
  if (piece) treat(piece.id, { treatment, fields: defaultFields(treatment.fields, part.unit) })
}
