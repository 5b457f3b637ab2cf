import type { Kernel } from '@makrel/core/kernel'
import { type Finding, type ProofOptions, proofOf } from '@makrel/core/proof'
import type { Built } from '@makrel/core/solids'
import type { CheckBuilds } from './checkBuilds.ts'
import type { Turn } from './serving.ts'

/** The proof of what was built, once its first findings are there after all else that is asked for meanwhile. */
export function provedOf(
  kernel: Kernel,
  builds: CheckBuilds,
  built: Built,
  { signal, pause, giveWay, progress }: Turn,
  options: Pick<ProofOptions, 'twice' | 'memory' | 'build'>,
): Promise<readonly Finding[]> {
  let done = 0
  return builds.holding(() =>
    proofOf(kernel, built, {
      ...options,
      signal,
      pause: () => (done > 0 ? giveWay() : pause()),
      progress: (checked, of, found) => {
        done = checked
        progress(checked, of, found)
      },
    }),
  )
}
