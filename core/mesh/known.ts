import type { TriangleMesh } from './define.ts'
import { sameTriangles } from './same.ts'

/** What was told of some triangles of a mesh before, as marks of those of another one. */
export interface ToldBefore {
  /** it was told of them */
  readonly told: Uint8Array
  /** they were not there */
  readonly fresh: Uint8Array
}

/** What was told of triangles of surfaces, by what it is: an edit leaves most of them alone, and what is told of others is not asked anew. */
export class KnownSurfaces {
  readonly #known = new Map<string, { readonly mesh: TriangleMesh; readonly told: Uint8Array; round: number }>()
  readonly #same = new WeakMap<TriangleMesh, Map<TriangleMesh, Int32Array>>()
  #round = 0

  /** What comes now is of a later state: what was of no use in the last ones is forgotten. */
  begin(): void {
    this.#round++
    for (const [what, { round }] of this.#known) if (this.#round - round > mostRounds) this.#known.delete(what)
  }

  /** The same of the triangles of this mesh; undefined where it was told of no mesh before. */
  before(what: string, mesh: TriangleMesh): ToldBefore | undefined {
    const known = this.#known.get(what)
    if (!known) return undefined
    known.round = this.#round
    const same = this.same(mesh, known.mesh)
    return {
      told: Uint8Array.from(same, (t) => known.told[t] ?? 0),
      fresh: Uint8Array.from(same, (t) => (t < 0 ? 1 : 0)),
    }
  }

  /** `told`: marks of triangles. What was told before is forgotten. */
  keep(what: string, mesh: TriangleMesh, told: Uint8Array): void {
    this.#known.set(what, { mesh, told, round: this.#round })
  }

  private same(mesh: TriangleMesh, before: TriangleMesh): Int32Array {
    const own = this.#same.get(mesh) ?? new Map<TriangleMesh, Int32Array>()
    this.#same.set(mesh, own)
    const same = own.get(before) ?? sameTriangles(mesh, before)
    own.set(before, same)
    return same
  }
}
/** A proof that was left off tells nothing of what the next one needs. */
const mostRounds = 3
