import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import * as library from 'three'
import { expect, test } from 'vitest'
import * as elements from './elements.ts'

/** Elements of the page itself that the drawing library has things of the same name for. */
const ofThePage = ['line', 'path']

test('every element that the drawing is written in is among those that the canvas knows', () => {
  const files = readdirSync(import.meta.dirname).filter((file) => file.endsWith('.tsx'))
  const written = files.flatMap((file) =>
    [...readFileSync(join(import.meta.dirname, file), 'utf8').matchAll(/<([a-z]\w*)/g)].map(([, name]) => name!),
  )
  const asKnown = (name: string) => name.charAt(0).toUpperCase() + name.slice(1)
  const drawn = new Set(written.filter((name) => asKnown(name) in library && !ofThePage.includes(name)).map(asKnown))
  expect(drawn.size).toBeGreaterThan(3)
  expect([...drawn].filter((name) => !(name in elements))).toEqual([])
})
