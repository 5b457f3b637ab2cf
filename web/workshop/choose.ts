import type { Edit, Part } from '@makrel/core/document'
import {
  type InWorkshop,
  type KeptThing,
  sameThing,
  standingOf,
  type WorkshopKind,
  type WorkshopThings,
} from '@makrel/core/fits'
import { valuesChanged, workOut } from '@makrel/core/planning'
import { newId } from '../ids.ts'
import { usePart } from '../state/part.ts'
import { say } from '../ui/Notice.tsx'
import { useWorkshop, wordOf } from './state.ts'

type Thing<K extends WorkshopKind> = WorkshopThings[K]

export function carriedBy<K extends WorkshopKind>(part: Part, kind: K): Thing<K> {
  return part[wordOf[kind]] as Thing<K>
}

function editTo<K extends WorkshopKind>(kind: K, thing: Thing<K>): Edit {
  return (
    kind === 'printers' ? { type: 'set-printer', printer: thing } : { type: 'set-material', material: thing }
  ) as Edit
}

/** How many values of the part would be others with this printer or material. */
export function valuesWith<K extends WorkshopKind>(part: Part, kind: K, thing: Thing<K>): number {
  return valuesChanged(workOut(part).resolved, workOut({ ...part, [wordOf[kind]]: thing }).resolved)
}

export function valuesText(count: number): string {
  return count === 0 ? 'no value changes' : count === 1 ? '1 value changes' : `${count} values change`
}

/** The part goes with another printer or material, and says how many of its values follow. */
export function choose<K extends WorkshopKind>(kind: K, thing: Thing<K>): void {
  const { part, edit } = usePart.getState()
  if (!part || sameThing(carriedBy(part, kind), thing)) return
  const count = valuesWith(part, kind, thing)
  if (!edit(editTo(kind, thing))) return
  if (count > 0) say({ text: `With the ${thing.name}, ${valuesText(count)}.`, action: undoing() })
}

function undoing() {
  return { label: 'Undo', run: () => usePart.getState().undo() }
}

/** Part, kind, and what it becomes: followed once, and asked about from then on where that was taken back. */
const followedAs = (part: Part, kind: WorkshopKind, now: object) => `${part.id} ${kind} ${JSON.stringify(now)}`

/**
 * What the open part carries is brought up to what the workshop has made of it, where it was the workshop's own; how many values
 * follow is said.
 */
export function follow<K extends WorkshopKind>(kind: K, list: readonly KeptThing<Thing<K>>[]): void {
  const { part, edit } = usePart.getState()
  if (!part) return
  const standing = standingIn(part, kind, list)
  const { followed } = useWorkshop.getState()
  if (standing.kind !== 'changed' || followed.has(followedAs(part, kind, standing.now))) return
  const { now } = standing
  const count = valuesWith(part, kind, now)
  useWorkshop.setState({ followed: new Set([...followed, followedAs(part, kind, now)]) })
  if (!edit(editTo(kind, now)) || count === 0) return
  say({ text: `The ${now.name} was changed in the workshop: ${valuesText(count)}.`, action: undoing() })
}

export function standingIn<K extends WorkshopKind>(
  part: Part,
  kind: K,
  list: readonly KeptThing<Thing<K>>[],
): InWorkshop<Thing<K>> {
  return standingOf<Thing<K>>(carriedBy(part, kind), list)
}

/** What the part carries becomes its own, under another name: nothing in the workshop changes it any more. */
export function keepAsDesigned<K extends WorkshopKind>(kind: K): void {
  const { part, edit } = usePart.getState()
  if (!part) return
  const carried = carriedBy(part, kind)
  edit(editTo(kind, { ...carried, id: newId(), name: `${carried.name}, as designed`.slice(0, 120) }))
}
