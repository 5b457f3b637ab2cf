import type { Part } from '../format.ts'

// A folder of its own: the first script of the page takes this and nothing else of documents.

/** What all that is drawn of a part follows from, as text: the hashes of pictures and meshes stand for what these hold. */
export function contentText(part: Part): string {
  const assets = part.assets?.map(({ hash, name }) => ({ hash, name }))
  return JSON.stringify({ ...part, assets })
}
