import { readdirSync, readFileSync } from 'node:fs'
import { applyEdit, type Part, readPartFile } from '@makrel/core/document'
import type { Kernel } from '@makrel/core/kernel'
import { meshFigures, TriangleTree } from '@makrel/core/mesh'
import { fieldKindOf } from '@makrel/core/planning'
import { checks, fieldOf, ProofMemory, proofOf } from '@makrel/core/proof'
import { Builder, type Built } from '@makrel/core/solids'
import { inTurns, median, report, timed } from './measure.ts'
import { millionTriangles, sixtySteps } from './parts.ts'

/** Checks that measure walls, or what is open, all over. */
const ofWalls: readonly string[] = ['walls', 'leastWall', 'slots']

/** What a proof of a large part costs, against reading its mesh once. */
export async function proofOfLarge(kernel: Kernel): Promise<void> {
  const builder = new Builder(kernel)
  // Half of the triangles at twice the fineness.
  const built = await builder.build(millionTriangles(), { fineness: 0.06 })
  const solid = built.pieces[0]!.solid!
  const count = solid.mesh().triangles.length / 3
  const only = checks.flatMap(({ id }) => (ofWalls.includes(id) ? [] : [id]))
  const [whole, read] = await inTurns(
    1,
    () => proofOf(kernel, built, { only }),
    () => meshFigures(solid.mesh()),
  )
  const ratio = whole / read
  report(
    `all checks but walls and slots of ${Math.round(count / 1000)},000 triangles`,
    `${(whole / 1000).toFixed(1)} s, ${ratio.toFixed(1)} × its mesh read once (${read.toFixed(0)} ms); wanted < 20`,
    ratio < 20,
  )
  builder.clear()
}

/** What is run for the first time runs slowly: so many edits come before those that count. */
const practised = 3

/** What the proof after an edit costs, against a whole one. */
export async function proofAfterEdit(kernel: Kernel): Promise<void> {
  const part = sixtySteps()
  const builder = new Builder(kernel)
  const memory = new ProofMemory()
  const build = (of: Part) => builder.build(of, { fineness: 0.03 })
  await proofOf(kernel, await build(part), { memory })
  const [after, whole]: [number[], number[]] = [[], []]
  for (let i = -practised; i < 7; i++) {
    const edited = applyEdit(
      part,
      { type: 'set-field', id: 'slot3', field: 'diameter', text: `${4.1 + i / 20}` },
      fieldKindOf,
    )
    const built = await build(edited)
    const [edit, all] = [
      await timed(() => proofOf(kernel, built, { memory })),
      await timed(() => proofOf(kernel, built)),
    ]
    if (i < 0) continue
    after.push(edit)
    whole.push(all)
  }
  const ratio = median(after) / median(whole)
  report(
    'the proof after an edit of one of 60 steps of one piece',
    `${median(after).toFixed(0)} ms, ${ratio.toFixed(2)} of a whole one; wanted < 0.3`,
    ratio < 0.3,
  )
  builder.clear()
}

/** What fields cost a place, beside one question for the nearest place of a surface. */
export async function fieldPlaces(kernel: Kernel): Promise<void> {
  const folder = new URL('../../demo/', import.meta.url)
  for (const field of ['walls', 'slots', 'leans'] as const) {
    let [places, ms, questions, asking] = [0, 0, 0, 0]
    for (const file of readdirSync(folder).filter((name) => name.endsWith('.makrel.json'))) {
      const builder = new Builder(kernel)
      const built = await builder.build(readPartFile(readFileSync(new URL(file, folder), 'utf8')), { fineness: 0.03 })
      const pieces = piecesOf(built)
      ms += await timed(async () => {
        const { surfaces } = await fieldOf(kernel, built, { kind: 'field', field, pieces })
        places += surfaces.reduce((sum, { values }) => sum + values.length, 0)
      })
      for (const { solid } of built.pieces) {
        if (!solid) continue
        const { positions } = solid.mesh()
        const tree = new TriangleTree(solid.mesh())
        asking += await timed(() => {
          for (let i = 0; i < positions.length; i += 3 * everyCorner, questions++)
            tree.nearest([positions[i]! + beside, positions[i + 1]!, positions[i + 2]! + beside])
        })
      }
      builder.clear()
    }
    const each = (1000 * ms) / places
    const isWalls = field === 'walls'
    report(
      `the field “${field}” of all demo parts`,
      `${each.toFixed(2)} µs a place, ${places.toLocaleString('en')} of them${isWalls ? '; wanted < 3' : ''}; one nearest place takes ${((1000 * asking) / questions).toFixed(2)} µs`,
      isWalls ? each < 3 : undefined,
    )
  }
}

/** Of so many corners one is asked from, so many mm beside it. */
const [everyCorner, beside] = [7, 0.3]

const piecesOf = ({ pieces }: Built) => pieces.flatMap(({ piece, solid }) => (solid ? [piece.id] : []))
