import { type Item, type ItemKind, itemKinds } from './define.ts'
import { itemsFor } from './items.ts'

/** Matches count so much: the size itself, a word of what it is called, a word that it is found by, the beginning of one, a size in mm. */
const worth = { size: 100, label: 30, word: 20, begun: 8, standard: 15, sized: 10 } as const

interface Listed {
  readonly item: Item
  readonly size: string
  readonly label: readonly string[]
  readonly words: readonly string[]
  readonly standard: readonly string[]
  readonly sizes: readonly number[]
}

let known: readonly Listed[] | undefined
function listed(): readonly Listed[] {
  known ??= itemsFor(itemKinds).map((item) => ({
    item,
    size: oneWord(item.size),
    label: wordsOf(item.family.label),
    words: item.family.words.flatMap(wordsOf),
    standard: wordsOf(item.family.standard.replace(/:.*/, '')),
    sizes: Object.values(item.sizes),
  }))
  return known
}

/**
 * Items that all words typed fit, the best first: "M4 nut", "608", "1/4-20", "M3 insert", "key 5x5", "countersunk M5", "bearing 22".
 * Without words all of these kinds.
 */
export function findItems(typed: string, kinds: readonly ItemKind[] = itemKinds): readonly Item[] {
  const words = wordsOf(joined(typed))
  if (words.length === 0) return itemsFor(kinds)
  return listed()
    .filter(({ item }) => kinds.includes(item.family.kind))
    .map((each, i) => ({ item: each.item, i, worth: worthOf(each, words) }))
    .filter((each) => each.worth > 0)
    .sort((a, b) => b.worth - a.worth || a.i - b.i)
    .map(({ item }) => item)
}

/** Whether all words typed say which size is meant: its own name is among them. */
export function namesSize(typed: string, { size }: Item): boolean {
  return wordsOf(joined(typed)).includes(oneWord(size))
}

function worthOf({ size, label, words, standard, sizes }: Listed, typed: readonly string[]): number {
  let sum = 0
  for (const word of typed) {
    const one =
      word === size
        ? worth.size
        : label.includes(word)
          ? worth.label
          : words.includes(word)
            ? worth.word
            : standard.includes(word)
              ? worth.standard
              : /^\d+(\.\d+)?$/.test(word) && sizes.includes(Number(word))
                ? worth.sized
                : [...label, ...words, size].some((own) => own.startsWith(word))
                  ? worth.begun
                  : 0
    if (one === 0) return 0
    sum += one
  }
  return sum
}

/** "5 x 5", "5×5 mm", "Tr 10 x 2" and "G 1 1/4" are one word, as sizes are called. */
function joined(typed: string): string {
  return typed
    .replace(/(\d)\s*(?:mm)?\s*[x×*]\s*(?=\d)/gi, '$1×')
    .replace(/⌀\s*/g, '⌀')
    .replace(/\b(m|g|r|s|tr|rd)\s+(?=\d)/gi, '$1')
    .replace(/\b((?:g|r)\d)\s+(?=\d+\/)/gi, '$1-')
}

function oneWord(size: string): string {
  return size
    .toLowerCase()
    .replace(/\s*([×⌀])\s*/g, '$1')
    .split(' ')[0]!
}

function wordsOf(text: string): readonly string[] {
  return text
    .toLowerCase()
    .split(/[\s,]+/)
    .filter((word) => word !== '' && word !== 'mm')
}
