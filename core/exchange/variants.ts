import { applyEdit, type Part } from '../document/index.ts'
import { fieldKindOf } from '../planning/index.ts'
import type { Built } from '../solids/index.ts'
import { archived } from './archive.ts'
import type { MeshFormat } from './define.ts'
import { fileName, type HandOff, type HandOffOptions, handOff, type Leaving } from './handOff.ts'

/** The part with another of its variants in force; an empty id for the measures as they are typed. */
export function inVariant(part: Part, id: string): Part {
  return applyEdit(part, { type: 'choose-variant', id }, fieldKindOf)
}

/** A built part as it is to be handed off. */
export type StandingPart = Leaving & { readonly built: Built }

/** Builds a part for as long as it is used, and stands it as it is to be handed off. */
export type StoodFor = (part: Part, use: (standing: StandingPart) => Promise<void>) => Promise<void>

/**
 * The files of all variants, one after another, each written, read back and measured as by itself. `use` gets each
 * while its solids stand.
 * @throws ProblemError export-nothing, export-differs
 */
export async function handOffVariants(
  part: Part,
  stand: StoodFor,
  format: MeshFormat,
  options: HandOffOptions,
  use: (file: HandOff, standing: StandingPart) => void | Promise<void>,
): Promise<void> {
  for (const { id } of part.variants) {
    await stand(inVariant(part, id), async (standing) => {
      await use(handOff(standing.built, format, { ...options, ...standing }), standing)
    })
  }
}

/** Several files in one archive, under their names. */
export function archiveOf(
  part: Part,
  files: readonly HandOff[],
): { readonly file: string; readonly bytes: Uint8Array } {
  const entries = Object.fromEntries(files.map(({ receipt, bytes }) => [receipt.file, bytes]))
  return { file: `${fileName(part.name)}-variants.zip`, bytes: archived(entries) }
}
