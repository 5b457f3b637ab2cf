import { fitsCheck } from './bed.ts'
import { bodiesCheck } from './bodies.ts'
import { bridgesCheck } from './bridges.ts'
import { closedCheck } from './closed.ts'
import { crossesCheck } from './crosses.ts'
import type { Check } from './define.ts'
import { flareCheck } from './flare.ts'
import { flexCheck } from './flex.ts'
import { footCheck } from './foot.ts'
import { fusedCheck } from './fused.ts'
import { gapCheck } from './gap.ts'
import { hardwareCheck } from './hardware.ts'
import { islandsCheck } from './islands.ts'
import { joinedCheck } from './joined.ts'
import { leastWallCheck } from './leastWall.ts'
import { leavesCheck } from './leaves.ts'
import { linesCheck } from './lines.ts'
import { loadsCheck } from './loads.ts'
import { necksCheck } from './necks.ts'
import { overhangsCheck } from './overhangs.ts'
import { sheetCheck } from './sheet.ts'
import { slotsCheck } from './slots.ts'
import { springsCheck } from './springs.ts'
import { standsCheck } from './stands.ts'
import { steadyCheck } from './steady.ts'
import { takesCheck } from './takes.ts'
import { wallsCheck } from './walls.ts'
import { withinCheck } from './within.ts'

/** Every check, in the order they are read. A new one is its file and its line here. */
export const checks: readonly Check[] = [
  sheetCheck,
  closedCheck,
  bodiesCheck,
  fitsCheck,
  standsCheck,
  steadyCheck,
  takesCheck,
  hardwareCheck,
  flareCheck,
  gapCheck,
  withinCheck,
  fusedCheck,
  leavesCheck,
  flexCheck,
  springsCheck,
  crossesCheck,
  linesCheck,
  wallsCheck,
  leastWallCheck,
  slotsCheck,
  islandsCheck,
  overhangsCheck,
  bridgesCheck,
  footCheck,
  joinedCheck,
  necksCheck,
  loadsCheck,
]
