import { bent, meshOf } from '@makrel/core/flex'
import { median, report, timed } from './measure.ts'

/** A flex test of 20,000 unknowns: a leaf spring that bends as far as a tenth of its length. */
export async function flexBench(): Promise<void> {
  const corners = [
    [0, 0],
    [120, 0],
    [120, 5],
    [0, 5],
  ] as const
  const mesh = meshOf([{ points: corners, tags: [0, 1, 2, 3] }], 0.53)!
  const stuff = { stiffness: 2100, poisson: 0.36, thickness: 8 }
  const times: number[] = []
  for (let i = 0; i < 3; i++)
    times.push(
      await timed(() => bent(mesh, stuff, { held: [3], pushed: [1], way: [0, 1], by: 'distance', amount: 0.01 })),
    )
  const unknowns = mesh.nodes.length
  report(
    'a flex test',
    `${median(times).toFixed(0)} ms with ${unknowns.toLocaleString('en')} unknowns; wanted < 1000 with 20,000`,
    median(times) * (20_000 / unknowns) < 1000,
  )
  const far = await timed(() => bent(mesh, stuff, { held: [3], pushed: [1], way: [0, 1], by: 'distance', amount: 12 }))
  report('the same bent by a tenth of its length', `${far.toFixed(0)} ms`)
}
