import { findStep, type Offset, type Place } from '@makrel/core/document'
import type { Names } from '@makrel/core/measures'
import type { SideNames } from '@makrel/core/place'
import type { Problem } from '@makrel/core/problems'
import { workedOf } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { Choice } from '../ui/Choice.tsx'
import { Lit } from '../viewport/Lit.tsx'
import { edgeMeasuredFrom } from '../viewport/pointed.ts'
import { bentFor } from './onRound.ts'
import { LevelPhrase, PivotPhrase, UntilPhrase } from './relationPhrases.tsx'
import { offsetsOn, type SeatOption, seatKey } from './seats.ts'
import { ValueField } from './ValueField.tsx'
import {
  hasAbove,
  isBareRelation,
  type OffsetWay,
  type OwnPlace,
  offsetOf,
  offsetWay,
  offsetWays,
  type RelationWay,
  relationOf,
  relationText,
  relationWay,
  relationWays,
  seatWords,
  stepsAbove,
  titleOf,
  withChosen,
} from './words.ts'

/** ", on the top of 1, 12 from the left edge to its centre, centred front to back" — and lift, turn, tilt where set. */
export function PlacePhrase({
  id,
  place,
  seats,
  bases = [],
  ownPlace,
  rests = false,
  goesUpTo = false,
  more,
  names,
  sides,
  extentless = false,
  problems,
}: {
  readonly id: string
  readonly place: Place
  /** what it may stand on; undefined where that is fixed (joints stand on the bed) */
  readonly seats: (() => readonly SeatOption[]) | undefined
  /** faces of the shape that it can lie on; none for holes and bundles */
  readonly bases?: readonly string[]
  /** what has a place of its own: where it was made or drawn */
  readonly ownPlace?: OwnPlace | undefined
  /** whether it stands on what it is placed on, or lies in it */
  readonly rests?: boolean
  /** a cut that ends at a face that is to be chosen */
  readonly goesUpTo?: boolean
  readonly more: boolean
  readonly names: Names
  readonly sides: SideNames
  /** what it stands on is a point: the bed's datum, or one that was set */
  readonly extentless?: boolean
  readonly problems: readonly Problem[]
}) {
  const part = usePart((state) => state.part)!
  const { edit } = usePart.getState()
  const key = seatKey(place.on)
  // The bed and datums have no edges to measure from.
  const onPoint = place.on.kind === 'bed' || extentless
  /** Every face above, and the one it stands on where that is gone. Only asked for once the list is opened. */
  const options = () => {
    const known = seats?.() ?? []
    return known.some((option) => option.key === key)
      ? known
      : [{ key, seat: place.on, label: seatWords(part, place.on) }, ...known]
  }
  const set = (change: Partial<Place>, merge?: string) => edit({ type: 'set-place', id, change }, merge)
  const field = (name: 'lift' | 'turn' | 'tilt' | 'lean', label: string, kind: 'length' | 'angle') => (
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
      {goesUpTo && <UntilPhrase id={id} until={place.until} seats={seats} names={names} problems={problems} />}
      {seats && (
        <>
          {place.rest === 'on' ? ', on ' : ', into '}
          <Lit of={place.on.kind === 'face' ? { kind: 'step', id: place.on.step, face: place.on.face } : undefined}>
            <Choice
              label="Stands on"
              value={key}
              shown={seatWords(part, place.on)}
              options={() => options().map((option) => ({ value: option.key, label: option.label }))}
              onChange={(next) => {
                const known = options()
                const roundOf = (of: string) => known.find((option) => option.key === of)?.round
                const { seat } = known.find((option) => option.key === next)!
                const step = findStep(part, id)?.step
                const bent = step ? bentFor(step, roundOf(key), roundOf(next), part.unit) : {}
                const together = `${id} on ${next}`
                set({ on: seat, ...offsetsOn(place, seat, ownPlace) }, together)
                for (const [name, text] of Object.entries(bent))
                  edit({ type: 'set-field', id, field: name, text }, together)
              }}
            />
          </Lit>
        </>
      )}
      <OffsetPhrase
        id={id}
        axis="across"
        offset={place.across}
        sides={sides.across}
        onPoint={onPoint}
        ownPlace={ownPlace}
        tilts={rests && !ownPlace && place.base === ''}
        names={names}
        problems={problems}
      />
      <OffsetPhrase
        id={id}
        axis="along"
        offset={place.along}
        sides={sides.along}
        onPoint={onPoint}
        ownPlace={ownPlace}
        tilts={rests && !ownPlace && place.base === ''}
        names={names}
        problems={problems}
      />
      {(more || place.lift.trim() !== '0') && <>, lifted {field('lift', 'Lift', 'length')}</>}
      {(more || place.turn.trim() !== '0') && <>, turned {field('turn', 'Turn', 'angle')}</>}
      {(more || place.tilt.trim() !== '0') && <>, tilted {field('tilt', 'Tilt', 'angle')}</>}
      {(more || place.lean.trim() !== '0') && <>, leaning {field('lean', 'Lean', 'angle')}</>}
      {bases.length > 0 && (more || place.base !== '') && (
        <>
          , lying on its{' '}
          <Choice
            label="Lies on its"
            value={place.base || underside}
            options={[underside, ...new Set([...bases, ...(place.base ? [place.base] : [])])].map((face) => ({
              value: face,
              label: face,
            }))}
            onChange={(face) => set({ base: face === underside ? '' : face })}
          />
        </>
      )}
      <PivotPhrase
        id={id}
        pivot={place.pivot}
        sides={sides}
        more={more && Boolean(seats)}
        names={names}
        problems={problems}
      />
      <LevelPhrase id={id} level={place.level} more={more && Boolean(seats)} />
      {more && rests && !place.level && (
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

const underside = 'underside'

function OffsetPhrase({
  id,
  axis,
  offset,
  sides,
  onPoint,
  ownPlace,
  tilts,
  names,
  problems,
}: {
  readonly id: string
  readonly axis: 'across' | 'along'
  readonly offset: Offset
  readonly sides: readonly [string, string]
  readonly onPoint: boolean
  readonly ownPlace: OwnPlace | undefined
  /** whether its foot may be anywhere but in its middle */
  readonly tilts: boolean
  readonly names: Names
  readonly problems: readonly Problem[]
}) {
  const focus = usePart((state) => (state.selection?.id === id ? state.focus : undefined))
  const { edit, focused, select, selection } = usePart.getState()
  const part = usePart((state) => state.part)!
  const geometry = workedOf(part).plan.geometry.get(id)
  const seating = geometry?.seating
  // Tilted, it reaches farther from its foot on one side than on the other; or it did, when it was placed by its middle.
  const [low, high] = geometry?.extent[axis === 'across' ? 0 : 1] ?? [0, 0]
  const leans = offset.to === 'middle' || (tilts && Math.abs(low + high) > 1e-6)
  const above = () => stepsAbove(part, id)
  const told = offset.of !== undefined
  const bare = told ? isBareRelation(relationWay(offset)) : isBare(offsetWay(offset))
  const fault = problems.find((problem) => problem.path[2] === 'place' && problem.path[3] === axis)
  const change = (next: Partial<Offset>) => edit({ type: 'set-offset', id, axis, change: next })
  const ask = () => select(selection ?? { kind: 'step', id }, axis)
  return (
    <>
      {', '}
      {!bare && (
        <>
          <ValueField
            label={`Distance ${sides.join(' to ')}`}
            kind="length"
            text={told ? relationText(relationWay(offset), offset.by) : offset.by}
            names={names}
            fault={fault?.text}
            autoFocus={focus === axis}
            onAutoFocused={focused}
            onChange={(text, final) => {
              const by = told ? relationText(relationWay(offset), text) : text
              edit({ type: 'set-offset', id, axis, change: { by } }, final ? undefined : `${id}.${axis}`)
            }}
          />{' '}
        </>
      )}
      {told ? (
        <Lit of={{ kind: 'step', id: offset.of! }}>
          <Choice<RelationWay | 'seat'>
            label={`Measured ${sides.join(' to ')}`}
            value={relationWay(offset)}
            options={[
              ...relationWays(sides, relationWay(offset), leans),
              { value: 'seat', label: 'from what it stands on …' },
            ]}
            focusMoves={(way) => way !== 'seat' && !isBareRelation(way)}
            onChange={(way) => {
              if (way === 'seat') change({ of: undefined, ...offsetOf('centred', '0') })
              else {
                const by = relationText(way, relationText(relationWay(offset), offset.by))
                change(relationOf(way, by))
                if (!isBareRelation(way)) ask()
              }
            }}
          />{' '}
          <Choice
            label={`Step it is measured from, ${sides.join(' to ')}`}
            value={offset.of ?? ''}
            shown={titleOf(part, offset.of ?? '')}
            options={() => withChosen(above(), offset.of ?? '')}
            onChange={(of) => change({ of })}
          />
        </Lit>
      ) : (
        <Lit of={seating && edgeMeasuredFrom(seating, axis, offset)}>
          <Choice<OffsetWay | 'step'>
            label={`Measured ${sides.join(' to ')}`}
            value={offsetWay(offset)}
            options={[
              ...offsetWays(sides, onPoint, ownPlace, leans),
              ...(hasAbove(part, id) ? [{ value: 'step' as const, label: 'from another step …' }] : []),
            ]}
            focusMoves={(way) => way !== 'step' && !isBare(way)}
            onChange={(way) => {
              if (way === 'step') change({ of: above()[0]!.value, ...relationOf('line', '0') })
              else {
                change(offsetOf(way, offset.by))
                // A distance that has just come into being is asked for next.
                if (!isBare(way)) ask()
              }
            }}
          />
        </Lit>
      )}
    </>
  )
}

/** Ways that need no distance. */
function isBare(way: OffsetWay): boolean {
  return way === 'centred' || way === 'middled' || way === 'made'
}
