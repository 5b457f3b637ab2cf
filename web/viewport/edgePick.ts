import { findStep } from '@makrel/core/document'
import { chosenEdges, runningOn } from '@makrel/core/edges'
import { type EdgeRule, edgeRules, edgeRulesText, faceNames, faceNamesText } from '@makrel/core/fields'
import type { SolidEdge } from '@makrel/core/naming'
import { treatmentOf } from '@makrel/core/operations'
import { faceKey, type RenderMesh } from '@makrel/core/solids'
import { create } from 'zustand'
import { type Selection, usePart } from '../state/part.ts'
import { useView } from './view.ts'

/** What is pressed on the drawing for a field of this kind. */
export type PickKind = 'edges' | 'faces'

interface EdgePick {
  /** the step whose edges or faces are being picked; the drawing shows the part before it */
  readonly step: string | undefined
  readonly field: PickKind
}

export const useEdgePick = create<EdgePick>()(() => ({ step: undefined, field: 'edges' }))

/** Begins to pick the edges or faces of a step on the drawing, or ends it. */
export function pickFor(picked: { readonly step: string; readonly field: PickKind } | undefined): void {
  useEdgePick.setState(picked ?? { step: undefined })
  useView.setState({ inspected: picked && { step: picked.step, show: 'until' } })
}

/** The field of a step that says what it works on, with its text. */
function fieldOf(id: string, kind: PickKind): { readonly field: string; readonly text: string } | undefined {
  const { part } = usePart.getState()
  const step = part && findStep(part, id)?.step
  if (step?.kind !== 'treatment') return undefined
  const fields = treatmentOf(step.operation)?.fields ?? {}
  const field = Object.keys(fields).find((name) => fields[name]!.kind === kind)
  return field === undefined ? undefined : { field, text: step.fields[field] ?? fields[field]!.default }
}

/** The edges of a drawing that a step's rules choose, as places in its list. */
export function chosenOn(mesh: RenderMesh, step: string): readonly number[] {
  const own = fieldOf(step, 'edges')
  return own ? chosenEdges(choosable(mesh), edgeRules(own.text), [0, 0, 1]).edges : []
}

function choosable({ named, faces, positions }: RenderMesh) {
  return { edges: named, faces: faces.map((face) => ({ key: faceKey(face) })), positions }
}

/**
 * Where edges are being picked, a press takes the edge with all that runs on smoothly from it, or all of a face; where faces are,
 * the face. One more press leaves it out again.
 */
export function takenForEdges(selection: Selection, mesh: RenderMesh): boolean {
  const { step, field: kind } = useEdgePick.getState()
  if (step === undefined) return false
  const own = fieldOf(step, kind)
  if (!own) return true
  const set = (text: string) => usePart.getState().edit({ type: 'set-field', id: step, field: own.field, text })
  if (kind === 'faces') set(withToggled(own.text, selection))
  else {
    const rules = edgeRules(own.text)
    const next = selection.edge === undefined ? withFace(rules, selection) : withEdge(rules, selection.edge, mesh)
    set(edgeRulesText(next))
  }
  return true
}

function withToggled(text: string, { kind, id: step, face }: Selection): string {
  if (kind !== 'step' || face === undefined) return text
  const names = faceNames(text)
  const rest = names.filter((name) => name.step !== step || name.face !== face)
  return faceNamesText(rest.length < names.length ? rest : [...names, { step, face }])
}

function withFace(rules: readonly EdgeRule[], { kind, id: step, face }: Selection): readonly EdgeRule[] {
  if (kind !== 'step' || face === undefined) return rules
  const isThis = ({ less, where }: EdgeRule) =>
    !less && where.kind === 'of' && where.of.step === step && where.of.face === face
  if (rules.some(isThis)) return rules.filter((rule) => !isThis(rule))
  return [...rules, { less: false, traits: [], where: { kind: 'of', of: { step, face } } }]
}

function withEdge(rules: readonly EdgeRule[], key: string, mesh: RenderMesh): readonly EdgeRule[] {
  const edges = mesh.named
  const at = edges.findIndex((edge) => edge.key === key)
  const run = new Set(runningOn(edges, at).map((edge) => edges[edge]!.key))
  const { edges: chosen } = chosenEdges(choosable(mesh), rules, [0, 0, 1])
  const isIn = chosen.includes(at)
  // What was said of this edge before is taken back rather than said the other way round.
  const rest = rules.filter(({ less, where }) => where.kind !== 'edge' || !run.has(where.key) || less !== isIn)
  const without = rules.filter(({ less, where }) => where.kind !== 'edge' || !run.has(where.key) || less === isIn)
  const now = chosenEdges(choosable(mesh), without, [0, 0, 1]).edges.includes(at)
  if (now !== isIn) return without
  return [...rest, { less: isIn, traits: [], where: { kind: 'edge', key } }]
}

/** An edge with all that runs on smoothly from it. */
export function runOf(edges: readonly SolidEdge[], edge: SolidEdge): readonly SolidEdge[] {
  const at = edges.indexOf(edge)
  return at < 0 ? [edge] : runningOn(edges, at).map((each) => edges[each]!)
}
