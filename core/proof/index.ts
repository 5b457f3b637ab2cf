import type { Part } from '../document/index.ts'
import type { Kernel, Solid } from '../kernel/index.ts'
import { laidGroups, Sections } from '../layers/index.ts'
import { KnownSurfaces, meshFigures, TriangleTree } from '../mesh/index.ts'
import { problemFrom } from '../problems/index.ts'
import { BuildAborted, type Built, facesOf, namedEdges, type TwiceBuilt } from '../solids/index.ts'
import type { PartUnit } from '../units/index.ts'
import { withAsides } from './aside.ts'
import {
  type Check,
  type Cure,
  type Finding,
  type FindingRank,
  type Found,
  findingOf,
  type Mark,
  type ProofContext,
  type ProofPiece,
} from './define.ts'
import type { SurfaceField } from './field.ts'
import { fieldKinds } from './fields.ts'
import type { ProofMemory } from './memory.ts'
import { type Clause, phrased } from './phrase.ts'
import { checks } from './registry.ts'
import { withCures } from './tried.ts'

export { canBeSetAside, setAsideOf } from './aside.ts'
export { changedMarks } from './changed.ts'
export type { Reach } from './contact.ts'
export type { Check, Cure, Finding, FindingRank, Mark } from './define.ts'
export type { SurfaceField } from './field.ts'
export { gapBetween, searchWithin } from './gap.ts'
export { ProofMemory } from './memory.ts'
export { plainValues } from './phrase.ts'
export { checks } from './registry.ts'
export { sheetFindings } from './sheet.ts'
export { loose, Swing, type SwingPosition, swingAt, swingPositions } from './swing.ts'

export interface ProofOptions {
  /** the same part at two finenesses, for measuring; or how to get it, asked for by the first check that measures */
  readonly twice?: TwiceBuilt | (() => Promise<TwiceBuilt>) | undefined
  /** looked at between checks, and by those that take long */
  readonly signal?: { readonly aborted: boolean }
  /** lets the host take messages meanwhile */
  readonly pause?: () => Promise<void>
  /** what was found before, and is known again where all that it follows from is the same */
  readonly memory?: ProofMemory | undefined
  /** told before each check, with what the ones before it have found */
  readonly progress?: (done: number, of: number, found: readonly Finding[]) => void
  /** builds the part with something changed, so that what may put a finding right is tried; nothing is where it is left out */
  readonly build?: ((part: Part) => Promise<Built>) | undefined
  /** only these checks, by their ids; all of them where it is left out */
  readonly only?: readonly string[]
}

/**
 * The inspection of a built part: all findings of all checks.
 * @throws BuildAborted
 */
export async function proofOf(kernel: Kernel, built: Built, options: ProofOptions = {}): Promise<readonly Finding[]> {
  const { progress, memory, only, build } = options
  const wanted = only ? checks.filter(({ id }) => only.includes(id)) : checks
  memory?.begin()
  const context = contextOf(kernel, built, options)
  const { part } = built.resolved
  const told = (found: readonly Found[]) =>
    withAsides(
      part,
      found.map((each) => inWords(each, part.unit)),
    )
  const findings = await foundBy(wanted, context, (done, found) => progress?.(done, wanted.length, told(found)))
  // In a pose a piece is not where its steps put it.
  if (!build || built.motions) return told(findings)
  // What is found of another builder's solids is not kept: they go by keys of its own.
  const { twice: _, memory: __, ...alone } = options
  const prove = async (changed: Built, first: string, isGone: (found: readonly Found[]) => boolean) => {
    const context = contextOf(kernel, changed, alone)
    const own = await foundBy(
      wanted.filter(({ id }) => id === first),
      context,
    )
    if (!isGone(own)) return undefined
    const others = wanted.filter(({ id }) => id !== first)
    return [...own, ...(await foundBy(others, context))]
  }
  const aside = told(findings).map((finding) => finding.aside !== undefined)
  const isOpen = (found: Found) => !aside[findings.indexOf(found)]
  return told(await withCures(built, findings, build, prove, isOpen, { kernel, pause: context.pause }))
}

async function foundBy(
  wanted: readonly Check[],
  context: ProofContext,
  progress?: (done: number, found: readonly Found[]) => void,
): Promise<readonly Found[]> {
  const findings: Found[] = []
  for (const [i, check] of wanted.entries()) {
    progress?.(i, findings)
    await context.pause()
    if (check.scope === 'part') findings.push(...(await safely(check, () => partFindings(check, context))))
    else
      for (const piece of context.pieces)
        if (piece.figures) findings.push(...(await safely(check, () => pieceFindings(check, context, piece))))
  }
  return findings
}

/** What the checks, and the fields of what they found, look at. */
function contextOf(kernel: Kernel, built: Built, { twice, signal, pause, memory }: ProofOptions): ProofContext {
  const { printer } = built.resolved
  const surface = shared((solid: Solid) => new TriangleTree(solid.mesh()))
  const sections = shared((piece: ProofPiece) => new Sections(kernel, piece.built.solid!, { known: memory?.sections }))
  let sheet: string | undefined
  const stopped = async () => {
    await pause?.()
    if (signal?.aborted) throw new BuildAborted()
  }
  return {
    kernel,
    built,
    twice: twice && (typeof twice === 'function' ? twice : async () => twice),
    pieces: built.pieces.map((piece) => ({
      built: piece,
      figures: piece.solid && meshFigures(piece.solid.mesh()),
    })),
    edges: shared((piece) => namedEdges(piece.built, built.plan)),
    faces: shared((piece) => facesOf(piece.built, built.plan)),
    tree: ({ built: { solid } }) => surface(solid!),
    surface,
    surfaces: memory?.surfaces ?? new KnownSurfaces(),
    sections,
    sheet: () => {
      sheet ??= sheetOf(built)
      return sheet
    },
    laid: shared(async (piece) =>
      laidGroups(kernel, sections(piece), {
        ...{ heights: printer, lineWidth: printer.lineWidth, height: piece.figures!.max[2] },
        pause: stopped,
      }),
    ),
    kept(check, pieces, from, find) {
      if (!memory) return Promise.resolve(find())
      const solids = pieces.map(({ built: { key, piece } }) => [key, piece.id, piece.name])
      return memory.kept(JSON.stringify([check, solids, from]), find)
    },
    pause: stopped,
  }
}

/**
 * The field of a finding over what was built, as the proof that found it looked at it.
 * @throws BuildAborted
 */
export function fieldOf(
  kernel: Kernel,
  built: Built,
  { field, pieces }: Extract<Mark, { kind: 'field' }>,
  options: ProofOptions = {},
): Promise<SurfaceField> {
  const kind = fieldKinds.find(({ id }) => id === field)
  const context = contextOf(kernel, built, options)
  const found = pieces.map((id) => context.pieces.find(({ built: { piece, solid } }) => piece.id === id && solid))
  if (!kind || found.some((piece) => !piece)) throw new Error('what this was found on is not there any more')
  return kind.of(context, found as ProofPiece[])
}

function partFindings(check: Extract<Check, { scope: 'part' }>, context: ProofContext) {
  if (!check.from) return check.run(context)
  return context.kept(check.id, context.pieces, check.from(context), () => check.run(context))
}

function pieceFindings(check: Extract<Check, { scope: 'piece' }>, context: ProofContext, piece: ProofPiece) {
  return context.kept(check.id, [piece], check.from(context, piece), () => check.run(context, piece))
}

/** But for what it is called, and what is noted of it: nothing is found by these. */
function sheetOf({ resolved: { part }, solidReadings, problems }: Built): string {
  const told = problems.map(({ rank, path, text }) => [rank, path, text])
  return JSON.stringify([{ ...part, name: '', note: '' }, solidReadings.values, told])
}

/** What checks share: found for the first of them that asks for it. */
function shared<Of, T>(find: (of: Of) => T): (of: Of) => T {
  const known = new Map<Of, T>()
  return (of) => {
    if (!known.has(of)) known.set(of, find(of))
    return known.get(of)!
  }
}

const failing = { 'check-failed': '{meaning} {detail}' } as const

/** A check that fails takes no other one with it. */
async function safely(
  check: Check,
  run: () => readonly Found[] | Promise<readonly Found[]>,
): Promise<readonly Found[]> {
  try {
    return await run()
  } catch (error) {
    if (error instanceof BuildAborted) throw error
    const { text: detail } = problemFrom(error, [])
    return [findingOf(check.id, failing, [])('fault', 'check-failed', { meaning: check.meaning, detail })]
  }
}

/** What was found in words, with its sizes in this unit: nothing is said before. */
export function inWords(
  { cures, tried, resize: _, spanned: __, under: ___, between: ____, ...found }: Found,
  unit: PartUnit,
): Finding {
  const say = (each: Clause) => phrased(each, unit)
  const told = cures?.map(({ edits, label, before, after }): Cure => {
    return { edits, label: say(label), before: say(before), after: say(after) }
  })
  return { ...found, text: say(found), ...(told ? { cures: told } : {}), ...(tried ? { tried: tried.map(say) } : {}) }
}

/** Faults of the solid itself, whatever printer it goes to: what has one is not given out unasked. */
export function solidFaults<F extends Pick<Finding, 'rank' | 'ofPrinter' | 'aside'>>(
  findings: readonly F[],
): readonly F[] {
  return findings.filter(({ rank, ofPrinter, aside }) => rank === 'fault' && !ofPrinter && !aside)
}

const ranks: readonly FindingRank[] = ['pass', 'advice', 'warning', 'fault']

/** The gravest rank among findings that were not set aside. */
export function worst(findings: readonly Pick<Finding, 'rank' | 'aside'>[]): FindingRank {
  return ranks[Math.max(0, ...findings.map(({ rank, aside }) => (aside ? 0 : ranks.indexOf(rank))))]!
}
