import { pieceOfBody } from '@makrel/core/document'
import { formatOf, formats } from '@makrel/core/exchange'
import { evaluate } from '@makrel/core/measures'
import { poseToHandOff } from '@makrel/core/planning'
import { ProblemError } from '@makrel/core/problems'
import { useBuild } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { Choice } from '../ui/Choice.tsx'
import { MadeUpFor, type Sizes, SizesChoice, usualSizes } from '../workshop/MadeUpFor.tsx'

/** What is handed off, and how. */
export interface Choices {
  readonly format: string
  /** the id of a piece, or "all" */
  readonly piece: string
  /** mm, as text, or "own" */
  readonly fineness: string
  /** what was typed for the fineness */
  readonly own: string
  readonly sizes: 'one' | 'all'
  /** the id of a pose, empty for how it is drawn; how it is printed where none is chosen */
  readonly pose: string | undefined
  /** whether the file makes up for what the printer and the material do; where that was measured unless something is chosen */
  readonly made: Sizes | undefined
}
export const usualChoices: Choices = {
  format: '3mf',
  piece: 'all',
  fineness: '0.02',
  own: '0.015',
  sizes: 'one',
  pose: undefined,
  made: undefined,
}

/** How it is drawn, which has no id. */
const drawn = 'drawn'

const finenesses = [
  { value: '0.05', label: '0.05 mm — draft' },
  { value: '0.02', label: '0.02 mm — fine' },
  { value: '0.01', label: '0.01 mm — very fine' },
  { value: 'own', label: 'another …' },
] as const

interface Props {
  readonly choices: Choices
  /** the fineness cannot be used */
  readonly broken: boolean
  onChange(change: Partial<Choices>): void
}

export function HandOffChoices({ choices, broken, onChange }: Props) {
  const { format, piece, fineness, own, sizes } = choices
  const part = usePart((state) => state.part)!
  const made = choices.made ?? usualSizes(part)
  const pieces = useBuild((state) => state.pieces)
  return (
    <div className="mt-4 grid grid-cols-[5.75rem_1fr] items-center gap-x-3 gap-y-3">
      <span className="font-semibold">Format</span>
      <Choice
        look="box"
        label="Format"
        value={format}
        options={formats.map(({ id, label }) => ({ value: id, label }))}
        onChange={(format) => onChange({ format })}
      />
      <span className="font-semibold">Pieces</span>
      <Choice
        look="box"
        label="Pieces"
        value={pieces.some(({ id }) => id === piece) ? piece : 'all'}
        options={[
          { value: 'all', label: pieces.length > 1 ? `all ${pieces.length}` : part.pieces[0]!.name },
          ...(pieces.length > 1
            ? pieces.map(({ id }) => ({ value: id, label: pieceOfBody(part, id)?.name ?? id }))
            : []),
        ]}
        onChange={(piece) => onChange({ piece })}
      />
      {part.variants.length > 0 && (
        <>
          <span className="font-semibold">Variants</span>
          <Choice<'one' | 'all'>
            look="box"
            label="Variants"
            value={sizes}
            options={[
              { value: 'one', label: part.variants.find(({ id }) => id === part.variant)?.name ?? 'as typed' },
              { value: 'all', label: `all ${part.variants.length}, in one archive` },
            ]}
            onChange={(sizes) => onChange({ sizes })}
          />
        </>
      )}
      {part.poses.length > 0 && (
        <>
          <span className="font-semibold">Pose</span>
          <Choice
            look="box"
            label="Pose"
            value={poseToHandOff(part, choices.pose)?.id ?? drawn}
            options={[{ id: '', name: 'as drawn' }, ...part.poses].map(({ id, name }) => ({
              value: id || drawn,
              label: id === part.printPose ? `${name}, as printed` : name,
            }))}
            onChange={(pose) => onChange({ pose: pose === drawn ? '' : pose })}
          />
        </>
      )}
      <span className="font-semibold">Fineness</span>
      <Choice
        look="box"
        label="Fineness"
        value={fineness}
        options={finenesses}
        onChange={(fineness) => onChange({ fineness })}
      />
      {fineness === 'own' && (
        <>
          <span />
          <label className="flex items-center gap-2">
            <input
              aria-label="Fineness in mm"
              aria-invalid={broken}
              value={own}
              onChange={(event) => onChange({ own: event.target.value })}
              className="figures h-8 w-24 rounded-sm border border-line px-2 text-[1rem] aria-invalid:border-rust"
            />
            mm from curve to flat
          </label>
        </>
      )}
      <span className="font-semibold">Sizes</span>
      <SizesChoice value={made} onChange={(made) => onChange({ made })} />
      {made === 'printed' && (
        <>
          <span />
          <MadeUpFor />
        </>
      )}
      <span className="font-semibold">Unit</span>
      <span>{formatOf(format)!.unit}</span>
    </div>
  )
}

/** @throws ProblemError too-small, too-large, and those of expressions */
export function finenessOf({ fineness, own }: Choices): number {
  const text = fineness === 'own' ? own : fineness
  const value = evaluate(text, 'length', {
    unit: 'mm',
    has: () => false,
    resolve: (name, at) => {
      throw new ProblemError('unknown-name', { name, suggestion: '' }, at)
    },
  }).value
  if (value < 0.001) throw new ProblemError('too-small', { label: 'Fineness', bound: '0.001 mm', value })
  if (value > 1) throw new ProblemError('too-large', { label: 'Fineness', bound: '1 mm', value })
  return value
}
