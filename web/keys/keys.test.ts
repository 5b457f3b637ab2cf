import { beforeAll, describe, expect, it, vi } from 'vitest'
import { partKeys } from '../frame/partKeys.ts'
import { stepKeys } from '../make/stepKeys.ts'
import { outlineKeys } from '../outline/outlineKeys.ts'
import { viewKeys } from '../viewport/viewKeys.ts'
import { bindings, type KeyList, patternsOf, shownKeys } from './keys.ts'

class Field {
  readonly type = 'text'
}
beforeAll(() => {
  vi.stubGlobal('HTMLInputElement', Field)
  vi.stubGlobal('HTMLTextAreaElement', class {})
})

function pressed(list: KeyList, pattern: string, target: unknown = {}) {
  const event = { target, preventDefault: vi.fn() }
  bindings(list)[pattern]?.(event as unknown as KeyboardEvent)
  return event.preventDefault.mock.calls.length > 0
}

describe('keys', () => {
  it('go to the first line that takes them, and from the browser only then', () => {
    const done: string[] = []
    const line = (name: string, taken?: false) => ({
      ...{ keys: ['a'], does: name },
      run: () => {
        done.push(name)
        return taken
      },
    })
    expect(pressed({ title: '', keys: [line('refuses', false), line('takes'), line('never')] }, 'a')).toBe(true)
    expect(done).toEqual(['refuses', 'takes'])
    expect(pressed({ title: '', keys: [line('refuses', false)] }, 'a')).toBe(false)
  })
  it('belong to a field while text is typed there, but for those that say otherwise', () => {
    const run = vi.fn()
    const list = (typing: boolean) => ({ title: '', keys: [{ keys: ['a'], does: '', typing, run }] })
    expect(pressed(list(false), 'a', new Field())).toBe(false)
    expect(run).not.toHaveBeenCalled()
    expect(pressed(list(true), 'a', new Field())).toBe(true)
    expect(run).toHaveBeenCalledOnce()
  })
  it('answer with what may be held besides', () => {
    expect(patternsOf({ keys: ['ArrowUp', 'j'], with: ['Shift', 'Alt'], does: '' })).toEqual([
      ...['ArrowUp', 'Shift+ArrowUp', 'Alt+ArrowUp', 'j', 'Shift+j', 'Alt+j'],
    ])
  })
  it.each([
    [['$mod+z', '$mod+Shift+z'], 'Ctrl Z, Ctrl Shift Z'],
    [['ArrowLeft', 'ArrowRight'], '← →'],
    [['Shift++', '-'], 'Shift +, −'],
    [['Delete'], 'Delete'],
    [['x', 'y'], 'X Y'],
  ])('%j are written %s', (keys, text) => {
    expect(shownKeys({ keys, does: '' })).toBe(text)
  })
})

describe.each([
  ['Make', [partKeys, stepKeys, viewKeys]],
  ['an outline', [partKeys, outlineKeys]],
])('the keys of %s', (_, lists) => {
  // Escape goes from the innermost outwards; digits and signs are a polygon's own before they are the view's.
  const shared = ['Escape', '+', 'Shift++', '=', 'Shift+=', '-']
  it('do one thing each', () => {
    const patterns = lists.flatMap(({ keys }) => keys.filter(({ run }) => run).flatMap(patternsOf))
    const twice = patterns.filter((pattern, i) => patterns.indexOf(pattern) !== i && !shared.includes(pattern))
    expect(twice).toEqual([])
  })
  it('all say what they do', () => {
    for (const key of lists.flatMap(({ keys }) => keys)) {
      expect(shownKeys(key)).not.toBe('')
      expect(key.does).toMatch(/^[a-z]/)
    }
  })
})
