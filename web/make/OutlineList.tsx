import { allSteps, outlinesOf, type Seat } from '@makrel/core/document'
import { fieldKindOf } from '@makrel/core/planning'
import { Link, useNavigate } from 'react-router'
import { newId } from '../ids.ts'
import { copyOutline } from '../outline/partsActions.ts'
import { sayDone } from '../state/done.ts'
import { usePart } from '../state/part.ts'
import { IconButton } from '../ui/Button.tsx'
import { AddIcon, CopyIcon, RemoveIcon } from '../ui/icons.tsx'
import { newOutline } from './newOutline.ts'
import { faceWord } from './words.ts'

/** The part's outlines under its steps; a new one is drawn on the face that is selected, or on the bed. */
export function OutlineList() {
  const part = usePart((state) => state.part!)
  const selection = usePart((state) => state.selection)
  const navigate = useNavigate()
  const seat: Seat =
    selection?.kind === 'step' && selection.face
      ? { kind: 'face', step: selection.id, face: selection.face }
      : { kind: 'bed' }
  const add = () => {
    const outline = newOutline(part, newId(), seat)
    usePart.getState().edit({ type: 'add-outline', outline })
    void navigate(`/part/${part.id}/make/outline/${outline.id}`)
  }
  const users = (id: string) => allSteps(part).filter((step) => outlinesOf(step, fieldKindOf).includes(id)).length
  return (
    <section aria-label="Outlines" className="px-5 pt-3">
      {part.outlines.length > 0 && <h3 className="pb-0.5 font-semibold">Outlines</h3>}
      {part.outlines.map(({ id, name }) => (
        <p key={id} className="flex items-center gap-2">
          <Link to={`/part/${part.id}/make/outline/${id}`} className="text-base hover:text-mackerel">
            {name}
          </Link>
          <span className="text-xs text-ink-soft">
            {users(id) === 0 ? 'nothing made of it yet' : `in ${users(id)} ${users(id) === 1 ? 'step' : 'steps'}`}
          </span>
          <IconButton label={`Copy ${name}`} className="ml-auto h-6 w-6" onClick={() => copyOutline(id)}>
            <CopyIcon size={13} />
          </IconButton>
          <IconButton
            label={`Remove ${name}`}
            className="h-6 w-6"
            onClick={() => {
              usePart.getState().edit({ type: 'remove-outline', id })
              sayDone(`${name} removed.`)
            }}
          >
            <RemoveIcon size={13} />
          </IconButton>
        </p>
      ))}
      <button
        type="button"
        onClick={add}
        className="mt-1 inline-flex items-center gap-1.5 text-ink-soft hover:text-mackerel"
      >
        <AddIcon size={14} /> draw an outline {seat.kind === 'face' ? `on the ${faceWord(seat.face)}` : ''}
      </button>
    </section>
  )
}
