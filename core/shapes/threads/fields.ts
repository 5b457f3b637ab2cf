import { size } from '../../fields/index.ts'
import {
  type Item,
  metric,
  type ThreadForm,
  type ThreadSection,
  type ThreadSizes,
  threadForms,
  threadSection,
} from '../../hardware/index.ts'
import type { ImpossibleBy } from '../define.ts'
import { gapField, itemField } from '../hardware/fields.ts'

/** What all threads have in common: which one it is, and how it fits. */
export interface ThreadValues {
  readonly size: 'listed' | 'own'
  readonly item: Item
  readonly form: string
  readonly diameter: number
  readonly pitch: number
  readonly gap: number
  readonly starts: number
  readonly hand: 'right' | 'left'
  readonly ridges: 'full' | 'printed'
  readonly flat: number
}

/** @param gap what is asked for unless something else is typed: the name of a fit, or a size */
export function threadFields(gap: string) {
  return {
    size: {
      kind: 'choice',
      label: 'Size',
      default: 'listed',
      choices: { listed: 'a standard', own: 'a custom' },
      meaning: 'A thread from the tables, or one of any diameter and pitch.',
    },
    item: itemField('Thread', ['thread'], 'iso-261 M8'),
    form: {
      kind: 'choice',
      label: 'Form',
      default: 'metric',
      choices: Object.fromEntries(threadForms.map(({ id, label }) => [id, label])),
      meaning: 'What the section of a custom thread looks like.',
    },
    diameter: size('Diameter', '20', 'Nominal diameter of a custom thread: that over the ridges of its screw.'),
    pitch: size('Pitch', '3', 'From one ridge of a custom thread to the next, along the axis.'),
    gap: {
      ...gapField(gap),
      least: 0,
      meaning: 'Gap to its mate, square to the surface all along it: the name of a fit, or a size.',
    },
    starts: {
      kind: 'count',
      label: 'Starts',
      default: '1',
      least: 1,
      most: 12,
      meaning: 'Number of ridges that wind beside each other: each turn goes as many pitches.',
      rare: true,
    },
    hand: {
      kind: 'choice',
      label: 'Hand',
      default: 'right',
      choices: { right: 'right-hand', left: 'left-hand' },
      meaning: 'A right-hand thread is tightened clockwise.',
      rare: true,
    },
    ridges: {
      kind: 'choice',
      label: 'Ridges',
      default: 'full',
      choices: { full: 'in full', printed: 'cut off where they are narrower than' },
      meaning: 'The form as the standard draws it, or with ridges as wide as the printer can lay.',
      rare: true,
    },
    flat: {
      kind: 'length',
      label: 'Width of ridges',
      default: '0.4',
      above: 0,
      most: 100,
      meaning: 'What is printed of a ridge is at least so wide, along the axis.',
    },
  } as const
}

/** "a standard M8 metric thread", or "a custom thread, 60°, ⌀ 63.4, pitch 3". */
export function threadWords(v: ThreadValues) {
  return [
    { field: 'size' },
    ...(v.size === 'listed'
      ? [{ field: 'item' }]
      : ['thread,', { field: 'form' }, ', ⌀', { field: 'diameter' }, ', pitch', { field: 'pitch' }]),
    ...(v.starts === 1 ? [] : ['with', { field: 'starts' }, 'starts']),
    ...(v.hand === 'right' ? [] : [',', { field: 'hand' }]),
    ', gap',
    { field: 'gap' },
    ...(v.ridges === 'full' ? [] : [', ridges', { field: 'ridges' }, { field: 'flat' }]),
  ]
}

export function threadOf({ size: by, item, form, diameter, pitch }: ThreadValues): {
  readonly form: ThreadForm
  readonly sizes: ThreadSizes & { readonly gauge?: number }
} {
  if (by === 'listed') return { form: item.family.form!, sizes: item.sizes as unknown as ThreadSizes }
  return { form: threadForms.find(({ id }) => id === form)!, sizes: { thread: diameter, pitch } }
}

export function sectionOf(v: ThreadValues, side: 'outside' | 'inside', fineness: number): ThreadSection | undefined {
  const { form, sizes } = threadOf(v)
  return threadSection(form, sizes, {
    ...{ side, gap: v.gap, crest: v.ridges === 'printed' ? v.flat : 0 },
    chord: fineness,
  })
}

/** The fineness that sizes are told at, mm. */
const told = 0.004

/** Of a thread that can be: how far in and out it goes, and how far from one turn to the next; mm. */
export function threadSizes(v: ThreadValues, side: 'outside' | 'inside') {
  const section = sectionOf(v, side, told)
  const { sizes, form } = threadOf(v)
  const lead = v.starts * sizes.pitch
  const gauge = sizes.gauge ?? 0
  if (section) return { section, inner: section.inner, outer: section.outer, lead, gauge, form }
  const r = sizes.thread / 2
  return { section, inner: r, outer: r, lead, gauge, form }
}

/** Radius of what is left between the ridges at least, mm. */
const thinnestCore = 0.2

/** Why there is no such thread; undefined where there is. */
export function impossibleThread(
  v: ThreadValues,
  side: 'outside' | 'inside',
): ImpossibleBy<keyof ThreadValues> | undefined {
  const { sizes } = threadOf(v)
  const can = (values: Partial<ThreadValues>) => (sectionOf({ ...v, ...values }, side, told)?.inner ?? 0) > thinnestCore
  if (v.size === 'own' && !can({ gap: 0, ridges: 'full' }))
    return {
      field: 'pitch',
      detail: `Too coarse: a thread of ⌀ ${v.diameter} would have no core left.`,
      nearest: { field: 'pitch', value: mostOf(v.pitch, (pitch) => can({ pitch, gap: 0, ridges: 'full' })) },
    }
  if (!can({ ridges: 'full' }))
    return {
      field: 'gap',
      detail: 'With that gap its ridges no longer reach into those of its mate.',
      nearest: { field: 'gap', value: mostOf(v.gap, (gap) => can({ gap, ridges: 'full' })) },
    }
  if (!can({}))
    return {
      field: 'flat',
      detail: 'Ridges as wide as that leave nothing of the thread.',
      nearest: { field: 'flat', value: mostOf(v.flat, (flat) => can({ flat })) },
    }
  const steepest = Math.PI * sizes.thread
  if (v.starts * sizes.pitch > steepest)
    return {
      field: 'starts',
      detail: 'So many starts make it steeper than 45°, and it would no longer hold by itself.',
      nearest: { field: 'starts', value: Math.max(1, Math.floor(steepest / sizes.pitch)) },
    }
  return undefined
}

/** The largest value up to one that is too large, to the hundredth below. */
function mostOf(too: number, can: (value: number) => boolean): number {
  let [low, high] = [0, too]
  for (let i = 0; i < 30; i++) {
    const middle = (low + high) / 2
    if (can(middle)) low = middle
    else high = middle
  }
  return Math.floor(low * 100) / 100
}

/** Diameter of the hole that a thread is cut into, mm: of one of 60° its diameter less its pitch (ISO 2306), of others what lies between its ridges. */
export function tappingHole(v: ThreadValues): number {
  const { form, sizes } = threadOf(v)
  return form === metric ? sizes.thread - sizes.pitch : form.inside(sizes).root
}
