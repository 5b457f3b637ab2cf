import type { Joint } from '@makrel/core/document'
import { type Freedom, seenFrom, turnOf, type Wanted, withPosition } from '@makrel/core/mechanism'
import { compose, type Frame, inverse, pointOut, type Vec3 } from '@makrel/core/place'
import { wantedIn } from '@makrel/core/planning'
import { tried } from '@makrel/core/problems'
import type { Mark, SwingPosition } from '@makrel/core/proof'
import { formatLengthWithUnit, formatNumber, type PartUnit } from '@makrel/core/units'
import { useCallback, useMemo, useState } from 'react'
import { useBuild } from '../state/build.ts'
import { useWorked } from '../state/built.ts'
import { usePart } from '../state/part.ts'
import { Choice } from '../ui/Choice.tsx'
import { SidePanel } from '../ui/SidePanel.tsx'
import { raysOf, trackPointer } from '../viewport/drag.ts'
import type { Label } from '../viewport/Labels.tsx'
import { standingIn, Viewport } from '../viewport/Viewport.tsx'
import { AddJoint } from './AddJoint.tsx'
import { Flexes } from './Flexes.tsx'
import { FlexView } from './FlexView.tsx'
import { grabbed } from './grab.ts'
import { JointLine } from './JointLine.tsx'
import { mobilityWords } from './mobilityWords.ts'
import { Poses, samePose } from './Poses.tsx'
import { usePosed } from './posed.ts'
import { SecondPiece } from './SecondPiece.tsx'
import { SwingBar } from './SwingBar.tsx'
import { mobilityFrom, poseIn, usePose, useSwing } from './swing.ts'

/** Joints between pieces, and their travel with the gap at every position. */
export function Move() {
  const part = usePart((state) => state.part)!
  const selection = usePart((state) => state.selection)
  const joint = part.joints.find(({ id }) => id === selection?.id) ?? part.joints[0]
  const freedoms = useFreedoms(joint)
  const [wanted, setWanted] = useState<Wanted>({})
  /** the piece that all others are seen to move about */
  const [stays, setStays] = useState<string>()
  /** the freedom that was moved last */
  const [over, setOver] = useState(0)
  const pose = usePose(wanted)
  const [chosenId, choose] = useState<string>()
  const [flexId, showFlex] = useState<string>()
  const flex = part.flexes.find(({ id }) => id === flexId)
  const chosen = part.poses.find(({ id }) => id === chosenId)
  // Once something is moved, pieces are not where they were laid.
  const laid = usePosed(chosen && chosen.laid.length > 0 && samePose(chosen, wanted) ? chosen : undefined)
  const positions = freedoms.map(({ atRest }, i) => (joint && pose?.positions[joint.id]?.[i]) ?? atRest)
  const index = Math.min(over, Math.max(0, freedoms.length - 1))
  const driven = joint && freedoms[index] && { joint: joint.id, index, freedom: freedoms[index] }
  const swing = useSwing(wanted, driven)
  const moved = Object.keys(wanted).length > 0
  const held = part.pieces.some(({ id }) => id === stays) ? stays : undefined
  const motions = laid?.motions ?? (pose && Object.fromEntries(seenFrom(pose.motions, held)))
  const at = swing.here?.at
  const nearest = at && !laid ? nearestMarks(at, part.unit, pose?.motions, motions) : undefined
  const bodies = useBuild(({ pieces }) => pieces.length)
  const worked = useWorked()
  const mobility = useMemo(() => worked && pose && mobilityFrom(worked, pose), [worked, pose])
  const onGrab = useCallback(
    (piece: string, point: Vec3, event: PointerEvent, viewport: HTMLElement) => {
      const take = worked && grabbed(worked, { piece, point, wanted, held })
      if (!take) return false
      const rayOf = raysOf(viewport)
      const stop = trackPointer(event, {
        move(now) {
          const { grip, wanted: next } = take(rayOf(now))
          usePart.getState().select({ kind: 'joint', id: grip.joint.id })
          setOver(grip.index)
          setWanted(next)
        },
        end() {},
        pressed(key) {
          if (key.key !== 'Escape') return
          key.stopPropagation()
          setWanted(wanted)
          stop()
        },
      })
      return true
    },
    [worked, wanted, held],
  )
  return (
    <main className="flex min-h-0 flex-1">
      <div className="relative min-w-0 flex-1">
        {flex ? (
          <FlexView key={flex.id} flex={flex} />
        ) : (
          <Viewport
            editable
            {...(motions && (moved || laid) ? { motions } : {})}
            standing={laid && standingIn(chosen, laid)}
            marks={nearest?.marks}
            labels={nearest?.labels}
            onGrab={onGrab}
            clashing={at?.collisions.flatMap(({ pieces }) => pieces)}
          >
            {joint && (
              <div className="absolute inset-x-4 bottom-4 border border-ink bg-sheet px-4 py-3">
                <SwingBar
                  joint={joint}
                  freedoms={freedoms}
                  positions={positions}
                  over={index}
                  onPosition={(i, position) => {
                    setOver(i)
                    setWanted(withPosition(wanted, { joint: joint.id, index: i }, position))
                  }}
                  swing={swing}
                  off={pose?.off ?? 0}
                  onDrawn={moved ? () => setWanted({}) : undefined}
                />
                <SeenFrom joint={joint} held={held} onHeld={setStays} />
              </div>
            )}
          </Viewport>
        )}
      </div>
      <SidePanel label="Joints" className="overflow-y-auto py-4">
        <h2 className="px-5 text-lg font-semibold">Joints</h2>
        {part.joints.length === 0 && (
          <p className="px-5 pt-1 text-base text-ink-soft">
            {part.pieces.length < 2
              ? 'A joint ties two pieces: choose one, and say what the second piece is.'
              : 'Nothing moves yet. Add a joint between two pieces.'}
          </p>
        )}
        {mobility && part.joints.length > 1 && (
          <p className="px-5 pt-1 text-[0.9375rem] text-ink-soft">{mobilityWords(mobility)}</p>
        )}
        <ol className="mt-2">
          {part.joints.map((each, i) => (
            <JointLine key={each.id} joint={each} number={i + 1} selected={each.id === joint?.id} />
          ))}
        </ol>
        <SecondPiece />
        <AddJoint />
        {/* Halves of what was split can lie by themselves too. */}
        {(part.joints.length > 0 || part.poses.length > 0 || bodies > 1) && (
          <Poses
            wanted={wanted}
            chosen={chosen}
            onChoose={(next) => {
              choose(next?.id)
              setWanted(next ? wantedIn(next) : {})
            }}
          />
        )}
        <Flexes shown={flex?.id} onShow={showFlex} />
        {swing.failure && (
          <p role="alert" className="mx-5 mt-3 border-l-4 border-rust bg-rust-wash p-3">
            {swing.failure}
          </p>
        )}
      </SidePanel>
    </main>
  )
}

/** Where two pieces are nearest, as they are seen, with how far that is. */
function nearestMarks(
  { nearest, gap }: SwingPosition,
  unit: PartUnit,
  as: ReadonlyMap<string, Frame> | undefined,
  seen: Readonly<Record<string, Frame>> | undefined,
): { readonly marks: readonly Mark[]; readonly labels: readonly Label[] } | undefined {
  if (!nearest || !as || !seen) return undefined
  const [piece] = nearest.pieces
  const [from, to] = [as.get(piece), seen[piece]]
  const ends = [nearest.from, nearest.to].map((p) => (from && to ? pointOut(compose(to, inverse(from)), p) : p))
  const points = Float32Array.from(ends.flat())
  return {
    marks: [
      { kind: 'lines', points },
      { kind: 'points', points },
    ],
    labels: gap ? [{ at: ends[0]!, text: formatLengthWithUnit(gap, unit) }] : [],
  }
}

/** Not any piece: the axes that all wheels turn about stay. */
const axes = 'axes'

/** Of wheels that turn together: which piece is held, and how far the others turn for one turn of the first that is not. */
function SeenFrom({
  joint,
  held,
  onHeld,
}: {
  readonly joint: Joint
  readonly held: string | undefined
  onHeld(piece: string | undefined): void
}) {
  const part = usePart((state) => state.part)!
  const worked = useWorked()
  // For one degree, wherever it stands: told anew where the part changes, not while it is swung.
  const turns = useMemo(() => {
    const placed = worked?.plan.joints.get(joint.id)
    if (!worked || !placed?.second) return undefined
    const turned = seenFrom(poseIn(worked, { [joint.id]: [1] }).motions, held)
    return part.pieces
      .map(({ id, name }) => ({ id, name, turn: turnOf(turned.get(id)!, placed.frame.n) }))
      .filter(({ turn }) => Math.abs(turn) > 1e-6)
  }, [worked, joint.id, held, part.pieces])
  if (!turns) return null
  // The pieces of the joint come first, in its order.
  const rank = (id: string) => (joint.pieces.indexOf(id) + 3) % 3
  const [first, ...others] = [...turns].sort((a, b) => rank(a.id) - rank(b.id))
  return (
    <p className="mt-1 text-[0.9375rem] text-ink-soft">
      <Choice
        label="What stays"
        value={held ?? axes}
        options={[
          { value: axes, label: 'The axes' },
          ...part.pieces.map(({ id, name }) => ({ value: id, label: name })),
        ]}
        onChange={(piece) => onHeld(piece === axes ? undefined : piece)}
      />{' '}
      {held ? 'stays' : 'stay'}.{' '}
      {first && others.length > 0 && (
        <span className="figures">
          For one turn of {first.name}:{' '}
          {others.map(({ name, turn }) => `${name} ${formatNumber(turn / first.turn, 4)}`).join(', ')}.
        </span>
      )}
    </p>
  )
}

/** In which ways the second piece of a joint moves; none where that cannot be told. */
function useFreedoms(joint: Joint | undefined): readonly Freedom[] {
  const worked = useWorked()
  const { definition, values } = (joint && worked?.resolved.joints.get(joint.id)) ?? {}
  return (definition && values && tried(() => definition.freedoms(values))) || []
}
