import { allSteps, type FieldTexts, type Outline, outlinesOf, type Part, type Seat } from '@makrel/core/document'
import { type Fields, sectionsText } from '@makrel/core/fields'
import { fieldKindOf } from '@makrel/core/planning'

/** An empty outline on a seat, called by a number that no other one has. */
export function newOutline(part: Part, id: string, on: Seat): Outline {
  let number = part.outlines.length + 1
  while (part.outlines.some(({ name }) => name === `Outline ${number}`)) number++
  return { id, name: `Outline ${number}`, on, points: [], curves: [], constraints: [], derived: [], toggled: [] }
}

/** Fields of a new step or repeat with outlines chosen for those that want one: what nothing is made of yet, then the newest. */
export function withOutlinesChosen(part: Part, fields: Fields, texts: FieldTexts): FieldTexts {
  const used = new Set(allSteps(part).flatMap((step) => outlinesOf(step, fieldKindOf)))
  const newest = [...part.outlines].reverse()
  const offered = [...newest.filter(({ id }) => !used.has(id)), ...newest.filter(({ id }) => used.has(id))].map(
    ({ id }) => id,
  )
  let next = 0
  return Object.fromEntries(
    Object.entries(texts).map(([name, text]) => {
      const kind = fields[name]?.kind
      if (text !== '' || offered.length === 0) return [name, text]
      if (kind === 'outline') return [name, offered[next++ % offered.length]!]
      if (kind !== 'sections') return [name, text]
      const [upper, lower = upper] = offered
      return [name, sectionsText([lower!, upper!].map((outline, i) => ({ outline, height: String(20 * i) })))]
    }),
  )
}
