import { allSteps, type Part } from '@makrel/core/document'
import type { StepField } from '@makrel/core/fields'
import { usePart } from '../state/part.ts'
import { Choice } from '../ui/Choice.tsx'
import { numberedTitle } from './words.ts'

interface Props {
  readonly definition: StepField
  readonly text: string
  /** the joint that it is a field of */
  readonly step?: string | undefined
  onChange(text: string, final: boolean): void
}

/** One of the steps that a field may name. */
export function StepChoice({ definition, text, step: joint, onChange }: Props) {
  const part = usePart((state) => state.part)!
  const options = stepsFor(part, definition, joint).map(({ id, label }) => ({ value: id, label }))
  const known = options.some(({ value }) => value === text)
  return (
    <Choice
      label={definition.label}
      value={text}
      options={known ? options : [{ value: text, label: 'choose one' }, ...options]}
      onChange={(id) => onChange(id, true)}
    />
  )
}

/** The steps that such a field may name, as the sheet calls them. */
export function stepsFor(part: Part, { of, side }: StepField, joint: string | undefined) {
  const pieces = part.joints.find(({ id }) => id === joint)?.pieces
  const inside = side === undefined || !pieces ? part.pieces : part.pieces.filter(({ id }) => id === pieces[side])
  return inside.flatMap((piece) =>
    allSteps({ ...part, pieces: [piece] }).flatMap((step) =>
      step.kind === 'shape' && (!of || of.includes(step.shape))
        ? [{ id: step.id, label: `${numberedTitle(part, step)} of ${piece.name}`, piece: piece.id, shape: step.shape }]
        : [],
    ),
  )
}
