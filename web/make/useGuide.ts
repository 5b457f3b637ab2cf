import { repeatOf } from '@makrel/core/repeats'
import { useNavigate } from 'react-router'
import { newId } from '../ids.ts'
import { usePart } from '../state/part.ts'
import { say } from '../ui/Notice.tsx'
import { readSizes } from '../viewport/reading.tsx'
import { useView } from '../viewport/view.ts'
import type { Guide } from './guides.ts'
import { newOutline } from './newOutline.ts'
import { newRepeat } from './RepeatPhrase.tsx'
import { startJoint } from './startJoint.ts'
import {
  addPiece,
  bundleSteps,
  copySteps,
  removeSteps,
  repeatAll,
  sameAgain,
  scaleSteps,
  setOfAll,
} from './stepActions.ts'

/** Does what a guide says to the selected step, leads to where it is done, or says where that is. */
export function useGuide(): (guide: Guide) => void {
  const navigate = useNavigate()
  return ({ does, go, where, joint }) => {
    const { part, selection, edit, select } = usePart.getState()
    if (!part) return
    const repeated = (kind: string) => {
      const definition = repeatOf(kind)!
      repeatAll(newRepeat(definition), definition.first)
    }
    if (joint) {
      void navigate(`/part/${part.id}/move`)
      return startJoint(joint)
    }
    if (go) return void navigate(`/part/${part.id}/${go}`)
    if (does === 'outline') {
      const face = selection?.kind === 'step' && selection.face
      const outline = newOutline(part, newId(), face ? { kind: 'face', step: selection.id, face } : { kind: 'bed' })
      edit({ type: 'add-outline', outline })
      return void navigate(`/part/${part.id}/make/outline/${outline.id}`)
    }
    if (does === 'piece') return void addPiece()
    if (does === 'undo') return usePart.getState().undo()
    if (does === 'redo') return usePart.getState().redo()
    if (does === 'ruler') return readSizes()
    if (does === 'section') return useView.setState({ section: { across: 'y', at: 0.5 } })
    const step = selection?.kind === 'step' ? selection.id : undefined
    if (!does || !step) return say({ text: where })
    switch (does) {
      case 'move':
        return select({ kind: 'step', id: step }, 'across')
      case 'turn':
        return select({ kind: 'step', id: step }, 'turn')
      case 'scale':
        return scaleSteps()
      case 'copy':
        return copySteps()
      case 'same':
        return sameAgain(step)
      case 'bundle':
        return bundleSteps()
      case 'remove':
        return removeSteps()
      case 'mute':
        return setOfAll({ mute: true })
      default:
        return repeated(does)
    }
  }
}
