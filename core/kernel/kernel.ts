import type { Library } from './load.ts'
import { Scope } from './scope.ts'

/** The solid library, with everything it makes counted. */
export class Kernel {
  readonly library: Library
  #live = 0

  constructor(library: Library) {
    this.library = library
  }

  /** Solids not yet released. */
  get live(): number {
    return this.#live
  }
  /** @internal */
  counted(by: number): void {
    this.#live += by
  }
  get heapBytes(): number {
    return this.library.heapBytes()
  }

  /** Runs `work` with a scope; everything made in it and not handed over is released at its end. */
  scope<T>(work: (scope: Scope) => T): T {
    const scope = new Scope(this)
    try {
      return work(scope)
    } finally {
      scope.close()
    }
  }
}
