import Module, { type ManifoldToplevel } from 'manifold-3d'
import { RingStore } from './rings.ts'

export interface Library {
  readonly module: ManifoldToplevel
  readonly rings: RingStore
  /** bytes of WebAssembly memory held by the library */
  heapBytes(): number
}

/** The library's WebAssembly, compiled by the host (a `WebAssembly.Module`): may be shared by threads, each with an instance of its own. */
export interface CompiledLibrary {
  readonly [Symbol.toStringTag]: string
}

type Exports = Record<string, unknown>

/** What is used of the host's WebAssembly; every host has it, but it is not in the language's own library of types. */
interface WebAssemblyHost {
  readonly Memory: new (...args: never[]) => { readonly buffer: ArrayBuffer }
  compile(bytes: ArrayBuffer | Uint8Array): Promise<CompiledLibrary>
  instantiate(compiled: CompiledLibrary, imports: unknown): Promise<{ exports: Exports }>
}

const host = (globalThis as unknown as { WebAssembly: WebAssemblyHost }).WebAssembly

/** Compiles the library from its WebAssembly bytes; a page that fetches them may have its host compile them as they come. */
export function compileLibrary(wasm: ArrayBuffer | Uint8Array): Promise<CompiledLibrary> {
  return host.compile(wasm)
}

/** Starts the compiled library. One instance serves one thread. */
export async function loadLibrary(compiled: CompiledLibrary): Promise<Library> {
  let memory: { readonly buffer: ArrayBuffer } | undefined
  const options = {
    // Instantiated here, so that its memory can be watched and nothing is fetched behind our back.
    instantiateWasm: (imports: unknown, done: (instance: unknown) => void) => {
      host.instantiate(compiled, imports).then((instance) => {
        memory = Object.values(instance.exports).find((value) => value instanceof host.Memory) as typeof memory
        done(instance)
      })
      return {}
    },
  }
  const module = await (Module as (options: unknown) => Promise<ManifoldToplevel>)(options)
  module.setup()
  // It grows into another buffer.
  const rings = new RingStore(module, () => memory!.buffer)
  return { module, rings, heapBytes: () => memory?.buffer.byteLength ?? 0 }
}
