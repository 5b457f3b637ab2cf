type Texts = Readonly<Record<string, string>>

/**
 * A kind whose fields may change: its version now, and what brings fields from each version to the next, the first from 1 to 2.
 * Files tell the version that they were written with where that is not 1.
 */
export interface Versioned {
  readonly version?: number
  readonly upgrades?: readonly ((fields: Texts) => Texts)[]
}

export function versionOf({ version = 1 }: Versioned): number {
  return version
}

/** The version that what is made new is kept with: told where it is not 1. */
export function versionTold(definition: Versioned): { readonly version?: number } {
  const version = versionOf(definition)
  return version > 1 ? { version } : {}
}

/** Fields of an earlier version as those of this one; as they are where they are of this or a later one. */
export function upgradedFields(definition: Versioned, fields: Texts, from = 1): Texts {
  const { upgrades = [] } = definition
  return upgrades.slice(from - 1, versionOf(definition) - 1).reduce((texts, upgrade) => upgrade(texts), fields)
}

/** Checks at start that there is a way from each version to the next. @throws Error */
export function checkVersions({ kind, ...definition }: Versioned & { readonly kind: string }): void {
  if ((definition.upgrades?.length ?? 0) !== versionOf(definition) - 1)
    throw new Error(`${kind} has no way from each of its versions to the next`)
}
