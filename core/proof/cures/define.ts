import type { Kernel } from '../../kernel/index.ts'
import type { Built } from '../../solids/index.ts'
import type { Found, FoundCure } from '../define.ts'

export interface CureContext {
  readonly kernel: Kernel
  /** waited for now and then */
  pause(): Promise<void>
}

/** What may put a finding right, the best first; none where it has nothing for it. Each is tried before it is offered. */
export type CureKind = (
  built: Built,
  found: Found,
  context: CureContext,
) => readonly FoundCure[] | Promise<readonly FoundCure[]>
