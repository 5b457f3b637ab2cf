import { centreOf, massTogether, noMass } from '@makrel/core/mesh'
import type { Vec3 } from '@makrel/core/place'
import { brokenMeasures, sinkOntoRound, type WorkedPart } from '@makrel/core/planning'
import { type Problem, problem } from '@makrel/core/problems'
import type { Finding } from '@makrel/core/proof'
import { formatLengthWithUnit, type PartUnit } from '@makrel/core/units'
import { useMemo } from 'react'
import { useShallow } from 'zustand/shallow'
import { useBuild, workedOf } from './build.ts'
import { usePart } from './part.ts'
import { handOffWord, proofWord } from './proving.ts'

/** What the page reads of the part that is built. */

/** What all pieces together come to. `settled` false while it is measured: by what the flats were off by last. */
export interface WholeFigures {
  /** mm³ */
  readonly volume: number
  readonly centre: Vec3 | undefined
  /** how far the volume may be off, mm³; undefined where nothing tells */
  readonly off: number | undefined
  readonly exact: boolean
  readonly settled: boolean
}

/** The part as it can be built on: where measures of it cannot be computed just now, as it is shown meanwhile. */
export function standingIn(worked: WorkedPart): WorkedPart {
  const { shown } = useBuild.getState()
  return shown?.id === worked.resolved.part.id && brokenMeasures(worked.problems) ? workedOf(shown) : worked
}

/** Why the part as it is drawn could not be measured; undefined where it was, or is being. */
export function useUnmeasured(): string | undefined {
  return useBuild(({ unmeasured, answered }) => (unmeasured && unmeasured.of === answered ? unmeasured.why : undefined))
}

export function useFigures(): WholeFigures | undefined {
  const pieces = useBuild((state) => state.pieces)
  const figures = useBuild((state) => state.figures)
  return useMemo(() => {
    const solid = pieces.filter(({ bounds }) => bounds)
    if (solid.length === 0 || solid.some(({ id }) => !figures[id])) return undefined
    const settled = solid.every(({ id, key }) => figures[id]!.key === key)
    const whole = solid.reduce((sum, { id }) => massTogether(sum, figures[id]!.mass), noMass)
    const volume = solid.reduce((sum, piece) => {
      const { mass, faceted } = figures[piece.id]!
      return sum + (faceted === 0 ? piece.volume : piece.volume * (mass.volume / faceted))
    }, 0)
    return {
      volume: settled ? whole.volume : volume,
      centre: settled ? centreOf(whole) : undefined,
      off: solid.every(({ id }) => figures[id]!.error)
        ? solid.reduce((sum, { id }) => sum + figures[id]!.error!.volume, 0)
        : undefined,
      exact: solid.every(({ id }) => figures[id]!.way === 'exact'),
      settled,
    }
  }, [pieces, figures])
}

/** The part's expressions and places, computed on the page: they are there with the very keystroke. */
export function useWorked(): WorkedPart | undefined {
  const part = usePart((state) => state.part)
  // An answer that tells nothing new is no reason to write the sheet anew, nor is what else a proof finds that is under way.
  const worked = useBuild(() => part && workedOf(part))
  const built = useBuild(useShallow((state) => state.problems))
  const apart = useBuild(
    useShallow(({ proving }) => (proving && proving.of === part ? foundApart(proving.findings) : [])),
  )
  // Where the solid is on its way, so is what stands on it.
  const isWaiting = useBuild(({ answered }) => answered !== part && worked?.problems.some(isOfUnbuilt))
  return useMemo(() => {
    if (!worked) return undefined
    const told = isWaiting ? worked.problems.filter((each) => !isOfUnbuilt(each)) : worked.problems
    const { unit } = worked.resolved.part
    return { ...worked, problems: [...told, ...built, ...apartProblems(apart, worked.plan, unit)] }
  }, [worked, built, apart, isWaiting])
}

const isOfUnbuilt = ({ code }: Problem) => code === 'reference-unbuilt'

/** The steps that the proof found to touch nothing, or to cut their piece apart. */
function foundApart(findings: readonly Finding[]): readonly string[] {
  return findings
    .filter(({ code }) => code === 'bodies-apart' || code === 'bodies-cut')
    .flatMap(({ about }) => about.filter(({ kind }) => kind === 'step').map(({ id }) => id))
}

/** That they touch nothing, or cut their piece apart, told on their lines. */
function apartProblems(apart: readonly string[], plan: WorkedPart['plan'], unit: PartUnit): Problem[] {
  return apart.map((id) => {
    if (plan.operands.get(id)?.operation.material === 'less')
      return problem('cut-parts', ['steps', id], {}, { rank: 'warning' })
    const sink = sinkOntoRound(plan, id)
    return sink === undefined
      ? problem('add-apart', ['steps', id], {}, { rank: 'warning' })
      : problem('touches-along-line', ['steps', id], { sink: formatLengthWithUnit(sink, unit) }, { rank: 'warning' })
  })
}

/** The proof of the part as it is in one word, for the header and the title block. */
export function useHandOffWord(): string {
  const part = usePart((state) => state.part)
  return useBuild(({ proving }) => handOffWord(proving, part))
}

export function useProofWord(): ReturnType<typeof proofWord> {
  const part = usePart((state) => state.part)
  return useBuild(useShallow(({ proving }) => proofWord(proving, part)))
}
