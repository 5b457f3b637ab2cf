import { KnownSections } from '../layers/index.ts'
import { KnownSurfaces } from '../mesh/index.ts'
import type { Found } from './define.ts'

/** Proofs that nothing of a finding was asked for in, before it is forgotten: there and back again costs nothing. */
const mostProofs = 12

/**
 * What checks found, by all that it follows from: an edit proves what it touches, and what is taken back is known. The same key means
 * the same findings; solids are named in it by their content (`BuiltPiece.key`).
 */
export class ProofMemory {
  readonly #known = new Map<string, { readonly findings: readonly Found[]; used: number }>()
  #proof = 0
  /** layers that an edit leaves alone are the same after it */
  readonly sections = new KnownSections()
  /** and so are most triangles of its surfaces */
  readonly surfaces = new KnownSurfaces()

  /** Kept once it is found; what throws is not. */
  async kept(key: string, find: () => readonly Found[] | Promise<readonly Found[]>): Promise<readonly Found[]> {
    const known = this.#known.get(key)
    if (known) {
      known.used = this.#proof
      return known.findings
    }
    const findings = await find()
    this.#known.set(key, { findings, used: this.#proof })
    return findings
  }

  /** Before each proof: what was of no use in the last ones is forgotten. */
  begin(): void {
    this.#proof++
    this.sections.begin()
    this.surfaces.begin()
    for (const [key, { used }] of this.#known) if (this.#proof - used > mostProofs) this.#known.delete(key)
  }
}
