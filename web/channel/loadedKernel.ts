import { Kernel, loadLibrary } from '@makrel/core/kernel'
import wasmUrl from 'manifold-3d/manifold.wasm?url'

/** The solid library, in a worker of its own. */
export async function loadedKernel(): Promise<Kernel> {
  const response = await fetch(wasmUrl)
  return new Kernel(await loadLibrary(await response.arrayBuffer()))
}
