import type { Plan, ResolvedPart } from '@makrel/core/build'
import type { Offset, Part, Place, Seat } from '@makrel/core/document'
import type { Names } from '@makrel/core/measures'
import { levelSides, type SideNames } from '@makrel/core/place'
import type { Problem } from '@makrel/core/problems'
import { usePart } from '../state/part.ts'
import { Choice } from '../ui/Choice.tsx'
import { ValueField } from './ValueField.tsx'
import { isCentred, type OffsetWay, offsetOf, offsetWay, offsetWays, seatWords } from './words.ts'

/** ", on the top of 1, 12 from the left edge to its centre, centred front to back" — and lift, turn, tilt where set. */
export function PlacePhrase({
  id,
  place,
  seats,
  more,
  names,
  sides,
  problems,
}: {
  readonly id: string
  readonly place: Place
  /** what it may stand on; undefined where that is fixed (joints stand on the bed) */
  readonly seats: readonly SeatOption[] | undefined
  readonly more: boolean
  readonly names: Names
  readonly sides: SideNames
  readonly problems: readonly Problem[]
}) {
  const part = usePart((state) => state.part)!
  const { edit } = usePart.getState()
  const key = seatKey(place.on)
  const options = seats?.some((option) => option.key === key)
    ? seats
    : [{ key, seat: place.on, label: seatWords(part, place.on) }, ...(seats ?? [])]
  const set = (change: Partial<Place>, merge?: string) => edit({ type: 'set-place', id, change }, merge)
  const field = (name: 'lift' | 'turn' | 'tilt', label: string, kind: 'length' | 'angle') => (
    <ValueField
      label={label}
      kind={kind}
      text={place[name]}
      names={names}
      onChange={(text, final) => set({ [name]: text }, final ? undefined : `${id}.${name}`)}
    />
  )
  return (
    <>
      {seats && (
        <>
          {place.rest === 'on' ? ', on ' : ', into '}
          <Choice
            label="Stands on"
            value={key}
            options={options.map((option) => ({ value: option.key, label: option.label }))}
            onChange={(next) => {
              const seat = options.find((option) => option.key === next)!.seat
              set({ on: seat, ...fresh(place, seat) })
            }}
          />
        </>
      )}
      <OffsetPhrase
        id={id}
        axis="across"
        offset={place.across}
        sides={sides.across}
        onBed={place.on.kind === 'bed'}
        names={names}
        problems={problems}
      />
      <OffsetPhrase
        id={id}
        axis="along"
        offset={place.along}
        sides={sides.along}
        onBed={place.on.kind === 'bed'}
        names={names}
        problems={problems}
      />
      {(more || place.lift.trim() !== '0') && <>, lifted {field('lift', 'Lift', 'length')}</>}
      {(more || place.turn.trim() !== '0') && <>, turned {field('turn', 'Turn', 'angle')}</>}
      {(more || place.tilt.trim() !== '0') && <>, tilted {field('tilt', 'Tilt', 'angle')}</>}
      {more && seats && (
        <>
          , resting{' '}
          <Choice
            label="Rests"
            value={place.rest}
            options={[
              { value: 'on', label: 'on the face' },
              { value: 'in', label: 'in it, flush' },
            ]}
            onChange={(rest) => set({ rest })}
          />
        </>
      )}
    </>
  )
}

/** On the bed there are no edges to measure from; a distance from an edge is measured from the datum there. */
function fresh(place: Place, seat: Seat): Partial<Place> {
  if (seat.kind !== 'bed') return {}
  const fromDatum = (offset: Offset): Offset => (offset.from === 'centre' ? offset : { ...offset, from: 'centre' })
  return { across: fromDatum(place.across), along: fromDatum(place.along) }
}

function OffsetPhrase({
  id,
  axis,
  offset,
  sides,
  onBed,
  names,
  problems,
}: {
  readonly id: string
  readonly axis: 'across' | 'along'
  readonly offset: Offset
  readonly sides: readonly [string, string]
  readonly onBed: boolean
  readonly names: Names
  readonly problems: readonly Problem[]
}) {
  const focus = usePart((state) => (state.selection?.id === id ? state.focus : undefined))
  const { edit, focused, select, selection } = usePart.getState()
  const centred = isCentred(offset)
  const fault = problems.find((problem) => problem.path[2] === 'place' && problem.path[3] === axis)
  return (
    <>
      {', '}
      {!centred && (
        <>
          <ValueField
            label={`Distance ${sides.join(' to ')}`}
            kind="length"
            text={offset.by}
            names={names}
            fault={fault?.text}
            autoFocus={focus === axis}
            onAutoFocused={focused}
            onChange={(by, final) =>
              edit({ type: 'set-offset', id, axis, change: { by } }, final ? undefined : `${id}.${axis}`)
            }
          />{' '}
        </>
      )}
      <Choice<OffsetWay>
        label={`Measured ${sides.join(' to ')}`}
        value={offsetWay(offset)}
        options={offsetWays(sides, onBed)}
        focusMoves={(way) => way !== 'centred'}
        onChange={(way) => {
          edit({ type: 'set-offset', id, axis, change: offsetOf(way) })
          // A distance that has just come into being is asked for next.
          if (way !== 'centred') select(selection ?? { kind: 'step', id }, axis)
        }}
      />
    </>
  )
}

export interface SeatOption {
  readonly key: string
  readonly seat: Seat
  readonly label: string
}

export function seatKey(seat: Seat): string {
  return seat.kind === 'face' ? `${seat.step}/${seat.face}` : seat.kind
}

/** The bed and every named face of the steps above `stepId`, nearest first. */
export function seatOptions(part: Part, plan: Plan, resolved: ResolvedPart, stepId: string | undefined): SeatOption[] {
  const above: SeatOption[] = []
  for (const piece of part.pieces) {
    for (const step of piece.steps) {
      if (step.id === stepId) return [bedOption, ...above.reverse()]
      const known = resolved.steps.get(step.id)?.shape && plan.geometry.get(step.id)
      for (const face of [...(known?.faces ?? [])].reverse()) {
        const seat: Seat = { kind: 'face', step: step.id, face: face.name }
        above.push({ key: seatKey(seat), seat, label: seatWords(part, seat) })
      }
    }
  }
  return [bedOption, ...above.reverse()]
}

const bedOption: SeatOption = { key: 'bed', seat: { kind: 'bed' }, label: 'the bed' }

export function sidesOf(plan: Plan, stepId: string): SideNames {
  return plan.geometry.get(stepId)?.seating.sides ?? levelSides
}
