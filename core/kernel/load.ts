import Module, { type ManifoldToplevel } from 'manifold-3d'

export interface Library {
  readonly module: ManifoldToplevel
  /** bytes of WebAssembly memory held by the library */
  heapBytes(): number
}

/** What is used of the host's WebAssembly; every host has it, but it is not in the language's own library of types. */
interface WebAssemblyHost {
  readonly Memory: new (...args: never[]) => { readonly buffer: ArrayBuffer }
  instantiate(
    bytes: ArrayBuffer | Uint8Array,
    imports: unknown,
  ): Promise<{ instance: { exports: Record<string, unknown> } }>
}

/**
 * Starts the solid library from its WebAssembly bytes (a page fetches them, a server reads the file).
 * One instance serves one thread.
 */
export async function loadLibrary(wasm: ArrayBuffer | Uint8Array): Promise<Library> {
  const host = (globalThis as unknown as { WebAssembly: WebAssemblyHost }).WebAssembly
  let memory: { readonly buffer: ArrayBuffer } | undefined
  const options = {
    // Instantiated here, so that its memory can be watched and nothing is fetched behind our back.
    instantiateWasm: (imports: unknown, done: (instance: unknown) => void) => {
      host.instantiate(wasm, imports).then(({ instance }) => {
        memory = Object.values(instance.exports).find((value) => value instanceof host.Memory) as typeof memory
        done(instance)
      })
      return {}
    },
  }
  const module = await (Module as (options: unknown) => Promise<ManifoldToplevel>)(options)
  module.setup()
  return { module, heapBytes: () => memory?.buffer.byteLength ?? 0 }
}
