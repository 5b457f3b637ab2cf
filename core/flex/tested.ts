import type { KeptFlex } from '../document/index.ts'
import { evaluate } from '../measures/index.ts'
import { type Drawn, directionAt, lengthOf, pointAt, type Segment, type Vec2 } from '../plane/index.ts'
import type { ResolvedPart } from '../planning/index.ts'
import { attempt } from '../problems/index.ts'
import { type Bent, bentTouching, type Load } from './bending.ts'
import { crosses } from './contact.ts'
import { type FlexMesh, meshOf, type Rim } from './region.ts'

/** What a flex test comes to; `fault`: why it comes to nothing, in words. */
export type FlexResult = { readonly fault: string } | (FlexFound & { readonly fault?: undefined })

export interface FlexFound extends Bent {
  readonly mesh: FlexMesh
  /** whether its edges still run through one another where it is bent */
  readonly touches: boolean
  /** from one corner of a triangle to the next, mm */
  readonly size: number
}

/** Poisson's ratio of printed plastics, about. */
const poisson = 0.36
/** More would take too long: a test is run while a maker waits. */
const mostElements = 12_000
/** A curve turns by no more than this from one corner to the next, rad. */
const turn = 0.2

/** The region that a flex test is of, with the curves round it; the words that say why there is none. */
export function sheetOf({ steps, part }: ResolvedPart, { step: id }: Pick<KeptFlex, 'step'>) {
  const step = steps.get(id)
  if (!step) return { fault: 'The step that it tests is gone: choose another one.' } as const
  if (!step.values || !step.shape || !step.present)
    return { fault: 'The step that it tests is not there, or has a problem.' } as const
  const sheet = step.shape.sheet?.(step.values as never)
  if (!sheet) return { fault: 'It can test what is flat and upright: an extrusion without taper or twist.' } as const
  return { sheet, material: part.material } as const
}

/** Runs a flex test. */
export function flexTested(resolved: ResolvedPart, flex: KeptFlex): FlexResult {
  const found = sheetOf(resolved, flex)
  if (found.fault !== undefined) return found
  const names = resolved.measures.names
  const numbers = attempt(
    [],
    () =>
      [
        evaluate(flex.way, 'angle', names).value,
        flex.by === 'distance'
          ? evaluate(flex.distance, 'length', names).value
          : evaluate(flex.force, 'ratio', names).value,
      ] as const,
  )
  if (!numbers.ok) return { fault: numbers.problem.text }
  const [degrees, amount] = numbers.value
  const { region, thickness } = found.sheet
  const rims = edgesOf(region)
  const edges = [...new Set(rims.flatMap((rim) => rim.map(({ edge }) => edge)))]
  const tags = (all: readonly string[]) => all.map((edge) => edges.indexOf(edge)).filter((tag) => tag >= 0)
  const [held, pushed] = [tags(flex.held), tags(flex.pushed)]
  if (held.length === 0) return { fault: 'Nothing holds it yet: press an edge that is held.' }
  if (pushed.length === 0) return { fault: 'Nothing pushes it yet: press an edge that is pushed.' }
  if (held.some((tag) => pushed.includes(tag))) return { fault: 'One edge cannot be held and pushed.' }
  if (amount === 0) return { fault: 'A push of 0 bends nothing.' }
  const size = sizeFor(region) / 2 ** flex.finer
  const mesh = meshOf(
    rims.map((rim) => rimOf(rim, edges, size)),
    size,
  )
  if (!mesh)
    return { fault: 'Its outline cannot be parted into triangles: it may have a stretch that is next to nothing.' }
  const way: Vec2 = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)]
  const load: Load = { held, pushed, way, by: flex.by, amount }
  const result = bentTouching(mesh, { stiffness: found.material.stiffness, poisson, thickness }, load, size)
  if (!result) return { fault: 'What is pushed hangs together with nothing that is held.' }
  return { ...result, mesh, size, touches: crosses(mesh, result.moved, size / 20) }
}

/** A stretch of the boundary of a region, and the edge that it is part of. */
export interface EdgeStretch {
  readonly edge: string
  readonly segment: Segment
}

/**
 * The boundary of a region, loop by loop, each stretch with the name of its edge: the curve that it was drawn as, and a number from its
 * second run or corner on, since the sides of a wall are all of one curve.
 */
export function edgesOf({ loops }: Pick<Drawn, 'loops'>): readonly (readonly EdgeStretch[])[] {
  const runs = new Map<string, number>()
  return loops.map(({ segments, curves }) => {
    let edge = ''
    return segments.map((segment, i) => {
      const curve = curves[i]!
      const before = i > 0 ? segments[i - 1] : undefined
      if (!before || curves[i - 1] !== curve || isCorner(before, segment)) {
        const run = (runs.get(curve) ?? 0) + 1
        runs.set(curve, run)
        edge = run === 1 ? curve : `${curve}#${run}`
      }
      return { segment, edge }
    })
  })
}

/** Whether the way breaks from one segment to the next. */
function isCorner(before: Segment, next: Segment): boolean {
  const [p, q] = [directionAt(before, 1), directionAt(next, 0)]
  return p[0] * q[0] + p[1] * q[1] < 0.985 * Math.hypot(...p) * Math.hypot(...q)
}

/** Two triangles go through the thinnest of what is as thick everywhere: half of its area to its length. */
function sizeFor(region: Drawn): number {
  const long = region.loops.reduce((sum, { segments }) => sum + segments.reduce((all, s) => all + lengthOf(s), 0), 0)
  const area = region.area()
  const thick = (2 * area) / long
  return Math.max(thick / 2, Math.sqrt((2.4 * area) / mostElements))
}

/** A closed rim as corners, so near to one another as its curves and the size of triangles ask for. */
function rimOf(rim: readonly EdgeStretch[], edges: readonly string[], size: number): Rim {
  const points: Vec2[] = []
  const tags: number[] = []
  for (const { segment, edge } of rim) {
    const parts = partsOf(segment, size)
    for (let k = 0; k < parts; k++) {
      points.push(pointAt(segment, k / parts))
      tags.push(edges.indexOf(edge))
    }
  }
  return { points, tags }
}

function partsOf(segment: Segment, size: number): number {
  if (segment.kind === 'line') return 1
  const bends =
    segment.kind === 'arc' || segment.kind === 'ellipse' ? Math.abs(segment.sweepRad) / turn : Math.PI / turn
  return Math.max(2, Math.ceil(bends), Math.ceil(lengthOf(segment) / size))
}
