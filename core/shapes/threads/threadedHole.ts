import { defineShape, discReach } from '../define.ts'
import { roundFace } from '../faces.ts'
import { type Stretch, turnedHole } from '../hardware/turned.ts'
import { deep, deepened, depthField, reachField, reachWords, type Sunk, sunkSurfaces } from '../sunk.ts'
import {
  impossibleThread,
  sectionOf,
  type ThreadValues,
  tappingHole,
  threadFields,
  threadSizes,
  threadWords,
} from './fields.ts'
import { helixOf, type Limit } from './helical.ts'
import { type Winding, woundSolid } from './wound.ts'

interface Values extends ThreadValues, Sunk {
  readonly way: 'modelled' | 'drilled'
  readonly mouth: 'led' | 'plain'
}

/** A nut’s thread, from a face down. */
export const threadedHole = defineShape({
  kind: 'threaded-hole',
  label: 'threaded hole',
  words: ['thread', 'inside thread', 'female thread', 'tapped hole', 'tapped', 'tap', 'nut thread', 'cap thread'],
  shelf: 'holes',
  icon: 'M3 15 L16 8 L29 13 L16 20 Z M11.5 13 L20.5 12 M11.5 14.8 L20.5 13.8 M13 16.4 L19.5 15.6',
  operation: 'cut',
  seat: 'enters',
  mates: /^(thread|lead-in)$/,
  fields: {
    ...threadFields('slide'),
    way: {
      kind: 'choice',
      label: 'Way',
      default: 'modelled',
      choices: { modelled: 'with its thread', drilled: 'drilled for a tap' },
      meaning: 'With its thread as it is printed, or as the hole that a tap or a screw cuts it into.',
    },
    mouth: {
      kind: 'choice',
      label: 'Mouth',
      default: 'led',
      choices: { led: 'with a lead-in', plain: 'without a lead-in' },
      meaning: 'A bevel of 45° at its mouth, so that the screw finds its way in.',
    },
    reach: reachField,
    depth: depthField,
  },
  quick: ['item', { field: 'depth', with: { reach: 'blind' } }],
  sentence: (v) => [
    'hole for',
    ...threadWords(v),
    ',',
    { field: 'way' },
    ',',
    { field: 'mouth' },
    ',',
    ...reachWords(v),
  ],
  impossible(v) {
    const own = impossibleThread(asIts(v), 'inside')
    if (own) return own
    const { inner, outer, lead } = threadSizes(asIts(v), 'inside')
    const least = Math.ceil(100 * (lead / v.starts + (v.mouth === 'led' ? outer - inner + spare : 0))) / 100
    if (v.reach !== 'through' && v.depth < least)
      return {
        field: 'depth',
        detail: `Too shallow for one whole turn of its ridge: ${least} mm or more.`,
        nearest: { field: 'depth', value: least },
      }
    return undefined
  },
  box: (v, through) => {
    const r = mouthOf(v)
    return { min: [-r, -r, -deep(v, through)], max: [r, r, 0] }
  },
  reach: (v, d) => discReach(bodyOf(v), 0, d),
  surfaces: (v) => {
    const { inner, outer } = radii(v)
    const walls = v.way === 'drilled' ? [roundFace('wall', -inner, v.reach === 'through' ? -1 : -v.depth, 0)] : []
    return sunkSurfaces(v, 2 * inner, 2 * inner, [...walls, { name: 'thread' }, { name: 'lead-in' }], (p, n) => {
      if (Math.abs(n[2]) > 0.999) return undefined
      const isLead = Math.abs(n[2] - Math.SQRT1_2) < 0.05 && p[2] > -(outer - inner + spare) - 1e-3
      if (isLead && v.mouth === 'led') return 'lead-in'
      return v.way === 'drilled' ? undefined : 'thread'
    })
  },
  upTo: deepened,
  isUneven: () => true,
  dimensions: (v) => {
    if (v.reach !== 'blind') return []
    const x = bodyOf(v)
    return [{ kind: 'linear', field: 'depth', from: [x, 0, 0], to: [x, 0, -v.depth], offset: [1, 0, 0] }]
  },
  solid(v, context) {
    if (v.way === 'drilled') return turnedHole(stretchesOf(v, context.through), context)
    return woundSolid(winding(v, deep(v, context.through), context), context)
  },
})

/** A lead-in begins so far outside of the ridges, mm. */
const spare = 0.1

/** What is drilled has no gap: a tap sees to that. */
const asIts = (v: Values): Values => (v.way === 'drilled' ? { ...v, gap: 0, ridges: 'full' } : v)

/** Of the bore that is drilled, or of the thread. */
function radii(v: Values) {
  const { inner, outer } = threadSizes(asIts(v), 'inside')
  return v.way === 'drilled' ? { inner: tappingHole(v) / 2, outer } : { inner, outer }
}

function bodyOf(v: Values): number {
  const { inner, outer } = radii(v)
  return v.way === 'drilled' ? inner : outer
}

function mouthOf(v: Values): number {
  return v.mouth === 'led' ? radii(v).outer + spare : bodyOf(v)
}

function stretchesOf(v: Values, through: number): readonly Stretch[] {
  const { inner } = radii(v)
  const wall = { name: 'wall', across: 2 * inner, to: deep(v, through) }
  if (v.mouth === 'plain') return [wall]
  const mouth = mouthOf(v)
  return [{ name: 'lead-in', across: 2 * mouth, narrows: 2 * inner, to: mouth - inner }, wall]
}

function winding(
  v: Values,
  depth: number,
  { fineness, overlap }: { readonly fineness: number; readonly overlap: number },
): Winding {
  const own = sectionOf(v, 'inside', fineness)!
  // A cone has its diameter at the mouth, and narrows from there on, where it goes far down to a plain bore.
  const section = { ...own, slope: -own.slope }
  const over: Limit[] = v.mouth === 'led' ? [{ z: 0, radius: section.outer + spare, slope: 1 }] : []
  if (section.slope !== 0) over.push({ z: 0, radius: narrowest * section.inner, slope: 0 })
  return helixOf({
    section,
    starts: v.starts,
    hand: v.hand,
    low: -depth,
    high: overlap,
    gauge: 0,
    under: [],
    over,
    fineness,
  })
}
/** Of the cone's own radius at its mouth. */
const narrowest = 0.7
