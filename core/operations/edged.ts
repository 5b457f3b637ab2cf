import {
  chosenEdges,
  type EdgeBody,
  type EdgeForm,
  edgeBodies,
  type Refusal,
  runningOn,
  Surface,
  sewnIn,
} from '../edges/index.ts'
import type { EdgeRule } from '../fields/index.ts'
import type { MeshRun, Solid } from '../kernel/index.ts'
import { skinEdges } from '../mesh/index.ts'
import { isSmooth, type NamedSolid, type SurfaceName, type SurfaceTelling } from '../naming/index.ts'
import { add, dot, norm, scaled, subtract, type Vec3, world } from '../place/index.ts'
import { tried } from '../problems/index.ts'
import type { TreatmentWork } from './define.ts'
import { fewListed, shortName } from './faceWords.ts'

/** How what is made along edges is called and told. */
interface Made {
  /** what its faces are called: "round" of … */
  readonly word: string
  /** its largest size, mm, and the field that says it */
  readonly size: number
  readonly field: string
}

/**
 * Works on the edges that `rules` choose. Where edges of both senses come to one corner, those of the rarer sense go first:
 * the others then run on smoothly round what these have left.
 */
export function withEdges(work: TreatmentWork, rules: readonly EdgeRule[], form: EdgeForm, made: Made): Solid {
  const { solid, up } = work
  const named = work.named(solid)
  const { edges, none, smooth } = chosenEdges(named, rules, up)
  for (const number of none) work.miss('edges-none', { number })
  for (const number of smooth) work.miss('edges-smooth', { number })
  const refused: Refusal[] = []
  const done = (standing: Solid, now: NamedSolid, chosen: readonly number[]) =>
    applied(work, standing, now, chosen, form, made, refused)
  const first = rarer(named, edges)
  const known = new Set(named.faces.map(({ key }) => key))
  const half = first.length > 0 ? done(solid, named, first) : solid
  const then = first.length > 0 ? work.named(half) : named
  const whole = done(half, then, first.length > 0 ? chosenAfter(then, rules, up, known) : edges)
  if (refused.length > 0) {
    const largest = roundedDown(made.size * Math.min(...refused.map(({ most }) => most)))
    const offer = largest > 0 ? { field: made.field, value: largest } : undefined
    work.advise('round-no-room', { count: refused.length, largest }, offer)
  }
  const count = whole === solid ? 1 : whole.bodies()
  if (count > 1 && count > solid.bodies()) work.advise('edges-part', { count })
  return whole
}

/** A solid with what is made along its edges. */
function applied(
  work: TreatmentWork,
  standing: Solid,
  named: NamedSolid,
  chosen: readonly number[],
  form: EdgeForm,
  { word, size }: Made,
  refused: Refusal[],
): Solid {
  const { scope, own, up, fineness } = work
  const surface = new Surface(named, standing.corners())
  const bodies = edgeBodies(surface, chosen, form, up, fineness)
  refused.push(...bodies.refused)
  const called = (edges: readonly number[]): SurfaceTelling => {
    const face = `${word} of ${betweenWords(named, edges)}`
    const flush = flushWith(surface, edges)
    return (p, n) => flush(p, n) ?? { face }
  }
  const { whole, left } = withStrips(work, standing, surface, bodies.bodies, called)
  if (left.length === 0) return whole
  const made = (wider: number) => {
    const ofSense = (sense: 1 | -1) =>
      left
        .filter((body) => body.sense === sense)
        .map(({ points, triangles, edges }) => own(scope.surface(widened(points, wider), triangles), called(edges)))
    const [fills, cuts] = [ofSense(-1), ofSense(1)]
    const filled = fills.length > 0 ? scope.union([whole, ...fills]) : whole
    return cuts.length > 0 ? scope.difference(filled, cuts) : filled
  }
  const skins = (solid: Solid) => skinEdges({ positions: solid.corners(), triangles: solid.mesh().triangles })
  let done = made(0)
  // Where bodies only touch, rounding may leave nothing between them, with a surface on both sides of it.
  if (skins(done) > skins(standing)) {
    const wider = made(hardlyWider)
    if (skins(wider) <= skins(standing)) done = wider
  }
  // Where edges cross, what is left between two rounds may hang on nothing.
  return scope.withoutCrumbs(done, standing, crumb * size ** 3)
}

/** A solid with strips in the place of edges, as far as these can be sewn in; the other bodies are left. */
function withStrips(
  { scope, ownRun }: TreatmentWork,
  standing: Solid,
  surface: Surface,
  bodies: readonly EdgeBody[],
  called: (edges: readonly number[]) => SurfaceTelling,
): { readonly whole: Solid; readonly left: readonly EdgeBody[] } {
  const networks = [...new Set(bodies.flatMap(({ network }) => network ?? []))]
  const sewn = networks.length > 0 ? sewnIn(surface, networks, (rings) => scope.triangulated(rings)) : undefined
  if (!sewn) return { whole: standing, left: bodies }
  const { runs } = standing.mesh()
  const runOf = new Int32Array(sewn.from.length)
  const count = new Uint32Array(runs.length + sewn.parts.length)
  const runAt = new Int32Array(surface.solid.faceOf.length)
  runs.forEach(({ from, to }, run) => void runAt.fill(run, from, to))
  sewn.from.forEach((of, t) => {
    runOf[t] = of < 0 ? runs.length - 1 - of : runAt[of]!
    count[runOf[t]!]!++
  })
  const made: Omit<MeshRun, 'to'>[] = []
  const next = new Uint32Array(count.length)
  let from = 0
  for (const [run, triangles] of count.entries()) {
    next[run] = from
    if (triangles === 0) continue
    const part = sewn.parts[run - runs.length]
    const of = part ? { original: ownRun(called(part)), frame: world, inverted: false } : runs[run]!
    made.push({ original: of.original, frame: of.frame, inverted: of.inverted, from })
    from += triangles
  }
  const triangles = new Uint32Array(sewn.triangles.length)
  runOf.forEach((run, t) => void triangles.set(sewn.triangles.subarray(3 * t, 3 * t + 3), 3 * next[run]!++))
  const whole = tried(() => scope.inRuns(sewn.points, triangles, made))
  const done = new Set(sewn.networks)
  const left = bodies.filter(({ network }) => !network || !done.has(network))
  return whole ? { whole, left } : { whole: standing, left: bodies }
}

/** So much at most, mm, is not seen anywhere. */
const hardlyWider = 2e-5

/** Points moved away from their middle, the farthest by so much. */
function widened(points: readonly Vec3[], by: number): readonly Vec3[] {
  if (by === 0) return points
  const middle = scaled(points.reduce(add), 1 / points.length)
  const far = Math.max(...points.map((p) => norm(subtract(p, middle))))
  return points.map((p) => add(p, scaled(subtract(p, middle), by / far)))
}

/** Where a fill ends flush with a flat face, it is more of that: the edge over it is one of that face as well. */
function flushWith(surface: Surface, edges: readonly number[]): (p: Vec3, normal: Vec3) => SurfaceName | undefined {
  const { solid } = surface
  const ends = new Set(edges.flatMap((edge) => solid.edges[edge]!.ends.flat()))
  const planes = [...ends].flatMap((face) => {
    const n = surface.flatFace(face)
    const name = n && nameOf(solid.faces[face]!.key)
    return n && name ? [{ n, name, at: surface.at(surface.from(3 * surface.trianglesOf(face)[0]!)) }] : []
  })
  return (p, normal) =>
    planes.find(({ n, at }) => dot(n, normal) > 1 - flush && Math.abs(dot(n, subtract(p, at))) < flush)?.name
}

/** What lies nearer to a plane is in it, mm, and as a cosine. */
const flush = 1e-4

function nameOf(key: string): SurfaceName | undefined {
  const [kind, step, copy, ...name] = key.split('/')
  return kind === 'step' && step !== undefined && copy !== undefined ? { step, copy, face: name.join('/') } : undefined
}

/** To two decimals, so that what is said does fit. */
function roundedDown(mm: number): number {
  return Math.floor(mm * 100) / 100
}

/** A body of less than this, as a share of the cube of the size, is nothing that was meant. */
const crumb = 1

/** What the rules choose after some edges are done, and what runs on smoothly from that round what these have left. */
function chosenAfter(
  named: NamedSolid,
  rules: readonly EdgeRule[],
  up: TreatmentWork['up'],
  known: ReadonlySet<string>,
): number[] {
  const isNew = (edge: number) => named.edges[edge]!.faces.some((face) => !known.has(named.faces[face]!.key))
  const chosen = new Set(chosenEdges(named, rules, up).edges.filter((edge) => !isNew(edge)))
  for (const edge of [...chosen]) for (const next of runningOn(named.edges, edge)) if (isNew(next)) chosen.add(next)
  return [...chosen].sort((a, b) => a - b)
}

/** The edges of the rarer sense at corners where edges of both come together; of as many, the inner ones. */
function rarer({ vertices, edges }: NamedSolid, chosen: readonly number[]): number[] {
  const wanted = new Set(chosen)
  const first = new Set<number>()
  for (const vertex of vertices) {
    const here = vertex.edges.filter((edge) => wanted.has(edge) && !isSmooth(edges[edge]!))
    const [outer, inner] = [here.filter((edge) => edges[edge]!.bend > 0), here.filter((edge) => edges[edge]!.bend < 0)]
    if (outer.length === 0 || inner.length === 0) continue
    for (const edge of inner.length <= outer.length ? inner : outer) first.add(edge)
  }
  // An edge that is rare at one corner may be common at another.
  return [...first]
}

/** The faces that edges lie between, in words that do not change with their sizes: what all of them have in common, if that is all. */
function betweenWords({ faces, edges }: NamedSolid, of: readonly number[]): string {
  const pairs = of.map((edge) => edges[edge]!.faces.map((face) => shortName(faces[face]!.key)))
  const all = [...new Set(pairs.flat())].sort()
  const common = all.filter((name) => pairs.every((pair) => pair.includes(name)))
  return fewListed(all.length > 2 && common.length > 0 ? common : all)
}
