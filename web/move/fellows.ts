import {
  allSteps,
  applyEdit,
  type Edit,
  type Joint,
  newPiece,
  onBed,
  type Part,
  pieceColours,
  type ShapeStep,
} from '@makrel/core/document'
import { versionTold } from '@makrel/core/fields'
import { jointOf, type WantedSteps } from '@makrel/core/joints'
import { compose } from '@makrel/core/place'
import { fieldKindOf, workOut } from '@makrel/core/planning'
import { newId } from '../ids.ts'
import { standingEdits } from './settle.ts'

type Worked = ReturnType<typeof workOut>

/** What goes in between the two steps of a joint and is not there yet, or not as it must be. */
export function fellowsWanted({ resolved, plan }: Worked, joint: string): WantedSteps | undefined {
  const { definition, values } = resolved.joints.get(joint) ?? {}
  const { second, beside } = plan.joints.get(joint) ?? {}
  return second && beside && values && definition?.between?.fellows?.wanted(values, second, beside)
}

/** The edits that put in what is wanted: each new one a piece of its own, tied to the first step of the joint. */
export function fellowEdits(part: Part, worked: Worked, joint: Joint, wanted: WantedSteps): readonly Edit[] {
  const { definition, values } = worked.resolved.joints.get(joint.id)!
  const { frame } = worked.plan.joints.get(joint.id)!
  const { steps, fellows } = definition!.between!
  const [first] = steps(values!)
  const like = allSteps(part).find(({ id }) => id === first) as ShapeStep
  const made: Edit[] = []
  const names = freeNames(part, fellows!.name, wanted.steps.length)
  const ids = wanted.steps.map(({ id, fields }, i) => {
    if (id) {
      made.push(...Object.entries(fields).map(([field, text]): Edit => ({ type: 'set-field', id, field, text })))
      return id
    }
    const step: ShapeStep = {
      ...like,
      ...{ id: newId(), name: '', fields: { ...like.fields, ...fields }, mute: false, when: '', repeats: [], omit: [] },
      place: { ...onBed, rest: like.place.rest },
    }
    const colour = pieceColours[(part.pieces.length + i) % pieceColours.length]!
    const piece = { ...newPiece(newId(), names[i]!, colour), steps: [] }
    const tie = jointOf(fellows!.by)!
    const [one, two] = Object.keys(tie.fields) as [string, string]
    made.push(
      { type: 'add-piece', piece },
      { type: 'add-step', piece: piece.id, step },
      {
        type: 'add-joint',
        joint: {
          ...{ id: newId(), name: '', kind: tie.kind, pieces: [joint.pieces[0], piece.id], place: onBed },
          ...versionTold(tie),
          fields: { [one]: first, [two]: step.id },
        },
      },
    )
    return step.id
  })
  // Where they stand by themselves is known once they are there.
  const after = made.reduce((state, edit) => applyEdit(state, edit, fieldKindOf), part)
  const { plan } = workOut(after)
  return [
    ...made,
    ...wanted.steps.flatMap((each, i) => standingEdits(after, plan, ids[i]!, compose(frame, each.frame))),
  ]
}

/** So many names of pieces that are not taken: "Planet 1" and on. */
function freeNames(part: Part, name: string, count: number): string[] {
  const taken = new Set(part.pieces.map((piece) => piece.name))
  return Array.from({ length: count + taken.size }, (_, i) => `${name} ${i + 1}`)
    .filter((each) => !taken.has(each))
    .slice(0, count)
}
