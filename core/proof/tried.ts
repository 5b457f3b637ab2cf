import { applyEdit, type Part, partedFrom } from '../document/index.ts'
import type { Kernel } from '../kernel/index.ts'
import { fieldKindOf, printPoseOf } from '../planning/index.ts'
import { BuildAborted, type Built, motionsIn, movedBy, namedBorders, type Posed } from '../solids/index.ts'
import type { CureContext } from './cures/define.ts'
import { cureKinds } from './cures/registry.ts'
import type { Found, FoundCure } from './define.ts'
import type { Clause } from './phrase.ts'

/** Looking for cures ends after so many ms: what was not tried by then is not offered. */
const mostTime = 15_000

/**
 * Findings with cures for those that are open and have something to try: each is built, the finding has to be gone, and nothing else may come of it that
 * was not there before. The first that holds is offered.
 */
export async function withCures(
  built: Built,
  findings: readonly Found[],
  build: (part: Part) => Promise<Built>,
  prove: (
    built: Built,
    first: string,
    isGone: (found: readonly Found[]) => boolean,
  ) => Promise<readonly Found[] | undefined>,
  isOpen: (found: Found) => boolean,
  context: CureContext,
): Promise<readonly Found[]> {
  const started = performance.now()
  const { part } = built.resolved
  const holds = async (found: Found, { edits, free }: FoundCure) => {
    const after = await triedOut(async () => {
      const changed = await build(edits.reduce((so, edit) => applyEdit(so, edit, fieldKindOf), part))
      // What is still there after all needs no other check.
      const isGone = (own: readonly Found[]) => isCured(found, findings, own)
      if (!isAsWhole(built, changed, free)) return undefined
      const posed = asPrinted(context.kernel, changed)
      try {
        return await prove(posed.built, found.check, isGone)
      } finally {
        posed.release()
      }
    })
    return after !== undefined && isCured(found, findings, after)
  }
  const out = new Map<Found, Found>()
  // The gravest first: time may run out.
  for (const found of [...findings].sort((a, b) => gravity.indexOf(a.rank) - gravity.indexOf(b.rank))) {
    if (found.rank === 'pass' || !isOpen(found)) continue
    const tried: Clause[] = []
    let cure: FoundCure | undefined
    for (const waysOut of cureKinds) {
      if (cure || performance.now() - started > mostTime) break
      for (const each of await waysOut(built, found, context)) {
        if (cure || performance.now() - started > mostTime) break
        if (await holds(found, each)) cure = each
        else tried.push(each.label)
      }
    }
    if (cure) out.set(found, { ...found, cures: [...(found.cures ?? []), cure] })
    else if (tried.length > 0) out.set(found, { ...found, tried })
  }
  return findings.map((found) => out.get(found) ?? found)
}

/** As it is printed, if a change has it printed in a pose. */
function asPrinted(kernel: Kernel, built: Built): Posed {
  const pose = printPoseOf(built.resolved.part)
  return pose ? movedBy(kernel, built, motionsIn(kernel, built, pose)) : { built, release: () => undefined }
}

const gravity: readonly Found['rank'][] = ['fault', 'warning', 'advice']

/**
 * Whether a change breaks through nothing, and closes nothing: as many openings go through each piece as before (Euler: corners and triangles
 * less edges), and no step borders on a face of another one that was there and that it kept away from.
 */
function isAsWhole(before: Built, after: Built, free: FoundCure['free']): boolean {
  if (free === 'all') return true
  const openings = ({ pieces }: Built) =>
    pieces.map(({ solid }) => {
      const { triangles } = solid?.mesh() ?? { triangles: new Uint32Array() }
      return new Set(triangles).size - triangles.length / 6
    })
  const borders = ({ pieces, plan }: Built) => pieces.map((piece) => namedBorders(piece, plan))
  if (openings(before).join() !== openings(after).join()) return false
  if (free === 'borders') return true
  const known = borders(before)
  return borders(after).every((own, i) =>
    [...own].every(([face, ids]) => [...ids].every((id) => known[i]!.get(face)?.has(id) ?? true)),
  )
}

/** What cannot be built is no cure. */
async function triedOut<T>(work: () => Promise<T | undefined>): Promise<T | undefined> {
  try {
    return await work()
  } catch (error) {
    if (error instanceof BuildAborted) throw error
    return undefined
  }
}

/** Whether a finding is gone, and nothing is told of anything that was not told of it before as gravely, or is worse than it was. */
function isCured(found: Found, before: readonly Found[], after: readonly Found[]): boolean {
  const isOfPieces = found.about.every(({ kind }) => kind === 'piece')
  const isIt = (each: Found) =>
    each.check === found.check &&
    each.about.some(
      ({ id, kind }) => (isOfPieces || kind !== 'piece') && found.about.some((own) => own.id === partedFrom(id)),
    )
  const graver = ({ rank }: Found) => gravity.indexOf(rank)
  const isSame = (one: Found, other: Found) =>
    one.check === other.check && JSON.stringify(idsOf(one)) === JSON.stringify(idsOf(other))
  const isNoWorse = (each: Found) =>
    before.some((was) => {
      if (was.rank === 'pass' || !isSame(was, each)) return false
      return graver(each) > graver(was) || (was.code === each.code && (each.by ?? 0) <= 1.001 * (was.by ?? 0))
    })
  return after.every((each) => each.rank === 'pass' || (isNoWorse(each) && !isIt(each)))
}

function idsOf({ about }: Found): readonly string[] {
  // What is told of both halves of a piece was told of it.
  return [...new Set(about.map(({ id }) => partedFrom(id)))].sort()
}
