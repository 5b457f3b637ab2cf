import { ProblemError } from '../../problems/index.ts'

/** A group of a DXF file: its code and its value as text. */
type Group = readonly [code: number, value: string]

/** Entities that are lines of a flat drawing, or put such lines somewhere. */
const taken = new Set(['LINE', 'CIRCLE', 'ARC', 'ELLIPSE', 'LWPOLYLINE', 'POLYLINE', 'SPLINE', 'INSERT'])

/**
 * The same file with only what is read of it, in sound order: the parser never comes back from sections, blocks and
 * polylines without an end. `left` counts the entities that were left out, by their type.
 *
 * @throws ProblemError drawing-unreadable, with the line
 */
export function soundGroups(text: string): { readonly text: string; readonly left: ReadonlyMap<string, number> } {
  const groups = groupsOf(text)
  const left = new Map<string, number>()
  const out: Group[] = []
  const units = groups.findIndex(([code, value]) => code === 9 && value === '$INSUNITS')
  if (units >= 0 && groups[units + 1]?.[0] === 70)
    out.push([0, 'SECTION'], [2, 'HEADER'], groups[units]!, groups[units + 1]!, [0, 'ENDSEC'])
  const section = (name: string): readonly Group[] | undefined => {
    const from = groups.findIndex(
      ([code, value], i) => code === 0 && value === 'SECTION' && groups[i + 1]?.[0] === 2 && groups[i + 1]![1] === name,
    )
    if (from < 0) return undefined
    const length = groups
      .slice(from + 2)
      .findIndex(([code, value]) => code === 0 && (value === 'ENDSEC' || value === 'SECTION' || value === 'EOF'))
    return groups.slice(from + 2, length < 0 ? undefined : from + 2 + length)
  }
  const blocks = section('BLOCKS')
  if (blocks)
    append(
      out,
      [
        [0, 'SECTION'],
        [2, 'BLOCKS'],
      ],
      blocksOf(blocks, left),
      [[0, 'ENDSEC']],
    )
  const entities = section('ENTITIES')
  if (!entities) throw new ProblemError('drawing-unreadable', { detail: 'it has no section of entities' })
  left.clear()
  append(
    out,
    [
      [0, 'SECTION'],
      [2, 'ENTITIES'],
    ],
    entitiesOf(entities, left),
    [
      [0, 'ENDSEC'],
      [0, 'EOF'],
    ],
  )
  return { text: out.map(([code, value]) => `${code}\n${value}`).join('\n'), left }
}

/** One list behind the other; a long one does not fit the arguments of a call. */
function append(out: Group[], ...lists: readonly (readonly Group[])[]): void {
  for (const list of lists) for (const group of list) out.push(group)
}

/** Group codes that the format gives a type (DXF Reference, "Group code value types"); no entity is told by any other. */
const typed = [
  [0, 149],
  [160, 179],
  [210, 239],
  [270, 481],
  [999, 1071],
] as const

function isTyped(code: number): boolean {
  return typed.some(([from, to]) => code >= from && code <= to)
}

function groupsOf(text: string): Group[] {
  const lines = text.split(/\r\n|\r|\n/)
  const groups: Group[] = []
  for (let i = 0; i + 1 < lines.length; i += 2) {
    const code = lines[i]!.trim()
    if (!/^-?\d{1,4}$/.test(code)) {
      // Only the very end may be empty.
      if (lines.slice(i).every((line) => line.trim() === '')) break
      throw new ProblemError('drawing-unreadable', {
        detail: `line ${i + 1} should be the number of a group, and is “${code.slice(0, 20)}”`,
      })
    }
    if (isTyped(Number(code))) groups.push([Number(code), lines[i + 1]!.trim()])
  }
  return groups
}

/** Each entity with the groups that belong to it. */
function split(groups: readonly Group[]): (readonly Group[])[] {
  const starts = groups.flatMap(([code], i) => (code === 0 ? [i] : []))
  return starts.map((start, k) => groups.slice(start, starts[k + 1]))
}

function entitiesOf(groups: readonly Group[], left: Map<string, number>): Group[] {
  const out: Group[] = []
  const all = split(groups)
  const typeOf = (i: number) => all[i]?.[0]?.[1]
  for (let i = 0; i < all.length; i++) {
    const own = all[i]!
    const type = own[0]![1]
    if (!taken.has(type)) {
      left.set(type, (left.get(type) ?? 0) + 1)
      continue
    }
    append(out, type === 'SPLINE' ? weighed(own) : type === 'LWPOLYLINE' ? polylined(own) : own)
    if (type !== 'POLYLINE') continue
    // Its corners follow it, and an end that may be missing.
    while (typeOf(i + 1) === 'VERTEX') append(out, all[++i]!)
    if (typeOf(i + 1) === 'SEQEND') i++
    out.push([0, 'SEQEND'])
  }
  return out
}

/** What a polyline says of itself that is read, and what of each corner behind its place. */
const [ofPolyline, ofCorner] = [new Set([8, 38, 43, 70, 210, 220, 230]), new Set([40, 41, 42])]

/**
 * A polyline with as many corners as it has, each with its place first: the parser goes by the number that is stated (group
 * 90), waits for what is missing, and stops at groups that it does not know.
 */
function polylined(groups: readonly Group[]): Group[] {
  const corners: { at: Group[]; more: Group[] }[] = []
  const own: Group[] = []
  for (const group of groups.slice(1)) {
    const [code] = group
    const last = corners.at(-1)
    if (code === 10) corners.push({ at: [group], more: [] })
    else if (code === 20 && last?.at.length === 1) last.at.push(group)
    else if (last && ofCorner.has(code)) last.more.push(group)
    else if (ofPolyline.has(code)) own.push(group)
  }
  const whole = corners.filter(({ at }) => at.length === 2)
  return [groups[0]!, ...own, [90, String(whole.length)], ...whole.flatMap(({ at, more }) => [...at, ...more])]
}

/**
 * A spline with its weights (group 41), which the parser does not read, as the heights of its control points, which a flat
 * drawing has no use for; 0 where there are none.
 */
function weighed(groups: readonly Group[]): Group[] {
  const weights = groups.filter(([code]) => code === 41).map(([, value]) => value)
  const count = groups.filter(([code]) => code === 10).length
  let next = 0
  return groups.flatMap((group): Group[] => {
    const [code] = group
    // Right behind the y of a control point; its own height is left out.
    const ofControl = code === 20 ? [[30, weights.length === count ? weights[next++]! : '0'] as const] : []
    return code === 30 || code === 41 ? [] : [group, ...ofControl]
  })
}

function blocksOf(groups: readonly Group[], left: Map<string, number>): Group[] {
  const out: Group[] = []
  const all = split(groups)
  for (let i = 0; i < all.length; i++) {
    const [first, ...rest] = all[i]!
    if (first![1] !== 'BLOCK') continue
    let end = i + 1
    // Nothing can be made of one without a name.
    const isNamed = rest.some(([code, value]) => code === 2 && value !== '')
    while (end < all.length && !['ENDBLK', 'BLOCK'].includes(all[end]![0]![1])) end++
    // Of the block itself its name and base point.
    if (isNamed)
      append(
        out,
        [first!],
        rest.filter(([code]) => [2, 10, 20, 30].includes(code)),
        entitiesOf(all.slice(i + 1, end).flat(), left),
        [[0, 'ENDBLK']],
      )
    i = end - 1
  }
  return out
}
