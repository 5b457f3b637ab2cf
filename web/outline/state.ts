import { allSteps, applyEdit, type Edit, type Outline, type Part, regionsChosen } from '@makrel/core/document'
import {
  type Inferred,
  regionsFollowed,
  Sketch,
  type SolvedOutline,
  type Spot,
  settled,
  toggledAfter,
} from '@makrel/core/outline'
import type { Vec2 } from '@makrel/core/plane'
import { fieldKindOf } from '@makrel/core/planning'
import { create } from 'zustand'
import { workedOf } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import type { PlaneView } from './view.ts'

/** A size that can be typed right after something was drawn. */
export interface AskedSize {
  readonly label: string
  /** the dimension that it becomes */
  readonly kind: string
  readonly of: readonly string[]
}

interface OutlineState {
  /** the outline that is being edited */
  readonly id: string
  readonly view: PlaneView
  /** the drawing was brought into view since it was opened */
  readonly fitted: boolean
  readonly tool: string
  /** what the tool was given so far */
  readonly spots: readonly Spot[]
  /** where the pointer is, and what that is taken for */
  readonly hover: Inferred | undefined
  /** nothing is inferred until it is asked for again */
  readonly refused: boolean
  /** what is drawn helps only and bounds nothing */
  readonly helper: boolean
  /** sides of the polygon that is drawn next */
  readonly sides: number
  /** ids of points, curves, constraints and derived things */
  readonly selected: readonly string[]
  /** sizes that wait to be typed, and what was typed behind the tool's name for them */
  readonly asked: readonly AskedSize[]
  readonly askedAt: Vec2 | undefined
  /** the points that came with what was drawn last, but for the one that it was begun at: they give way to its sizes */
  readonly justDrawn: readonly string[]
  readonly typed: readonly string[]
  /** the outline as it is while something is dragged */
  readonly preview: SolvedOutline | undefined
  /** a dimension whose value is being typed */
  readonly openDimension: string | undefined
  /** it and those that were put on along with it, which take the same value, with what each measured */
  readonly openAlong: readonly { readonly id: string; readonly value: string }[]
  /** what was just derived: its first value has the keyboard */
  readonly justDerived: string | undefined
  readonly told: string
}

const fresh = {
  fitted: false,
  tool: 'select',
  spots: [],
  hover: undefined,
  refused: false,
  helper: false,
  sides: 6,
  selected: [],
  asked: [],
  askedAt: undefined,
  justDrawn: [],
  typed: [],
  preview: undefined,
  openDimension: undefined,
  openAlong: [],
  justDerived: undefined,
  told: '',
}

export const useOutline = create<OutlineState>()(() => ({
  id: '',
  view: { centre: [0, 0], scale: 5, width: 800, height: 600 },
  ...fresh,
}))

export function openOutline(id: string): void {
  useOutline.setState({ id, ...fresh })
}

/** The outline as it stands, worked out with the part that is being edited; undefined once it is gone. */
export function solvedNow(): SolvedOutline | undefined {
  const { part } = usePart.getState()
  return part && workedOf(part).resolved.outlines.get(useOutline.getState().id)
}

/** Its points where they are now, so that what comes next starts from there. */
export function settledNow(): Outline | undefined {
  const solved = solvedNow()
  if (!solved) return undefined
  return solved.solution.solved ? settled(solved, solved.solution) : solved.outline
}

/** Puts another state of the outline in the place of this one, as one edit; false where it would go over a limit. */
export function change(outline: Outline, merge?: string): boolean {
  const { id, points, curves, constraints, derived, toggled, name, on } = outline
  const { part, edit } = usePart.getState()
  const set = { type: 'set-outline', id, change: { points, curves, constraints, derived, toggled, name, on } } as const
  return edit(part ? withRegionsFollowed(part, set) : set, merge)
}

/** A change by which curves are cut, joined or drawn anew leaves regions taken that were, here and in the steps made of them. */
function withRegionsFollowed(part: Part, set: Extract<Edit, { type: 'set-outline' }>): Edit {
  const solved = solvedNow()
  const { curves, derived, toggled = [] } = set.change
  const chosen = allSteps(part).flatMap((step) => regionsChosen(step, set.id, fieldKindOf))
  if (!solved || solved.outline.id !== set.id || chosen.length + toggled.length === 0) return set
  const names = (...lists: readonly (readonly { readonly id: string }[] | undefined)[]) =>
    lists.flatMap((list) => list?.map(({ id }) => id) ?? []).join()
  if (names(solved.outline.curves, solved.outline.derived) === names(curves, derived)) return set
  const after = workedOf(applyEdit(part, set, fieldKindOf)).resolved.outlines.get(set.id)!.arrangement.faces
  const followed = regionsFollowed(solved.arrangement.faces, after, chosen)
  return {
    ...set,
    change: { ...set.change, toggled: toggledAfter(solved, after, toggled) },
    regions: Object.fromEntries([...followed].map(([key, faces]) => [key, faces.map((face) => face.key)])),
  }
}

/** Draws into the outline. */
export function draw<T>(work: (sketch: Sketch) => T, merge?: string): T | undefined {
  const outline = settledNow()
  if (!outline) return undefined
  const sketch = new Sketch(outline, useOutline.getState().helper)
  const result = work(sketch)
  change(sketch.outline, merge)
  return result
}

export function setTool(tool: string, typed: readonly string[] = []): void {
  useOutline.setState({
    tool,
    typed,
    spots: [],
    asked: [],
    told: '',
    selected: tool === 'select' ? useOutline.getState().selected : [],
  })
}

/** Adds to what is selected, or takes out of it; alone unless `along`. */
export function selectPart(id: string | undefined, along: boolean): void {
  const { selected } = useOutline.getState()
  if (id === undefined) {
    if (!along) useOutline.setState({ selected: [], justDerived: undefined })
  } else if (!along) useOutline.setState({ selected: [id], justDerived: undefined })
  else
    useOutline.setState({
      selected: selected.includes(id) ? selected.filter((other) => other !== id) : [...selected, id],
    })
}
