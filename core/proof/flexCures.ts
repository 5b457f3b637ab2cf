import { applyEdit, type Edit, findStep, type KeptFlex, type Outline, type Part } from '../document/index.ts'
import { outlineText } from '../fields/index.ts'
import { type FlexFound, flexTesting } from '../flex/index.ts'
import { withTurns } from '../pacing/index.ts'
import { distance2, type Vec2 } from '../plane/index.ts'
import { fieldKindOf, workOut } from '../planning/index.ts'
import type { Built } from '../solids/index.ts'
import { mmPer } from '../units/index.ts'
import type { FoundCure } from './define.ts'
import { type Clause, clause, mm } from './phrase.ts'

/** What is said of a cure. */
const texts = {
  'round-it': 'Round that corner by {radius}',
  'make-it': 'Make it {thick} thick',
  'strain-now': '“{test}”: strain {strain} %.',
  'strain-then': 'Strain {strain} % of the {most} % that {material} takes again and again.',
} as const

/** Radii that are tried, by how thick what bends is; the least first. */
const radii = [0.25, 0.5, 1, 1.5]
/** How much thinner the wall is tried to be; the most first that is left. */
const thinner = [0.9, 0.8, 0.7, 0.6, 0.5]
/** What helps by less is no cure. */
const helps = 0.93

/** What would bring the strain of a flex test down, each tried before it is offered: a round at its worst place, or a thinner wall. */
export async function flexCures(
  { resolved }: Built,
  flex: KeptFlex,
  found: FlexFound,
  pause: () => Promise<void>,
): Promise<readonly FoundCure[]> {
  const { part } = resolved
  const most = part.material.strainOften / 100
  const now = Math.abs(found.strain)
  const best = async (edits: readonly (Tried | undefined)[]): Promise<FoundCure | undefined> => {
    let chosen: (Tried & { readonly strain: number }) | undefined
    for (const edit of edits) {
      if (!edit) continue
      await pause()
      const strain = await strainAfter(part, flex, edit.edit, pause)
      if (strain === undefined || strain > helps * (chosen?.strain ?? now)) continue
      chosen = { ...edit, strain }
      if (strain <= most) break
    }
    return (
      chosen && {
        label: chosen.label,
        edits: [chosen.edit],
        before: clause(texts, 'strain-now', { test: flex.name, strain: percent(now) }),
        after: clause(texts, 'strain-then', {
          ...{ strain: percent(chosen.strain), most: part.material.strainOften, material: part.material.name },
        }),
      }
    )
  }
  const cures = [await best(rounder(part, resolved, flex, found)), await best(thinned(part, resolved, flex))]
  return cures.filter((cure) => cure !== undefined)
}

interface Tried {
  readonly label: Clause
  readonly edit: Edit
}

const percent = (share: number) => Number((100 * share).toPrecision(2))

/** The largest strain with an edit made; undefined where it makes something else of it. */
async function strainAfter(
  part: Part,
  flex: KeptFlex,
  edit: Edit,
  pause: () => Promise<void>,
): Promise<number | undefined> {
  const { resolved, problems } = workOut(applyEdit(part, edit, fieldKindOf))
  if (problems.some(({ rank, path }) => rank === 'fault' && (path[1] === flex.of || path[0] === 'outlines')))
    return undefined
  const after = await withTurns(flexTesting(resolved, flex), pause)
  return after.fault === undefined && after.reached === 1 && !after.touches ? Math.abs(after.strain) : undefined
}

/** Rounds at the corner that is strained most, of the outline that it is made from. */
function rounder(part: Part, resolved: Built['resolved'], flex: KeptFlex, { mesh, worst, size }: FlexFound): Tried[] {
  const outline = outlineOf(part, resolved, flex)
  const points = outline && resolved.outlines.get(outline.id)?.points
  if (!points) return []
  const at: Vec2 = [mesh.nodes[2 * worst]!, mesh.nodes[2 * worst + 1]!]
  const thick = 2 * size * 2 ** flex.finer
  const corners = outline.points
    .map(({ id }) => ({ id, away: distance2(points.get(id)!, at) }))
    .filter(({ id }) => endsAt(outline, id) === 2)
  const nearest = corners.reduce((a, b) => (b.away < a.away ? b : a), { id: '', away: Number.POSITIVE_INFINITY })
  const round = outline.derived.find(
    ({ kind, of, fields }) => kind === 'corner' && fields.form !== 'bevel' && of.includes(nearest.id),
  )
  const known = round && resolved.outlines.get(outline.id)?.values.fields.get(round.id)?.size
  // Where it is rounded the worst place lies on the round.
  if (nearest.away > 2 * thick + (typeof known === 'number' ? known : 0)) return []
  return radii
    .map((by) => by * thick)
    .filter((radius) => typeof known !== 'number' || radius > 1.1 * known)
    .map((radius) => {
      const rounded = Number((radius / mmPer(part.unit)).toPrecision(2))
      const text = String(rounded)
      const derived = round
        ? outline.derived.map((each) => (each === round ? { ...each, fields: { ...each.fields, size: text } } : each))
        : [
            ...outline.derived,
            {
              ...{ id: freeId(outline), kind: 'corner', of: [nearest.id] },
              fields: { form: 'round', size: text },
            },
          ]
      return {
        label: clause(texts, 'round-it', { radius: mm(rounded * mmPer(part.unit)) }),
        edit: { type: 'set-outline', id: outline.id, change: { derived } },
      }
    })
}

/** The wall of an extrusion made thinner. */
function thinned(part: Part, resolved: Built['resolved'], flex: KeptFlex): Tried[] {
  const step = findStep(part, flex.of)?.step
  const { values, shape } = resolved.steps.get(flex.of) ?? {}
  const thick = values?.thick
  if (!step || !('fields' in step) || !shape?.fields.thick || typeof thick !== 'number') return []
  if ('wall' in shape.fields && values?.wall === 'filled') return []
  const text = step.fields.thick ?? shape.fields.thick.default
  return thinner.map((share) => {
    const now = Number(((thick * share) / mmPer(part.unit)).toPrecision(2))
    const isPlain = /^\s*[\d.]+\s*$/.test(text)
    return {
      label: clause(texts, 'make-it', { thick: mm(now * mmPer(part.unit)) }),
      edit: {
        type: 'set-field',
        id: flex.of,
        field: 'thick',
        text: isPlain ? String(now) : `${now} ${part.unit}`,
      },
    }
  })
}

/** The outline of the step that is tested. */
function outlineOf(part: Part, { steps }: Built['resolved'], flex: KeptFlex): Outline | undefined {
  const step = findStep(part, flex.of)?.step
  const shape = steps.get(flex.of)?.shape
  const field = shape && Object.entries(shape.fields).find(([, { kind }]) => kind === 'outline')?.[0]
  const text = field && step && 'fields' in step ? step.fields[field] : undefined
  return text === undefined ? undefined : part.outlines.find(({ id }) => id === outlineText(text).outline)
}

/** How many curves that bound material end at a point. */
function endsAt({ curves }: Outline, point: string): number {
  return curves.filter(({ helper, points }) => !helper && points.includes(point)).length
}

function freeId({ derived, points, curves }: Outline): string {
  const taken = new Set([...derived, ...points, ...curves].map(({ id }) => id))
  let number = derived.length + 1
  while (taken.has(`r${number}`)) number++
  return `r${number}`
}
