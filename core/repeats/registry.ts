import { registered } from '../fields/index.ts'
import type { RepeatDefinition } from './define.ts'
import { grid } from './grid.ts'
import { mirror } from './mirror.ts'
import { path } from './path.ts'
import { ring } from './ring.ts'
import { row } from './row.ts'

/** Every way to repeat a step. A new one is its file and its line here. */
export const repeats = [row, grid, ring, path, mirror] as const satisfies readonly RepeatDefinition[]

export const repeatOf = registered<RepeatDefinition>(repeats)
