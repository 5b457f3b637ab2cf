// A reporter for Vitest: files whose tests were lost with the worker that ran them, and errors that are no test's.
import { writeFileSync } from 'node:fs'
import { relative } from 'node:path'

export default class Workers {
  onTestRunEnd(modules, errors) {
    const isUnfinished = (module) =>
      module.state() === 'pending' ||
      module.state() === 'queued' ||
      [...module.children.allTests()].some((test) => test.result().state === 'pending')
    const lost = modules.filter(isUnfinished).map(({ moduleId }) => relative('.', moduleId))
    const told = errors.map(({ message, cause }) => [message, cause?.message].filter(Boolean).join(': '))
    writeFileSync(process.env.MAKREL_WORKERS_REPORT, JSON.stringify({ lost, errors: told }))
  }
}
