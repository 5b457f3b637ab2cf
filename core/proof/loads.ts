import { askedOf, type Ends, endsOf, forceOf } from '../bearing/index.ts'
import type { KeptLoad } from '../document/index.ts'
import { strengthOf } from '../fits/index.ts'
import type { Loaded } from '../loads/index.ts'
import { liftedFrom } from '../necks/index.ts'
import { add, scaled, type Vec3 } from '../place/index.ts'
import { motionOf } from '../solids/index.ts'
import { type Check, type Found, findingOf, type Mark, type ProofContext, type ProofPiece, stepName } from './define.ts'
import { isTooLarge } from './narrow.ts'
import { clause, mm2, sentences } from './phrase.ts'
import { whoseIn } from './whose.ts'

/** What is found. */
const texts = {
  'load-borne':
    '“{load}”: {force} N is no more than {share} % of what {piece} bears, most at {where}, over {area}.{leaves}',
  'load-near':
    '“{load}”: {force} N is {share} % of what {piece} bears at {where}, over {area}{layers}: less than twice as much is left.{leaves}',
  'load-breaks':
    '“{load}”: {force} N is {share} % of what {piece} bears at {where}, over {area}{layers}: it breaks.{leaves}',
  'load-shared':
    '“{load}”: {piece} bears {force} N in {count} places at once at {where}. Together they take {share} %; how much each is bent is not known: if nothing braced it, {most} % of what it bears.{leaves}',
  'load-leaves':
    ' An estimate, with {strength} MPa for {material} there: it leaves out notches, blows, heat, and what stays hollow.',
  'load-between-layers': ' between two layers',
  'load-then': '{size} there: it bears twice what it is asked.',
  'load-unmeasured':
    '“{load}”: {piece} has a stretch on the way to where it is held of which no section is found: what it bears there is not known.',
  'load-unknown': '“{load}”: what {piece} bears is not known: the figures gave no number.',
  'load-too-large': '“{load}”: {piece} has too much surface to be looked at.',
  'load-apart': '“{load}”: nothing leads from where it is to where it is held: they are not of one solid.',
  'load-gone': '“{load}”: nothing is left of where it is {what}.',
  'load-beside': '“{load}”: it is held right where the force is.',
  'load-no-force': '“{load}”: its force is {why}',
  'load-none': '“{load}”: its force is not a number above 0.',
} as const

/** What is asked of a section as a share of what it bears: up to where it is borne, and from where it is far over. */
const [borne, over, farOver] = [0.5, 1, 2]
/** What is made larger bears twice what it is asked, and a little more. */
const spare = 1.03
/** So many places round a section are asked whose they are. */
const asked = 24

/** Whether a piece bears what it is told to. */
export const loadsCheck: Check = {
  id: 'loads',
  label: 'Loads',
  meaning: 'A piece bears the forces that it was told to bear, along its layers and across them.',
  texts,
  scope: 'part',
  async run(context) {
    const { built, pieces } = context
    const { part, printer } = built.resolved
    const findings: Found[] = []
    for (const load of part.loads) {
      await context.pause()
      const force = forceOf(built, load)
      const own = pieces.filter(({ figures }) => figures)
      const names = own.map((piece) => whoseIn(context, piece).all())
      const from = [load, force.ok ? force.value : force.problem.text, part.material, printer.lineWidth, names]
      const motions = own.map((piece) => motionOf(built.motions, piece.built) ?? null)
      findings.push(
        ...(await context.kept('loads', own, [from, motions], () =>
          force.ok ? loaded(context, load, force.value) : [noForce(load, force.problem.text)],
        )),
      )
    }
    return findings
  },
}

const about = ({ held, at }: KeptLoad): Found['about'] =>
  [...new Set([at.step, held.step])].map((id) => ({ kind: 'step', id }) as const)

function noForce(load: KeptLoad, why: string): Found {
  return findingOf('loads', texts, about(load))('warning', 'load-no-force', { load: load.name, why })
}

async function loaded(context: ProofContext, load: KeptLoad, force: number): Promise<readonly Found[]> {
  const finding = findingOf('loads', texts, about(load))
  const told = { load: load.name }
  if (!(force > 0 && Number.isFinite(force))) return [finding('warning', 'load-none', told)]
  const ends = endsOf(context.built, load)
  for (const [what, key] of [
    ['held', 'held'],
    ['loaded', 'at'],
  ] as const)
    if (ends.every((each) => each[key].length === 0)) return [finding('warning', 'load-gone', { ...told, what })]
  const both = ends.filter(({ held, at }) => held.length > 0 && at.length > 0)
  if (both.length === 0) return [finding('warning', 'load-apart', told)]
  const out: Found[] = []
  for (const each of both) {
    const piece = context.pieces.find(({ built }) => built === each.piece)!
    out.push(await ofPiece(context, piece, load, force, each))
  }
  return out
}

async function ofPiece(
  context: ProofContext,
  piece: ProofPiece,
  load: KeptLoad,
  force: number,
  ends: Ends,
): Promise<Found> {
  const { built, tree, pause } = context
  const { part } = built.resolved
  const { id, name } = piece.built.piece
  const own = [...about(load), { kind: 'piece', id } as const]
  const finding = findingOf('loads', texts, own)
  const told = { load: load.name, piece: name }
  if (isTooLarge(piece)) return finding('warning', 'load-too-large', told)
  const { found, way, at } = await askedOf(built, ends, load.way, force, { tree: tree(piece), pause })
  if (found === 'apart') return finding('warning', 'load-apart', told)
  if (found === 'beside') return finding('warning', 'load-beside', told)
  const { worst, shared, unmeasured } = found
  const points = (...places: readonly Vec3[]): Mark => ({ kind: 'points', points: Float32Array.from(places.flat()) })
  if (!worst) return finding('warning', 'load-unmeasured', told, { marks: [points(at)] })
  const { use } = worst
  if (!Number.isFinite(use)) return finding('warning', 'load-unknown', told)
  const section = sectionOf(context, piece, worst)
  const marks = [...section.marks, arrowOf(at, way, worst.arm)]
  if (unmeasured && use <= over)
    return finding('warning', 'load-unmeasured', told, { marks: [...marks, points(unmeasured)] })
  const mpa = Math.round(strengthOf(part.material)[worst.betweenLayers ? 'across' : 'along'])
  const values = {
    ...{ ...told, force: Number(force.toPrecision(4)), share: Number((100 * use).toPrecision(2)) },
    ...{ where: section.where, area: mm2(worst.area) },
    leaves: sentences(clause(texts, 'load-leaves', { strength: mpa, material: part.material.name })),
  }
  const layers = sentences(...(worst.betweenLayers ? [clause(texts, 'load-between-layers', {})] : []))
  if (use <= borne && shared && !(shared.alone <= borne)) {
    const there = sectionOf(context, piece, shared)
    const most = Number((100 * shared.alone).toPrecision(2))
    const told = { ...values, where: there.where, count: shared.count, most }
    return finding('advice', 'load-shared', told, { marks: there.marks, by: shared.alone })
  }
  if (use <= borne) return finding('pass', 'load-borne', values, { marks })
  const lacks = (spare * use) / borne
  const more = {
    ...{ marks, by: use },
    resize: {
      ...{ from: worst.across, to: worst.across * Math.sqrt(lacks), orTo: worst.across * lacks },
      after: clause(texts, 'load-then', { size: 'so' }),
    },
  }
  // What is pressed to look at it, and made larger, is where it breaks.
  const others = own.filter((each) => !section.about.some((step) => step.id === each.id))
  const there = findingOf('loads', texts, [...section.about, ...others])
  if (use <= over) return there('advice', 'load-near', { ...values, layers }, more)
  return there(use > farOver ? 'warning' : 'advice', 'load-breaks', { ...values, layers }, more)
}

/** Where a section is, and which steps it goes through. */
function sectionOf(context: ProofContext, piece: ProofPiece, { plane, rings }: Loaded) {
  const places = rings.flatMap((ring) => ring.map((p) => liftedFrom(plane, p)))
  const stride = Math.max(1, Math.floor(places.length / asked))
  const near = places.filter((_, i) => i % stride === 0).map((p) => context.tree(piece).nearest(p)!.triangle)
  const points = rings.flatMap((ring) =>
    ring.flatMap((p, i) => [...liftedFrom(plane, p), ...liftedFrom(plane, ring[(i + 1) % ring.length]!)]),
  )
  const marks: Mark[] = [{ kind: 'lines', points: Float32Array.from(points) }]
  const { about: steps, where } = whoseIn(context, piece).of(near)
  return { marks, about: steps, where: where.length > 0 ? where : [stepName(context.built.resolved, '')] }
}

/** As long as a part of the way to the section, so that it is seen whatever the size of the piece. */
function arrowOf(from: Vec3, way: Vec3, arm: number): Mark {
  const to = add(from, scaled(way, Math.max(2, arm / 3)))
  return { kind: 'lines', points: Float32Array.from([...from, ...to]) }
}
