import { join } from 'node:path'

/** What is known of the modules while they are put together. */
interface Modules {
  getModuleInfo(id: string): { importedIds: readonly string[] } | null
}

/** The first script of the page is small, and waits for no other. */
const first = 'early.ts'

/**
 * What is loaded together is one file: each of these modules with all that it needs and none before it does. Left alone, what several pages
 * share comes in some seventy files, which keep the browser and the server busy with themselves.
 */
const together = {
  page: 'main.tsx',
  part: 'frame/Frame.tsx',
  view: 'viewport/PartView.tsx',
  make: 'make/Make.tsx',
}

/** What is fetched once a part is on the screen, though the index of its folder names it: readers of files, and what checks them. */
const late = /core\/(exchange|document\/(schemas|keepable|workshopFile|file|migrations))\b/

function reached(from: string, modules: Modules): ReadonlySet<string> {
  const seen = new Set([from])
  for (const id of seen)
    for (const needed of modules.getModuleInfo(id)?.importedIds ?? []) if (!late.test(needed)) seen.add(needed)
  return seen
}

let early: ReadonlySet<string> | undefined

const groups = Object.entries(together).map(([name, file], i, { length }) => {
  let needed: ReadonlySet<string> | undefined
  return {
    debugName: name,
    name: (id: string, modules: Modules) => {
      early ??= reached(join(import.meta.dirname, first), modules)
      needed ??= reached(join(import.meta.dirname, file), modules)
      return needed.has(id) && !early.has(id) ? name : null
    },
    priority: length - i,
  }
})

export const chunks = { groups, includeDependenciesRecursively: false }
