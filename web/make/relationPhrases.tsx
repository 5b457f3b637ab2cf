import type { Level, Pivot, PivotLine, Until } from '@makrel/core/document'
import type { Names } from '@makrel/core/measures'
import type { SideNames } from '@makrel/core/place'
import type { Problem } from '@makrel/core/problems'
import { usePart } from '../state/part.ts'
import { Choice } from '../ui/Choice.tsx'
import { Lit } from '../viewport/Lit.tsx'
import type { SeatOption } from './seats.ts'
import { ValueField } from './ValueField.tsx'
import { faceWord, hasAbove, stepsAbove, titleOf, withChosen } from './words.ts'

/** What a place says of other steps, beside the distances across and along: height, a turn about a line, and an end. */

function faultAt(problems: readonly Problem[], field: string): string | undefined {
  return problems.find(({ path }) => path[2] === 'place' && path[3] === field)?.text
}

const levels: Readonly<Record<string, { readonly level: Pick<Level, 'from' | 'to'>; readonly label: string }>> = {
  'high-high': { level: { from: 'high', to: 'high' }, label: 'its top level with the top of' },
  'high-low': { level: { from: 'high', to: 'low' }, label: 'its foot at the top of' },
  'centre-centre': { level: { from: 'centre', to: 'centre' }, label: 'its middle as high as the middle of' },
  'low-low': { level: { from: 'low', to: 'low' }, label: 'its foot level with the foot of' },
  'low-high': { level: { from: 'low', to: 'high' }, label: 'its top at the foot of' },
}

/** ", its top level with the top of 2, peg" */
export function LevelPhrase({
  id,
  level,
  more,
}: {
  readonly id: string
  readonly level: Level | undefined
  readonly more: boolean
}) {
  const part = usePart((state) => state.part)!
  const { edit } = usePart.getState()
  const above = () => stepsAbove(part, id)
  const set = (next: Level | undefined) => edit({ type: 'set-place', id, change: { level: next } })
  if (!level && (!more || !hasAbove(part, id))) return null
  return (
    <>
      ,{' '}
      <Choice
        label="Height"
        value={level ? `${level.from}-${level.to}` : 'seat'}
        options={[
          { value: 'seat', label: 'as high as what it stands on' },
          ...Object.entries(levels).map(([value, { label }]) => ({ value, label })),
        ]}
        onChange={(way) =>
          set(way === 'seat' ? undefined : { of: level?.of ?? above()[0]!.value, ...levels[way]!.level })
        }
      />
      {level && (
        <>
          {' '}
          <Lit of={{ kind: 'step', id: level.of }}>
            <Choice
              label="Height from"
              value={level.of}
              shown={titleOf(part, level.of)}
              options={() => withChosen(above(), level.of)}
              onChange={(of) => set({ ...level, of })}
            />
          </Lit>
        </>
      )}
    </>
  )
}

/** ", turned 30 about the axis of 2, pin" */
export function PivotPhrase({
  id,
  pivot,
  sides,
  more,
  names,
  problems,
}: {
  readonly id: string
  readonly pivot: Pivot | undefined
  readonly sides: SideNames
  readonly more: boolean
  readonly names: Names
  readonly problems: readonly Problem[]
}) {
  const part = usePart((state) => state.part)!
  const { edit } = usePart.getState()
  if (!pivot && !more) return null
  const set = (next: Pivot | undefined, merge?: string) =>
    edit({ type: 'set-place', id, change: { pivot: next } }, merge)
  const own: readonly [PivotLine, string][] = [
    ['low-across', `the ${sides.across[0]} edge`],
    ['high-across', `the ${sides.across[1]} edge`],
    ['low-along', `the ${sides.along[0]} edge`],
    ['high-along', `the ${sides.along[1]} edge`],
    ['normal', 'the middle of what it stands on'],
  ]
  const ofSteps = { normal: 'the axis of', across: 'the line across', along: 'the line along' } as const
  const options = () => [
    { value: 'none', label: 'no line' },
    ...own.map(([line, label]) => ({ value: `|${line}`, label })),
    ...stepsAbove(part, id).flatMap(({ value, label }) =>
      Object.entries(ofSteps).map(([line, words]) => ({ value: `${value}|${line}`, label: `${words} ${label}` })),
    ),
  ]
  const key = pivot ? `${pivot.of}|${pivot.line}` : 'none'
  const shown = !pivot
    ? 'no line'
    : pivot.of === ''
      ? own.find(([line]) => line === pivot.line)?.[1]
      : `${ofSteps[pivot.line as keyof typeof ofSteps] ?? 'the line of'} ${titleOf(part, pivot.of)}`
  return (
    <>
      , turned{' '}
      {pivot && (
        <>
          <ValueField
            label="Turn about the line"
            kind="angle"
            text={pivot.by}
            names={names}
            fault={faultAt(problems, 'pivot')}
            onChange={(by, final) => set({ ...pivot, by }, final ? undefined : `${id}.pivot`)}
          />{' '}
        </>
      )}
      about{' '}
      <Lit of={pivot && pivot.of !== '' ? { kind: 'step', id: pivot.of } : undefined}>
        <Choice
          label="Turned about"
          value={key}
          shown={shown}
          options={options}
          onChange={(next) => {
            const [of, line] = next.split('|') as [string, PivotLine]
            set(next === 'none' ? undefined : { of, line, by: pivot?.by ?? '0' })
          }}
        />
      </Lit>
    </>
  )
}

/** " the top of 1, plate, less 2": what a cut that goes up to something ends at. */
export function UntilPhrase({
  id,
  until,
  seats,
  names,
  problems,
}: {
  readonly id: string
  readonly until: Until | undefined
  readonly seats: (() => readonly SeatOption[]) | undefined
  readonly names: Names
  readonly problems: readonly Problem[]
}) {
  const part = usePart((state) => state.part)!
  const { edit } = usePart.getState()
  const faces = () =>
    (seats?.() ?? []).flatMap(({ seat, label }) =>
      seat.kind === 'face' ? [{ value: `${seat.step}/${seat.face}`, label: `the ${label}` }] : [],
    )
  const key = until ? `${until.step}/${until.face}` : 'none'
  const named = until ? `the ${faceWord(until.face)} of ${titleOf(part, until.step)}` : 'choose a face …'
  const set = (next: Until, merge?: string) => edit({ type: 'set-place', id, change: { until: next } }, merge)
  return (
    <>
      {' '}
      <Lit of={until && { kind: 'step', id: until.step, face: until.face }}>
        <Choice
          label="Goes up to"
          value={key}
          shown={named}
          options={faces}
          onChange={(next) => {
            const cut = next.indexOf('/')
            if (cut > 0) set({ step: next.slice(0, cut), face: next.slice(cut + 1), less: until?.less ?? '0' })
          }}
        />
      </Lit>
      {until && (
        <>
          {' '}
          less{' '}
          <ValueField
            label="Left standing"
            kind="length"
            text={until.less}
            names={names}
            fault={faultAt(problems, 'until')}
            onChange={(less, final) => set({ ...until, less }, final ? undefined : `${id}.less`)}
          />
        </>
      )}
    </>
  )
}
