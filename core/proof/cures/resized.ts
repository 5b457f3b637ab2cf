import { type Edit, findStep, type Part } from '../../document/index.ts'
import { withAdded } from '../../planning/index.ts'
import type { Built } from '../../solids/index.ts'
import { formatLength, mmPer, type PartUnit } from '../../units/index.ts'
import type { Found, FoundCure, Resize } from '../define.ts'
import { clause, mm } from '../phrase.ts'
import type { CureKind } from './define.ts'

/** What is said of a size that is changed. */
const texts = {
  'resize-measure': 'Set “{measure}” to {size}',
  'resize-field': 'Set the {field} of {step} to {size}',
} as const

/** A size is that of what was found where it differs by no more than this share of it, or by this, mm. */
const [share, within] = [0.03, 0.02]
/** More are not tried. */
const most = 4

/** A size that is too small is made larger, as far as is asked for; a second size is tried where the first is not enough. */
export const resized: CureKind = (built, found) => {
  const { resize } = found
  if (!resize) return []
  return [resize, ...(resize.orTo === undefined ? [] : [{ ...resize, to: resize.orTo }])].flatMap((each) =>
    resizings(built, found, each),
  )
}

/**
 * Ways to make what is found to be as wide as it should be: sizes of the steps it is about that are just as much as it is, or measures that
 * such a size is. Larger by a hair, so that numbers that can be read come out.
 */
function resizings(
  { resolved }: Built,
  { about, code, pattern, values: found }: Found,
  { from, to, after }: Resize,
): readonly FoundCure[] {
  const { part } = resolved
  const size = readable(to, part.unit)
  const before = { code, pattern, values: found }
  const then = { ...after, values: { ...after.values, size: mm(size) } }
  const out: FoundCure[] = []
  for (const { kind, id } of about) {
    const step = kind === 'step' ? findStep(part, id)?.step : undefined
    const { shape, treatment, values } = resolved.steps.get(id) ?? {}
    const fields = shape?.fields ?? treatment?.fields
    if (!step || !('fields' in step) || !fields || !values) continue
    for (const [name, field] of Object.entries(fields)) {
      const value = values[name]
      if (field.kind !== 'length' || typeof value !== 'number' || !isAbout(value, from)) continue
      const text = step.fields[name] ?? field.default
      const of = measureEdit(part, text, size - value)
      const label = of
        ? clause(texts, 'resize-measure', { measure: text.trim(), size: mm(size) })
        : clause(texts, 'resize-field', {
            ...{ field: field.label.toLowerCase(), size: mm(size) },
            step: step.name || (shape ?? treatment)!.label,
          })
      const edit: Edit = of ?? {
        type: 'set-field',
        id,
        field: name,
        text: resizedText(text, size - value, size, part.unit),
      }
      if (!out.some((each) => JSON.stringify(each.edits) === JSON.stringify([edit])))
        out.push({ label, edits: [edit], before, after: then })
    }
  }
  return out.slice(0, most)
}

const isAbout = (value: number, from: number) => Math.abs(value - from) <= Math.max(within, share * from)

/** Up to the next hundredth of a mm, or thousandth of an inch. */
export function readable(size: number, unit: PartUnit): number {
  const step = unit === 'mm' ? 0.01 : 0.001 * mmPer('in')
  return Number((Math.ceil(size / step - 1e-6) * step).toFixed(6))
}

function isNumber(text: string): boolean {
  return /^\s*[\d.]+\s*$/.test(text)
}

/** A number is written anew; to anything else the rest is added, so that it still follows what it follows. */
function resizedText(text: string, more: number, size: number, unit: PartUnit): string {
  return isNumber(text) ? formatLength(size, unit) : withAdded(text, more, unit)
}

/** The measure that a size is, by itself, made larger. */
function measureEdit(part: Part, text: string, more: number): Edit | undefined {
  const measure = part.measures.find(({ name }) => name === text.trim())
  if (measure?.kind !== 'length') return undefined
  const { expression } = measure
  const now = Number(expression) * mmPer(part.unit)
  const written = isNumber(expression) ? formatLength(now + more, part.unit) : withAdded(expression, more, part.unit)
  return { type: 'set-measure', id: measure.id, change: { expression: written } }
}
