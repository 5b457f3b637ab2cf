import { allSteps } from '@makrel/core/document'
import { materialFor } from '@makrel/core/fits'
import { formatNumber, formatSize, formatVolume } from '@makrel/core/units'
import { Link } from 'react-router'
import { useLateWorked } from '../drawing/late.ts'
import { proofState, useBuild } from '../state/build.ts'
import { RankMark } from '../ui/RankMark.tsx'
import { sizeOf, wholeBox } from './whole.ts'

/** The foot of the drawing, as on paper: what the part comes to. Each entry leads to the stage it belongs to. */
export function TitleBlock() {
  const { part, worked } = useLateWorked()
  const pieces = useBuild((state) => state.pieces)
  const findings = useBuild((state) => state.findings)
  const box = wholeBox(pieces)
  const volume = pieces.reduce((sum, piece) => sum + piece.volume, 0)
  const material = materialFor(part.material)
  const size = box && sizeOf(box)
  const muted = allSteps(part).filter(({ id }) => worked.resolved.steps.get(id)?.present === false).length
  const proof = proofState(findings)
  return (
    <dl className="flex w-full border border-ink bg-sheet [&>a+a]:border-l [&>a+a]:border-line">
      <Entry to="make" label="Overall">
        {size ? `${size.map((value) => formatSize(value, part.unit)).join(' × ')} ${part.unit}` : '—'}
      </Entry>
      <Entry to="layers" label="Volume">
        {box ? formatVolume(volume, part.unit) : '—'}
      </Entry>
      <Entry to="plan" label={`Mass, ${material.name}`}>
        {box ? `${formatNumber((volume / 1000) * material.density, 1)} g` : '—'}
      </Entry>
      <Entry to="move" label="Pieces">
        {String(part.pieces.length)}
      </Entry>
      {muted > 0 && (
        <Entry to="make" label="Left out">
          {String(muted)}
        </Entry>
      )}
      <Entry to="proof" label="Proof">
        {proof ? (
          <span className="inline-flex items-center gap-1.5">
            <RankMark rank={proof.rank} />
            {proof.text}
          </span>
        ) : (
          '…'
        )}
      </Entry>
    </dl>
  )
}

function Entry({
  to,
  label,
  children,
}: {
  readonly to: string
  readonly label: string
  readonly children: React.ReactNode
}) {
  return (
    <Link to={`../${to}`} relative="path" className="min-w-0 flex-auto px-3 py-1.5 hover:bg-mackerel-wash">
      <dt className="text-xs whitespace-nowrap text-ink-soft">{label}</dt>
      <dd className="figures text-[16px] leading-6 whitespace-nowrap">{children}</dd>
    </Link>
  )
}
