import { BufferAttribute, BufferGeometry } from 'three'
import { MeshBVH } from 'three-mesh-bvh'
import type { NameOf } from './protocol.ts'
import { type Answers, serve } from './serving.ts'

const answers: Answers<NameOf<'picking'>> = {
  tree({ positions }) {
    const geometry = new BufferGeometry().setAttribute('position', new BufferAttribute(positions, 3))
    // Triangles keep their order, by which their faces are found.
    const { roots, indirectBuffer } = MeshBVH.serialize(new MeshBVH(geometry, { indirect: true }), {
      cloneBuffers: false,
    })
    return { roots: roots as ArrayBuffer[], order: indirectBuffer as Uint32Array | Uint16Array }
  },
  compress({ bitmap }) {
    const paper = new OffscreenCanvas(bitmap.width, bitmap.height)
    paper.getContext('2d')!.drawImage(bitmap, 0, 0)
    bitmap.close()
    return paper.convertToBlob({ type: 'image/png' })
  },
}

serve(Promise.resolve(answers))
