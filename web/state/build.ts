import { allSteps, type Part, usersOf } from '@makrel/core/document'
import {
  brokenMeasures,
  fieldKindOf,
  noReadings,
  type SolidReadings,
  treatmentsStoodOn,
  type WorkedPart,
  withStandIns,
  workOut,
} from '@makrel/core/planning'
import type { Problem } from '@makrel/core/problems'
import { type Finding, inWords, sheetFindings } from '@makrel/core/proof'
import type { PieceDrawing, PieceFigures, RenderMesh } from '@makrel/core/solids'
import { create } from 'zustand'
import { checks, solids } from '../channel/client.ts'
import type { BuildAnswer } from '../channel/protocol.ts'
import { Overtaken, Stopped, useWork, workText } from '../channel/work.ts'
import { memory } from '../drawn/memory.ts'
import { painted, waited } from '../ui/waited.ts'
import { checksReady } from './checks.ts'
import { usePart } from './part.ts'
import { isWhole, type Proving } from './proving.ts'

export interface DrawnPiece extends PieceDrawing {
  readonly mesh: RenderMesh | undefined
}

export interface KnownFigures extends PieceFigures {
  /** the solid that they are of */
  readonly key: string
  /** what its flats come to, mm³ */
  readonly faceted: number
}

interface BuildState {
  /** the part whose solids are shown; behind the edited one while a build runs */
  readonly shown: Part | undefined
  /** the edited part that they are of, or were built of last */
  readonly answered: Part | undefined
  readonly pieces: readonly DrawnPiece[]
  readonly problems: readonly Problem[]
  readonly readings: SolidReadings
  /** the proof that was begun last; it may be of an earlier state of the part */
  readonly proving: Proving | undefined
  /** of pieces as they are meant, by the piece's id; behind the pieces while it is measured */
  readonly figures: Readonly<Record<string, KnownFigures>>
  /** a state of the part that could not be measured, and why */
  readonly unmeasured: { readonly of: Part; readonly why: string } | undefined
  /** a build has been running for longer than a maker should wait in the dark */
  readonly slow: boolean
  readonly failure: string | undefined
}

const nothing: BuildState = {
  shown: undefined,
  answered: undefined,
  pieces: [],
  problems: [],
  readings: noReadings,
  proving: undefined,
  figures: {},
  unmeasured: undefined,
  slow: false,
  failure: undefined,
}

/** After so long without an edit the part is proved, ms. */
const restsAfter = 120
/** Longer than this nothing is built later because something may be known of it, ms. */
const recallLongest = 500
/** After so long without an edit what is drawn is kept, ms. */
const keptAfter = 800

/** What is begun for each state of the part: what of this is stopped is not begun again by itself. */
const ownWork = ['build', 'proof', 'figures'] as const

/** Keeps the solids abreast of the edited part, and proves them once it comes to rest. */
function createBuild() {
  const store = create<BuildState>()(() => nothing)
  let wanted: Part | undefined
  let slowTimer: ReturnType<typeof setTimeout> | undefined
  let proofTimer: ReturnType<typeof setTimeout> | undefined
  let prepareTimer: ReturnType<typeof setTimeout> | undefined
  let keepTimer: ReturnType<typeof setTimeout> | undefined
  /** what each measure of a part could last be computed from */
  let last: { readonly of: string; readonly texts: Map<string, string> } = { of: '', texts: new Map() }
  /** each state of the part is worked out once, however many components ask; anew when the solids tell something else */
  const workedParts = new WeakMap<Part, { readonly readings: SolidReadings; readonly worked: WorkedPart }>()

  usePart.subscribe((state, before) => {
    if (state.part === before.part) return
    const opened = state.part?.id !== before.part?.id
    if (opened) {
      // What was begun for the part before says nothing of this one.
      wanted = undefined
      for (const timer of [slowTimer, proofTimer, keepTimer]) clearTimeout(timer)
      store.setState(nothing)
    }
    if (state.part) void (opened ? open(state.part) : build(state.part))
  })

  usePart.subscribe((state, before) => {
    if (state.selection?.kind === 'step' && state.selection.id !== before.selection?.id)
      expectEdits([state.selection.id])
  })

  // A worker that was stopped has taken the solids along: they are built again, where it was not they that took long.
  useWork.subscribe(({ stopped }, before) => {
    if (stopped === before.stopped || stopped === undefined) return
    if (!ownWork.some((call) => stopped === workText(call))) buildAgain()
  })

  /** Says that these steps are likely to be edited next: the rest is built ahead, once the keyboard has come to rest. */
  function expectEdits(steps: readonly string[]): void {
    clearTimeout(prepareTimer)
    if (steps.length > 0)
      prepareTimer = setTimeout(
        () =>
          void solids()
            .call('prepare', { steps })
            .catch(() => undefined),
        200,
      )
  }

  /** Says that another variant may be chosen next: all steps that differ between variants are about to change. */
  function expectVariant(): void {
    const { part } = usePart.getState()
    if (!part) return
    const measures = part.variants.flatMap(({ values }) => Object.keys(values))
    const users = usersOf(part, measures, fieldKindOf)
    expectEdits(allSteps(part).flatMap(({ id }) => (users.has(id) ? [id] : [])))
  }

  /** Shows what was drawn of the part before, if that is known, and then builds it: both at once would keep the picture waiting. */
  async function open(part: Part): Promise<void> {
    wanted = part
    await Promise.race([recall(part), waited(recallLongest)])
    if (wanted !== part) return
    if (store.getState().answered === part) await painted()
    if (wanted === part) await build(part, true)
  }

  async function build(part: Part, opening = store.getState().answered === undefined): Promise<void> {
    wanted = part
    useWork.setState({ stopped: undefined })
    clearTimeout(slowTimer)
    slowTimer = setTimeout(() => store.setState({ slow: true }), 200)
    // The worker that proves builds the part beside the one that draws it, once the keys have come to rest; when a part is opened
    // it is not there yet, and starting it would keep the picture waiting.
    clearTimeout(proofTimer)
    if (!opening) proofTimer = setTimeout(() => void prove(part), restsAfter)
    // The page shows the keystroke first; and of several edits in one go only the last one is sent.
    await new Promise((resolve) => setTimeout(resolve))
    if (wanted !== part) return
    try {
      const have = Object.fromEntries(store.getState().pieces.map(({ id, key }) => [id, key]))
      const shown = shownAs(part)
      // What is being proved is another part now.
      checks().overtake(['proof'])
      const answer = await solids().call('build', { have }, shown)
      if (wanted !== part) return
      clearTimeout(slowTimer)
      const { pieces } = store.getState()
      store.setState({ ...shownFrom(shown, answer, pieces), answered: part, slow: false, failure: undefined })
      if (!opening) return
      proofTimer = setTimeout(() => void prove(part, true), restsAfter)
      // No picture waits for them, and the first edit will ask for them.
      void checksReady().catch(() => undefined)
    } catch (error) {
      if (wanted !== part) return
      clearTimeout(slowTimer)
      const failure = error instanceof Stopped ? undefined : error instanceof Error ? error.message : String(error)
      store.setState({ slow: false, failure })
    }
  }

  /** Shows what was drawn of the part when it was open last, until it is built. */
  async function recall(part: Part): Promise<void> {
    const known = await memory.recalled(part)
    if (!known || wanted !== part || store.getState().answered === part) return
    const { findings, ...drawn } = known
    const proving: Proving | undefined = findings && { of: part, state: 'done', findings, done: 0, total: 0 }
    store.setState({ ...drawn, shown: part, answered: part, proving })
  }

  /** Keeps what is drawn and found of the part, once nobody has touched it for a while. */
  function keepLater(part: Part): void {
    clearTimeout(keepTimer)
    keepTimer = setTimeout(() => {
      const { answered, proving, pieces, problems, readings, figures } = store.getState()
      const isStill = () => wanted === part && store.getState().answered === part
      if (!isStill() || answered !== part || proving?.of !== part || !isWhole(proving)) return
      const { findings } = proving
      void memory.keep(part, { pieces, problems, readings, findings, figures }, isStill)
    }, keptAfter)
  }

  /** Builds and proves the part as it is; after that was stopped, or what was built went with it. */
  function buildAgain(): void {
    const { part } = usePart.getState()
    if (part) void build(part)
  }

  /** The part, with measures that cannot be computed as they were last. */
  function shownAs(part: Part): Part {
    if (last.of !== part.id) last = { of: part.id, texts: new Map() }
    const { resolved, problems } = workedOf(part)
    const broken = brokenMeasures(problems)
    for (const { measure, problem: fault } of resolved.measures.rows)
      if (!fault) last.texts.set(measure.id, measure.expression)
    return broken ? withStandIns(part, broken, last.texts) : part
  }

  async function prove(part: Part, opening = false): Promise<void> {
    if (wanted !== part) return
    const shown = shownAs(part)
    // What the sheet itself says is about the part as it is, not as it is shown.
    const { resolved, problems } = workedOf(part)
    const sheet = shown === part ? [] : sheetFindings(resolved, problems).map((found) => inWords(found, part.unit))
    const told = (findings: readonly Finding[]) =>
      sheet.length > 0 ? [...sheet, ...findings.filter(({ check }) => check !== 'sheet')] : findings
    const begun: Proving = { of: part, state: 'running', findings: [], done: 0, total: 0 }
    const set = (change: Partial<Proving>) => {
      const { proving } = store.getState()
      // What is known of this very state stays until it is found again.
      if (change.state === 'running' && proving?.of === part && proving.state === 'done') return
      if (wanted === part) store.setState({ proving: { ...(proving?.of === part ? proving : begun), ...change } })
    }
    try {
      const answer = await checks().call('proof', {}, shown, ({ done, of, found }) =>
        set({ done, total: of, findings: told(found ?? []), state: 'running' }),
      )
      set({ state: 'done', findings: told(answer) })
      if (opening)
        void solids()
          .call('practise', {}, shown)
          .catch(() => undefined)
    } catch (error) {
      // What something newer took the place of is asked for again.
      if (error instanceof Overtaken) return
      const why = error instanceof Error ? error.message : String(error)
      set({ state: error instanceof Stopped ? 'stopped' : 'failed', why })
      if (wanted === part) store.setState({ unmeasured: { of: part, why } })
      return
    }
    // Of some parts a third fineness is built for them: no finding waits for that.
    try {
      await measured(part, await checks().call('figures', {}, shown))
    } catch (error) {
      if (error instanceof Overtaken || wanted !== part) return
      store.setState({ unmeasured: { of: part, why: error instanceof Error ? error.message : String(error) } })
    }
    const found = store.getState().proving
    if (wanted !== part || found?.of !== part || found.findings.every(({ rank }) => rank === 'pass')) return
    set({ state: 'curing' })
    // What is not tried to the end takes away nothing that was found.
    const cured = await checks()
      .call('cures', {}, shown)
      .catch(() => undefined)
    set({ state: 'done', ...(cured ? { findings: told(cured) } : {}) })
  }

  /** Figures are of the solids that are drawn: they wait for these. */
  async function measured(part: Part, of: Readonly<Record<string, PieceFigures>>): Promise<void> {
    if (store.getState().answered !== part)
      await new Promise<void>((resolve) => {
        const stop = store.subscribe(({ answered }) => {
          if (answered !== part && wanted === part) return
          stop()
          resolve()
        })
      })
    if (wanted !== part) return
    const { pieces } = store.getState()
    const figures = Object.fromEntries(
      pieces.flatMap(({ id, key, volume }): [string, KnownFigures][] => {
        const own = of[id]
        return own ? [[id, { ...own, key, faceted: volume }]] : []
      }),
    )
    store.setState({ figures, unmeasured: undefined })
    keepLater(part)
  }

  function workedOf(part: Part): WorkedPart {
    const { readings } = store.getState()
    const known = workedParts.get(part)
    if (known && (known.readings === readings || (part.readouts.length === 0 && treatmentsStoodOn(part).size === 0)))
      return known.worked
    const worked = workOut(part, readings)
    workedParts.set(part, { readings, worked })
    return worked
  }

  return { useBuild: store, workedOf, expectEdits, expectVariant, buildAgain }
}

export const { useBuild, workedOf, expectEdits, expectVariant, buildAgain } = createBuild()

function shownFrom(
  shown: Part,
  { pieces, problems, readings }: BuildAnswer,
  before: readonly DrawnPiece[],
): Partial<BuildState> {
  return { shown, pieces: pieces.map((piece) => drawn(piece, before)), problems, readings }
}

function drawn(piece: PieceDrawing, before: readonly DrawnPiece[]): DrawnPiece {
  const known = before.find((other) => other.id === piece.id && other.key === piece.key)
  return { ...piece, mesh: 'mesh' in piece ? piece.mesh : known?.mesh }
}
