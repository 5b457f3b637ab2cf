import type { Stance } from '@makrel/core/document'
import { useMemo } from 'react'
import { newId } from '../ids.ts'
import { pointWords } from '../make/words.ts'
import { keyOf, pointOptions } from '../plan/points.ts'
import { useWorked } from '../state/built.ts'
import { sayDone } from '../state/done.ts'
import { usePart } from '../state/part.ts'
import { Button, IconButton } from '../ui/Button.tsx'
import { Choice } from '../ui/Choice.tsx'
import { AddIcon, RemoveIcon } from '../ui/icons.tsx'

const ways: readonly { readonly value: Stance['way']; readonly label: string; readonly hint: string }[] = [
  { value: 'up', label: 'faces up', hint: 'as a face that is to be smooth' },
  { value: 'down', label: 'lies on the bed', hint: 'or faces down' },
  { value: 'upright', label: 'stands upright', hint: 'as the axis of a hole that is to come out round' },
]

/** What has to lie so, whichever way the rest lies. */
export function Stances() {
  const part = usePart((state) => state.part!)
  const worked = useWorked()
  const { edit } = usePart.getState()
  const points = useMemo(() => pointOptions(part, worked?.plan.geometry), [part, worked])
  if (points.length === 0 && part.stances.length === 0) return null
  const keep = (stance: Stance) => edit({ type: 'keep-stance', stance })
  return (
    <div className="mt-1">
      <ul aria-label="What has to lie so">
        {part.stances.map((stance, i) => {
          const known = points.some(({ key }) => key === keyOf(stance.of))
          const own = { value: keyOf(stance.of), label: pointWords(part, stance.of) }
          return (
            <li key={stance.id} className="flex items-center gap-2 py-0.5 text-base">
              <span className="min-w-0 flex-1">
                The{' '}
                <Choice
                  label={`Face ${i + 1} that has to lie so`}
                  value={keyOf(stance.of)}
                  options={[...(known ? [] : [own]), ...points.map(({ key: value, label }) => ({ value, label }))]}
                  onChange={(next) => {
                    const point = points.find(({ key }) => key === next)?.point
                    if (point) keep({ ...stance, of: point })
                  }}
                />{' '}
                <Choice
                  label={`How face ${i + 1} has to lie`}
                  value={stance.way}
                  options={ways}
                  onChange={(way) => keep({ ...stance, way })}
                />
              </span>
              <IconButton
                label={`Let go of face ${i + 1}`}
                onClick={() => {
                  edit({ type: 'drop-stance', id: stance.id })
                  sayDone('It may lie as it likes.')
                }}
              >
                <RemoveIcon size={14} />
              </IconButton>
            </li>
          )
        })}
      </ul>
      {points[0] && (
        <Button
          className="mt-1 h-7"
          onClick={() => {
            const top = points.findLast(({ point }) => point.face === 'top') ?? points[0]!
            keep({ id: newId(), of: top.point, way: 'up' })
          }}
        >
          <AddIcon size={14} /> Hold a face or a hole
        </Button>
      )}
    </div>
  )
}
