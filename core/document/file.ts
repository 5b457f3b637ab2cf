import { ProblemError } from '../problems/index.ts'
import { hashOfAsset } from './assets.ts'
import { bodiesOf } from './comesTo.ts'
import { type Asset, currentVersion, type Outline, type Part, type Step } from './format.ts'
import { bytesOf, documentLimits } from './limits.ts'
import { migrations } from './migrations.ts'
import { partSchema } from './schemas.ts'
import { contentOf } from './tree.ts'
import { writePartFile } from './written.ts'

/**
 * Reads a part file of this or an earlier version.
 * @throws ProblemError file-too-large, file-not-json, file-not-part, file-newer, file-invalid
 */
export function readPartFile(text: string): Part {
  checkSize(text)
  let raw: unknown
  try {
    raw = JSON.parse(text)
  } catch (error) {
    throw new ProblemError('file-not-json', { detail: (error as Error).message })
  }
  return checkedPart(raw)
}

/**
 * A document as it came from a file or over the wire, checked and brought to the current version. What `sound` has met
 * before is not looked at again.
 * @throws ProblemError file-not-part, file-newer, file-invalid
 */
export function checkedPart(raw: unknown, sound?: SoundThings): Part {
  if (typeof raw !== 'object' || raw === null || (raw as { format?: unknown }).format !== 'makrel-part')
    throw new ProblemError('file-not-part', {})
  const version = (raw as { version?: unknown }).version
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1)
    throw new ProblemError('file-invalid', { place: 'version', detail: 'it must be a whole number from 1' })
  if (version > currentVersion) throw new ProblemError('file-newer', { version, known: currentVersion })
  const migrated = migrations.slice(version - 1).reduce<unknown>((document, migrate) => migrate(document), raw)
  const part = sound?.checked(migrated) ?? validated(migrated)
  const ids = new Set<string>()
  let count = 0
  const look = (steps: readonly Step[], depth: number): void => {
    if (depth > documentLimits.nesting)
      throw new ProblemError('file-invalid', {
        place: 'pieces',
        detail: `bundles are nested deeper than ${documentLimits.nesting}`,
      })
    for (const step of steps) {
      if (ids.has(step.id))
        throw new ProblemError('file-invalid', { place: 'pieces', detail: `two steps have the id ${step.id}` })
      ids.add(step.id)
      if (++count > documentLimits.allSteps)
        throw new ProblemError('file-invalid', {
          place: 'pieces',
          detail: `there are more than ${documentLimits.allSteps} steps`,
        })
      look(contentOf(step), depth + 1)
    }
  }
  for (const piece of part.pieces) look(piece.steps, 1)
  const bodies = bodiesOf(part)
  if (bodies > documentLimits.bodies)
    throw new ProblemError('file-invalid', {
      place: 'pieces',
      detail: `its steps come to ${bodies} bodies, each that is the same as another counted; at most ${documentLimits.bodies} can be built`,
    })
  return part
}

function validated(raw: unknown): Part {
  const { error, value } = partSchema().validate(raw)
  if (!error) {
    checkHashes((value as Part).assets)
    return value as Part
  }
  const detail = error.details[0]!
  throw new ProblemError('file-invalid', { place: detail.path.join('.') || 'the top', detail: detail.message })
}

/** What a hash stands for is looked at once, and then goes by the hash. @throws ProblemError file-invalid */
function checkHashes(assets: readonly Asset[]): void {
  for (const { hash, data } of assets)
    if (hashOfAsset(data) !== hash)
      throw new ProblemError('file-invalid', { place: 'assets', detail: 'an asset is not what its hash says' })
}

type Listed = Readonly<Record<string, unknown>>
const isListed = (raw: unknown): raw is Listed => typeof raw === 'object' && raw !== null && !Array.isArray(raw)

/**
 * Steps, outlines and assets that were found sound before, by their text: of a part that is kept again and again only what has
 * changed is checked. It holds so many characters of text at most, and lets go what it met longest ago.
 */
export class SoundThings {
  readonly #known = new Map<string, unknown>()
  readonly #most: number
  #size = 0

  constructor(most = 32_000_000) {
    this.#most = most
  }

  /** The part, where it is sound; undefined where all of it is to be looked at. */
  checked(raw: unknown): Part | undefined {
    if (!isListed(raw) || !Array.isArray(raw.pieces)) return undefined
    if (!Array.isArray(raw.outlines) || !Array.isArray(raw.assets)) return undefined
    const { pieces, outlines, assets } = raw
    if (!pieces.every((piece) => isListed(piece) && Array.isArray(piece.steps))) return undefined
    const steps = (pieces as { steps: unknown[] }[]).map((piece) => this.sorted(piece.steps))
    const drawn = this.sorted(outlines)
    const brought = this.sorted(assets)
    // Known ones are left out; counts are looked at where they are in.
    if (outlines.length > documentLimits.outlines || assets.length > documentLimits.assets) return undefined
    if (steps.some(({ all }) => all.length > documentLimits.steps)) return undefined
    const { error, value } = partSchema().validate({
      ...raw,
      pieces: pieces.map((piece, i) => ({ ...piece, steps: steps[i]!.fresh })),
      outlines: drawn.fresh,
      assets: brought.fresh,
    })
    if (error) return undefined
    const part = value as Part
    checkHashes(part.assets)
    const whole: Part = {
      ...part,
      pieces: part.pieces.map((piece, i) => ({ ...piece, steps: this.whole<Step>(steps[i]!.all, piece.steps) })),
      outlines: this.whole<Outline>(drawn.all, part.outlines),
      assets: this.whole<Asset>(brought.all, part.assets),
    }
    const distinct = (names: readonly string[]) => new Set(names).size === names.length
    const sound = distinct(whole.outlines.map(({ id }) => id)) && distinct(whole.assets.map(({ hash }) => hash))
    return sound ? whole : undefined
  }

  private sorted(list: readonly unknown[]) {
    const all = list.map((thing) => {
      const text = JSON.stringify(thing) ?? ''
      return { text, thing: this.#known.get(text) }
    })
    return { all, fresh: list.filter((_, i) => all[i]!.thing === undefined) }
  }

  /** A list with what was checked now in the places that were open; all of it is known from now on. */
  private whole<T>(all: readonly { text: string; thing: unknown }[], checked: readonly T[]): T[] {
    const left = checked.values()
    return all.map(({ text, thing }) => {
      const sound = thing === undefined ? left.next().value! : (thing as T)
      this.remember(text, sound)
      return sound
    })
  }

  private remember(text: string, thing: unknown): void {
    if (!this.#known.delete(text)) this.#size += text.length
    this.#known.set(text, thing)
    for (const oldest of this.#known.keys()) {
      if (this.#size <= this.#most) return
      this.#known.delete(oldest)
      this.#size -= oldest.length
    }
  }
}

/** @throws ProblemError file-too-large */
function checkSize(text: string): void {
  // No text has more characters than bytes.
  if (text.length > documentLimits.bytes || bytesOf(text) > documentLimits.bytes)
    throw new ProblemError('file-too-large', { limit: `${documentLimits.bytes / 1e6} MB` })
}

/**
 * A part as it is kept: what is acknowledged can be opened again.
 * @throws ProblemError file-too-large
 */
export function keptText(part: Part): string {
  const text = writePartFile(part)
  checkSize(text)
  return text
}
