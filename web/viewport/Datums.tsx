import { allSteps } from '@makrel/core/document'
import { add, scaled } from '@makrel/core/place'
import { shapeOf } from '@makrel/core/shapes'
import { numberedTitle } from '../make/words.ts'
import { usePart } from '../state/part.ts'
import { useLateWorked } from './late.ts'
import { takenForReading } from './reading.tsx'
import { project, scaleAt, useView } from './view.ts'

/** Length of a datum's axes, pixels. */
const length = 30

/** Each datum as its three axes and its name; a press selects it, so that what is added next stands on it. */
export function Datums() {
  const { part, worked } = useLateWorked()
  const selection = usePart((state) => state.selection)
  const view = useView()
  const datums = allSteps(part).filter((step) => !step.mute && step.kind === 'shape' && shapeOf(step.shape)?.datum)
  if (datums.length === 0) return null
  return (
    <div className="pointer-events-none absolute inset-0 overflow-hidden">
      {datums.map((step) => {
        const frame = worked?.plan.geometry.get(step.id)?.frame
        const at = frame && project(view, frame.origin)
        if (!frame || !at) return null
        const out = length / scaleAt(view, frame.origin)
        const ends = [frame.u, frame.v, frame.n].map((d) => project(view, add(frame.origin, scaled(d, out))))
        const chosen = selection?.id === step.id
        const colour = chosen ? 'var(--color-mackerel)' : 'var(--color-ink)'
        const select = { kind: 'step', id: step.id, face: 'plane' } as const
        return (
          <div key={step.id}>
            <svg
              width={view.width}
              height={view.height}
              aria-hidden="true"
              stroke={colour}
              className="absolute inset-0"
            >
              {ends.map(
                (end, i) =>
                  end && (
                    <line
                      // biome-ignore lint/suspicious/noArrayIndexKey: the three axes
                      key={i}
                      x1={at[0]}
                      y1={at[1]}
                      x2={end[0]}
                      y2={end[1]}
                      // The normal, which is what stands on it, is drawn full.
                      strokeDasharray={i === 2 ? undefined : '4 3'}
                      strokeWidth={i === 2 ? 1.6 : 1}
                    />
                  ),
              )}
              <circle cx={at[0]} cy={at[1]} r="4" fill="var(--color-sheet)" strokeWidth="1.5" />
              <path d={`M${at[0] - 4} ${at[1]}h8M${at[0]} ${at[1] - 4}v8`} />
            </svg>
            <button
              type="button"
              aria-pressed={chosen}
              onClick={() => takenForReading(select) || usePart.getState().select(select)}
              className={`pointer-events-auto absolute border bg-sheet/95 px-1 text-xs leading-4 ${chosen ? 'border-mackerel text-mackerel' : 'border-line text-ink-soft hover:text-mackerel'}`}
              style={{ left: at[0] - 24, top: at[1] + 14 }}
            >
              {step.name || numberedTitle(part, step)}
            </button>
          </div>
        )
      })}
    </div>
  )
}
