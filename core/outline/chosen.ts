import { type Arrangement, Drawn, type Face, innerPointOf, isWithin, outlineOf } from '../plane/index.ts'
import { isFilled, type SolvedOutline } from './solved.ts'

/** What some regions of an outline come to. */
export interface ChosenRegions {
  /** undefined where the drawing contradicts itself */
  readonly drawn: Drawn | undefined
  /** keys that no region has (any more) */
  readonly gone: readonly string[]
}

const known = new WeakMap<Arrangement, Map<string, ChosenRegions>>()

/** The drawing of an outline with these of its regions alone, whether they are filled or not, and nothing open. */
export function withRegions(solved: SolvedOutline, keys: readonly string[]): ChosenRegions {
  const { arrangement, drawn: whole } = solved
  const own = known.get(arrangement) ?? new Map<string, ChosenRegions>()
  known.set(arrangement, own)
  // What it is made from must be the same thing from build to build, as long as nothing changes.
  const key = [whole?.key ?? '', ...keys].join('|')
  const found = own.get(key)
  if (found) return found
  const there = new Set(arrangement.faces.map((face) => face.key))
  const wanted = new Set(keys)
  const drawn =
    whole &&
    new Drawn({
      key,
      name: whole.name,
      loops: outlineOf(
        arrangement,
        arrangement.faces.filter((face) => wanted.has(face.key)),
      ),
      open: [],
      lines: whole.lines,
      sharp: whole.sharp,
    })
  const chosen = { drawn, gone: keys.filter((each) => !there.has(each)) }
  own.set(key, chosen)
  return chosen
}

/**
 * What has become of regions whose curves were cut, joined or drawn anew: for each of `keys` that no region has any more,
 * the regions that now lie where it lay. One that fell apart has become both halves, two that grew together the whole.
 */
export function regionsFollowed(
  before: readonly Face[],
  after: readonly Face[],
  keys: Iterable<string>,
): ReadonlyMap<string, readonly Face[]> {
  const now = new Map(after.map((face) => [face.key, face]))
  const was = new Map(before.map((face) => [face.key, face]))
  const followed = new Map<string, readonly Face[]>()
  for (const key of keys) {
    const old = was.get(key)
    if (!old || now.has(key)) continue
    const at = innerPointOf(old)
    const fresh = after.filter((face) => isWithin(old, innerPointOf(face)) || isWithin(face, at))
    if (fresh.length > 0) followed.set(key, fresh)
  }
  return followed
}

/** Which regions differ from what their nesting says, once the drawing of `solved` is another one: each is filled as it was. */
export function toggledAfter(
  { outline, arrangement }: SolvedOutline,
  after: readonly Face[],
  toggled: readonly string[] = outline.toggled,
): readonly string[] {
  const before = new Map(arrangement.faces.map((face) => [face.key, face]))
  const followed = regionsFollowed(arrangement.faces, after, toggled)
  const set = new Set(toggled)
  return [
    ...new Set(
      toggled.flatMap((key) => {
        const fresh = followed.get(key)
        if (!fresh) return [key]
        const filled = isFilled(before.get(key)!, set)
        return fresh.filter((face) => isFilled(face, new Set()) !== filled).map((face) => face.key)
      }),
    ),
  ]
}
