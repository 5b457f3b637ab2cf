import { ProblemError } from '../problems/index.ts'

/** @throws ProblemError kernel-failed */
export function failed(detail: string): never {
  throw new ProblemError('kernel-failed', { detail })
}

/** @throws ProblemError kernel-failed */
export function finite(values: Readonly<Record<string, number>>): void {
  for (const [name, value] of Object.entries(values))
    if (!Number.isFinite(value)) failed(`one of its sizes or places, ${name}, is not a finite number`)
}
/** The library answers NaN and zero sizes with empty or broken solids and no error, so they are refused here. */
export function positive(values: Readonly<Record<string, number>>): void {
  finite(values)
  for (const [name, value] of Object.entries(values)) if (value <= 0) failed(`${name} is ${value}`)
}
