import { type ProblemCode, problemTexts } from './codes.ts'

export { type ProblemCode, problemTexts } from './codes.ts'

/** How much a problem matters: a fault stops the thing it names; a warning or an advice does not. */
export type Rank = 'fault' | 'warning' | 'advice'

/**
 * Something that cannot be done as asked, as a value: it is shown at `path` and the rest goes on.
 * `path` names the field: `['measures', id, 'expression']`, `['steps', id, 'fields', 'width']`, `['joints', id, …]`.
 * `at` is the half-open range of characters in the offending text.
 */
export interface Problem {
  readonly code: ProblemCode
  readonly rank: Rank
  readonly text: string
  readonly path: readonly string[]
  readonly at?: readonly [number, number]
}

type Data = Readonly<Record<string, string | number>>

export function problemText(code: ProblemCode, data: Data = {}): string {
  return problemTexts[code].replace(/\{(\w+)\}/g, (_, key: string) => String(data[key] ?? ''))
}

export function problem(
  code: ProblemCode,
  path: readonly string[],
  data: Data = {},
  more: { rank?: Rank; at?: readonly [number, number] | undefined } = {},
): Problem {
  return {
    code,
    rank: more.rank ?? 'fault',
    text: problemText(code, data),
    path,
    ...(more.at ? { at: more.at } : {}),
  }
}

/** Carries a problem out of a computation that cannot go on; caught where the path is known. */
export class ProblemError extends Error {
  readonly code: ProblemCode
  readonly data: Data
  readonly at: readonly [number, number] | undefined

  constructor(code: ProblemCode, data: Data = {}, at?: readonly [number, number]) {
    super(problemText(code, data))
    this.name = 'ProblemError'
    this.code = code
    this.data = data
    this.at = at
  }

  toProblem(path: readonly string[]): Problem {
    return problem(this.code, path, this.data, { at: this.at })
  }
}

export type Result<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly problem: Problem }

/** Runs `work`; a `ProblemError` becomes a problem at `path`, anything else is a defect and goes on up. */
export function attempt<T>(path: readonly string[], work: () => T): Result<T> {
  try {
    return { ok: true, value: work() }
  } catch (error) {
    if (error instanceof ProblemError) return { ok: false, problem: error.toProblem(path) }
    throw error
  }
}

/** Whatever was thrown, as a problem at `path`: a defect in one place must not take the rest away. */
export function problemFrom(error: unknown, path: readonly string[]): Problem {
  if (error instanceof ProblemError) return error.toProblem(path)
  const message = error instanceof Error ? error.message : String(error)
  return problem('step-failed', path, { detail: `a fault in the program: ${message}` })
}

/** Runs work that belongs to what `path` names; whatever it throws is put to `problems`, and nothing comes of it. */
export function guarded<T>(path: readonly string[], problems: Problem[], work: () => T): T | undefined {
  try {
    return work()
  } catch (error) {
    problems.push(problemFrom(error, path))
    return undefined
  }
}

/** What work gives; undefined where it throws, which is told elsewhere. */
export function tried<T>(work: () => T): T | undefined {
  return guarded([], [], work)
}
