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
  readonly offer?: Offer
  readonly instead?: OfferedText
}

/** A value that would do where another one does not, for a field of what `path` names: mm where nothing else is said, or degrees. */
export interface Offer {
  readonly field: string
  readonly value: number
  readonly kind?: 'length' | 'angle' | 'count' | 'ratio'
}

/** What would do instead in a field that holds no number: what is put into it, and how that is called. */
export interface OfferedText {
  readonly field: string
  readonly text: string
  readonly shown: string
}

/** The names of the places in a text. */
export type Blanks<Text extends string> = Text extends `${string}{${infer Name}}${infer Rest}`
  ? Name | Blanks<Rest>
  : never

/** What fills the blanks in the text of a problem: each of them, so that none is said with a hole in it. */
export type ProblemData<Code extends ProblemCode> = Code extends ProblemCode
  ? Readonly<Record<Blanks<(typeof problemTexts)[Code]>, string | number>>
  : never

export function problemText<Code extends ProblemCode>(code: Code, data: ProblemData<Code>): string {
  return problemTexts[code].replace(/\{(\w+)\}/g, (_, name: string) => String(data[name as keyof typeof data]))
}

interface More {
  readonly rank?: Rank
  readonly at?: readonly [number, number] | undefined
  readonly offer?: Offer | undefined
  readonly instead?: OfferedText | undefined
}

export function problem<Code extends ProblemCode>(
  code: Code,
  path: readonly string[],
  data: ProblemData<Code>,
  more: More = {},
): Problem {
  return told(code, problemText(code, data), path, more)
}

function told(
  code: ProblemCode,
  text: string,
  path: readonly string[],
  { rank = 'fault', at, offer, instead }: More,
): Problem {
  return { code, rank, text, path, ...(at && { at }), ...(offer && { offer }), ...(instead && { instead }) }
}

/** Carries a problem out of a computation that cannot go on; caught where the path is known. */
export class ProblemError<Code extends ProblemCode = ProblemCode> extends Error {
  readonly code: Code
  readonly at: readonly [number, number] | undefined

  constructor(code: Code, data: ProblemData<Code>, at?: readonly [number, number]) {
    super(problemText(code, data))
    this.name = 'ProblemError'
    this.code = code
    this.at = at
  }

  toProblem(path: readonly string[]): Problem {
    return told(this.code, this.message, path, { at: this.at })
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
