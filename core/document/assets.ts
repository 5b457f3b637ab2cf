import { sha256 } from '@noble/hashes/sha2'
import { bytesToHex } from '@noble/hashes/utils'
import type { Asset, FieldKindOf, Part } from './format.ts'
import { mapStep } from './references.ts'

/** What an asset is called by: the SHA-256 (FIPS 180-4) of its data. */
export function hashOfAsset(data: string): string {
  return bytesToHex(sha256(data))
}

export function assetOf(name: string, data: string): Asset {
  return { hash: hashOfAsset(data), name: name.slice(0, 120), data }
}

/** The data of an asset; undefined where the part does not have it. */
export function assetData({ assets }: Pick<Part, 'assets'>, hash: string): string | undefined {
  return assets.find((asset) => asset.hash === hash)?.data
}

/** The hashes of all that steps and outlines of a part refer to. */
export function assetsUsed({ pieces, outlines }: Pick<Part, 'pieces' | 'outlines'>, kindOf: FieldKindOf): Set<string> {
  const used = new Set(outlines.flatMap(({ picture }) => (picture ? [picture.asset] : [])))
  const asset = (hash: string) => {
    used.add(hash)
    return hash
  }
  for (const { steps } of pieces) for (const step of steps) mapStep(step, { asset }, kindOf)
  return used
}

/** The part without assets that nothing refers to any more. */
export function withoutIdleAssets(part: Part, kindOf: FieldKindOf): Part {
  if (part.assets.length === 0) return part
  const used = assetsUsed(part, kindOf)
  const assets = part.assets.filter(({ hash }) => used.has(hash))
  return assets.length === part.assets.length ? part : { ...part, assets }
}
