import { pieceOfBody } from '@makrel/core/document'
import { fileUnits, formatOf, formats, sizedWays, type UsualFineness } from '@makrel/core/exchange'
import { poseToHandOff } from '@makrel/core/planning'
import { formatSize } from '@makrel/core/units'
import { wholeBox } from '../frame/whole.ts'
import { useBuild } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { Choice } from '../ui/Choice.tsx'
import { MadeUpFor, SizesChoice, usualSizes } from '../workshop/MadeUpFor.tsx'
import { type Choices, sizings } from './choices.ts'

/** How it is drawn, which has no id. */
const drawn = 'drawn'

/** A size that has no unit of its own is in the part's. */
const sizingWords = {
  drawn: 'as drawn',
  factor: 'scaled to',
  width: 'to a width of',
  depth: 'to a depth of',
  height: 'to a height of',
} as const satisfies Record<Choices['sizing'], string>

const finenesses = [
  { value: '0.05', label: '0.05 mm — draft' },
  { value: '0.02', label: '0.02 mm — fine' },
  { value: '0.01', label: '0.01 mm — very fine' },
  { value: 'own', label: 'another …' },
] as const

interface Props {
  readonly choices: Choices
  /** what of it cannot be used, and why */
  readonly faults: Readonly<Partial<Record<'fineness' | 'size', string>>>
  readonly usual: UsualFineness
  onChange(change: Partial<Choices>): void
}

export function HandOffChoices({ choices, faults, usual, onChange }: Props) {
  const { format, piece, fineness, own, sizes, sizing, size } = choices
  const part = usePart((state) => state.part)!
  const made = choices.made ?? usualSizes(part)
  const pieces = useBuild((state) => state.pieces)
  const box = wholeBox(pieces)
  /** What is to be changed: it is 100 %, or as large as it is. */
  const drawnSize = (way: Choices['sizing']): string => {
    const axis = (sizedWays as readonly string[]).indexOf(way)
    if (axis < 0) return way === 'factor' ? '100' : ''
    return box ? formatSize(box.max[axis]! - box.min[axis]!, part.unit) : ''
  }
  return (
    <div className="mt-4 grid grid-cols-[6.5rem_1fr] items-center gap-x-3 gap-y-3">
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
        options={[{ value: 'part', label: `${usual.fineness} mm — as this part needs` }, ...finenesses]}
        onChange={(fineness) => onChange({ fineness })}
      />
      {fineness === 'part' && usual.for !== 'nothing' && (
        <>
          <span />
          <p className="-mt-2 text-sm text-ink-soft">{whyFiner(usual)}</p>
        </>
      )}
      {fineness === 'own' && (
        <Typed
          label="Fineness in mm"
          value={own}
          fault={faults.fineness}
          behind="mm from curve to flat"
          onChange={(own) => onChange({ own })}
        />
      )}
      <span className="font-semibold">Size</span>
      <Choice
        look="box"
        label="Size"
        value={sizing}
        options={sizings.map((value) => ({ value, label: sizingWords[value] }))}
        onChange={(sizing) => onChange({ sizing, size: drawnSize(sizing) })}
      />
      {sizing !== 'drawn' && (
        <Typed
          label={sizing === 'factor' ? 'Per cent of the drawn size' : `Size, ${sizingWords[sizing]}`}
          value={size}
          fault={faults.size}
          behind={sizing === 'factor' ? '% of what is drawn' : part.unit}
          onChange={(size) => onChange({ size })}
        />
      )}
      <span className="font-semibold">Compensation</span>
      <SizesChoice value={made} onChange={(made) => onChange({ made })} />
      {made === 'printed' && (
        <>
          <span />
          <MadeUpFor />
        </>
      )}
      <span className="font-semibold">Unit</span>
      <Choice
        look="box"
        label="Unit"
        value={choices.unit}
        options={fileUnits.map(({ id, label }) => ({ value: id, label }))}
        onChange={(unit) => onChange({ unit })}
      />
      <span />
      <p className="-mt-2 text-sm text-ink-soft">
        {formatOf(format)!.statesUnit
          ? 'The file states it.'
          : 'The file does not state it: choose the same where you open it.'}
      </p>
    </div>
  )
}

/** A field below its choice, with what it is in behind it, and below that why it cannot be used. */
function Typed({
  label,
  value,
  behind,
  fault,
  onChange,
}: {
  readonly label: string
  readonly value: string
  readonly behind: string
  readonly fault: string | undefined
  onChange(text: string): void
}) {
  return (
    <>
      <span />
      <div>
        <label className="flex items-center gap-2">
          <input
            aria-label={label}
            aria-invalid={fault !== undefined}
            value={value}
            onChange={(event) => onChange(event.target.value)}
            className="figures h-8 w-24 rounded-sm border border-line px-2 text-[1rem] aria-invalid:border-rust"
          />
          {behind}
        </label>
        {fault && (
          <p role="alert" className="mt-1 text-rust">
            {fault}
          </p>
        )}
      </div>
    </>
  )
}

function whyFiner({ for: reason, off }: UsualFineness): string {
  const share = Number((off * 100).toPrecision(2))
  return reason === 'volume'
    ? `At 0.02 mm the flats of its rounds would change its volume by ${share} %.`
    : 'Its smallest rounds would be rough at 0.02 mm.'
}
