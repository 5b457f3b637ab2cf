import { useEffect } from 'react'
import { tinykeys } from 'tinykeys'

/** What a key does, in one line of the table that both the page and its help are made of. */
export interface Key {
  /** as tinykeys writes them: "$mod+z"; any of them will do */
  readonly keys: readonly string[]
  /** what may be held besides: the event tells whether it is */
  readonly with?: readonly ('Shift' | 'Alt')[]
  /** for the help, where it is not just the keys */
  readonly shown?: string
  /** for the help: verb first */
  readonly does: string
  /** also while text is being typed */
  readonly typing?: boolean
  /** False where it was not for this key: the next line with the same key has it. None where the browser, or a field, tells. */
  run?(event: KeyboardEvent): unknown
}

export interface KeyList {
  readonly title: string
  readonly keys: readonly Key[]
}

/** Binds the keys of a view, for as long as it is there. */
export function useKeyList(list: KeyList): void {
  useEffect(() => tinykeys(window, bindings(list)), [list])
}

/** For each pattern, what is done: the first line that takes the key. */
export function bindings({ keys }: KeyList): Record<string, (event: KeyboardEvent) => void> {
  const lines = new Map<string, Key[]>()
  for (const key of keys) {
    if (!key.run) continue
    for (const pattern of patternsOf(key)) lines.set(pattern, [...(lines.get(pattern) ?? []), key])
  }
  return Object.fromEntries(
    [...lines].map(([pattern, own]) => [
      pattern,
      (event: KeyboardEvent) => {
        // What has the keyboard has used it.
        if (event.defaultPrevented) return
        const taken = own.some((key) => (key.typing || !isTyping(event)) && key.run!(event) !== false)
        if (taken) event.preventDefault()
      },
    ]),
  )
}

/** All patterns that a line answers to. */
export function patternsOf({ keys, with: held = [] }: Key): string[] {
  return keys.flatMap((key) => [key, ...held.map((modifier) => `${modifier}+${key}`)])
}

const words: Readonly<Record<string, string>> = {
  $mod: 'Ctrl',
  ArrowLeft: '←',
  ArrowRight: '→',
  ArrowUp: '↑',
  ArrowDown: '↓',
  PageUp: 'Page Up',
  PageDown: 'Page Down',
  '-': '−',
}

/** "Ctrl Z, Ctrl Shift Z": keys as the help writes them, those of one sign each side by side. */
export function shownKeys({ keys, shown }: Key): string {
  if (shown !== undefined) return shown
  const all = keys.map((pattern) =>
    pattern
      .split(/\b\+/)
      .map((key) => words[key] ?? (key.length === 1 ? key.toUpperCase() : key))
      .join(' '),
  )
  return all.join(all.every((text) => text.length === 1) ? ' ' : ', ')
}

/** The keys that bring a drawing nearer and take it farther. */
export function zoomKeys(zoom: (times: number) => void): readonly Key[] {
  return [
    {
      keys: ['+', '='],
      with: ['Shift'],
      shown: '+',
      does: 'nearer',
      run() {
        zoom(1.25)
      },
    },
    {
      keys: ['-'],
      does: 'farther',
      run() {
        zoom(1 / 1.25)
      },
    },
  ]
}

/** Whether the keyboard is in a field for text, which has its own use for most keys. */
export function isTyping({ target }: Event): boolean {
  if (target instanceof HTMLInputElement)
    return !['checkbox', 'radio', 'button', 'range', 'color', 'file'].includes(target.type)
  return target instanceof HTMLTextAreaElement
}
