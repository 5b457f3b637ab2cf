import type { CureKind } from './define.ts'
import { resized } from './resized.ts'
import { roofed } from './roofed.ts'
import { webbed } from './webbed.ts'

/** Every kind of cure, in the order they are tried. A new one is its file and its line here. */
export const cureKinds: readonly CureKind[] = [resized, roofed, webbed]
