import { type CompiledLibrary, Kernel, loadLibrary } from '@makrel/core/kernel'
import wasmUrl from 'manifold-3d/manifold.wasm?url'

/** The solid library, in a worker of its own. */
export async function loadedKernel(): Promise<Kernel> {
  // Compiled while it comes in, and kept compiled by the browser.
  return new Kernel(
    await loadLibrary((await WebAssembly.compileStreaming(fetch(wasmUrl))) as unknown as CompiledLibrary),
  )
}
