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
/** path from its start -> place in the list */
const contours = new Map()
for (const character of wanted) {
  const font = fonts.find((each) => each.charToGlyphIndex(character) > 0)
  if (!font) continue
  const glyph = font.charToGlyph(character)
  glyphs[character] = [Math.round(glyph.advanceWidth), contoursText(glyph, font)]
}

/** Contours that several letters have, as those with an accent do, are written once, from where they start. */
function contoursText(glyph, font) {
  const all = []
  let at = [0, 0]
  for (const { type, x1, y1, x2, y2, x, y } of glyph.getPath(0, 0, font.unitsPerEm).commands) {
    // Every contour is closed.
    if (type === 'Z') continue
    const points = [
      [x1, y1],
      [x2, y2],
      [x, y],
    ].filter(([px]) => px !== undefined)
    const whole = points.map(([px, py]) => [Math.round(px), Math.round(-py)])
    if (type === 'M') all.push({ start: whole[0], path: '' })
    else {
      const steps = whole.map(([px, py], i) => [px - (whole[i - 1] ?? at)[0], py - (whole[i - 1] ?? at)[1]])
      all.at(-1).path += type + steps.flat().join(' ')
    }
    at = whole.at(-1)
  }
  return all.map(({ start, path }) => `${start.join(' ')} ${placeOf(path)}`).join(';')
}

function placeOf(path) {
  if (!contours.has(path)) contours.set(path, contours.size)
  return contours.get(path)
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
  `${JSON.stringify({ capHeight, unitsPerEm: first.unitsPerEm, kerning, contours: [...contours.keys()], glyphs })}\n`,
)
