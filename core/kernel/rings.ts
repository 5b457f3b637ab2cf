import type { CrossSection, Manifold, ManifoldToplevel } from 'manifold-3d'

type Point = readonly [number, number]
export type Polygons = readonly (readonly Point[])[]

/** A list in the library's memory, as C++ has it: where it begins, where it ends. It has to be deleted. */
interface List<T> {
  push_back(value: T): void
  resize(count: number, value: T): void
  get(i: number): T
  size(): number
  delete(): void
  readonly $$: { readonly ptr: number }
}
type Place = { readonly x: number; readonly y: number }
type PlaceLists = List<List<Place>>

/** What the library has beneath what it declares. */
interface Beneath {
  readonly Vector_vec2: new () => List<Place>
  readonly Vector2_vec2: new () => PlaceLists
  readonly CrossSection: {
    readonly prototype: { readonly constructor: new (rings: PlaceLists, rule: number) => CrossSection }
  }
  _Extrude(rings: PlaceLists, height: number, divisions: number, twist: number, top: Place): Manifold
  _Revolve(rings: PlaceLists, segments: number, degrees: number): Manifold
  _Triangulate(
    rings: PlaceLists,
    epsilon: number,
    allowConvex: boolean,
  ): List<{ readonly [corner in 0 | 1 | 2]: number }>
}
type Plane = CrossSection & { _ToPolygons(): PlaceLists }

const rules = { NonZero: 1, Positive: 2 } as const
const origin: Place = { x: 0, y: 0 }
/** of a list of C++ on WebAssembly, bytes: where it begins, where it ends, where its room ends */
const listBytes = 12

/**
 * Rings into the library and out of it. Its own wrapper leaves a copy of each ring behind whenever it makes a region, cuts one into
 * triangles or gives its rings, which adds up to all of its memory where a part is worked on for long; and it asks for each number by itself. Here numbers
 * are read and written where they are.
 */
export class RingStore {
  readonly #library: Beneath
  readonly #memory: () => ArrayBuffer

  /** @throws Error where lists are not laid out as they are read here: another release of the library */
  constructor(library: ManifoldToplevel, memory: () => ArrayBuffer) {
    this.#library = library as unknown as Beneath
    this.#memory = memory
    const known: Polygons = [
      [
        [1.5, -2.25],
        [1e-9, 4],
        [7, 1 / 3],
      ],
      [[2, 3]],
    ]
    this.#given(known, (lists) => {
      const own = Array.from({ length: lists.size() }, (_, i) => {
        const list = lists.get(i)
        const points = Array.from({ length: list.size() }, (_, k) => [list.get(k).x, list.get(k).y])
        list.delete()
        return points
      })
      if (JSON.stringify([own, this.#read(lists)]) !== JSON.stringify([known, known]))
        throw new Error('the library keeps its rings in another way than is known')
    })
  }

  /** The region that rings fill, to be deleted. */
  region(rings: Polygons, rule: keyof typeof rules): CrossSection {
    const { constructor: Region } = this.#library.CrossSection.prototype
    return this.#given(rings, (lists) => new Region(lists, rules[rule]))
  }

  ringsOf(region: CrossSection): [number, number][][] {
    const lists = (region as Plane)._ToPolygons()
    try {
      return this.#read(lists)
    } finally {
      lists.delete()
    }
  }

  /** As they are: points are not sent through the plane, which rounds them. */
  extruded(rings: Polygons, height: number, steps: number, degrees: number): Manifold {
    return this.#given(rings, (lists) => this.#library._Extrude(lists, height, steps - 1, degrees, { x: 1, y: 1 }))
  }

  /** What the region of rings sweeps as it rises, in so many steps. */
  risen(rings: Polygons, height: number, steps: number): Manifold {
    return this.#through(rings, (lists) =>
      this.#library._Extrude(lists, height, Math.max(0, steps - 1), 0, { x: 1, y: 1 }),
    )
  }

  revolved(rings: Polygons, segments: number, degrees: number): Manifold {
    return this.#through(rings, (lists) => this.#library._Revolve(lists, segments, degrees))
  }

  /** Triangles of the region of rings, as places in the list of all of their points. */
  triangulated(rings: Polygons): (readonly [number, number, number])[] {
    return this.#given(rings, (lists) => {
      const found = this.#library._Triangulate(lists, -1, true)
      const out = Array.from({ length: found.size() }, (_, i) => {
        const triangle = found.get(i)
        return [triangle[0], triangle[1], triangle[2]] as const
      })
      found.delete()
      return out
    })
  }

  /** The rings of the region that rings fill. */
  #through<T>(rings: Polygons, use: (lists: PlaceLists) => T): T {
    const region = this.region(rings, 'Positive')
    const lists = (region as Plane)._ToPolygons()
    try {
      return use(lists)
    } finally {
      lists.delete()
      region.delete()
    }
  }

  #given<T>(rings: Polygons, use: (lists: PlaceLists) => T): T {
    const { Vector_vec2, Vector2_vec2 } = this.#library
    const all = new Vector2_vec2()
    try {
      for (const ring of rings) {
        const list = new Vector_vec2()
        list.resize(ring.length, origin)
        const memory = this.#memory()
        const at = new DataView(memory).getUint32(list.$$.ptr, true)
        const numbers = new Float64Array(memory, at, 2 * ring.length)
        for (let i = 0; i < ring.length; i++) {
          numbers[2 * i] = ring[i]![0]
          numbers[2 * i + 1] = ring[i]![1]
        }
        all.push_back(list)
        list.delete()
      }
      return use(all)
    } finally {
      all.delete()
    }
  }

  #read(lists: PlaceLists): [number, number][][] {
    const memory = this.#memory()
    const view = new DataView(memory)
    const [from, to] = [view.getUint32(lists.$$.ptr, true), view.getUint32(lists.$$.ptr + 4, true)]
    const out: [number, number][][] = []
    for (let at = from; at < to; at += listBytes) {
      const [begin, end] = [view.getUint32(at, true), view.getUint32(at + 4, true)]
      const numbers = new Float64Array(memory, begin, (end - begin) / 8)
      const ring: [number, number][] = []
      for (let i = 0; i < numbers.length; i += 2) ring.push([numbers[i]!, numbers[i + 1]!])
      out.push(ring)
    }
    return out
  }
}
