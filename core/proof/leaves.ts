import type { Freedom, Wanted } from '../mechanism/index.ts'
import { apart } from '../mesh/index.ts'
import { type Paced, withTurns } from '../pacing/index.ts'
import { compose, dot, type Frame, inverse, meet, scaled, type Vec3, world } from '../place/index.ts'
import { poseOf, printedInside } from '../planning/index.ts'
import { tried } from '../problems/index.ts'
import { type Built, motionOf } from '../solids/index.ts'
import { formatNumber } from '../units/index.ts'
import { type Check, type Found, findingOf, type ProofContext, type ProofPiece } from './define.ts'
import { axesOf, freestWays, giveOut, goneAway, isOneWay, type MovedSurface, tight, waysOf } from './escape.ts'
import { isIn } from './inside.ts'
import { clause, mm, type Value } from './phrase.ts'
import { loose } from './swing.ts'

/** What is found. */
const texts = {
  'leaves-unknown': 'Whether {piece} comes out of {other} could not be told.',
  'leaves-held': '{pieces} hold together: neither comes straight out of the other.',
  'leaves-held-give':
    '{pieces} hold together: neither comes straight out of the other. It would take about {give} of give on each side to pull it out.',
  'leaves-comes-out': '{piece} comes out of {other} {way}: nothing holds it there.',
  'leaves-comes-off': '{piece} comes off {other} {way}.',
  'way-with': '{way} with {freedoms}',
  'freedom-at': '{freedom} at {at}',
} as const

/** Whether what is printed inside something else stays there, and what is not comes off. */
export const leavesCheck: Check = {
  id: 'leaves',
  label: 'Holding together',
  meaning:
    'Pieces that are printed inside one another cannot be pulled apart, straight away or from an end of their travel.',
  texts,
  scope: 'part',
  async run(context) {
    const { built, pieces, kept } = context
    const inside = printedInside(built.resolved.part)
    // Where an end of a joint's travel is depends on all joints.
    const { part, joints } = built.resolved
    const values = [...joints].map(([id, joint]) => [id, joint.values])
    const moving = [part.joints, values, built.joints.map(({ joint, frame, second }) => [joint.id, frame, second])]
    const findings: Found[] = []
    for (const [i, a] of pieces.entries())
      for (const b of pieces.slice(i + 1)) {
        const [one, two] = [a.figures, b.figures]
        // Pieces whose boxes are apart are free of one another.
        if (!one || !two || a.built.of === b.built.of || !meet(one, two)) continue
        const tied = inside.some((ids) => ids.includes(a.built.of) && ids.includes(b.built.of))
        const stand = [a, b].map(({ built: piece }) => [piece.of, motionOf(built.motions, piece)])
        findings.push(...(await kept('leaves', [a, b], [tied, stand, moving], () => between(context, a, b, tied))))
      }
    return findings
  },
}

async function between(context: ProofContext, a: ProofPiece, b: ProofPiece, tied: boolean): Promise<readonly Found[]> {
  const way = await wayOut(context, a, b)
  if (way === 'meet') return []
  const [piece, other] = [b.built.piece.name, a.built.piece.name]
  const pieces = [other, piece]
  const about = [a, b].map(({ built: { piece } }) => ({ kind: 'piece', id: piece.id }) as const)
  const finding = findingOf('leaves', texts, about)
  if (way === 'unknown') return [finding('warning', 'leaves-unknown', { piece, other })]
  if (!way) {
    const give = await giveIn(context, a, b)
    if (!give) return [finding('pass', 'leaves-held', { pieces })]
    return [finding('pass', 'leaves-held-give', { pieces, give: mm(Math.round(10 * give) / 10) })]
  }
  return tied && jointOfPair(context.built, a, b)
    ? [finding('warning', 'leaves-comes-out', { piece, other, way })]
    : [finding('pass', 'leaves-comes-off', { piece, other, way })]
}

/**
 * Which way the second of two pieces gets out of the first, straight away, from where it is printed or from an end of what their joint
 * lets it do; undefined where all that were tried are blocked, "meet" where they cannot be told apart, "unknown" where not all could be.
 */
async function wayOut({ built, pause, tree }: ProofContext, a: ProofPiece, b: ProofPiece) {
  const [from, body] = [a, b].map((piece): MovedSurface => ({ tree: tree(piece), box: piece.figures! })) as [
    MovedSurface,
    MovedSurface,
  ]
  const [one, two] = [a.built.solid!, b.built.solid!]
  const joint = jointOfPair(built, a, b)
  const { along, between } = waysOf((joint && standingFrame(built, a, joint.frame)) ?? world)
  const { standings, areAll } = await withTurns(standingsOf(built, a, b, joint?.joint.id), pause)
  let isKnown = areAll
  for (const [i, { frame, said }] of standings.entries()) {
    await pause()
    if (i === 0 && (meets(from, body, frame) || isIn(one, two) || isIn(two, one))) return 'meet'
    for (const way of i === 0 ? waysOut(a, b, [...along, ...between], [from, body], frame) : along) {
      await pause()
      const { away } = goneAway(from, body, frame, way)
      if (away) return said ? clause(texts, 'way-with', { way: told(way), freedoms: said }) : told(way)
      if (away === undefined) isKnown = false
    }
  }
  return isKnown ? undefined : 'unknown'
}

/** These ways, those along edges, and only where none of them leads out those that nothing close by is in the way of. */
function* waysOut(
  a: ProofPiece,
  b: ProofPiece,
  first: readonly Vec3[],
  [from, body]: readonly [MovedSurface, MovedSurface],
  frame: Frame,
): Generator<Vec3> {
  const known = [...first, ...askew([a, b], first)]
  yield* known
  for (const way of freestWays(from, body, frame))
    if (!known.some((one) => dot(one, way) > 0 && isOneWay(one, way))) yield way
}

/** Both ways along the edges of two pieces, but for those that are known. */
function askew(pieces: readonly ProofPiece[], known: readonly Vec3[]): Vec3[] {
  const ways: Vec3[] = []
  for (const axis of pieces.flatMap(({ built }) => axesOf(built.solid!.mesh())))
    if (![...known, ...ways].some((way) => isOneWay(way, axis))) ways.push(axis, scaled(axis, -1))
  return ways
}

/** What it would take to pull one of two that are held together out along the axis of their joint, mm. */
async function giveIn({ built, tree, pause }: ProofContext, a: ProofPiece, b: ProofPiece): Promise<number | undefined> {
  const joint = jointOfPair(built, a, b)
  const from = { tree: tree(a), box: a.figures! }
  return joint && withTurns(giveOut(from, b.built.solid!.mesh(), standingFrame(built, a, joint.frame)), pause)
}

/** Where a joint stands that is carried by a piece, in the pose that is printed. */
function standingFrame({ motions }: Built, { built: piece }: ProofPiece, frame: Frame): Frame {
  const moved = motionOf(motions, piece)
  return moved ? compose(moved, frame) : frame
}

function meets(from: MovedSurface, body: MovedSurface, frame: Frame): boolean {
  const near = apart(from.tree, body.tree, { frame, within: tight })
  return near !== undefined
}

function jointOfPair({ joints }: Built, a: ProofPiece, b: ProofPiece) {
  return joints.find(({ joint: { pieces } }) => pieces.includes(a.built.of) && pieces.includes(b.built.of))
}

interface Stands {
  /** of the second piece, where the first one is */
  readonly frame: Frame
  /** what has moved for it, and how far */
  readonly said: readonly Value[] | undefined
}

/** Where the second piece stands, as printed and at the ends of its joint's travel; `areAll`: whether these could be worked out. */
function* standingsOf(
  built: Built,
  a: ProofPiece,
  b: ProofPiece,
  joint: string | undefined,
): Paced<{ readonly standings: readonly Stands[]; readonly areAll: boolean }> {
  const printed: Stands = { frame: world, said: undefined }
  const { definition, values } = (joint && built.resolved.joints.get(joint)) || {}
  const freedoms = definition && values ? tried(() => definition.freedoms(values)) : []
  if (!joint || !freedoms || freedoms.length === 0) return { standings: [printed], areAll: freedoms !== undefined }
  const frameAt = (wanted: Wanted): Frame | undefined => {
    const { motions, off } = poseOf(built, wanted)
    if (off > loose) return undefined
    const from = (piece: ProofPiece) => {
      const there = motions.get(piece.built.of) ?? world
      const drawn = motionOf(built.motions, piece.built)
      return drawn ? compose(there, inverse(drawn)) : there
    }
    return compose(inverse(from(a)), from(b))
  }
  const start = freedoms.map((freedom) => freedom.atRest)
  const standings: Stands[] = [printed]
  for (const positions of endsOf(freedoms)) {
    yield
    const frame = frameAt({ [joint]: positions })
    if (frame) {
      standings.push({ frame, said: saidOf(freedoms, positions) })
      continue
    }
    // A loop that does not close there ends its travel before.
    let [closes, far]: [Stands | undefined, readonly [number, number]] = [undefined, [0, 1]]
    for (let i = 0; i < halvings; i++) {
      yield
      const share = (far[0] + far[1]) / 2
      const there = positions.map((end, k) => start[k]! + share * (end - start[k]!))
      const own = frameAt({ [joint]: there })
      if (own) closes = { frame: own, said: saidOf(freedoms, there) }
      far = own ? [share, far[1]] : [far[0], share]
    }
    if (closes) standings.push(closes)
  }
  return { standings, areAll: true }
}

/** To a thousandth of its travel an end is found. */
const halvings = 10

/** Each freedom at either end, and all of them at one. */
function endsOf(freedoms: readonly Freedom[]): readonly (readonly number[])[] {
  const printed = freedoms.map((freedom) => freedom.atRest)
  const single = freedoms.flatMap(({ from, to }, i) => [to, from].map((end) => printed.with(i, end)))
  const all = freedoms.length > 1 ? [freedoms.map(({ to }) => to), freedoms.map(({ from }) => from)] : []
  return [...single, ...all].filter((positions) => positions.some((at, i) => Math.abs(at - printed[i]!) > 1e-9))
}

/** "turning at 60°" */
function saidOf(freedoms: readonly Freedom[], positions: readonly number[]): readonly Value[] {
  return freedoms.flatMap(({ label, unit, atRest }, i) => {
    const at = positions[i]!
    if (Math.abs(at - atRest) <= 1e-9) return []
    const shown = unit === 'degrees' ? `${formatNumber(at, 1)}°` : mm(Math.round(10 * at) / 10)
    return [clause(texts, 'freedom-at', { freedom: label, at: shown })]
  })
}

const words = [
  ['to the right', 'to the left'],
  ['to the back', 'to the front'],
  ['upward', 'downward'],
] as const

function told(way: Vec3): string {
  const axis = way.findIndex((x) => Math.abs(x) > 0.99)
  return axis < 0 ? 'at an angle' : words[axis]![way[axis]! > 0 ? 0 : 1]
}
