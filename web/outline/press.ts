import type { Outline } from '@makrel/core/document'
import {
  freedomOf,
  grownAlone,
  type Inferred,
  infer,
  type Pull,
  partsOf,
  type SolvedOutline,
  type Spot,
  settled,
  shownOutline,
  solved as solve,
  systemOf,
  withoutParts,
} from '@makrel/core/outline'
import { distance2, type Vec2 } from '@makrel/core/plane'
import type { PartUnit } from '@makrel/core/units'
import { usePart } from '../state/part.ts'
import { cutCurve, cutDerived, toggleRegion } from './actions.ts'
import { sameFreedom } from './freedom.ts'
import { hitAt, within as partsWithin, regionAt } from './hit.ts'
import { change, draw, selectPart, setTool, solvedNow, useOutline } from './state.ts'
import { curveTools, toolOf } from './tools/registry.ts'
import { onLattice, toPlane } from './view.ts'

/** How near counts as meant, pixels. */
const nearness = 9

/** The unit that the part is drawn in. */
function unitNow(): PartUnit {
  return usePart.getState().part?.unit ?? 'mm'
}

/** What the place under the pointer is taken for by the tool in hand. */
export function inferredAt(solved: SolvedOutline, screen: Vec2): Inferred {
  const { view, tool, spots, refused } = useOutline.getState()
  const at = toPlane(view, screen)
  const from = spots.at(-1)
  const definition = toolOf(tool)
  const found = infer(solved, at, {
    within: nearness / view.scale,
    from,
    line: definition?.isLine?.(spots.length) === true,
    refused,
  })
  // A place that nothing holds falls on the lattice.
  const free = found.told.length === 0 && found.spot.point === undefined && !found.spot.hold
  return free ? { ...found, spot: { at: onLattice(view, at, unitNow()) } } : found
}

/** One press of a tool: another spot, and what comes of it. */
export function pressTool(screen: Vec2): void {
  const solved = solvedNow()
  const { tool: kind, view } = useOutline.getState()
  if (!solved) return
  if (toolOf(kind)) takeSpot(solved, inferredAt(solved, screen), screen)
  else pressOther(kind, solved, toPlane(view, screen), nearness / view.scale)
}

/** The same for a place that was typed: exact, and on a point that lies there. */
export function pressPlace(at: Vec2): void {
  const solved = solvedNow()
  const { spots, tool, refused } = useOutline.getState()
  if (!solved) return
  const line = toolOf(tool)?.isLine?.(spots.length) === true
  const found = infer(solved, at, { within: 1e-6, from: spots.at(-1), line, refused })
  takeSpot(solved, found, undefined)
}

/** `screen`: where the pointer was; sizes are asked for there. */
function takeSpot(solved: SolvedOutline, { spot, wishes }: Inferred, screen: Vec2 | undefined): void {
  const { tool: kind, spots, sides, view } = useOutline.getState()
  const tool = toolOf(kind)!
  const closing =
    tool.spots === 'endless' && spots.length > 2 && distance2(spot.at, spots[0]!.at) < nearness / view.scale
  const all: Spot[] = [...spots, closing ? spots[0]! : spot]
  const goesOn = tool.spots === 'endless' ? !closing : all.length < tool.spots
  if (goesOn) useOutline.setState({ spots: all, asked: [] })
  else finish(all, { solved, wishes, sides }, screen)
}

/** Ends a tool that takes as many spots as there are. */
export function endTool(): void {
  const solved = solvedNow()
  const { tool, spots, sides } = useOutline.getState()
  if (solved && toolOf(tool)?.spots === 'endless' && spots.length > 1)
    finish(spots, { solved, wishes: [], sides }, undefined)
}

function finish(
  spots: readonly Spot[],
  context: Parameters<NonNullable<ReturnType<typeof toolOf>>['draw']>[2],
  screen: Vec2 | undefined,
): void {
  const { tool: kind, view, typed } = useOutline.getState()
  const tool = toolOf(kind)!
  // What is drawn and the sizes typed with it are undone as one.
  const together = typed.length > 0 ? `drawn ${Math.random()}` : undefined
  let justDrawn: readonly string[] = []
  const made = draw((sketch) => {
    const before = sketch.outline
    const drawn = tool.draw(sketch, spots, context)
    sketch.outline = withoutRepetition(before, sketch.outline, context.solved)
    justDrawn = newPoints(before, sketch.outline, spots[0]!)
    // Sizes that were typed with the tool's name are in force at once.
    drawn?.sizes?.forEach(({ kind: dimension, of }, i) => {
      const text = typed[i]
      if (text) sketch.hold(dimension, of, text)
    })
    return drawn
  }, together)
  if (made && typed.length > 0) takeTypedSizes(justDrawn, together)
  // Who types places has said how large it is.
  const asked = screen ? (made?.sizes ?? []).slice(typed.length) : []
  useOutline.setState({
    spots: made?.next ?? [],
    asked,
    justDrawn,
    askedAt: screen && toPlane(view, screen),
  })
}

/** Sizes that were typed before are met by what was just drawn alone. */
function takeTypedSizes(justDrawn: readonly string[], together: string | undefined): void {
  const solved = solvedNow()
  if (solved) change(grownAlone(solved.outline, justDrawn, solved.values), together)
}

/** Points that were not there before, but for the one at the place where drawing began. */
function newPoints(before: Outline, after: Outline, { at }: Spot): string[] {
  const added = after.points.filter((point) => !before.points.some(({ id }) => id === point.id))
  return added.filter((point) => distance2(point.at, at) > 1e-9).map(({ id }) => id)
}

/** Without new constraints that say what others say already: what is inferred may follow from what was drawn before, or from another inference. */
function withoutRepetition(before: Outline, after: Outline, { values }: SolvedOutline): Outline {
  const added = after.constraints.slice(before.constraints.length)
  if (added.length === 0) return after
  const system = systemOf(after, values)
  const { redundant } = freedomOf(system, solve(system).x)
  const spare = added.filter(({ id, value }) => value === undefined && redundant.has(id)).map(({ id }) => id)
  // The figures say some things twice on purpose; what was inferred comes last.
  return spare.length === 0 ? after : withoutParts(after, new Set(spare))
}

function pressOther(kind: string, solved: SolvedOutline, at: Vec2, within: number): void {
  if (kind === 'picture') {
    const { spots } = useOutline.getState()
    useOutline.setState({ spots: spots.length >= 2 ? [{ at }] : [...spots, { at }] })
    return
  }
  if (kind === 'regions') {
    const key = regionAt(solved, at)
    if (key) toggleRegion(key)
    else useOutline.setState({ told: 'No closed region lies here.' })
    return
  }
  if (!curveTools.some((tool) => tool.kind === kind)) return
  if (cutDerived(kind, at, within)) return
  const hit = hitAt(solved, at, within)
  if (hit?.kind === 'curve') cutCurve(kind, hit.id, at)
}

/** A press with nothing in hand: selects, and drags what was pressed, or a box. */
export interface Grip {
  readonly screen: Vec2
  readonly hit: ReturnType<typeof hitAt>
  readonly along: boolean
  moved: boolean
  /** the drawing as it was taken hold of, and the last solution on the way */
  drag:
    | {
        readonly solved: SolvedOutline
        x: Float64Array
        readonly point: string | undefined
        readonly size: string | undefined
        /** places of all that is selected, where several are dragged */
        readonly all?: readonly number[]
        readonly from?: Vec2
      }
    | undefined
}

export function gripAt(screen: Vec2, along: boolean): Grip {
  const solved = solvedNow()
  const { view } = useOutline.getState()
  return {
    screen,
    hit: solved && hitAt(solved, toPlane(view, screen), nearness / view.scale),
    along,
    moved: false,
    drag: undefined,
  }
}

/** The drawing follows the pointer as far as its constraints let it. */
export function dragGrip(grip: Grip, screen: Vec2): void {
  if (!grip.moved && Math.hypot(screen[0] - grip.screen[0], screen[1] - grip.screen[1]) < 4) return
  const { view, refused } = useOutline.getState()
  grip.moved = true
  grip.drag ??= takenHold(grip)
  const { drag } = grip
  if (!drag) return
  const plain = toPlane(view, screen)
  const at = refused ? plain : onLattice(view, plain, unitNow())
  const { system } = drag.solved
  let from = drag.x
  let pull: Pull | undefined
  if (drag.all && drag.from) {
    // Together they go where their constraints let them.
    from = system.start.slice()
    const held = refused ? plain : onLattice(view, [at[0] - drag.from[0], at[1] - drag.from[1]], unitNow())
    const by = refused ? [plain[0] - drag.from[0], plain[1] - drag.from[1]] : held
    for (const p of drag.all) {
      from[p] = from[p]! + by[0]!
      from[p + 1] = from[p + 1]! + by[1]!
    }
  } else if (drag.point !== undefined) pull = { p: system.points.get(drag.point)!, to: at }
  else if (drag.size !== undefined) {
    const curve = drag.solved.outline.curves.find(({ id }) => id === drag.size)!
    const centre = system.points.get(curve.points[0]!)!
    from = drag.x.slice()
    from[system.sizes.get(drag.size)!] = Math.hypot(plain[0] - from[centre]!, plain[1] - from[centre + 1]!)
  }
  const solution = solve(system, from, pull)
  if (!solution.solved) return
  drag.x = solution.x
  const { outline, values } = drag.solved
  useOutline.setState({ preview: shownOutline(outline, values, system, solution, drag.solved) })
}

function takenHold({ hit, screen }: Grip): Grip['drag'] {
  const now = solvedNow()
  if (!hit || !now?.solution.solved) return undefined
  const outline = settled(now, now.solution)
  const system = systemOf(outline, now.values)
  sameFreedom(now.system, system)
  const still = { x: system.start.slice(), residual: 0, solved: true }
  const solved = shownOutline(outline, now.values, system, still, now)
  const x = system.start.slice()
  const { selected, view: shown } = useOutline.getState()
  if (selected.length > 1 && selected.includes(hit.id)) {
    const chosen = partsOf(outline, new Set(selected))
    const places = chosen.points.flatMap(({ id }) => {
      const p = system.points.get(id)
      return p !== undefined && p < system.unknowns ? [p] : []
    })
    return { solved, x, point: undefined, size: undefined, all: places, from: toPlane(shown, screen) }
  }
  if (hit.kind === 'point') {
    const point = outline.points.find(({ id }) => id === hit.id)
    return point && !point.taken ? { solved, x, point: hit.id, size: undefined } : undefined
  }
  const curve = outline.curves.find(({ id }) => id === hit.id)
  if (!curve) return undefined
  if (curve.kind === 'circle') return { solved, x, point: undefined, size: curve.id }
  // A curve is pulled by the point of it that lies nearest.
  const at = toPlane(useOutline.getState().view, screen)
  const nearest = [...new Set(curve.points)].sort(
    (a, b) => distance2(solved.points.get(a)!, at) - distance2(solved.points.get(b)!, at),
  )[0]
  return nearest === undefined ? undefined : { solved, x, point: nearest, size: undefined }
}

export function releaseGrip(grip: Grip, screen: Vec2): void {
  const { preview, view } = useOutline.getState()
  useOutline.setState({ preview: undefined })
  if (grip.moved && grip.drag) {
    if (preview) change(settled(preview, preview.solution))
    return
  }
  if (grip.moved) {
    const solved = solvedNow()
    const chosen = solved ? partsWithin(solved, toPlane(view, grip.screen), toPlane(view, screen)) : []
    useOutline.setState({
      selected: grip.along ? [...new Set([...useOutline.getState().selected, ...chosen])] : chosen,
    })
    return
  }
  selectPart(grip.hit?.id, grip.along)
}

/** Takes the next step back: the sizes asked for, the spots, the tool, the selection. */
export function stepBack(): void {
  const { asked, spots, tool, selected } = useOutline.getState()
  if (asked.length > 0) useOutline.setState({ asked: [] })
  else if (spots.length > 0) useOutline.setState({ spots: [] })
  else if (tool !== 'select') setTool('select')
  else if (selected.length > 0) useOutline.setState({ selected: [] })
}
