/**
 * Lists in a text: items end at a semicolon or a new line, what each consists of at a comma that stands in no brackets.
 * `start` is the position of each stretch in the text.
 */
export interface Stretch {
  readonly text: string
  readonly start: number
}

export function listed(text: string): Stretch[][] {
  const items: Stretch[][] = [[]]
  let depth = 0
  let start = 0
  const end = (at: number) => {
    items.at(-1)!.push({ text: text.slice(start, at), start })
    start = at + 1
  }
  for (let i = 0; i < text.length; i++) {
    const c = text[i]
    if (c === '(') depth++
    else if (c === ')') depth--
    else if (c === ';' || c === '\n') {
      end(i)
      items.push([])
    } else if (c === ',' && depth === 0) end(i)
  }
  end(text.length)
  // A separator at the very end begins no further item.
  return items.filter((item) => item.length > 1 || item[0]!.text.trim() !== '')
}

/** The text with some of its stretches put through `change`, but for the blanks round them. */
export function replaced(text: string, stretches: readonly Stretch[], change: (stretch: string) => string): string {
  return stretches.reduceRight((out, { text: own, start }) => {
    const from = start + own.length - own.trimStart().length
    return out.slice(0, from) + change(own.trim()) + out.slice(from + own.trim().length)
  }, text)
}

/** What stands behind the last comma that is in no brackets; undefined where there is none. */
export function behindComma(text: string): Stretch | undefined {
  let depth = 0
  for (let i = text.length - 1; i >= 0; i--) {
    if (text[i] === ')') depth++
    else if (text[i] === '(') depth--
    else if (text[i] === ',' && depth === 0) return { text: text.slice(i + 1), start: i + 1 }
  }
  return undefined
}
