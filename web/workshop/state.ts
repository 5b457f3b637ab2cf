import {
  type KeptThing,
  shippedMaterials,
  shippedPrinters,
  type WorkshopKind,
  type WorkshopThings,
} from '@makrel/core/fits'
import { create } from 'zustand'
import { ApiError, api } from '../api.ts'
import { newId } from '../ids.ts'
import { say } from '../ui/Notice.tsx'

type Lists = { readonly [K in WorkshopKind]: readonly KeptThing<WorkshopThings[K]>[] }

interface WorkshopState {
  /** undefined until the server has answered */
  readonly lists: Lists | undefined
  readonly failure: string | undefined
  /** changes that open parts have followed, see `follow` */
  readonly followed: ReadonlySet<string>
}

/** The printers and materials of the workshop, as the server has them. */
export const useWorkshop = create<WorkshopState>()(() => ({
  lists: undefined,
  failure: undefined,
  followed: new Set(),
}))

export const wordOf = { printers: 'printer', materials: 'material' } as const

/** Asks the server anew; what is known stays where it does not answer. */
export async function loadWorkshop(): Promise<void> {
  try {
    const [printers, materials] = await Promise.all([api.things('printers'), api.things('materials')])
    useWorkshop.setState({ lists: { printers, materials }, failure: undefined })
  } catch (error) {
    useWorkshop.setState({ failure: (error as Error).message })
  }
}

/** Keeps a new one; false where that failed, which is said. */
export async function addThing<K extends WorkshopKind>(kind: K, thing: WorkshopThings[K]): Promise<boolean> {
  return attempted(() => api.addThing(kind, thing))
}

/** A copy under a name of its own. */
export function copyOf<T extends { readonly id: string; readonly name: string }>(thing: T, others: readonly T[]): T {
  const taken = new Set(others.map(({ name }) => name))
  const names = Array.from({ length: taken.size + 1 }, (_, i) => `${thing.name} copy${i === 0 ? '' : ` ${i + 1}`}`)
  return { ...thing, id: newId(), name: names.find((name) => !taken.has(name))!.slice(0, 120) }
}

/** Keeps a new state; an undo away. */
export async function changeThing<K extends WorkshopKind>(
  kind: K,
  before: KeptThing<WorkshopThings[K]>,
  thing: WorkshopThings[K],
): Promise<boolean> {
  return attempted(async () => {
    const { revision } = await api.changeThing(kind, before.revision, thing)
    say({
      text: `${thing.name} was saved.`,
      action: {
        label: 'Undo',
        run: () => void attempted(() => api.changeThing(kind, revision, before.thing)),
      },
    })
  })
}

export async function removeThing<K extends WorkshopKind>(kind: K, { id, name }: WorkshopThings[K]): Promise<boolean> {
  return attempted(async () => {
    await api.removeThing(kind, id)
    say({
      text: `${name} was removed. Parts that were made with it keep their own copy of it.`,
      action: { label: 'Undo', run: () => void attempted(() => api.restoreThing(kind, id)) },
    })
  })
}

/** Those that ship, as they are here or were when they were removed. */
export async function bringBackShipped(kind: WorkshopKind): Promise<boolean> {
  const shipped = kind === 'printers' ? shippedPrinters : shippedMaterials
  return attempted(async () => {
    for (const { id } of shipped) await api.restoreThing(kind, id)
  })
}

async function attempted(work: () => Promise<unknown>): Promise<boolean> {
  try {
    await work()
    return true
  } catch (error) {
    const stale = error instanceof ApiError && error.status === 409
    say({ text: stale ? `${error.message} Its latest state is shown.` : (error as Error).message, fault: true })
    return false
  } finally {
    await loadWorkshop()
  }
}
