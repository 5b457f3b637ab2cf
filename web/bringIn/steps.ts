import {
  documentLimits,
  type Edit,
  findStep,
  newPart,
  type Offset,
  type Part,
  type Place,
  type Seat,
  type ShapeStep,
} from '@makrel/core/document'
import type { BroughtIn } from '@makrel/core/exchange'
import { newStep, shapeOf } from '@makrel/core/shapes'
import { newId } from '../ids.ts'
import { besidePieces } from '../make/stepActions.ts'
import { workedOf } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { fitAllSteps } from '../viewport/viewKeys.ts'

/** A step for each mesh, as they lie to one another. */
function stepsOf(meshes: readonly BroughtIn[], on: Seat, across?: Offset): ShapeStep[] {
  return meshes.map(({ name, asset, at }, i) => {
    const place: Partial<Place> = {
      on,
      across: across && i === 0 ? across : fromMiddle(at[0]),
      along: fromMiddle(at[1]),
      lift: written(at[2]),
    }
    const step = newStep(newId(), { shape: shapeOf('mesh')!, fields: { mesh: asset.hash } }, place)
    return { ...step, name: name.slice(0, documentLimits.name) }
  })
}

function fromMiddle(mm: number): Offset {
  return { from: 'centre', to: 'centre', by: written(mm) }
}

/** To the hundred-thousandth of a mm, with its unit, whatever the part's is. */
function written(mm: number): string {
  const rounded = Number(mm.toFixed(5))
  return rounded === 0 ? '0' : `${rounded} mm`
}

/** A new part of what a file holds. */
export function partOfMeshes(meshes: readonly BroughtIn[], file: string): Part {
  const name = file.replace(/\.[^.]*$/, '').slice(0, documentLimits.name) || 'New part'
  const part = newPart({ part: newId(), piece: newId() }, name)
  return {
    ...part,
    assets: distinct(meshes),
    pieces: [{ ...part.pieces[0]!, name, steps: stepsOf(meshes, { kind: 'bed' }) }],
  }
}

function distinct(meshes: readonly BroughtIn[]): Part['assets'] {
  return [...new Map(meshes.map(({ asset }) => [asset.hash, asset])).values()]
}

/** Puts meshes on the sheet of the open part: on the selected face, else on the bed beside what stands there. */
export function addedMeshes(meshes: readonly BroughtIn[]): void {
  const { part, selection, editAll, select } = usePart.getState()
  if (!part) return
  const found = selection && (findStep(part, selection.id)?.piece ?? part.pieces.find(({ id }) => id === selection.id))
  const piece = found ?? part.pieces[0]!
  const seat: Seat =
    selection?.kind === 'step' && selection.face
      ? { kind: 'face', step: selection.id, face: selection.face }
      : { kind: 'bed' }
  const clear = piece.steps.length === 0 ? besidePieces(workedOf(part).plan, part, piece.id) : undefined
  const steps = stepsOf(meshes, seat, clear)
  const done = editAll([
    ...distinct(meshes).map((asset): Edit => ({ type: 'add-asset', asset })),
    ...steps.map((step): Edit => ({ type: 'add-step', piece: piece.id, step })),
  ])
  if (!done) return
  select({ kind: 'step', id: steps[0]!.id }, 'across')
  fitAllSteps()
}

/** Another mesh in the place of a step's own: what stands on its faces looks for them on the new one. */
export function replacedMesh(id: string, [mesh]: readonly BroughtIn[]): void {
  if (!mesh) return
  usePart.getState().editAll([
    { type: 'add-asset', asset: mesh.asset },
    { type: 'set-field', id, field: 'mesh', text: mesh.asset.hash },
  ])
}
