import { applyEdit, type Part } from '../document/index.ts'
import { fieldKindOf } from '../planning/index.ts'
import { BuildAborted, type Built } from '../solids/index.ts'
import type { Found, FoundCure } from './define.ts'
import { resizings } from './resized.ts'

/** Looking for cures ends after so many ms: what was not tried by then is not offered. */
const mostTime = 6000

/**
 * Findings with cures for those that have something to try: each is built, the finding has to be gone, and nothing else may come of it that
 * was not there before. The first that holds is offered.
 */
export async function withCures(
  built: Built,
  findings: readonly Found[],
  build: (part: Part) => Promise<Built>,
  prove: (built: Built) => Promise<readonly Found[]>,
): Promise<readonly Found[]> {
  const started = performance.now()
  const { part } = built.resolved
  const holds = async (found: Found, { edits }: FoundCure) => {
    const after = await triedOut(async () =>
      prove(await build(edits.reduce((so, edit) => applyEdit(so, edit, fieldKindOf), part))),
    )
    return after !== undefined && isCured(found, findings, after)
  }
  const out: Found[] = []
  for (const found of findings) {
    let cure: FoundCure | undefined
    for (const each of waysOut(built, found)) {
      if (cure || performance.now() - started > mostTime) break
      if (await holds(found, each)) cure = each
    }
    out.push(cure ? { ...found, cures: [...(found.cures ?? []), cure] } : found)
  }
  return out
}

/** What may be tried to put a finding right. */
function waysOut(built: Built, found: Found): readonly FoundCure[] {
  const { resize } = found
  if (!resize) return []
  return [resize, ...(resize.orTo === undefined ? [] : [{ ...resize, to: resize.orTo }])].flatMap((each) =>
    resizings(built, found, each),
  )
}

/** What cannot be built is no cure. */
async function triedOut<T>(work: () => Promise<T>): Promise<T | undefined> {
  try {
    return await work()
  } catch (error) {
    if (error instanceof BuildAborted) throw error
    return undefined
  }
}

/** Whether a finding is gone, and nothing is told of anything that was not told of it before, or is worse than it was. */
function isCured(found: Found, before: readonly Found[], after: readonly Found[]): boolean {
  const isIt = ({ check, about }: Found) =>
    check === found.check && about.some(({ id, kind }) => kind !== 'piece' && found.about.some((own) => own.id === id))
  const called = ({ check, code, about }: Found) => JSON.stringify([check, code, about.map(({ id }) => id).sort()])
  const known = new Map<string, number>()
  for (const each of before) known.set(called(each), Math.max(known.get(called(each)) ?? 0, each.by ?? 0))
  const isNoWorse = (each: Found) => (each.by ?? 0) <= 1.001 * (known.get(called(each)) ?? -1)
  return after.every((each) => each.rank === 'pass' || (isNoWorse(each) && !isIt(each)))
}
