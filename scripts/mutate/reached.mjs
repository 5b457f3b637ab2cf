// Which tests come past a place that is to be changed: only these can notice. Told by one run of all tests over sources that say so.
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { dirname, join, relative } from 'node:path'

/**
 * The text with every expression that will be changed saying that it was come past. What it is worth stays: a call, whose arguments are
 * taken in order, needs no bracket before it, which a line above could take for its own.
 */
export function withProbes(text, changes) {
  const marks = changes.flatMap(({ expression: { from, to }, id }) => [
    { at: from, is: `globalThis.probed(globalThis.reached(${id}), `, opens: true },
    { at: to, is: ')', opens: false },
  ])
  // What closes at a place comes before what opens there.
  marks.sort((a, b) => b.at - a.at || Number(b.opens) - Number(a.opens))
  return marks.reduce((told, { at, is }) => told.slice(0, at) + is + told.slice(at), text)
}

/** What every file of tests loads first: by which test each place was come past, or outside of all (''), a line of JSON for each file. */
const listening = `
import { appendFileSync } from 'node:fs'
import { afterAll, afterEach, beforeEach, expect } from 'vitest'
import { nameOf } from './names'
const places = new Map([['', new Set()]])
let now = places.get('')
globalThis.reached = (id) => void now.add(id)
globalThis.probed = (_, value) => value
beforeEach(({ task }) => {
  const name = nameOf(task)
  now = places.get(name) ?? new Set()
  places.set(name, now)
})
afterEach(() => {
  now = places.get('')
})
afterAll(() => {
  const told = [...places].map(([name, ids]) => [name, [...ids]]).filter(([, ids]) => ids.length > 0)
  appendFileSync(process.env.REACHED, JSON.stringify({ file: expect.getState().testPath, told }) + '\\n')
})
`
/** What lets only those tests run that come past the change. */
const choosing = `
import { readFileSync } from 'node:fs'
import { beforeEach, expect } from 'vitest'
import { nameOf } from './names'
const wanted = JSON.parse(readFileSync(process.env.WANTED, 'utf8'))
beforeEach((context) => {
  const names = wanted[expect.getState().testPath]
  if (names && !names.includes(nameOf(context.task))) context.skip()
})
`
const names = `
export const nameOf = (task) => (task.suite && task.suite !== task.file ? nameOf(task.suite) + ' › ' : '') + task.name
`
const config = (setup) => `
import { mergeConfig } from 'vitest/config'
import { BaseSequencer } from 'vitest/node'
import config from './vitest.config.ts'
const order = process.env.ORDER ? JSON.parse(process.env.ORDER) : []
class AsTold extends BaseSequencer {
  async sort(files) {
    return [...files].sort((a, b) => order.indexOf(a.moduleId) - order.indexOf(b.moduleId))
  }
}
const sequence = order.length > 0 ? { sequencer: AsTold } : {}
// Whoever listens takes longer, and what hangs is cut off from outside.
const patience = { testTimeout: 600_000, hookTimeout: 600_000 }
export default mergeConfig(config, { test: { setupFiles: ['${setup}'], sequence, ...patience } })
`

/** Lays what the two kinds of runs load beside the sources of a copy. */
export function prepare(copy) {
  writeFileSync(join(copy, 'names.ts'), names)
  writeFileSync(join(copy, 'listening.ts'), listening)
  writeFileSync(join(copy, 'choosing.ts'), choosing)
  writeFileSync(join(copy, 'listening.config.ts'), config('listening.ts'))
  writeFileSync(join(copy, 'choosing.config.ts'), config('choosing.ts'))
}

/**
 * For each change, the files of tests that come past it: {file, names: of the tests, or none where all of it must run, took: ms}. What is
 * worked out when its module is read is come past in the first file of a worker alone: then all tests beside it are asked as well.
 */
export function testsOf(copy, changes, { report, reached }) {
  const { testResults } = JSON.parse(readFileSync(report, 'utf8'))
  const tested = testResults.map(({ name }) => name)
  const took = new Map()
  for (const { name: file, assertionResults, startTime, endTime } of testResults) {
    took.set(file, endTime - startTime)
    for (const { ancestorTitles, title, duration } of assertionResults)
      took.set(`${file} ${[...ancestorTitles, title].join(' › ')}`, duration ?? 0)
  }
  const lines = existsSync(reached) ? readFileSync(reached, 'utf8').trim().split('\n') : []
  const files = lines.map((line) => JSON.parse(line))
  const whole = (file) => ({ file, name: relative(copy, file), names: undefined, took: took.get(file) ?? 0 })
  return new Map(
    changes.map(({ id, path }) => {
      const past = files.flatMap(({ file, told }) => {
        const names = told.filter(([, ids]) => ids.includes(id)).map(([name]) => name)
        if (names.length === 0) return []
        if (names.includes('')) return [whole(file)]
        const time = names.reduce((sum, name) => sum + (took.get(`${file} ${name}`) ?? 0), 0)
        return [{ file, name: relative(copy, file), names, took: time }]
      })
      if (past.every(({ names }) => names)) return [id, past]
      const beside = tested.filter(
        (file) => dirname(file) === join(copy, dirname(path)) && past.every((known) => known.file !== file),
      )
      return [id, [...past, ...beside.map(whole)]]
    }),
  )
}
