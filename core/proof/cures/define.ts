import type { Built } from '../../solids/index.ts'
import type { Found, FoundCure } from '../define.ts'

/** What may put a finding right, the best first; none where it has nothing for it. Each is tried before it is offered. */
export type CureKind = (built: Built, found: Found) => readonly FoundCure[]
