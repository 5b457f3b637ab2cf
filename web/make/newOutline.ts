import type { Outline, Part, Seat } from '@makrel/core/document'

/** An empty outline on a seat, called by a number that no other one has. */
export function newOutline(part: Part, id: string, on: Seat): Outline {
  let number = part.outlines.length + 1
  while (part.outlines.some(({ name }) => name === `Outline ${number}`)) number++
  return { id, name: `Outline ${number}`, on, points: [], curves: [], constraints: [], derived: [], toggled: [] }
}
