import type { Outline } from '@makrel/core/document'
import { freedomOf, Sketch, type Solution, solved, solveOutline, systemOf } from '@makrel/core/outline'
import { median, report, timed } from './measure.ts'
import { longRing } from './parts.ts'

/** Teeth of a comb, four lines each, in one line that hangs together. */
const teeth = 75

/** 300 lines: all held across or up, and 100 of them by dimensions or as equals: 400 constraints. */
export function comb(): { readonly outline: Outline; readonly values: Map<string, number> } {
  const sketch = new Sketch({
    id: 'comb',
    name: 'Comb',
    on: { kind: 'bed' },
    points: [],
    curves: [],
    constraints: [],
    derived: [],
    toggled: [],
  })
  const values = new Map<string, number>()
  const lines: string[] = []
  let before = sketch.point({ at: [0, 0] })
  const go = (x: number, y: number, kind: 'horizontal' | 'vertical') => {
    const next = sketch.point({ at: [x, y] })
    const line = sketch.curve('line', [before, next])
    sketch.hold(kind, [line])
    lines.push(line)
    before = next
  }
  for (let i = 0; i < teeth; i++) {
    const x = 4 * i
    go(x, 5.2, 'vertical')
    go(x + 2.1, 5.2, 'horizontal')
    go(x + 2.1, 0.1, 'vertical')
    go(x + 4, 0.1, 'horizontal')
  }
  for (let i = 0; i < 50; i++) values.set(sketch.hold('distance', [lines[4 * i]!], '5'), 5)
  for (let i = 1; i < 51; i++) sketch.hold('equal', [lines[1]!, lines[4 * i + 1]!])
  return { outline: sketch.outline, values }
}

/** A curve through ten points, with three lines that end on it. */
function wave(): Outline {
  const sketch = new Sketch({ ...comb().outline, points: [], curves: [], constraints: [] })
  const y = (i: number) => 8 * Math.sin(i)
  const curve = sketch.spline(
    'through',
    Array.from({ length: 10 }, (_, i) => ({ at: [10 * i, y(i)] as const })),
    false,
  )
  for (const i of [2, 5, 7])
    sketch.line({ at: [10 * i + 3, y(i + 0.3)], hold: { kind: 'on', of: curve } }, { at: [10 * i, -30] })
  return sketch.outline
}

async function draggedWave(): Promise<number> {
  const outline = wave()
  const system = systemOf(outline, { values: new Map(), taken: new Map() })
  let at = solved(system)
  const p = system.points.get(outline.points[4]!.id)!
  const drags: number[] = []
  for (let i = 0; i < 41; i++) {
    const to = [40 + 0.1 * i, at.x[p + 1]! + 0.3] as const
    drags.push(
      await timed(() => {
        at = solved(system, at.x, { p, to })
      }),
    )
  }
  if (!at.solved) throw new Error('the wave was lost while it was dragged')
  return median(drags)
}

/** A drawing of 5,000 segments that nothing holds: worked out, and a point of it dragged. */
export async function longOutlineBench(): Promise<void> {
  const outline = longRing(5000)
  const given = { values: new Map(), taken: new Map(), fields: new Map() }
  const whole = await timed(() => solveOutline(outline, given))
  const system = systemOf(outline, given)
  let at = solved(system)
  const p = system.points.get('p1234')!
  const drags: number[] = []
  for (let i = 0; i < 11; i++) {
    const to = [at.x[p]! + 0.02 * Math.cos(i), at.x[p + 1]! + 0.02 * Math.sin(i)] as const
    drags.push(
      await timed(() => {
        at = solved(system, at.x, { p, to })
      }),
    )
  }
  report(
    'outline of 5,000 segments, solved with its regions',
    `${whole.toFixed(0)} ms (wanted 2000 at most)`,
    whole <= 2000,
  )
  const drag = median(drags)
  report(
    'outline of 5,000 segments, a step of dragging',
    `${drag.toFixed(0)} ms, median (wanted 200 at most)`,
    drag <= 200,
  )
}

/** Solving and dragging a drawing of 300 curves and 400 constraints. */
export async function outlineBench(): Promise<void> {
  const { outline, values } = comb()
  const given = { values, taken: new Map(), fields: new Map() }
  const first = [...values.keys()][20]!
  let solution: Solution | undefined
  const solves: number[] = []
  for (let i = 0; i < 21; i++) {
    const changed = { ...given, values: new Map(values).set(first, 5 + 0.2 * i) }
    solves.push(
      await timed(() => {
        solution = solved(systemOf(outline, changed))
      }),
    )
  }
  if (!solution!.solved) throw new Error('the comb was not solved')
  const system = systemOf(outline, given)
  let at = solved(system)
  const p = system.points.get(outline.points[150]!.id)!
  const drags: number[] = []
  for (let i = 0; i < 41; i++) {
    const to = [at.x[p]! + Math.cos(i), at.x[p + 1]! + Math.sin(i)] as const
    drags.push(
      await timed(() => {
        at = solved(system, at.x, { p, to })
      }),
    )
  }
  if (!at.solved) throw new Error('the comb was lost while it was dragged')
  const what = `outline of ${outline.curves.length} curves and ${outline.constraints.length} constraints`
  const [solve, drag] = [median(solves), median(drags)]
  report(`${what}, solved after a change`, `${solve.toFixed(1)} ms, median (wanted 30 at most)`, solve <= 30)
  report(`${what}, a step of dragging`, `${drag.toFixed(1)} ms, median (wanted 8 at most)`, drag <= 8)
  report('lines that end on a curve, a step of dragging it', `${(await draggedWave()).toFixed(1)} ms, median`)
  const free = await timed(() => freedomOf(system, at.x))
  report(`${what}, reading off what is free`, `${free.toFixed(1)} ms`)
  const whole = await timed(() => solveOutline(outline, given))
  report(`${what}, solved with its regions`, `${whole.toFixed(1)} ms`)
}
