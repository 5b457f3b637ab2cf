import type { SolvedOutline } from '@makrel/core/outline'
export function Files(_: { readonly solved: SolvedOutline }) {
  return null
}
