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
  if (blocks) out.push([0, 'SECTION'], [2, 'BLOCKS'], ...blocksOf(blocks, left), [0, 'ENDSEC'])
  const entities = section('ENTITIES')
  if (!entities) throw new ProblemError('drawing-unreadable', { detail: 'it has no section of entities' })
  left.clear()
  out.push([0, 'SECTION'], [2, 'ENTITIES'], ...entitiesOf(entities, left), [0, 'ENDSEC'], [0, 'EOF'])
  return { text: out.map(([code, value]) => `${code}\n${value}`).join('\n'), left }
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
    groups.push([Number(code), lines[i + 1]!.trim()])
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
    out.push(...(type === 'SPLINE' ? weighed(own) : own))
    if (type !== 'POLYLINE') continue
    // Its corners follow it, and an end that may be missing.
    while (typeOf(i + 1) === 'VERTEX') out.push(...all[++i]!)
    if (typeOf(i + 1) === 'SEQEND') i++
    out.push([0, 'SEQEND'])
  }
  return out
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
    const end = all.findIndex((own, k) => k > i && (own[0]![1] === 'ENDBLK' || own[0]![1] === 'BLOCK'))
    const inner = all.slice(i + 1, end < 0 ? undefined : end).flat()
    // Of the block itself its name and base point.
    out.push(first!, ...rest.filter(([code]) => [2, 10, 20, 30].includes(code)), ...entitiesOf(inner, left), [
      0,
      'ENDBLK',
    ])
  }
  return out
}
