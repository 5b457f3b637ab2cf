import { applyEdit, type Part, type Step, type TreatmentStep } from '@makrel/core/document'
import { ballForm, chosenEdges, edgeBodies, Surface } from '@makrel/core/edges'
import { edgeRules } from '@makrel/core/fields'
import type { Kernel } from '@makrel/core/kernel'
import { fieldKindOf } from '@makrel/core/planning'
import { Builder, copiesOf, namedSolid } from '@makrel/core/solids'
import { inTurns, median, report, timed } from './measure.ts'
import { partOf, sixtySteps, step } from './parts.ts'

const fineness = 0.03
const up = [0, 0, 1] as const

function treatment(id: string, operation: string, fields: Record<string, string>): TreatmentStep {
  return { kind: 'treatment', id, name: '', mute: false, when: '', operation, fields }
}
const onTop = (x: number, y: number) => ({
  on: { kind: 'face', step: 'b', face: 'top' } as const,
  across: { from: 'centre', to: 'centre', by: `${x}` } as const,
  along: { from: 'centre', to: 'centre', by: `${y}` } as const,
})

/** A plate with holes on a grid, in columns and rows. */
function holed(height: string, columns: number, rows: number, diameter: string): Step[] {
  const holes = Array.from({ length: columns * rows }, (_, i) => {
    const [column, row] = [i % columns, Math.floor(i / columns)]
    return step(
      `h${i}`,
      'hole',
      { diameter },
      onTop((column + 0.5) * (180 / columns) - 90, (row + 0.5) * (100 / rows) - 50),
    )
  })
  return [step('b', 'plate', { width: '200', depth: '120', height }), ...holes]
}

/** What rounds and hollows cost beside the library's own work on bodies that are ready made. */
export async function edgesBench(kernel: Kernel): Promise<void> {
  await topOfPlate(kernel)
  await allOfPlate(kernel)
  await beforeThreeRounds(kernel)
  await changedRadius(kernel)
  await hollowBox(kernel)
}

async function topOfPlate(kernel: Kernel): Promise<void> {
  const plate = holed('6', 8, 5, '9.3')
  const builder = new Builder(kernel)
  const rounded = partOf([...plate, treatment('r', 'round', { edges: 'of b/top', radius: '1' })])
  // Solids live until their builder builds again.
  const built = await new Builder(kernel).build(partOf(plate), { fineness })
  const piece = built.pieces[0]!
  const named = namedSolid(piece.solid!, copiesOf(built.plan), piece.ownerOf)
  const { edges } = chosenEdges(named, edgeRules('of b/top'), up)
  const { bodies } = edgeBodies(new Surface(named, piece.solid!.corners()), edges, ballForm(1), up, fineness)
  let turn = 0
  const [ours, raw] = await inTurns(
    7,
    async () => {
      // Another radius each time, so that nothing is found in the cache but the plate.
      const radius = (1 + 1e-4 * ++turn).toFixed(4)
      await builder.build(
        applyEdit(rounded, { type: 'set-field', id: 'r', field: 'radius', text: radius }, fieldKindOf),
        { fineness },
      )
    },
    () =>
      kernel.scope((scope) => {
        const cutters = bodies.map(({ points, triangles }) => scope.surface(points, triangles))
        return scope.difference(piece.solid!, cutters).triangleCount()
      }),
  )
  report(
    'top of a plate with 40 holes rounded',
    `${(ours / raw).toFixed(2)} of a raw batch; wanted < 3 (${ours.toFixed(0)} ms)`,
    ours / raw < 3,
  )
  builder.clear()
}

/** What a maker waits for: all edges of a plate with forty holes, and a plate that is changed under three rounds. */
async function allOfPlate(kernel: Kernel): Promise<void> {
  const builder = new Builder(kernel)
  const times: number[] = []
  for (let turn = 0; turn < 7; turn++) {
    const all = treatment('r', 'round', { edges: 'all', radius: (1 + 1e-3 * turn).toFixed(4) })
    times.push(await timed(() => builder.build(partOf([...holed('6', 8, 5, '9.3'), all]), { fineness })))
  }
  builder.clear()
  report('all edges of a plate with 40 holes', `${median(times).toFixed(0)} ms; wanted 500`, median(times) <= 500)
}

async function beforeThreeRounds(kernel: Kernel): Promise<void> {
  const builder = new Builder(kernel)
  const rounds = [
    treatment('r1', 'round', { edges: 'upright of b', radius: '5' }),
    treatment('r2', 'round', { edges: 'of b/top', radius: '1' }),
    treatment('r3', 'round', { edges: 'of b/bottom', radius: '0.7' }),
  ]
  const times: number[] = []
  for (let turn = 0; turn < 7; turn++) {
    const plate = holed((6 + turn / 10).toFixed(1), 8, 5, '9.3')
    times.push(await timed(() => builder.build(partOf([...plate, ...rounds]), { fineness })))
  }
  builder.clear()
  report('an edit before three rounds of it', `${median(times).toFixed(0)} ms; wanted 300`, median(times) <= 300)
}

async function changedRadius(kernel: Kernel): Promise<void> {
  const sixty: Part = sixtySteps()
  const [first, ...rest] = sixty.pieces
  const base = first!.steps[0]!.id
  const edges = [
    treatment('e1', 'round', { edges: `upright of ${base}`, radius: '2' }),
    treatment('e2', 'bevel', { edges: `of ${base}/bottom`, size: '0.8' }),
    treatment('e3', 'round', { edges: `where ${base}/top meets ${base}/front`, radius: '1' }),
  ]
  const part: Part = { ...sixty, pieces: [{ ...first!, steps: [...first!.steps, ...edges] }, ...rest] }
  const full: number[] = []
  const edited: number[] = []
  for (let i = 0; i < 5; i++) {
    const fresh = new Builder(kernel)
    full.push(await timed(() => fresh.build(part, { fineness })))
    const radius = (1 + 0.1 * (i + 1)).toFixed(2)
    const changed = applyEdit(part, { type: 'set-field', id: 'e3', field: 'radius', text: radius }, fieldKindOf)
    edited.push(await timed(() => fresh.build(changed, { fineness })))
    fresh.clear()
  }
  const ratio = median(edited) / median(full)
  report(
    'a changed radius in 60 steps and three of edges',
    `${ratio.toFixed(2)} of a full build; wanted < 0.5`,
    ratio < 0.5,
  )
}

async function hollowBox(kernel: Kernel): Promise<void> {
  const box = holed('60', 4, 3, '12')
  const builder = new Builder(kernel)
  const hollow = partOf([...box, treatment('w', 'hollow', { thick: '2' })])
  const solidOf = async (part: Part) => (await new Builder(kernel).build(part, { fineness })).pieces[0]!.solid!
  const [plain, solid] = [await solidOf(partOf(box)), await solidOf(hollow)]
  const cavity = kernel.scope((scope) => scope.handOver(scope.difference(plain, [solid])))
  let turn = 0
  const [ours, raw] = await inTurns(
    7,
    async () => {
      const thick = (2 + 1e-4 * ++turn).toFixed(4)
      await builder.build(applyEdit(hollow, { type: 'set-field', id: 'w', field: 'thick', text: thick }, fieldKindOf), {
        fineness,
      })
    },
    () => kernel.scope((inner) => inner.difference(plain, [cavity]).triangleCount()),
  )
  report(
    'a bored box hollowed',
    `${(ours / raw).toFixed(1)} of its raw boolean; wanted < 10 (${ours.toFixed(0)} ms)`,
    ours / raw < 10,
  )
  cavity.release()
  builder.clear()
}
