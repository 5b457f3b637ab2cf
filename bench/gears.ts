import { applyEdit, newPiece } from '@makrel/core/document'
import { acrossAxis, gearRing, isoProfile, toothSizes } from '@makrel/core/gears'
import type { Kernel } from '@makrel/core/kernel'
import { fieldKindOf } from '@makrel/core/planning'
import { Builder, renderMeshOf } from '@makrel/core/solids'
import { inTurns, median, report, timed } from './measure.ts'
import { partOf, step } from './parts.ts'

const fineness = 0.03
const [width, helix] = [10, 20]

/** A pair of helical gears beside the library's own twist of the same outlines, and a changed number of teeth. */
export async function gearsBench(kernel: Kernel): Promise<void> {
  const sizes = { module: 1.5, pressure: 20, helix, shift: 0, thinner: 0.1, ...isoProfile }
  const gear = (id: string, teeth: number, hand: string, x: number) =>
    step(
      id,
      'gear',
      {
        teeth: `${teeth}`,
        module: '1.5',
        height: `${width}`,
        run: 'helical',
        helix: `${helix}`,
        hand,
        play: '0.1',
        bore: 'none',
      },
      { across: { from: 'centre', to: 'own', by: `${x}` } },
    )
  // Two that run are two pieces.
  const alone = partOf([gear('a', 60, 'right', 0)])
  const second = { ...newPiece('second', 'Second', 'sand'), steps: [gear('b', 20, 'left', 63.9)] }
  const part = { ...alone, pieces: [...alone.pieces, second] }
  const rings = [60, 20].map((count) => {
    const teeth = acrossAxis({ ...sizes, count })
    const turn = (width * Math.tan((helix * Math.PI) / 180)) / toothSizes(teeth).pitch
    return { ring: gearRing(teeth, fineness), turn, radius: toothSizes(teeth).tip }
  })
  const builder = new Builder(kernel)
  const [ours, raw] = await inTurns(
    7,
    async () => {
      builder.clear()
      await builder.build(part, { fineness })
    },
    () => {
      for (const { ring, turn, radius } of rings) {
        const steps = Math.ceil((Math.abs(turn) / 2) * Math.sqrt(radius / (2 * fineness)))
        const made = kernel.library.module.Manifold.extrude([ring as never], width, steps - 1, (turn * 180) / Math.PI)
        // Nothing is made before something is asked.
        if (made.status() !== 'NoError') throw new Error(made.status())
        made.delete()
      }
    },
  )
  const ratio = ours / raw
  report(
    'gears of 60 and 20 helical teeth',
    `${ratio.toFixed(2)} of the library’s own twist; wanted ≤ 2 (${ours.toFixed(0)} ms)`,
    ratio <= 2,
  )
  const times: number[] = []
  for (let i = 0; i < 7; i++) {
    times.push(
      await timed(async () => {
        const teeth = `${47 + i}`
        const built = await builder.build(
          applyEdit(part, { type: 'set-field', id: 'a', field: 'teeth', text: teeth }, fieldKindOf),
          { fineness },
        )
        for (const piece of built.pieces) renderMeshOf(built, piece)
      }),
    )
  }
  const changed = median(times)
  report('another number of teeth, built and drawn', `${changed.toFixed(0)} ms; wanted < 300`, changed < 300)
  builder.clear()
}
