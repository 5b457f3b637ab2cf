import type { FieldTexts, TreatmentStep } from '../document/index.ts'
import { defaultFields, type IsName, matched, typedValues, understood, versionTold } from '../fields/index.ts'
import type { PartUnit } from '../units/index.ts'
import type { Treatment } from './define.ts'
import { operations } from './registry.ts'

/** A treatment found by what was typed, with the numbers typed behind it already in its fields. */
export interface FoundTreatment {
  readonly treatment: Treatment
  readonly fields: FieldTexts
  /** the trade word that it was found by, where that is not its label */
  readonly word: string | undefined
  /** whether its name was typed to the end */
  readonly whole: boolean
  /** how many letters of what was typed its name is */
  readonly said: number
  /** whether all sizes that it asks for were typed behind it */
  readonly complete: boolean
  /** what was typed behind it and means nothing there */
  readonly left: string | undefined
}

/** Treatments whose label or words begin with what was typed, those first that it says most of: "round 2", "chamfer 0.6". */
export function findTreatments(typed: string, unit: PartUnit = 'mm', isName?: IsName): FoundTreatment[] {
  const text = typed.trim().toLowerCase()
  const found = operations.flatMap((treatment): FoundTreatment[] => {
    if (treatment.acts !== 'alone') return []
    const best = [treatment.label.toLowerCase(), ...treatment.words]
      .map((name) => ({ name, ...matched(text, name) }))
      .filter(({ used }) => used > 0)
      .sort((a, b) => Number(b.whole) - Number(a.whole) || b.used - a.used)[0]
    if (text !== '' && !best) return []
    const { values, beyond } = understood(typedValues(typed.trim().slice(best?.used ?? 0)), isName)
    const quick = treatment.quick.flatMap((field, i) => (values[i] === undefined ? [] : [[field, values[i]] as const]))
    return [
      {
        treatment,
        word: best && best.name !== treatment.label.toLowerCase() ? best.name : undefined,
        whole: best?.whole ?? false,
        said: best?.used ?? 0,
        complete: quick.length === treatment.quick.length,
        left: [...values.slice(treatment.quick.length), ...beyond].join(' ') || undefined,
        fields: { ...defaultFields(treatment.fields, unit), ...Object.fromEntries(quick) },
      },
    ]
  })
  return found.sort((a, b) => b.said - a.said)
}

/** Everything that a treatment is found by. */
export function treatmentNames(): string[] {
  return operations.flatMap((each) => (each.acts === 'alone' ? [each.label.toLowerCase(), ...each.words] : []))
}

/** A new step of this treatment. */
export function newTreatment(
  id: string,
  { treatment, fields }: Pick<FoundTreatment, 'treatment' | 'fields'>,
): TreatmentStep {
  return {
    ...{ kind: 'treatment', id, name: '', mute: false, when: '', operation: treatment.kind, fields },
    ...versionTold(treatment),
  }
}
