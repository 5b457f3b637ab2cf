import { marked } from 'marked'

/** The guide's pages as they are written, by their names: each is fetched when it is read. */
const texts = import.meta.glob<string>('../../docs/guide/*.md', { query: '?raw', import: 'default' })
const pictures = import.meta.glob<string>('../../docs/screenshots/*.png', {
  query: '?url',
  import: 'default',
  eager: true,
})

/** The pages in the order of the first one's list, with their titles. */
export const guidePages = [
  ['shelf', 'Shelf'],
  ['plan', 'Plan'],
  ['make', 'Make'],
  ['outlines', 'Outlines'],
  ['meshes', 'Meshes from elsewhere'],
  ['move', 'Move'],
  ['proof', 'Proof'],
  ['layers', 'Layers'],
  ['hand-off', 'Hand off'],
  ['command-line', 'On the command line'],
  ['part-bracket', 'A bracket for a rail'],
  ['part-box', 'A box with a lid'],
  ['part-hinge', 'A hinge that prints in place'],
  ['part-gears', 'A pair of gears'],
  ['part-mesh', 'A hole in somebody else’s mesh'],
  ['part-clip', 'A spring clip'],
] as const

/** A page as markup, its links within the guide and its pictures those that ship; undefined where there is none of that name. */
export async function guidePage(name: string): Promise<string | undefined> {
  const text = await texts[`../../docs/guide/${name}.md`]?.()
  if (text === undefined) return undefined
  const html = await marked.parse(text)
  return (
    html
      .replace(
        /src="\.\.\/screenshots\/([^"]+)"/g,
        (_, file: string) => `src="${pictures[`../../docs/screenshots/${file}`]}"`,
      )
      .replace(/href="([\w-]+)\.md"/g, (_, page: string) => `href="/guide/${page}"`)
      // What is not in the guide does not ship with the page.
      .replace(/<a href="\.\.\/[^"]+">([\s\S]*?)<\/a>/g, '$1')
  )
}
