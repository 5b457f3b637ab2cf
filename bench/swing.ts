import { newPiece, onBed } from '@makrel/core/document'
import { defaultFields } from '@makrel/core/fields'
import { jointOf } from '@makrel/core/joints'
import { arc, type Kernel } from '@makrel/core/kernel'
import { apart, TriangleTree } from '@makrel/core/mesh'
import { type Frame, turnedAbout } from '@makrel/core/place'
import { Swing } from '@makrel/core/proof'
import { Builder } from '@makrel/core/solids'
import { median, report } from './measure.ts'
import { partOf, step } from './parts.ts'

/** How far two pieces are apart, beside the library's own measure, and a chain that swings. */
export async function swingBench(kernel: Kernel): Promise<void> {
  twoLarge(kernel)
  await chain(kernel)
}

/** Two balls of 100,000 triangles. */
function twoLarge(kernel: Kernel): void {
  const within = 4
  kernel.scope((scope) => {
    const ball = (radius: number) => scope.revolve(arc(0, 0, radius, -90, 90, 160), 320)
    const [one, two] = [ball(20), ball(17.3)]
    const trees = [one, two].map((solid) => new TriangleTree(solid.mesh())) as [TriangleTree, TriangleTree]
    const at = (degrees: number): Frame => ({
      ...turnedAbout([0, 0, 0], [0.6, 0, 0.8], degrees),
      origin: [38.9 + degrees / 30, 3.2, 1.1],
    })
    const raw: number[] = []
    for (const degrees of [37.3, 39.1, 41.7]) {
      const placed = scope.placed(two, at(degrees))
      raw.push(took(() => one.gapTo(placed, within)))
    }
    let start: readonly [number, number] | undefined
    const look = (degrees: number) =>
      took(() => {
        start = apart(...trees, { frame: at(degrees), within, start })?.triangles
      })
    const first = look(37.3)
    const following: number[] = []
    for (let degrees = 38; degrees < 48; degrees += 0.7) following.push(look(degrees))
    const [own, next] = [first / median(raw), median(following) / median(raw)]
    report(
      'smallest gap between two pieces of 100,000 triangles',
      `${own.toFixed(3)} of the library’s own at first, ${next.toFixed(3)} at following positions; wanted ≤ 1.2 and ≤ 0.2 (${median(raw).toFixed(0)} ms)`,
      own <= 1.2 && next <= 0.2,
    )
  })
}

/** Links on pins, each in the one before: 20 pieces and 19 joints. */
async function chain(kernel: Kernel): Promise<void> {
  const count = 20
  const [long, fields] = [14.3, defaultFields(jointOf('on-axis')!.fields)]
  const where = (x: number) =>
    ({ across: { from: 'centre', to: 'own', by: `${x}` }, along: { from: 'centre', to: 'own', by: '0' } }) as const
  const link = (i: number) => [
    step(`b${i}`, 'bar', { diameter: '10', height: '3' }, where(i * long)),
    step(`p${i}`, 'bar', { diameter: '4', height: '6.5' }, where(i * long)),
    step(`e${i}`, 'bar', { diameter: '10', height: '3' }, { ...where((i + 1) * long), lift: '3.4' }),
    step(`w${i}`, 'plate', { width: '3', depth: '8', height: '6.4' }, where((i + 0.5) * long)),
    { ...step(`h${i}`, 'bar', { diameter: '4.7', height: '9' }, where((i + 1) * long)), operation: 'cut' as const },
  ]
  const alone = partOf(link(0))
  const pieces = Array.from({ length: count - 1 }, (_, i) => ({
    ...newPiece(`l${i + 1}`, `${i + 1}`, 'sand'),
    steps: link(i + 1),
  }))
  const ids = [alone.pieces[0]!.id, ...pieces.map(({ id }) => id)]
  const joints = ids.slice(1).map((id, i) => ({
    ...{ id: `j${i}`, name: '', kind: 'on-axis', pieces: [ids[i]!, id] as const, place: onBed },
    fields: { ...fields, about: `p${i + 1}` },
  }))
  const part = { ...alone, pieces: [...alone.pieces, ...pieces], joints }
  const [fine, coarse] = [new Builder(kernel), new Builder(kernel)]
  const built = {
    fine: await fine.build(part, { fineness: 0.01 }),
    coarse: await coarse.build(part, { fineness: 0.04 }),
  }
  const bent = Object.fromEntries(joints.map(({ id }, k) => [id, [11.7 * (k % 2 ? 1 : -1)]]))
  const swing = new Swing(kernel)
  // A link in the middle is dragged: its joint moves, all others stay as they are set.
  const dragged: number[] = []
  for (let i = 0; i < 31; i++) dragged.push(took(() => swing.at(built, { ...bent, j9: [i / 2] })))
  const [first, ...rest] = dragged
  report(
    'a chain of 20 pieces and 19 joints, a position with all gaps while a link is dragged',
    `${median(rest).toFixed(1)} ms median after the first, ${first!.toFixed(0)} ms; wanted < 12`,
    median(rest) < 12,
  )
  const all: number[] = []
  for (let i = 0; i < 15; i++) {
    const wanted = Object.fromEntries(joints.map(({ id }, k) => [id, [(i / 2) * (k % 2 ? 1 : -1)]]))
    all.push(took(() => swing.at(built, wanted)))
  }
  report('the same with all joints moved at once', `${median(all.slice(1)).toFixed(1)} ms median`)
  fine.clear()
  coarse.clear()
}

/** ms */
function took(work: () => unknown): number {
  const started = performance.now()
  work()
  return performance.now() - started
}
