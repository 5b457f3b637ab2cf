import { allSteps } from '@makrel/core/document'
import type { Vec3 } from '@makrel/core/place'
import type { FindingRank } from '@makrel/core/proof'
import { formatMass, formatSize, formatVolume, type PartUnit, untoldShare } from '@makrel/core/units'
import { memo } from 'react'
import { Link } from 'react-router'
import { useBuild } from '../state/build.ts'
import { useFigures, useProofWord, useUnmeasured, type WholeFigures } from '../state/built.ts'
import { RankMark } from '../ui/RankMark.tsx'
import { useLateWorked } from '../viewport/late.ts'
import { useView } from '../viewport/view.ts'
import { sizeOf, wholeBox } from './whole.ts'

/** The foot of the drawing, as on paper: what the part comes to. Each entry leads to the stage it belongs to. */
export function TitleBlock() {
  const { part, worked } = useLateWorked()
  const pieces = useBuild((state) => state.pieces)
  const box = wholeBox(pieces)
  const figures = useFigures()
  const unmeasured = useUnmeasured()
  const measured = (text: (known: WholeFigures) => string): string => {
    if (!box) return '—'
    return unmeasured === undefined ? (figures ? text(figures) : '…') : 'not measured'
  }
  const how = unmeasured === undefined ? figures && howMeasured(figures) : `It could not be measured: ${unmeasured}`
  const { material } = part
  const size = box && sizeOf(box)
  const muted = allSteps(part).filter(({ id }) => worked.resolved.steps.get(id)?.present === false).length
  const proof = useProofWord()
  // What is being built anew is something else: until then this is of the part before.
  const isOld = useBuild(({ slow }) => slow)
  return (
    <dl
      aria-busy={isOld}
      className={`flex w-full flex-wrap gap-px border border-ink bg-line ${isOld ? 'text-ink-soft italic' : ''}`}
    >
      <Entry to="make" label="Overall">
        {size ? `${size.map((value) => formatSize(value, part.unit)).join(' × ')} ${part.unit}` : '—'}
      </Entry>
      <Entry to="layers" label="Volume" title={how}>
        {measured((known) => volumeText(known, part.unit))}
      </Entry>
      <Entry to="plan" label={`Mass, ${material.name}`} title={how}>
        {measured((known) => about(known, formatMass((known.volume / 1000) * material.density)))}
      </Entry>
      {figures?.centre && <CentreEntry centre={figures.centre} unit={part.unit} />}
      <Entry to="move" label="Pieces">
        {String(Math.max(part.pieces.length, pieces.length))}
      </Entry>
      {muted > 0 && (
        <Entry to="make" label="Left out">
          {String(muted)}
        </Entry>
      )}
      <Entry to="proof" label="Proof" rank={proof?.rank}>
        {proof?.text ?? '…'}
      </Entry>
    </dl>
  )
}

/** From the bed's own zero; a press marks it on the drawing. */
function CentreEntry({ centre, unit }: { readonly centre: Vec3; readonly unit: PartUnit }) {
  const marked = useView((state) => state.centreMark)
  return (
    <button
      type="button"
      aria-pressed={marked}
      title="From the middle of the bed to the right, to the back, and up. Click to mark it on the drawing."
      onClick={() => useView.setState({ centreMark: !marked })}
      className={`${cell} text-left ${marked ? 'bg-mackerel-wash!' : ''}`}
    >
      <span className="block text-xs whitespace-nowrap text-ink-soft">Centre of mass</span>
      <span className="figures block text-[1rem] leading-6 whitespace-nowrap">
        {centre.map((mm) => formatSize(mm, unit)).join(', ')}
      </span>
    </button>
  )
}

const cell = 'flex-auto bg-sheet px-3 py-1.5 hover:bg-mackerel-wash'

function howMeasured({ exact, off, settled }: WholeFigures): string {
  if (!settled) return 'Being measured; about'
  if (exact) return 'Exact: all faces are flat'
  return off === undefined
    ? 'Of its flats alone: at another fineness it is another solid'
    : 'With true curves: worked out from solids at two or three finenesses'
}

/** Nothing more is said of what is known to its shown digits. */
function volumeText({ volume, off, settled }: WholeFigures, unit: PartUnit): string {
  if (settled && off !== undefined) return formatVolume(volume, unit, off)
  return `≈ ${formatVolume(volume, unit)}`
}

function about({ settled, off, volume }: WholeFigures, text: string): string {
  return settled && off !== undefined && off <= untoldShare * volume ? text : `≈ ${text}`
}

/** Drawn anew where it says something else only. */
const Entry = memo(function Entry({
  to,
  label,
  title,
  rank,
  children,
}: {
  readonly to: string
  readonly label: string
  readonly title?: string | undefined
  /** of what the proof found */
  readonly rank?: FindingRank | undefined
  readonly children: string
}) {
  return (
    <Link to={`../${to}`} relative="path" title={title} className={cell}>
      <dt className="text-xs whitespace-nowrap text-ink-soft">{label}</dt>
      <dd className="figures text-[1rem] leading-6 whitespace-nowrap">
        {rank ? (
          <span className="inline-flex items-center gap-1.5">
            <RankMark rank={rank} />
            {children}
          </span>
        ) : (
          children
        )}
      </dd>
    </Link>
  )
})
