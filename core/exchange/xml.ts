/** Attributes in their order; those that are undefined are left out. */
type Attributes = Readonly<Record<string, string | number | undefined>>

/** An element as XML text (Extensible Markup Language 1.0, W3C). `content` is text already: of elements within, or escaped. */
export function element(name: string, attributes: Attributes = {}, content: string | readonly string[] = ''): string {
  const own = Object.entries(attributes).flatMap(([key, value]) =>
    value === undefined ? [] : [` ${key}="${escaped(String(value))}"`],
  )
  const within = typeof content === 'string' ? content : content.join('')
  return within === '' ? `<${name}${own.join('')}/>` : `<${name}${own.join('')}>${within}</${name}>`
}

/** A whole document of one element. */
export function xmlDocument(root: string): string {
  return `<?xml version="1.0" encoding="UTF-8"?>\n${root}`
}

/** Text as it stands in an element or an attribute: without what would end it, and without what no XML may hold (§2.2). */
export function escaped(text: string): string {
  return [...text]
    .filter((letter) => {
      const code = letter.codePointAt(0)!
      const isText = code >= 0x20 || code === 0x9 || code === 0xa || code === 0xd
      return isText && !(code >= 0xd800 && code <= 0xdfff) && code !== 0xfffe && code !== 0xffff
    })
    .map((letter) => entities[letter] ?? letter)
    .join('')
}

/** Line ends and tabs would be read as spaces in an attribute (§3.3.3). */
const entities: Readonly<Record<string, string>> = {
  ...{ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&apos;' },
  ...{ '\t': '&#9;', '\n': '&#10;', '\r': '&#13;' },
}
