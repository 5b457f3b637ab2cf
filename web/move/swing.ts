import { type Freedom, type Mobility, type Pose, type Wanted, withPosition } from '@makrel/core/mechanism'
import type { Frame } from '@makrel/core/place'
import { mobilityIn, poseOf } from '@makrel/core/planning'
import { type Reach, type SwingPosition, swingPositions } from '@makrel/core/proof'
import { useEffect, useMemo, useState } from 'react'
import { checks } from '../channel/client.ts'
import { Overtaken } from '../channel/work.ts'
import { useBuild } from '../state/build.ts'
import { useWorked } from '../state/built.ts'

/** Positions measured over the whole travel. */
const sweepCount = 25

/** How long nothing should be moved before it is looked for where pieces meet, ms. */
const settling = 500

/** One freedom of a joint: what the travel is measured over. */
export interface Driven {
  readonly joint: string
  readonly index: number
  readonly freedom: Freedom
}

export interface Swing {
  /** measured where everything stands now; undefined until it is */
  readonly here: { readonly at: SwingPosition; readonly motions: Readonly<Record<string, Frame>> } | undefined
  /** the positions measured so far, in order */
  readonly sweep: readonly { readonly position: number; readonly at: SwingPosition }[]
  /** once all are measured */
  readonly smallest: { readonly position: number; readonly gap: number } | undefined
  /** the same of the two pieces of the joint alone */
  readonly ownSmallest: { readonly position: number; readonly gap: number } | undefined
  /** how far it goes freely down and up from where it is printed, once that is known; undefined where all the way */
  readonly reach: readonly (Reach | undefined)[] | undefined
  readonly failure: string | undefined
}

/** Where all pieces stand, worked out here: the gap follows from its worker. */
export function usePose(wanted: Wanted): Pose | undefined {
  const worked = useWorked()
  return useMemo(() => worked && poseIn(worked, wanted), [worked, wanted])
}

type Worked = NonNullable<ReturnType<typeof useWorked>>

export function poseIn(worked: Worked, wanted: Wanted): Pose {
  return poseOf(standing(worked), wanted)
}

/** What all pieces can do where they stand; undefined where that is not told. */
export function mobilityFrom(worked: Worked, pose: Pose): Mobility | undefined {
  return mobilityIn(standing(worked), pose)
}

function standing({ resolved, plan }: Worked) {
  const joints = [...resolved.joints.values()].flatMap(({ joint }) => {
    const placed = plan.joints.get(joint.id)
    return placed ? [{ joint, frame: placed.frame, second: placed.second }] : []
  })
  return { resolved, joints }
}

/** Gaps and collisions where everything stands, and then over the whole travel of one freedom, one position after another. */
export function useSwing(wanted: Wanted, over: Driven | undefined): Swing {
  const shown = useBuild((state) => state.shown)
  const [here, setHere] = useState<{ readonly of: Wanted; readonly answer: NonNullable<Swing['here']> }>()
  const [sweep, setSweep] = useState<Swing['sweep']>([])
  const [failure, setFailure] = useState<string>()
  const { joint, index } = over ?? {}

  useEffect(() => {
    if (!shown || !joint) return
    let current = true
    checks()
      .call('swing', { wanted, joint }, shown)
      .then(
        (answer) => current && setHere({ of: wanted, answer }),
        (error: Error) => current && !(error instanceof Overtaken) && setFailure(error.message),
      )
    return () => {
      current = false
    }
  }, [shown, joint, wanted])

  const { from, to: end, period } = over?.freedom ?? {}
  const to = period === undefined || from === undefined ? end : from + period
  // Where the freedom itself stands does not matter for its travel.
  const others = useSame(joint === undefined || index === undefined ? {} : withPosition(wanted, { joint, index }, 0))
  useEffect(() => {
    setSweep([])
    setFailure(undefined)
    if (!shown || !joint || index === undefined || from === undefined || to === undefined) return
    let current = true
    void (async () => {
      const measured: { position: number; at: SwingPosition }[] = []
      for (const position of swingPositions(from, to, sweepCount)) {
        const at = await checks().call(
          'sweep',
          { wanted: withPosition(others, { joint, index }, position), joint },
          shown,
        )
        if (!current) return
        measured.push({ position, at })
        setSweep([...measured])
      }
    })().catch((error: Error) => current && setFailure(error.message))
    return () => {
      current = false
    }
  }, [shown, joint, index, from, to, others])

  const printed = over?.freedom.atRest
  const isMeasured = sweep.length === sweepCount
  const [reach, setReach] = useState<Swing['reach']>()
  useEffect(() => {
    setReach(undefined)
    if (!shown || !isMeasured || !joint || index === undefined || printed === undefined) return
    if (from === undefined || to === undefined) return
    let current = true
    const ask = async (): Promise<void> => {
      const ends = [from, to].map((end) => [printed, end] as const)
      try {
        const found = await checks().call('reach', { wanted: others, joint, index, ends }, shown)
        if (current) setReach(found)
      } catch (error) {
        // What is being moved comes first.
        if (!(error instanceof Overtaken)) throw error
        await new Promise((resolve) => setTimeout(resolve, settling))
        if (current) await ask()
      }
    }
    ask().catch((error: Error) => current && setFailure(error.message))
    return () => {
      current = false
    }
  }, [shown, isMeasured, joint, index, printed, from, to, others])

  return {
    here: here?.of === wanted ? here.answer : undefined,
    sweep,
    smallest: isMeasured ? smallestOf(sweep, ({ gap }) => gap) : undefined,
    ownSmallest: isMeasured ? smallestOf(sweep, ({ own }) => own) : undefined,
    reach,
    failure,
  }
}

function smallestOf(sweep: Swing['sweep'], gapOf: (at: SwingPosition) => number | undefined) {
  let least: { readonly position: number; readonly gap: number } | undefined
  for (const { position, at } of sweep) {
    const gap = gapOf(at)
    if (gap !== undefined && (!least || gap < least.gap - 1e-6)) least = { position, gap }
  }
  return least
}

/** The same object as long as it says the same. */
function useSame(wanted: Wanted): Wanted {
  const told = JSON.stringify(Object.entries(wanted))
  // biome-ignore lint/correctness/useExhaustiveDependencies: what it says is all that counts
  return useMemo(() => wanted, [told])
}
