import fc from 'fast-check'
import { SaxesParser } from 'saxes'
import { describe, expect, it } from 'vitest'
import { element, escaped, xmlDocument } from './xml.ts'

function read(text: string) {
  const found: { name: string; attributes: Record<string, string> }[] = []
  let words = ''
  const parser = new SaxesParser()
  parser.on('error', (error) => {
    throw error
  })
  parser.on('opentag', ({ name, attributes }) => void found.push({ name, attributes: { ...attributes } }))
  parser.on('text', (more) => {
    words += more
  })
  parser.write(text).close()
  return { found, words: words.trim() }
}

describe('an element as text', () => {
  it('is read as it was meant, whatever stands in it', () => {
    const anything = fc.string({ unit: 'grapheme', maxLength: 30 })
    fc.assert(
      fc.property(anything, anything, (name, words) => {
        const inner = element('b', { 'a:x': name, left: undefined, n: -0.5 }, escaped(words))
        const { found, words: told } = read(xmlDocument(element('a', {}, [inner, element('c')])))
        expect(found.map((each) => each.name)).toEqual(['a', 'b', 'c'])
        // What XML cannot hold is left out, and nothing else is.
        // biome-ignore lint/suspicious/noControlCharactersInRegex: these it cannot hold
        const kept = (text: string) => text.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '')
        expect(found[1]!.attributes).toEqual({ 'a:x': kept(name), n: '-0.5' })
        expect(told).toBe(kept(words).trim())
      }),
    )
  })
  it('without content is one tag', () => {
    expect(element('a', { x: 1, y: undefined })).toBe('<a x="1"/>')
    expect(element('a', {}, ['', element('b')])).toBe('<a><b/></a>')
    expect(escaped('5 < 6 & "7"\n\u0001')).toBe('5 &lt; 6 &amp; &quot;7&quot;&#10;')
  })
})
