import type { Joint } from '@makrel/core/document'
import { jointOf } from '@makrel/core/joints'
import type { Frame } from '@makrel/core/place'
import { tried } from '@makrel/core/problems'
import { type SwingPosition, swingPositions } from '@makrel/core/proof'
import { useEffect, useState } from 'react'
import { checks } from '../channel/client.ts'
import { Overtaken } from '../channel/work.ts'
import { useBuild, useWorked } from '../state/build.ts'

/** Positions measured over the whole travel. */
const sweepCount = 25

export interface Swing {
  readonly here: { readonly at: SwingPosition; readonly motions: Readonly<Record<string, Frame>> } | undefined
  /** the positions measured so far, in order */
  readonly sweep: readonly SwingPosition[]
  /** once all are measured */
  readonly smallest: { readonly position: number; readonly gap: number } | undefined
  readonly failure: string | undefined
}

/**
 * Gap and collision where the sliders stand, and then over the whole travel of freedom `over`, one position after another, the
 * others where they stand.
 */
export function useSwing(joint: Joint | undefined, positions: readonly number[], over: number): Swing {
  const shown = useBuild((state) => state.shown)
  const worked = useWorked()
  const [here, setHere] = useState<Swing['here']>()
  const [sweep, setSweep] = useState<readonly SwingPosition[]>([])
  const [failure, setFailure] = useState<string>()
  const id = joint?.id
  const values = id ? worked?.resolved.joints.get(id)?.values : undefined
  const freedoms = joint && values ? (tried(() => jointOf(joint.kind)?.freedoms(values as never)) ?? []) : []
  const stand = JSON.stringify(positions)
  const others = JSON.stringify(positions.map((at, i) => (i === over ? 0 : at)))

  useEffect(() => {
    if (!shown || !id) return
    let current = true
    checks()
      .call('swing', { joint: id, positions: JSON.parse(stand) }, shown)
      .then(
        (answer) => current && setHere(answer),
        (error: Error) => current && !(error instanceof Overtaken) && setFailure(error.message),
      )
    return () => {
      current = false
    }
  }, [shown, id, stand])

  const { from, to: end, period } = freedoms[over] ?? {}
  const to = period === undefined || from === undefined ? end : from + period
  useEffect(() => {
    setSweep([])
    setFailure(undefined)
    if (!shown || !id || from === undefined || to === undefined) return
    let current = true
    void (async () => {
      const measured: SwingPosition[] = []
      for (const at of swingPositions(from, to, sweepCount)) {
        const all = (JSON.parse(others) as number[]).with(over, at)
        const answer = await checks().call('sweep', { joint: id, positions: all }, shown)
        if (!current || !answer) return
        measured.push(answer)
        setSweep([...measured])
      }
    })().catch((error: Error) => current && setFailure(error.message))
    return () => {
      current = false
    }
  }, [shown, id, from, to, over, others])

  const near = sweep.filter((at) => at.gap !== undefined)
  const least = near.reduce<SwingPosition | undefined>(
    (best, at) => (best === undefined || at.gap! < best.gap! - 1e-6 ? at : best),
    undefined,
  )
  const smallest =
    sweep.length === sweepCount && least ? { position: least.positions[over]!, gap: least.gap! } : undefined
  return { here, sweep, smallest, failure }
}
