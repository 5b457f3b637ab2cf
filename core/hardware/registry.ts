import type { Family } from './define.ts'
import { bearing } from './families/bearing.ts'
import { boreRing } from './families/boreRing.ts'
import { bottleNeck } from './families/bottleNeck.ts'
import { buttonScrew } from './families/buttonScrew.ts'
import { buttressThread } from './families/buttressThread.ts'
import { clevisPin } from './families/clevisPin.ts'
import { countersunkScrew } from './families/countersunkScrew.ts'
import { discMagnet } from './families/discMagnet.ts'
import { dowelPin } from './families/dowelPin.ts'
import { flangedBearing } from './families/flangedBearing.ts'
import { flangeNut } from './families/flangeNut.ts'
import { heatInsert } from './families/heatInsert.ts'
import { hexNut } from './families/hexNut.ts'
import { hexScrew } from './families/hexScrew.ts'
import { inchNut } from './families/inchNut.ts'
import { inchSocketScrew } from './families/inchSocketScrew.ts'
import { lockNut } from './families/lockNut.ts'
import { metricThread } from './families/metricThread.ts'
import { miniatureBearing } from './families/miniatureBearing.ts'
import { oRing } from './families/oRing.ts'
import { parallelKey } from './families/parallelKey.ts'
import { pipeThread } from './families/pipeThread.ts'
import { plainBush } from './families/plainBush.ts'
import { ringMagnet } from './families/ringMagnet.ts'
import { roundThread } from './families/roundThread.ts'
import { setScrew } from './families/setScrew.ts'
import { shaftRing } from './families/shaftRing.ts'
import { socketScrew } from './families/socketScrew.ts'
import { splitPin } from './families/splitPin.ts'
import { springPin } from './families/springPin.ts'
import { springWasher } from './families/springWasher.ts'
import { squareNut } from './families/squareNut.ts'
import { taperPipeThread } from './families/taperPipeThread.ts'
import { tappingScrew } from './families/tappingScrew.ts'
import { thinNut } from './families/thinNut.ts'
import { thrustBearing } from './families/thrustBearing.ts'
import { trapezoidalThread } from './families/trapezoidalThread.ts'
import { unifiedThread } from './families/unifiedThread.ts'
import { washer } from './families/washer.ts'
import { wideWasher } from './families/wideWasher.ts'
import { woodScrew } from './families/woodScrew.ts'

/** Every table of items. A new one is its file and its line here. */
export const families: readonly Family[] = [
  socketScrew,
  hexScrew,
  countersunkScrew,
  buttonScrew,
  inchSocketScrew,
  setScrew,
  tappingScrew,
  woodScrew,
  hexNut,
  thinNut,
  lockNut,
  flangeNut,
  squareNut,
  inchNut,
  washer,
  wideWasher,
  springWasher,
  heatInsert,
  bearing,
  miniatureBearing,
  flangedBearing,
  thrustBearing,
  plainBush,
  dowelPin,
  springPin,
  clevisPin,
  splitPin,
  parallelKey,
  shaftRing,
  boreRing,
  discMagnet,
  ringMagnet,
  oRing,
  metricThread,
  unifiedThread,
  pipeThread,
  taperPipeThread,
  trapezoidalThread,
  buttressThread,
  roundThread,
  bottleNeck,
]
