import type { Part } from '../document/index.ts'
import type { Problem } from '../problems/index.ts'
import { inUnit } from '../units/index.ts'

/** All that makers have named in a part. */
function namesIn(part: Part): readonly string[] {
  const names = new Set<string>()
  JSON.stringify(part, (key, value: unknown) => {
    if (key === 'name' && typeof value === 'string' && value !== '') names.add(value)
    return value
  })
  return [...names]
}

const known = new WeakMap<Part, readonly string[]>()

/** Texts about a part, written in mm, in its own unit; its names stay as they are. */
export function tellingIn(part: Part): (text: string) => string {
  if (part.unit === 'mm') return (text) => text
  let names = known.get(part)
  if (!names) {
    names = namesIn(part)
    known.set(part, names)
  }
  const kept = names
  return (text) => inUnit(text, part.unit, kept)
}

/** Problems of a part, with their lengths in its unit. */
export function toldIn(problems: readonly Problem[], part: Part): Problem[] {
  if (part.unit === 'mm') return [...problems]
  const told = tellingIn(part)
  return problems.map((each) => ({ ...each, text: told(each.text) }))
}
