import { size } from '../../fields/index.ts'
import { defineShape } from '../define.ts'
import { heightBeside } from '../dimensions.ts'
import { cloudBox, cloudOf, cloudReach } from '../drawn/cloud.ts'
import { circleEdge } from '../edges.ts'
import { bottomFace, topFace } from '../faces.ts'
import { surfacesOf } from '../surfaces.ts'
import { impossibleThread, sectionOf, type ThreadValues, threadFields, threadSizes, threadWords } from './fields.ts'
import { helixOf, type Limit } from './helical.ts'
import { cloudFineness, pointsOf, type Winding, woundSolid } from './wound.ts'

interface Values extends ThreadValues {
  readonly height: number
  readonly end: 'led' | 'plain'
  readonly foot: 'plain' | 'led' | 'run'
}

/** A screw’s thread about the z axis. */
export const screwThread = defineShape({
  kind: 'screw-thread',
  label: 'screw thread',
  words: ['thread', 'outside thread', 'male thread', 'threaded rod', 'threaded stud', 'bolt thread', 'neck', 'spindle'],
  shelf: 'machine',
  icon: 'M11 3 H21 V21 H11 Z M9 7 L23 5 M9 11 L23 9 M9 15 L23 13 M9 19 L23 17',
  operation: 'add',
  seat: 'stands',
  mates: /^thread$/,
  fields: {
    ...threadFields('0'),
    height: size('Length', '20', 'Length along its axis.'),
    end: {
      kind: 'choice',
      label: 'End',
      default: 'led',
      choices: { led: 'led in', plain: 'cut off square' },
      meaning: 'Led in, its ridges begin at a bevel of 45°, so that it finds its way into its mate.',
    },
    foot: {
      kind: 'choice',
      label: 'Foot',
      default: 'plain',
      choices: { plain: 'down to its foot', led: 'led in at its foot as well', run: 'running out before its foot' },
      meaning: 'Running out, its grooves become shallow before its foot, where a screw breaks first.',
    },
  },
  quick: ['item', 'height'],
  sentence: (v) => [
    'screw with',
    ...threadWords(v),
    ',',
    { field: 'height' },
    'long, its end',
    { field: 'end' },
    ',',
    { field: 'foot' },
  ],
  impossible(v) {
    const own = impossibleThread(v, 'outside')
    if (own) return own
    const { inner, outer, lead, form, gauge } = threadSizes(v, 'outside')
    const ends = (outer - inner + spare) * ((v.end === 'led' ? 1 : 0) + (v.foot === 'plain' ? 0 : 1))
    const least = Math.ceil(100 * (lead / v.starts + ends)) / 100
    if (v.height < least)
      return {
        field: 'height',
        detail: `Too short for one whole turn of its ridge with its ends: ${least} mm or more.`,
        nearest: { field: 'height', value: least },
      }
    const most = gauge + (2 * (inner - spare)) / (form.taper || 1e-9)
    const thinnest = inner - ((form.taper ?? 0) / 2) * Math.max(0, v.height - gauge)
    if (thinnest < spare)
      return { field: 'height', detail: `Its cone comes to a point before that: ${Math.floor(most)} mm at most.` }
    return undefined
  },
  box: (v) => cloudBox(cloud(v)),
  reach: (v, d) => cloudReach(cloud(v), d),
  surfaces: (v) => {
    const { inner, outer } = threadSizes(v, 'outside')
    const across = (isPlain: boolean) => 2 * (isPlain ? inner : inner - spare)
    return surfacesOf(
      [
        topFace(v.height, across(v.end === 'plain'), across(v.end === 'plain'), 'end'),
        bottomFace(
          0,
          v.foot === 'run' ? 2 * outer : across(v.foot === 'plain'),
          v.foot === 'run' ? 2 * outer : across(v.foot === 'plain'),
          'foot',
        ),
        { name: 'thread' },
      ],
      {
        at: ([, , z], n) =>
          Math.abs(n[2]) > 0.999 && (z < 1e-3 || z > v.height - 1e-3) ? (n[2] > 0 ? 'end' : 'foot') : 'thread',
      },
    )
  },
  edges: (v) => [circleEdge('thread', 2 * threadSizes(v, 'outside').outer)],
  isUneven: () => true,
  dimensions: (v) => [heightBeside([-threadSizes(v, 'outside').outer, 0], v.height)],
  solid: (v, context) => woundSolid(winding(v, context.fineness), context),
})

/** A bevel begins so far inside of the roots, mm. */
const spare = 0.1

function winding(v: Values, fineness: number): Winding {
  const section = sectionOf(v, 'outside', fineness)!
  const { gauge, form } = threadSizes(v, 'outside')
  const [low, high] = [0, v.height]
  // On a cone the gauge plane is so far from the end of the pipe.
  const plane = form.taper ? v.height - gauge : 0
  const root = (z: number) => section.inner + section.slope * (plane - z) - spare
  const under: Limit[] = []
  if (v.end === 'led') under.push({ z: high, radius: root(high), slope: -1 })
  if (v.foot === 'led') under.push({ z: low, radius: root(low), slope: 1 })
  const over: Limit[] =
    v.foot === 'run' ? [{ z: low, radius: section.outer + section.slope * (plane - low), slope: -1 }] : []
  return helixOf({ section, starts: v.starts, hand: v.hand, low, high, gauge: plane, under, over, fineness })
}

const cloud = (v: Values) => cloudOf(v, () => pointsOf(winding(v, cloudFineness), cloudFineness, false))
