// Writes core/text/fonts/*.json from font files, so that lettering needs no font reader and no file at run time.
//   node scripts/fonts.mjs READER NAME FILE [FILE …]
// READER is the path of the opentype.js module; FILEs are .ttf, .otf or .woff, the first one wins where both have a glyph.
import { readFileSync, writeFileSync } from 'node:fs'
import { pathToFileURL } from 'node:url'

const [, , reader, name, ...files] = process.argv
const { parse } = await import(pathToFileURL(reader).href)
const fonts = files.map((file) => {
  const bytes = readFileSync(file)
  return parse(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength))
})

// Printable Latin-1 and Latin Extended-A, and what workshop labels need beside them.
const wanted = [...range(0x20, 0x7e), ...range(0xa0, 0x17f), ...[...'–—‘’“”„•…‹›€−×÷±°⌀→←↑↓½¼¾']].filter(
  (c, i, all) => all.indexOf(c) === i,
)
function range(from, to) {
  return Array.from({ length: to - from + 1 }, (_, i) => String.fromCodePoint(from + i))
}

const glyphs = {}
for (const character of wanted) {
  const font = fonts.find((each) => each.charToGlyphIndex(character) > 0)
  if (!font) continue
  const glyph = font.charToGlyph(character)
  glyphs[character] = [Math.round(glyph.advanceWidth), pathText(glyph, font)]
}

/** Commands in font units, y up: M x y, L x y, Q cx cy x y, C … ; each contour ends with Z. */
function pathText(glyph, font) {
  const { commands } = glyph.getPath(0, 0, font.unitsPerEm)
  const number = (value) => String(Math.round(value))
  return commands
    .map((c) =>
      c.type === 'Z'
        ? 'Z'
        : c.type +
          [c.x1, c.y1, c.x2, c.y2, c.x, c.y]
            .map((value, i) => (value === undefined ? undefined : number(i % 2 ? -value : value)))
            .filter((value) => value !== undefined)
            .join(' '),
    )
    .join('')
}

const [first] = fonts
const kerning = {}
for (const left of Object.keys(glyphs))
  for (const right of Object.keys(glyphs)) {
    if (!/[\p{L}\p{N}]/u.test(left + right) || left.codePointAt(0) > 0x7e || right.codePointAt(0) > 0x7e) continue
    const value = first.getKerningValue(first.charToGlyph(left), first.charToGlyph(right))
    if (value) kerning[left + right] = value
  }
const capHeight = first.tables.os2.sCapHeight || first.charToGlyph('H').getBoundingBox().y2
writeFileSync(
  new URL(`../core/text/fonts/${name}.json`, import.meta.url),
  `${JSON.stringify({ capHeight, unitsPerEm: first.unitsPerEm, kerning, glyphs })}\n`,
)
