import type { ResolvedPart } from './resolve.ts'

/**
 * How many values of a part differ between two ways of working it out: of measures, fields, places and repeats. What there is
 * in one of them alone counts as well.
 */
export function valuesChanged(one: ResolvedPart, other: ResolvedPart): number {
  const [a, b] = [valuesOf(one), valuesOf(other)]
  return [...new Set([...a.keys(), ...b.keys()])].filter((name) => a.get(name) !== b.get(name)).length
}

/** By where they are, as text. */
function valuesOf({ measures, steps, joints }: ResolvedPart): ReadonlyMap<string, string> {
  const all = new Map<string, string>()
  const note = (owner: string, values: object | undefined) => {
    for (const [name, value] of Object.entries(values ?? {})) all.set(`${owner} ${name}`, JSON.stringify(value) ?? '')
  }
  for (const { measure, value, word } of measures.rows) note(`measure ${measure.id}`, { value, word })
  for (const [id, { values, place }] of [...steps, ...joints]) {
    note(id, values)
    note(`${id} place`, place)
  }
  for (const [id, { repeats }] of steps)
    for (const [i, repeat] of (repeats ?? []).entries()) note(`${id} repeat ${i}`, repeat.values)
  return all
}
