import { zipSync } from 'fflate'

/** The earliest time that a zip knows: archives carry none of their own, so that the same part gives the same bytes. */
const noDate = new Date(1980, 0, 1)

/** Files by their names in one archive (zip, APPNOTE 6.3). */
export function archived(files: Readonly<Record<string, Uint8Array>>): Uint8Array {
  return zipSync({ ...files }, { mtime: noDate })
}
