import { size } from '../fields/index.ts'
import type { Solid } from '../kernel/index.ts'
import { skinEdges } from '../mesh/index.ts'
import { ProblemError } from '../problems/index.ts'
import { bySurface, deeperIn, grownBy, openedAt, type Thin, thinIn, type Walls } from '../walls/index.ts'
import { defineTreatment, type TreatmentWork } from './define.ts'
import { facesCalled, fewListed, shortName } from './faceWords.ts'

/** What stands becomes a wall round a cavity. */
export const hollow = defineTreatment({
  kind: 'hollow',
  label: 'Hollow',
  hint: 'to a wall, closed or open',
  look: 'changed',
  material: 'less',
  acts: 'alone',
  words: ['shell', 'hollow out', 'wall thickness', 'thin wall', 'case', 'cavity', 'empty'],
  offer: (face) => `Hollow, open at its ${face}`,
  quick: ['thick'],
  icon: 'M4 4V20H28V4M8 4V16H24V4M4 4H8M24 4H28',
  leader: { field: 'thick', form: 'leader' },
  fields: {
    thick: size('Wall', '2', 'How thick the wall is everywhere.'),
    side: {
      kind: 'choice',
      label: 'Where the wall lies',
      default: 'in',
      choices: { in: 'inside', out: 'outside', half: 'half inside, half outside' },
      meaning:
        'Inside, so that the outside stays as it is; outside, so that the cavity is what was drawn; or half and half.',
      rare: true,
    },
    open: {
      kind: 'faces',
      label: 'Open at',
      default: '',
      meaning: 'Faces left open, without a wall.',
    },
    other: {
      kind: 'faceSizes',
      label: 'Other walls',
      default: '',
      meaning: 'Faces whose wall has another thickness.',
      rare: true,
    },
  },
  sentence: () => [
    'to a wall of',
    { field: 'thick' },
    { field: 'side' },
    ', open at',
    { field: 'open' },
    ', but',
    { field: 'other' },
  ],
  apply({ thick, side, open, other }, work) {
    const { solid, miss, advise } = work
    const named = work.named(solid)
    for (const name of [...open, ...other.map(({ face }) => face)])
      if (facesCalled(named, name).length === 0) miss('face-not-here', { where: name.face ?? 'This step' })
    const keysOf = (name: (typeof open)[number]) => facesCalled(named, name).map((face) => named.faces[face]!.key)
    const opened = new Set(open.flatMap(keysOf))
    const own = new Map(other.flatMap(({ face, size: mm }) => keysOf(face).map((key) => [key, mm] as const)))
    const inner = side === 'in' ? 1 : side === 'half' ? 0.5 : 0
    let made: Hollowed | undefined
    let folds = 0
    // Where hundreds of bodies are cut some may only just touch others, and leave next to nothing between: a little more undoes that.
    for (const more of slightlyMore) {
      made = hollowed(work, inner, thick, opened, {
        size: (key) => (opened.has(key) ? 0 : (own.get(key) ?? thick) + more * uneven(key)),
        sizes: JSON.stringify([thick, [...opened], [...own], more]),
      })
      if (!made || made.isTrusted || skins(made.solid) <= skins(solid)) break
      folds += made.folds
      if (more === slightlyMore.at(-1) || folds > mostFolds) throw new ProblemError('hollow-torn', { thick })
    }
    if (!made) {
      advise('hollow-none', { thick })
      return [solid]
    }
    if (made.thin) advise('wall-thin', made.thin)
    return [made.solid]
  },
})

/** For each face another share, from 0.5 to 1.5, so that what only just met does not do so again. */
function uneven(key: string): number {
  let sum = 0
  for (const letter of key) sum = (31 * sum + letter.charCodeAt(0)) % 1009
  return 0.5 + sum / 1009
}

/** After so many flats that were cut out one by one it is not tried again: that would take many seconds. */
const mostFolds = 300

/** So little, mm, is not seen anywhere. */
const slightlyMore = [0, 1.3e-5, -1.7e-5, 2.1e-4, -3.7e-4]

interface Hollowed {
  readonly solid: Solid
  readonly thin: Thin | undefined
  /** whether few bodies made it: hundreds may touch each other, and leave next to nothing between */
  readonly isTrusted: boolean
  /** how many flats were cut out one by one */
  readonly folds: number
}

/** A solid with its walls, `inner` of them inside it; undefined where these fill it. */
function hollowed(
  work: TreatmentWork,
  inner: number,
  thick: number,
  opened: ReadonlySet<string>,
  { size, sizes }: Pick<Walls, 'size' | 'sizes'>,
): Hollowed | undefined {
  const { scope, solid } = work
  const walls = (share: number, side: string) =>
    wallsOf(work, { size: (key) => share * size(key), sizes: `${side} ${share} ${sizes}` }, side)
  const least = (share: number) => crumb * (share * thick) ** 3
  let thin: Thin | undefined
  let [isTrusted, folds] = [true, 0]
  let [cavity, outside] = [solid, solid]
  if (inner > 0) {
    const within = walls(inner, 'inside')
    const deep = scope.withoutCrumbs(deeperIn(within, work.construction), scope.union([]), least(inner))
    isTrusted = !within.doubted()
    folds = within.folded()
    thin = isTrusted ? undefined : thinIn(within, solid, deep)
    // What few bodies made goes beyond its open faces already.
    cavity = isTrusted ? deep : openedAt(within, deep, opened)
  }
  if (cavity.isEmpty()) return undefined
  if (inner < 1) {
    const round = walls(1 - inner, 'outside')
    // Between walls that nearly meet there may be next to nothing.
    outside = scope.withoutCrumbs(grownBy(round, work.construction), solid, least(1 - inner))
    isTrusted &&= !round.doubted()
    folds += round.folded()
    // What is open ends at the rim of its wall, which lies on the solid itself.
    if (opened.size === 0 && round.doubted()) thin ??= thinIn(round, solid, outside)
  }
  return { solid: scope.difference(outside, [cavity]), thin, isTrusted, folds }
}

/** How many edges of a solid are of surfaces that touch each other there. */
function skins(solid: Solid): number {
  return skinEdges({ positions: solid.corners(), triangles: solid.mesh().triangles })
}

/** A gap or a loose body of less than this, as a share of the cube of the wall, is none. */
const crumb = 0.05

/** How many flats were cut out one by one for solids that are kept. */
const foldsOf = new WeakMap<Solid, number>()

/** `doubted`: whether many bodies made what was asked of them; `folded`: how many flats were cut out one by one for it. */
function wallsOf(
  { scope, fineness, up, named, own, kept }: TreatmentWork,
  { size, sizes }: Pick<Walls, 'size' | 'sizes'>,
  side: string,
): Walls & { readonly doubted: () => boolean; readonly folded: () => number } {
  const words = (keys: readonly string[]) => fewListed([...new Set(keys.map(shortName))].sort())
  let folded = 0
  const whole = {
    scope,
    fineness,
    up,
    named,
    own,
    size,
    sizes,
    kept,
    called: (keys: readonly string[]) => `${side} of ${words(keys)}`,
    edges: `${side} of edges`,
    folds(count: number) {
      folded += count
    },
  }
  let doubted = false
  const looksOver = () => {
    doubted = true
  }
  return {
    ...whole,
    doubted: () => doubted,
    folded: () => folded,
    looksOver,
    bySurface(solid, way, { fills, key } = {}) {
      looksOver()
      const before = folded
      const made = () => bySurface(whole, solid, way, fills)
      const done = key === undefined ? made() : kept(`by surface ${whole.sizes} ${key}`, () => [made()])[0]!
      // As many where it was kept: what is tried again must not depend on that.
      const own = foldsOf.get(done) ?? folded - before
      foldsOf.set(done, own)
      folded = before + own
      return done
    },
  }
}
