import { readdir, readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { readPartFile } from '@makrel/core/document'
import { keptPart } from './kept.ts'
import type { PartStore } from './parts.ts'
import { everyone } from './scope.ts'

/** Puts the demo parts on an empty shelf; tells how many. */
export async function loadDemo(store: PartStore, folder: string): Promise<number> {
  if ((await store.count()) > 0) return 0
  const files = (await readdir(folder)).filter((file) => file.endsWith('.makrel.json')).sort()
  const shelf = store.shelf(everyone)
  for (const file of files) await shelf.create(keptPart(readPartFile(await readFile(join(folder, file), 'utf8'))))
  return files.length
}
