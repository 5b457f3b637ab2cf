import { readdirSync, readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { expect, it } from 'vitest'

/** What reads as if put together, with what is said at the bench. Page, problems, findings and docs do without it. */
const notOurs: readonly (readonly [RegExp, string])[] = [
  [/made up for the printer/i, 'compensated for the printer'],
  [/flats for rounds/i, 'faceting error'],
  [/keeping …/i, 'saving …'],
  [/not sound/i, 'has faults'],
  [/back as drawn/i, 'reset'],
  [/its own two\b/i, 'this joint’s pieces'],
  [/loop cannot close/i, 'the linkage can’t reach this'],
  [/a press on an edge/i, 'click an edge to'],
  [/lies on itself/i, 'touches itself at'],
  [/what comes after is not told/i, 'results beyond that are not valid'],
  [/\bno prism\b/i, 'needs one thickness and upright walls'],
  [/parted into triangles/i, 'can’t be meshed'],
  [/hang together by nothing/i, 'are no longer connected'],
  [/so deep they/i, 'they’d break through at that depth'],
  [/this is no \w+ of/i, 'this is not a … file'],
  [/no way to choose/i, 'isn’t a … selection'],
  [/so narrow it/i, 'too narrow'],
  [/teeth are of two sizes/i, 'modules don’t match'],
  [/they lose each other/i, 'they disengage'],
  [/more than they need to/i, 'over-constrained by'],
  [/in the money that/i, 'in your currency'],
  [/keeps its form to/i, 'softens at'],
  [/\baslant\b/i, 'at an angle'],
  [/breaks loose/i, 'will break free'],
  [/loudspeaker/i, 'mute'],
  [/\bat the (most|least)\b/i, 'at most, at least'],
  [/\bso (thick|thin|steep|short|low|flat|far|few) (it|they|that|leaves|teeth|there)\b/i, 'too …'],
  [/\bis to be (wider|thinner|thicker|longer|higher)\b/i, 'must be'],
  [/\bpress (an edge|faces|edges|its|where|one|the opposite)\b/i, 'click'],
]

const root = fileURLToPath(new URL('..', import.meta.url))

/** What of a source may be read by a maker: its texts, without comments. */
function readable(file: string): string {
  const text = readFileSync(`${root}${file}`, 'utf8')
  return file.endsWith('.md') ? text : text.replace(/\/\*[\s\S]*?\*\//g, '').replace(/(^|\s)\/\/.*$/gm, '')
}

it('says nothing that reads as if put together', () => {
  const within = (folder: string) =>
    readdirSync(`${root}${folder}`, { recursive: true, encoding: 'utf8' }).map((file) => `${folder}/${file}`)
  const files = ['README.md', ...['core', 'web', 'cli', 'server', 'docs'].flatMap(within)].filter(
    (file) => /\.(tsx?|md)$/.test(file) && !/\.test\.ts$|\/testing\/|node_modules/.test(file),
  )
  expect(files.length).toBeGreaterThan(500)
  const found = files.flatMap((file) => {
    const text = readable(file)
    return notOurs.flatMap(([words, instead]) => {
      const [said] = words.exec(text) ?? []
      return said ? [`${file}: “${said}”: ${instead}`] : []
    })
  })
  expect(found).toEqual([])
})
