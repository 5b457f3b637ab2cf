import type { Kernel } from '@makrel/core/kernel'
import { meshFigures, TriangleTree } from '@makrel/core/mesh'
import { Builder, type RenderMesh, renderMeshOf } from '@makrel/core/solids'
import { BufferAttribute, BufferGeometry, DoubleSide, Ray, Vector3 } from 'three'
import { MeshBVH } from 'three-mesh-bvh'
import { median, report, timed } from './measure.ts'
import { millionTriangles, twoHundredSteps } from './parts.ts'

/** What is asked of a mesh of a million triangles: its figures, what lies under the pointer, and what is near. */
export async function millionBench(kernel: Kernel): Promise<void> {
  const builder = new Builder(kernel)
  const built = await builder.build(millionTriangles(), { fineness: 0.03 })
  const [piece] = built.pieces
  const mesh = piece!.solid!.mesh()
  const count = mesh.triangles.length / 3
  const figures: number[] = []
  for (let i = 0; i < 3; i++) figures.push(await timed(() => meshFigures(mesh)))
  const each = median(figures) / (count / 1e6)
  report('figures of a million triangles', `${each.toFixed(0)} ms; wanted < 250`, each < 250)

  const drawn = renderMeshOf(built, piece!)!
  const geometry = new BufferGeometry().setAttribute('position', new BufferAttribute(drawn.positions, 3))
  let tree!: MeshBVH
  const made = await timed(() => {
    tree = new MeshBVH(geometry, { indirect: true })
  })
  const rays = Array.from({ length: 200 }, (_, i) => {
    const from = new Vector3(-900 + 9 * i, -1500, 700)
    return new Ray(from, new Vector3(0.1, 1, -0.4).normalize())
  })
  const hovers: number[] = []
  let hits = 0
  for (const ray of rays) hovers.push(await timed(() => (hits += tree.raycastFirst(ray, DoubleSide) ? 1 : 0)))
  report(
    'what lies under the pointer, with the tree',
    `${median(hovers).toFixed(3)} ms in the middle, ${hits} of ${rays.length} on the part; the tree ${made.toFixed(0)} ms, in a worker; wanted < 16`,
    median(hovers) < 16 && hits > rays.length / 4,
  )

  await toThePage('a million triangles', drawn)
  const steps = await builder.build(twoHundredSteps(), { fineness: 0.03 })
  await toThePage('200 steps', renderMeshOf(steps, steps.pieces[0]!)!)

  let own!: TriangleTree
  const grown = await timed(() => {
    own = new TriangleTree(mesh)
  })
  const asked: number[] = []
  for (let i = 0; i < 200; i++) asked.push(await timed(() => own.nearest([-900 + 9 * i, 37.3, 250])))
  report('what is nearest on it', `${median(asked).toFixed(3)} ms in the middle; the tree ${grown.toFixed(0)} ms`)
  builder.clear()
}

/** What a drawing costs on its way from the worker: buffers are given away, names are copied. */
async function toThePage(of: string, drawn: RenderMesh): Promise<void> {
  const bytes = Object.values(drawn).reduce((sum, each) => sum + (ArrayBuffer.isView(each) ? each.byteLength : 0), 0)
  const { faces, named } = drawn
  const copies: number[] = []
  for (let i = 0; i < 9; i++) copies.push(await timed(() => structuredClone({ faces, named })))
  report(
    `the drawing of ${of} to the page`,
    `${(bytes / 1e6).toFixed(1)} MB given away, ${median(copies).toFixed(1)} ms to copy the names of ${faces.length} faces and ${named.length} edges`,
  )
}
