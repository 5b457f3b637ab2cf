import { useEffect } from 'react'
import type { BufferGeometry } from 'three'
import { MeshBVH } from 'three-mesh-bvh'
import { picker } from '../channel/client.ts'

/** Drawings that follow one another faster, as under a drag, are not sorted, ms. */
const atRest = 120

/** Of fewer triangles all are tried. */
const few = 2000

/**
 * Finds what lies under the pointer by a tree of boxes (a bounding volume hierarchy), made in a worker once the drawing
 * has come to rest. Until it is there all triangles are tried.
 */
export function usePickTree(geometry: BufferGeometry, positions: Float32Array | undefined): void {
  useEffect(() => {
    if (!positions || positions.length / 9 < few) return
    let current = true
    const timer = setTimeout(
      () =>
        void picker()
          .call('tree', { positions })
          .then(
            ({ roots, order }) => {
              if (!current) return
              const sorted = { version: 1, roots: [...roots], index: null, indirectBuffer: order }
              geometry.boundsTree = MeshBVH.deserialize(sorted as never, geometry, { setIndex: false })
            },
            () => undefined,
          ),
      atRest,
    )
    return () => {
      current = false
      clearTimeout(timer)
    }
  }, [geometry, positions])
}
