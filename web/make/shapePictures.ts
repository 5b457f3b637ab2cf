import { create } from 'zustand'
import { pictureSolids } from '../channel/client.ts'
import type { ShapePicture } from '../channel/protocol.ts'

/** As they are drawn on the page, in dots. */
export const pictureSize = { width: 88, height: 60 } as const

interface ShapePictures {
  readonly pictures: ReadonlyMap<string, ShapePicture>
  readonly asked: boolean
  /** has them made, once; where that fails, line drawings take their place */
  ask(): void
}

/** Pictures of all kinds of shapes, made from their solids when they are first looked at. */
export const useShapePictures = create<ShapePictures>()((set, get) => ({
  pictures: new Map(),
  asked: false,
  ask() {
    if (get().asked) return
    set({ asked: true })
    pictureSolids()
      .call('pictures', { width: 2 * pictureSize.width, height: 2 * pictureSize.height })
      .then(
        (made) => set({ pictures: new Map(made.map((each) => [each.kind, each])) }),
        () => set({ asked: false }),
      )
  },
}))
