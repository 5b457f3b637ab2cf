import type { Outline } from '@makrel/core/document'
export function PictureTools(_: { readonly outline: Outline }) {
  return null
}
