import { registered } from '@makrel/core/fields'
import { arc } from './arc.ts'
import { bend } from './bend.ts'
import { centreArc } from './centreArc.ts'
import { circle } from './circle.ts'
import type { CurveTool, Tool } from './define.ts'
import { ellipse } from './ellipse.ts'
import { letters } from './letters.ts'
import { line } from './line.ts'
import { point } from './point.ts'
import { polygon } from './polygon.ts'
import { middleRectangle, rectangle } from './rectangle.ts'
import { slot } from './slot.ts'
import { near, through } from './splines.ts'

/** Every tool that draws. A new one is its file and its line here. */
export const tools = [
  line,
  bend,
  arc,
  centreArc,
  through,
  near,
  rectangle,
  middleRectangle,
  circle,
  ellipse,
  polygon,
  slot,
  letters,
  point,
] as const satisfies readonly Tool[]

export const toolOf = registered<Tool>(tools)

/** Those that work on what is there. */
export const curveTools: readonly CurveTool[] = [
  {
    kind: 'select',
    label: 'select',
    shelf: 'change',
    key: 'v',
    icon: 'M4 2 L12 9 H8 L10 14 L8 15 L6 10 L4 12 Z',
    says: '',
  },
  {
    kind: 'trim',
    label: 'trim',
    shelf: 'change',
    key: 'x',
    icon: 'M2 13 L6 9 M10 5 L14 1 M3 3 L13 13',
    says: 'click the stretch of a curve to remove',
  },
  {
    kind: 'extend',
    label: 'extend',
    shelf: 'change',
    key: 'w',
    icon: 'M2 13 L7 8 M8.5 6.5 L9.5 5.5 M11 4 L12 3 M14 1 V9',
    says: 'click a line, arc or open curve near the end to extend to the next curve',
  },
  {
    kind: 'split',
    label: 'split',
    shelf: 'change',
    key: 'k',
    icon: 'M2 13 L7 8 M9 6 L14 1 M5.5 5.5 L10.5 10.5',
    says: 'click a curve where you want it split',
  },
  {
    kind: 'regions',
    label: 'take regions',
    shelf: 'change',
    key: 'g',
    icon: 'M2 3 H14 V13 H2 Z M4 5 L8 9 M4 9 L7 12 M7 5 L12 10 M10 5 L12 7',
    says: 'click a region to take it, or to leave it out',
  },
  {
    kind: 'takeover',
    label: 'pick up edges',
    shelf: 'change',
    key: 'f',
    icon: 'M2 14 V2 H14 M5 14 V5 H14 M9 9 H9.2 M13 13 H13.2',
    says: 'click an edge, corner or middle of the part to pick it up; it stays with the part',
  },
]
