import type { Wanted } from './define.ts'

/** Positions that are set, with one of them changed: its joint is the latest then. */
export function withPosition(
  wanted: Wanted,
  { joint, index }: { readonly joint: string; readonly index: number },
  at: number,
): Wanted {
  const { [joint]: own = [], ...others } = wanted
  const next = Array.from({ length: Math.max(own.length, index + 1) }, (_, i) => (i === index ? at : own[i]))
  return { ...others, [joint]: next }
}
