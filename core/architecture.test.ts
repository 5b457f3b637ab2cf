import { readdirSync, readFileSync, statSync } from 'node:fs'
import { dirname, join, relative, resolve } from 'node:path'
import { fileURLToPath } from 'node:url'
import { describe, expect, it } from 'vitest'
import { problemTexts } from './problems/index.ts'

/** Core's folders, lowest first: a folder may import from those before it. */
const order = [
  'pacing',
  'problems',
  'units',
  'measures',
  'fits',
  'hardware',
  'plane',
  'fields',
  'document',
  'place',
  'gears',
  'mesh',
  'necks',
  'loads',
  'naming',
  'repeats',
  'kernel',
  'edges',
  'walls',
  'compensation',
  'splits',
  'operations',
  'text',
  'outline',
  'shapes',
  'mechanism',
  'joints',
  'readouts',
  'planning',
  'flex',
  'solids',
  'pictures',
  'layers',
  'bearing',
  'lying',
  'proof',
  'exchange',
]

const core = fileURLToPath(new URL('.', import.meta.url))
const root = resolve(core, '..')

function files(folder: string): string[] {
  return readdirSync(folder).flatMap((name) => {
    const path = join(folder, name)
    if (name === 'node_modules' || name === 'dist') return []
    return statSync(path).isDirectory() ? files(path) : /\.tsx?$/.test(name) ? [path] : []
  })
}
const isTest = (path: string) => /\.test\.ts$/.test(path) || path.includes('/testing/')
const sources = (folder: string) => files(folder).filter((path) => !isTest(path))
const importsOf = (path: string) =>
  [...readFileSync(path, 'utf8').matchAll(/(?:from|import)\s+'([^']+)'/g)].map((match) => match[1]!)

describe('imports run one way', () => {
  it('every folder of core has its place in the order', () => {
    const folders = readdirSync(core).filter(
      (name) => statSync(join(core, name)).isDirectory() && !['testing', 'node_modules'].includes(name),
    )
    expect(folders.sort()).toEqual([...order].sort())
  })
  it.each(sources(core).map((path) => [relative(core, path), path]))('core/%s', (name, path) => {
    const mine = order.indexOf(name.split('/')[0]!)
    for (const target of importsOf(path)) {
      if (!target.startsWith('.')) {
        expect(target).toMatch(
          /^(joi|jsep|fflate|flatbush|cdt2d|@noble\/hashes\/\w+|saxes|svgpath|delaunator|robust-predicates|dxf-parser|@tarikjabiri\/dxf|manifold-3d)$/,
        )
        // One folder knows the solid library.
        if (target === 'manifold-3d') expect(name).toMatch(/^kernel\//)
        continue
      }
      const theirs = order.indexOf(relative(core, resolve(dirname(path), target)).split('/')[0]!)
      expect(theirs, `${name} imports ${target}`).toBeGreaterThanOrEqual(0)
      expect(theirs, `${name} imports ${target}`).toBeLessThanOrEqual(mine)
    }
  })
  it.each(['threads', 'server', 'cli', 'web'])(
    '%s imports core, threads where there are some, and itself only',
    (workspace) => {
      const folder = join(root, workspace)
      for (const path of sources(folder))
        for (const target of importsOf(path)) {
          if (target.startsWith('@makrel/'))
            expect(target).toMatch(
              /^(server|cli)$/.test(workspace) ? /^@makrel\/(core\/|threads$)/ : /^@makrel\/core\//,
            )
          if (target.startsWith('.'))
            expect(resolve(dirname(path), target).startsWith(folder), `${path} imports ${target}`).toBe(true)
        }
    },
  )
})

describe('problem codes', () => {
  const text = ['core', 'server', 'cli', 'web']
    .flatMap((workspace) => sources(join(root, workspace)))
    .filter((path) => !path.endsWith('problems/codes.ts'))
    .map((path) => readFileSync(path, 'utf8'))
    .join('\n')
  it('are all used', () => {
    expect(Object.keys(problemTexts).filter((code) => !text.includes(`'${code}'`))).toEqual([])
  })
})
