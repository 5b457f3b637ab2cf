import { allSteps, applyEdit, type Edit, findStep, type Part } from '@makrel/core/document'
import { fieldKindOf, upgraded } from '@makrel/core/planning'
import { attempt } from '@makrel/core/problems'
import { create } from 'zustand'
import { memory } from '../drawn/memory.ts'
import { say } from '../ui/Notice.tsx'
import { checkedNow, checksReady, takeForChecked } from './checks.ts'
import { saves } from './saves.ts'
import { closedSent, Sending, staleOf } from './sending.ts'
import { type Trail, trails } from './trail.ts'

/** What is selected: on the sheet and on the drawing alike. A face belongs to a selected step. */
export interface Selection {
  readonly kind: 'step' | 'joint' | 'piece'
  readonly id: string
  readonly face?: string
  /** the name of an edge of the finished solid that bounds the face */
  readonly edge?: string
}

export type SaveState =
  | { readonly kind: 'kept'; readonly at: Date }
  | { readonly kind: 'saving' }
  | { readonly kind: 'failed'; readonly message: string }
  /** changed elsewhere since it was opened; the maker chooses */
  | { readonly kind: 'stale'; readonly revision: number; readonly theirs: Part }

interface PartState {
  readonly part: Part | undefined
  readonly revision: number
  readonly past: readonly Part[]
  readonly future: readonly Part[]
  readonly save: SaveState
  readonly selection: Selection | undefined
  /** further steps that are selected along with it, for what can be done to several at once */
  readonly others: readonly string[]
  /** the field of the selected step that is to take the keyboard next */
  readonly focus: string | undefined

  /** As the server has it; `trail` is what the browser kept of it, with the way there and back. */
  open(part: Part, revision: number, updatedAt: Date, trail?: Trail): void
  close(): void
  /** Edits with the same `merge` one after another are undone together (typing in one value). */
  edit(edit: Edit, merge?: string): boolean
  /** Several edits as one; `merge` as in `edit`. False where they would go over a limit: that is said, and nothing is done. */
  editAll(edits: readonly Edit[], merge?: string): boolean
  /** Another state of the same part takes the place of this one; it is an undo away. */
  replace(part: Part): void
  undo(): void
  redo(): void
  select(selection: Selection | undefined, focus?: string): void
  /** Takes a step into the selection, or out of it. */
  alsoSelect(id: string): void
  /** All steps from the selected one to this one, in their list. */
  selectTo(id: string): void
  focused(): void
  saveNow(leaving?: boolean): Promise<void>
  keepMine(): void
  takeTheirs(): void
}

const sending = new Sending()

export const usePart = create<PartState>()((set, get) => {
  let saveTimer: ReturnType<typeof setTimeout> | undefined
  let lastMerge: string | undefined
  const change = (part: Part, more: Partial<PartState>) => {
    set({ part, ...more })
    follow(true)
    scheduleSave()
  }
  /** The browser keeps what is here, and whether the server has it. */
  const follow = (unsent: boolean) => {
    const { part, past, future } = get()
    if (!part) return
    const [base, asked] = [sending.baseOf(part.id), sending.unansweredOf(part.id)]
    trails.keep({ base, now: part, past, future, unsent, asked })
  }
  const scheduleSave = () => {
    clearTimeout(saveTimer)
    if (get().save.kind === 'stale') return
    set({ save: { kind: 'saving' } })
    saveTimer = setTimeout(() => void get().saveNow(), 400)
  }

  /** Takes back what was done before it could be looked at, where it cannot be kept. */
  const lookAgain = () => {
    const { part } = get()
    const kept = part && attempt([], () => checkedNow(part))
    if (!kept || kept.ok) return
    say({ text: kept.problem.text, fault: true })
    get().undo()
  }

  const keep = async (part: Part, leaving: boolean) => {
    // A later state of it has its own save coming.
    if (get().part?.id === part.id && get().part !== part) return
    sending.begin(part)
    if (get().part === part) follow(true)
    try {
      const saved = await sending.send(part, leaving)
      if (get().part?.id !== part.id) return await closedSent(part, saved.revision)
      const latest = get().part === part
      set({
        revision: saved.revision,
        save: latest ? { kind: 'kept', at: new Date(saved.updatedAt) } : { kind: 'saving' },
      })
      follow(!latest)
    } catch (error) {
      if (get().part?.id !== part.id) return
      set({ save: failedSave(error) })
      // A server that is away is asked again; nothing is lost meanwhile.
      if (get().save.kind === 'failed') saveTimer = setTimeout(() => void get().saveNow(), 3000)
    }
  }

  return {
    part: undefined,
    revision: 0,
    past: [],
    future: [],
    save: { kind: 'kept', at: new Date() },
    selection: undefined,
    others: [],
    focus: undefined,

    open(kept, revision, updatedAt, found) {
      const part = upgraded(kept)
      if (part !== kept) memory.openedAs.set(part, kept)
      takeForChecked(part)
      const trail = found && {
        ...found,
        now: found.now === kept ? part : upgraded(found.now),
        past: found.past.map(upgraded),
        future: found.future.map(upgraded),
      }
      clearTimeout(saveTimer)
      lastMerge = undefined
      sending.goOnFrom(part.id, revision, trail?.asked ?? [])
      // What was changed elsewhere comes after all that this browser knows of.
      const beyond = trail && !trail.unsent && trail.now !== part
      set({
        part,
        revision,
        past: trail ? (beyond ? [...trail.past, trail.now] : trail.past) : [],
        future: trail && !beyond ? trail.future : [],
        selection: undefined,
        others: [],
        focus: undefined,
        save: { kind: 'kept', at: updatedAt },
      })
      if (!trail) return
      if (!trail.unsent) return follow(false)
      // Made from an earlier state, it is told as such when it is sent.
      sending.goOnFrom(part.id, trail.base)
      change(trail.now, { revision: trail.base })
      say({ text: 'Changes that were not saved when this part was closed are back.' })
    },
    close() {
      void get().saveNow()
      set({ part: undefined, past: [], future: [], selection: undefined, others: [] })
    },
    edit(edit, merge) {
      return get().editAll([edit], merge)
    },
    editAll(edits, merge) {
      const { part, past } = get()
      if (!part) return false
      const after = edits.reduce((state, edit) => applyEdit(state, edit, fieldKindOf), part)
      // What could not be opened again is not even shown.
      const kept = attempt([], () => checkedNow(after))
      if (!kept.ok) {
        say({ text: kept.problem.text, fault: true })
        return false
      }
      if (!kept.value) void checksReady().then(lookAgain, () => undefined)
      const merged = merge !== undefined && merge === lastMerge && past.length > 0
      lastMerge = merge
      if (after !== part) change(after, { past: merged ? past : [...past, part], future: [] })
      return true
    },
    replace(part) {
      const { part: now, past } = get()
      lastMerge = undefined
      if (now?.id === part.id) change(part, { past: [...past, now], future: [], selection: undefined, others: [] })
    },
    undo() {
      const { part, past, future } = get()
      const before = past.at(-1)
      if (!part || !before) return
      lastMerge = undefined
      change(before, { past: past.slice(0, -1), future: [part, ...future] })
    },
    redo() {
      const { part, past, future } = get()
      const after = future[0]
      if (!part || !after) return
      lastMerge = undefined
      change(after, { past: [...past, part], future: future.slice(1) })
    },
    select(selection, focus) {
      set({ selection, focus, others: [] })
    },
    alsoSelect(id) {
      const { selection, others } = get()
      if (selection?.kind !== 'step') set({ selection: { kind: 'step', id }, others: [], focus: undefined })
      else if (others.includes(id)) set({ others: others.filter((other) => other !== id) })
      else if (selection.id !== id) set({ others: [...others, id] })
      else if (others[0]) set({ selection: { kind: 'step', id: others[0] }, others: others.slice(1) })
    },
    selectTo(id) {
      const { part, selection } = get()
      const [from, to] = [selection && part && findStep(part, selection.id), part && findStep(part, id)]
      if (!from || !to || from.siblings !== to.siblings) return get().alsoSelect(id)
      const range = from.siblings.slice(Math.min(from.index, to.index), Math.max(from.index, to.index) + 1)
      set({ others: range.map((step) => step.id).filter((other) => other !== selection!.id) })
    },
    focused() {
      set({ focus: undefined })
    },
    saveNow(leaving = false) {
      clearTimeout(saveTimer)
      const { part, save } = get()
      if (leaving) trails.leave()
      if (!part || save.kind === 'kept' || save.kind === 'stale') return saves.all()
      return saves.add(() => keep(part, leaving))
    },
    keepMine() {
      const { save, part } = get()
      if (save.kind !== 'stale' || !part) return
      sending.goOnFrom(part.id, save.revision)
      set({ revision: save.revision, save: { kind: 'saving' } })
      void get().saveNow()
    },
    takeTheirs() {
      const { save, part, past } = get()
      if (save.kind !== 'stale' || !part) return
      sending.goOnFrom(part.id, save.revision, [])
      // Their version becomes the current one; mine is one undo away.
      set({
        part: save.theirs,
        revision: save.revision,
        past: [...past, part],
        future: [],
        save: { kind: 'kept', at: new Date() },
      })
      follow(false)
    },
  }
})

/** Sends what the browser has kept of parts that no window shows any more. */
export function sendUnsent(): Promise<void> {
  return saves.add(() => sending.sendLeft((id) => usePart.getState().part?.id === id))
}

function failedSave(error: unknown): SaveState {
  const there = staleOf(error)
  if (there) return { kind: 'stale', revision: there.revision, theirs: there.document }
  return { kind: 'failed', message: error instanceof Error ? error.message : String(error) }
}

/** The ids of all selected steps, in the order of the sheet. */
export function selectedSteps({ part, selection, others }: Pick<PartState, 'part' | 'selection' | 'others'>): string[] {
  if (!part || selection?.kind !== 'step') return []
  const chosen = new Set([selection.id, ...others])
  return allSteps(part).flatMap(({ id }) => (chosen.has(id) ? [id] : []))
}
