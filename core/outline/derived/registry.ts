import { registered } from '../../fields/index.ts'
import { corner } from './corner.ts'
import type { DerivedDefinition } from './define.ts'
import { mirror } from './mirror.ts'
import { offset } from './offset.ts'
import { ring } from './ring.ts'
import { row } from './row.ts'

/** Everything that can follow from drawn curves. A new one is its file and its line here. */
export const derivedKinds = [corner, offset, mirror, row, ring] as const satisfies readonly DerivedDefinition[]

export const derivedOf = registered<DerivedDefinition>(derivedKinds)
