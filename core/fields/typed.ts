import { isFitName } from '../fits/index.ts'

/** What is typed to find something by its name, with numbers behind it. */

/** How many characters of `text` the name explains: the whole name, or all of `text` as its beginning. */
export function matched(text: string, name: string): { readonly used: number; readonly whole: boolean } {
  if (text.startsWith(name) && !/^[\p{L}-]/u.test(text.slice(name.length))) return { used: name.length, whole: true }
  return { used: name.startsWith(text) ? text.length : 0, whole: false }
}

/** How many letters have to be changed, added, left out or swapped to come from one word to another. */
export function lettersOff(a: string, b: string): number {
  let before = Array.from({ length: b.length + 1 }, (_, k) => k)
  for (let i = 1; i <= a.length; i++) {
    const row = [i]
    for (let k = 1; k <= b.length; k++)
      row.push(Math.min(row[k - 1]! + 1, before[k]! + 1, before[k - 1]! + (a[i - 1] === b[k - 1] ? 0 : 1)))
    before = row
  }
  // What follows in the name is not typed yet.
  return Math.min(...before.slice(Math.max(0, a.length - 2)))
}

/** "84 44 6", "10x20", "10 × 20 x wall", "10 by 20", "10, 20", "⌀5.3 8", "2 1/2 in 30", "(foot + 2) 44" */
export function typedValues(text: string): string[] {
  const parted = text
    .replace(/(?<=[\d.)"'″′]|\b(?:mm|cm|in|m|ft))\s*x\s*(?=[\d.(⌀]|[\p{L}_])/giu, ' × ')
    // Behind a name only with blanks about it: "wall x 20".
    .replace(/(?<=[\d.)"'″′\p{L}_])(?:\s+(?:by|x)\s+|\s*,\s+)(?=[\d.(⌀]|[\p{L}_])/giu, ' × ')
  const value = /(?:\([^()]*\)|[^\s×(]|(?<=[\d½¼¾])\s+(?=(?:mm|cm|inches|inch|in|m|ft|feet)(?![\p{L}])))+/gu
  const values: string[] = []
  let end = 0
  for (const { 0: found, index } of parted.matchAll(value)) {
    const each = found.replace(/^⌀/, '').replace(/^\((.*)\)$/, '$1')
    // A whole number and a proper fraction behind it are one value, with nothing but blanks between: "1 1/2 30", but "1 × 1/2 × 30".
    const isBeside = parted.slice(end, index).trim() === ''
    const fraction = /^(\d+)\/(\d+)/.exec(each)
    const mixed = fraction && Number(fraction[1]) < Number(fraction[2]) && /^\d+$/.test(values.at(-1) ?? '')
    if (mixed && isBeside) values.push(`${values.pop()} ${each}`)
    else values.push(each)
    end = index + found.length
  }
  return values
}

/** Whether a word is a name of the part, which stands for a size. */
export type IsName = (word: string) => boolean

const word = /^\p{L}[\p{L}\p{N}_]*$/u

/** Typed values up to the first that is a word and no name, nor that of a fit, and what is beyond; all of them where nothing tells. */
export function understood(values: readonly string[], isName: IsName | undefined) {
  const at = values.findIndex((value) => word.test(value) && isName?.(value) === false && !isFitName(value))
  return at < 0 ? { values, beyond: [] } : { values: values.slice(0, at), beyond: values.slice(at) }
}
