import { promisify } from 'node:util'
import { deflateRawSync, inflateRaw } from 'node:zlib'
import { keptText, type Part } from '@makrel/core/document'
import type { PartUnit } from '@makrel/core/units'
import { withoutAssets } from './assets.ts'

/** A part in the form that the database holds. */
export interface KeptPart {
  readonly id: string
  readonly name: string
  readonly unit: PartUnit
  /** the version of the format that it is written in */
  readonly version: number
  /** the document, with references in the place of its assets */
  readonly text: string
  /** by what they are referred to */
  readonly assets: ReadonlyMap<string, string>
  /** the document as earlier states hold it: a tenth of its size or less */
  readonly state: Uint8Array
}

/** @throws ProblemError file-too-large */
export function keptPart(document: Part): KeptPart {
  const { text, assets } = withoutAssets(keptText(document))
  const { id, name, unit, version } = document
  return { id, name, unit, version, text, assets, state: packed(text) }
}

/** A name as it is searched for and put in order by: the same however it is written. */
export function nameKey(name: string): string {
  return name.normalize('NFKC').toLowerCase()
}

/** The text of a document as earlier states hold it. */
export function packed(text: string): Buffer {
  return deflateRawSync(text)
}

const inflating = promisify(inflateRaw)

export async function unpacked(state: Uint8Array): Promise<string> {
  return (await inflating(state)).toString('utf8')
}
