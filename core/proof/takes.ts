import { compensationFor, isMadeUp, roundsBy } from '../compensation/index.ts'
import { type FieldTexts, flattened, hasBody } from '../document/index.ts'
import { fieldsWhere, type NumberField } from '../fields/index.ts'
import { type FitName, type FitPair, fitBeside } from '../fits/index.ts'
import { type Item, itemsFor } from '../hardware/index.ts'
import { tried } from '../problems/index.ts'
import type { Built } from '../solids/index.ts'
import { type Check, type Found, findingOf, stepName } from './define.ts'
import { clause, mm, type ValuesIn } from './phrase.ts'

/** What is found. */
const texts = {
  'takes-room':
    'Every fit leaves room as the {printer} prints it. The tightest of {count}: {size} {fit} at {where}, {left} per side.',
  'takes-tight':
    '{size} {fit} at {where} comes out {printed} across for {of}: {fit} leaves {gap} per side, and the {printer} prints {off} of that shut.',
  'takes-loose':
    '{size} press at {where} comes out {printed} across for {of}: it does not hold by itself on the {printer}.',
  'takes-bare':
    '{size} at {where} is just what {measure} measures, and comes out {printed} on the {printer}: it takes no {measure}. Name a fit behind it, as “{written} slide”.',
  'takes-bare-item':
    '{size} at {where} is the size of a {item}, and comes out {printed} on the {printer}, too tight for one. If it is for one, name a fit behind it, as “{written} slide”.',
  'takes-name-fit': 'Make it “{written} {fit}”',
  'takes-named': '{measure} goes in: {fit} leaves {gap} per side.',
} as const

/** Sizes are the same that differ by less, mm. */
const same = 1e-6
/** Another body is as large as what goes in where it differs by less, mm. */
const alike = 0.02

/** Something that another thing goes into, and how that comes out of a printer. Lengths in mm, gaps per side. */
export interface Taking {
  readonly step: string
  readonly field: string
  readonly text: string
  readonly pair: FitPair
  /** across, as drawn */
  readonly across: number
  /** named behind its size; undefined where none is */
  readonly fit: FitName | undefined
  readonly gap: number
  /** by how much it prints tighter, with what goes in, where that is printed too */
  readonly off: number
  /** what goes into it is a body of the same part */
  readonly isPrinted: boolean
}

/** Everything that a step takes, as the printer prints it, but for what a file makes up for. */
export function takingsOf({ resolved, plan }: Built): readonly Taking[] {
  const { part, printer, steps } = resolved
  // Where only the material was measured, a file makes up for nothing of the printer.
  const made = isMadeUp(part) ? compensationFor(part) : { walls: 0, rounds: 0 }
  const walls = printer.outsideOffset - made.walls
  const rounds = printer.holeOffset - made.rounds
  const round = (across: number) => roundsBy({ walls, rounds }, across)
  const outsides = part.pieces.flatMap((piece) =>
    flattened(piece.steps).flatMap((step) => {
      const { shape, values, present } = steps.get(step.id) ?? {}
      const adds = hasBody(step) && present && plan.operands.get(step.id)?.operation.material !== 'less'
      return adds && shape && values
        ? Object.entries(values).flatMap(([field, value]) =>
            typeof value === 'number'
              ? [{ piece: piece.id, pair: field === 'diameter' ? 'round' : 'flat', value }]
              : [],
          )
        : []
    }),
  )
  return part.pieces.flatMap((piece) =>
    flattened(piece.steps).flatMap((step): Taking[] => {
      const { shape, values, present } = steps.get(step.id) ?? {}
      const isCut = plan.operands.get(step.id)?.operation.material === 'less'
      if (!shape || !values || !present || !isCut || !('fields' in step)) return []
      // A hole without a head has none to fit.
      const used = tried(() => shape.sentence(values))?.map((each) => (typeof each === 'string' ? '' : each.field))
      return Object.entries(fieldsWhere(false, shape.fields)).flatMap(([field, definition]): Taking[] => {
        const { takes } = definition as NumberField
        const across = values[field]
        const text = (step.fields as FieldTexts)[field] ?? String(definition.default)
        if (!takes || typeof across !== 'number' || !(used?.includes(field) ?? true)) return []
        const beside = fitBeside(text)
        const gap = beside ? printer.fits[beside.fit][takes].gap : 0
        const isPrinted = outsides.some(
          (other) =>
            other.piece !== piece.id && other.pair === takes && Math.abs(other.value - (across - 2 * gap)) < alike,
        )
        const off = (takes === 'round' ? round(across) : walls) + (isPrinted ? walls : 0)
        return [{ step: step.id, field, text, pair: takes, across, fit: beside?.fit, gap, off, isPrinted }]
      })
    }),
  )
}

type Room = Omit<ValuesIn<(typeof texts)['takes-room']>, 'count'>

/** What is snug goes in where it has no play at all; what is looser has some. */
function isTight(fit: FitName, left: number): boolean {
  if (fit === 'press') return false
  return fit === 'snug' ? left < -same : !(left > same)
}

/** What is sold in this size and goes into a round hole: rods and pins first, then bearings and magnets. */
function itemAcross(across: number): Item | undefined {
  for (const kind of ['pin', 'bearing', 'magnet'] as const) {
    const found = itemsFor([kind]).find(
      ({ sizes, family }) => !family.inPlainHole && Math.abs((sizes.diameter ?? sizes.outside)! - across) < same,
    )
    if (found) return found
  }
  return undefined
}

/** Whether what has a fit goes in as the printer prints it, and what has none is not of the size of what was measured. */
export const takesCheck: Check = {
  id: 'takes',
  label: 'Fits',
  meaning: 'What has a fit takes what it is for, as the printer prints it.',
  texts,
  scope: 'part',
  from: ({ sheet }) => sheet(),
  run({ built }): readonly Found[] {
    const { printer, measures } = built.resolved
    const found: Found[] = []
    const fine: { readonly left: number; readonly fit: FitName; readonly values: Room }[] = []
    for (const { step, field, text, pair, across, fit, gap, off, isPrinted } of takingsOf(built)) {
      const where = stepName(built.resolved, step)
      const finding = findingOf('takes', texts, [{ kind: 'step', id: step }])
      const printed = mm(across - 2 * off)
      if (fit) {
        const own = mm(across - 2 * gap)
        const of = isPrinted ? 'what it is printed with' : 'what goes into it'
        const left = gap - off
        const values = {
          size: own,
          fit,
          where,
          printed,
          of,
          gap: mm(gap),
          off: mm(off),
          printer: printer.name,
          left: mm(left),
        }
        if (fit === 'press' && left > same)
          found.push(finding('advice', 'takes-loose', values, { ofPrinter: true, by: left }))
        else if (isTight(fit, left))
          found.push(finding('warning', 'takes-tight', values, { ofPrinter: true, by: -left }))
        else fine.push({ left, fit, values })
        continue
      }
      if (pair !== 'round' || field !== 'diameter' || !(off > same)) continue
      // A measure may be that of the hole itself; one with readings is of something that is there.
      const measure = measures.rows.find(
        ({ measure: { kind, readings = [] }, value }) =>
          kind === 'length' && readings.length > 0 && typeof value === 'number' && Math.abs(value - across) < same,
      )
      const name = measure?.measure.name
      // What is cut by something else than a hole may be any recess.
      const item = built.resolved.steps.get(step)?.shape?.kind === 'hole' ? itemAcross(across) : undefined
      if (name === undefined && !item) continue
      const values = { size: mm(across), where, printed, printer: printer.name, written: text }
      const [bare, said] =
        name === undefined
          ? ([clause(texts, 'takes-bare-item', { ...values, item: item!.label }), `A ${item!.label}`] as const)
          : ([clause(texts, 'takes-bare', { ...values, measure: name }), name] as const)
      const slide = { fit: 'slide', written: text, measure: said, gap: mm(printer.fits.slide.round.gap) }
      const cure = {
        label: clause(texts, 'takes-name-fit', slide),
        edits: [{ type: 'set-field', id: step, field, text: `${text} slide` }],
        before: bare,
        after: clause(texts, 'takes-named', slide),
      } as const
      const more = { ofPrinter: true, cures: [cure], by: 2 * off } as const
      found.push({ check: 'takes', rank: 'advice', about: [{ kind: 'step', id: step }], ...bare, ...more })
    }
    if (fine.length > 0) {
      const [tightest = fine[0]!] = fine.filter((each) => each.fit !== 'press').sort((a, b) => a.left - b.left)
      found.push(findingOf('takes', texts, [])('pass', 'takes-room', { ...tightest.values, count: fine.length }))
    }
    return found
  },
}
