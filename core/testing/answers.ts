import { readFileSync, writeFileSync } from 'node:fs'
import { afterAll, expect } from 'vitest'
import { Drawn } from '../plane/index.ts'

/**
 * What random things came to, kept in a file beside the test, so that the same part gives the same solid in the next release.
 * `MAKREL_RECORD=1 npx vitest run <test>` writes the file anew; what differs in it is what a change has changed.
 */

/** Numbers are compared to within this share of the largest that went into them: another processor rounds its sines otherwise. */
const within = 1e-7

/** Several numbers as one that changes where one of them does, the largest of them, and how many there are. */
type Summed = readonly [sum: number, most: number, count: number]
export type Answer = Readonly<Record<string, Summed | string>>

interface Kept {
  /** by registry: what the random things are drawn from, so that a new kind changes none of them */
  readonly kinds: Record<string, readonly string[]>
  readonly answers: Record<string, Answer>
}

export interface KeptAnswers {
  /** Compares an answer with the one that is kept under its name. */
  expectKept(name: string, answer: Answer): void
  /** Of a registry, the kinds that were there when the answers were written down. */
  kindsOf<T extends { readonly kind: string }>(registry: string, all: readonly T[]): readonly T[]
}

export function keptAnswers(file: URL): KeptAnswers {
  const recording = process.env.MAKREL_RECORD === '1'
  const kept: Kept = recording ? { kinds: {}, answers: {} } : JSON.parse(readFileSync(file, 'utf8'))
  if (recording) afterAll(() => writeFileSync(file, textOf(kept)))
  return {
    expectKept(name, answer) {
      if (recording) kept.answers[name] = answer
      const known = kept.answers[name]
      expect(Object.keys(answer), name).toEqual(Object.keys(known ?? {}))
      for (const [about, found] of Object.entries(answer)) expectAlike(found, known![about]!, `${name}, ${about}`)
    },
    kindsOf(registry, all) {
      if (recording) kept.kinds[registry] = all.map(({ kind }) => kind)
      return (kept.kinds[registry] ?? []).flatMap((kind) => all.find((each) => each.kind === kind) ?? [])
    },
  }
}

function expectAlike(found: Summed | string, known: Summed | string, about: string): void {
  if (typeof found === 'string' || typeof known === 'string') {
    expect(found, about).toBe(known)
    return
  }
  expect(found[2], `${about}: how many`).toBe(known[2])
  expect(Math.abs(found[1] - known[1]), `${about}: the largest`).toBeLessThanOrEqual(within * Math.max(1, known[1]))
  const loose = within * Math.max(1, known[1])
  expect(Math.abs(found[0] - known[0]), `${about}: ${found[0]} for ${known[0]}`).toBeLessThanOrEqual(loose)
}

/** One line for each answer, so that a difference shows which. */
function textOf({ kinds, answers }: Kept): string {
  const lines = Object.entries(answers).map(([name, answer]) => `${JSON.stringify(name)}: ${JSON.stringify(answer)}`)
  return `{\n"kinds": ${JSON.stringify(kinds)},\n"answers": {\n${lines.join(',\n')}\n}}\n`
}

/** Numbers anywhere in a value as one, also those in texts: each counts for another share, so that they cannot change places. */
export function summed(value: unknown): Summed {
  let [sum, most, count] = [0, 0, 0]
  const add = (one: unknown): void => {
    const each = typeof one === 'string' && one.trim() !== '' ? Number(one) : one
    if (typeof each === 'number' && Number.isFinite(each)) {
      // The golden ratio spreads the shares evenly, whatever the count.
      sum += each * (1 + ((count * 0.6180339887498949) % 1))
      most = Math.max(most, Math.abs(each))
      count++
    } else if (each instanceof Drawn) add([each.area(), each.loops.length])
    else if (typeof each === 'object' && each) for (const part of partsOf(each)) add(part)
  }
  add(value)
  return [rounded(sum), rounded(most), count]
}

/** Words anywhere in a value, in their order, as one short text that changes where one of them does. */
export function worded(value: unknown): string {
  const words: string[] = []
  const add = (each: unknown): void => {
    if (typeof each === 'string' || typeof each === 'boolean' || each === null || each === undefined)
      words.push(String(each))
    else if (typeof each === 'object') for (const part of partsOf(each)) add(part)
  }
  add(value)
  // FNV-1a (Fowler, Noll, Vo), 32 bits.
  let hash = 0x811c9dc5
  for (const letter of words.join('\n')) hash = Math.imul(hash ^ letter.codePointAt(0)!, 0x01000193) >>> 0
  return `${words.length} words ${hash.toString(16)}`
}

function partsOf(value: object): readonly unknown[] {
  if (value instanceof Map || Array.isArray(value)) return [...value]
  if (value instanceof Set) return [...value]
  if (ArrayBuffer.isView(value)) return [...(value as unknown as Iterable<number>)]
  return Object.values(value)
}

function rounded(value: number): number {
  return Number(value.toPrecision(12))
}
