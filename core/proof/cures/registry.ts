import { bevelled } from './bevelled.ts'
import { covered } from './covered.ts'
import type { CureKind } from './define.ts'
import { drained } from './drained.ts'
import { filleted } from './filleted.ts'
import { lain } from './lain.ts'
import { lettered } from './lettered.ts'
import { loosened } from './loosened.ts'
import { mouthed } from './mouthed.ts'
import { parted } from './parted.ts'
import { resized } from './resized.ts'
import { roofed } from './roofed.ts'
import { shifted } from './shifted.ts'
import { sunken } from './sunken.ts'
import { webbed } from './webbed.ts'

/** Every kind of cure, in the order they are tried. A new one is its file and its line here. */
export const cureKinds: readonly CureKind[] = [
  loosened,
  resized,
  shifted,
  lettered,
  sunken,
  filleted,
  drained,
  roofed,
  covered,
  bevelled,
  mouthed,
  webbed,
  lain,
  parted,
]
