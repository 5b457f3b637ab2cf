import type { Part } from '@makrel/core/document'
import type { Kernel } from '@makrel/core/kernel'
import { Builder, type BuildOptions, renderMeshOf } from '@makrel/core/solids'

/** Builds that take less than this need no preparing, ms. */
export const quickBuildMs = 40
/** A build that takes longer has run most of what it runs many times, and would keep an edit waiting, ms. */
const longBuildMs = 2500
/** Another turn gains less than it takes. */
const turns = 3

/** Whether a part whose first build took so long, ms, is worth practising. */
export function isWorthPractising(buildMs: number): boolean {
  return buildMs >= quickBuildMs && buildMs <= longBuildMs
}

/**
 * Builds and draws a part some times over, and throws that away, so that the first edits of it find the worker practised. Nothing of it is left,
 * and it stops as a build does.
 * @throws BuildAborted
 */
export async function practise(kernel: Kernel, part: Part, options: BuildOptions): Promise<number> {
  let done = 0
  for (; done < turns; done++) {
    const builder = new Builder(kernel)
    try {
      const built = await builder.build(part, options)
      for (const piece of built.pieces) renderMeshOf(built, piece)
    } finally {
      builder.clear()
    }
  }
  return done
}
