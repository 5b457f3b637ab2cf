import { compensationText } from '@makrel/core/compensation'
import { type Receipt, type StayedIn, volumeTolerance } from '@makrel/core/exchange'
import type { Finding } from '@makrel/core/proof'
import {
  formatLength,
  formatLengthWithUnit,
  formatSize,
  formatVolume,
  mmPer,
  type PartUnit,
  untoldShare,
} from '@makrel/core/units'
import { usePart } from '../state/part.ts'
import { findingsWord } from '../state/proving.ts'
import { RankMark } from '../ui/RankMark.tsx'
import { originsText } from '../workshop/MadeUpFor.tsx'

/** What was measured on a file that was given out. */
export function ReceiptTable({
  receipt,
  findings,
  current,
  shown,
  onShow,
}: {
  readonly receipt: Receipt
  readonly findings: readonly Finding[]
  readonly current: boolean
  /** what stays as it is drawn, as it is shown on the drawing */
  readonly shown: StayedIn | undefined
  onShow(stayed: StayedIn | undefined): void
}) {
  const part = usePart((state) => state.part)!
  const sizeOf = ({ min, max }: Pick<Receipt, 'min' | 'max'>) =>
    `${[0, 1, 2].map((i) => formatSize(max[i]! - min[i]!, part.unit)).join(' × ')} ${part.unit}`
  const { compensation, drawn, scale } = receipt
  const proof = findingsWord(findings)
  const off = Math.abs(receipt.volume - receipt.solidVolume) / receipt.solidVolume
  const allowed = volumeTolerance(receipt) / receipt.solidVolume
  const rows: readonly (readonly [string, string, boolean?])[] = [
    ['File', receipt.file],
    ...(receipt.variant ? [['Variant', receipt.variant] as const] : []),
    ...(receipt.pose ? [['Pose', receipt.pose] as const] : []),
    ['Bytes', receipt.bytes.toLocaleString('en')],
    ['Pieces', receipt.pieces.join(', ')],
    ['Unit', receipt.unit],
    ...(scale === 1 ? [] : [['Scaled', scaledText(receipt, part.unit)] as const]),
    [compensation || scale !== 1 ? 'Size, file' : 'Size', sizeOf(receipt), true],
    ...(compensation || scale !== 1 ? [['Size, drawn', sizeOf(drawn)] as const] : []),
    ...(compensation
      ? [
          [
            'Compensation',
            `${compensation.printer}, ${compensation.material}: ${compensationText(compensation, part.unit)}. ${originsText(compensation.origins)}`,
          ] as const,
        ]
      : [['Compensation', 'none: as drawn'] as const]),
    ['Surface', receipt.closed ? 'closed' : 'open', receipt.closed],
    [
      'Triangles',
      `${receipt.triangles.toLocaleString('en')}, ${receipt.oriented ? 'all facing outwards' : 'not all facing outwards'}`,
      receipt.oriented,
    ],
    ['Solids', solidsOf(receipt, part.unit)],
    ['Volume, file', preciseVolume(receipt.volume, part.unit)],
    [
      'Volume, solid',
      `${preciseVolume(receipt.solidVolume, part.unit)}: off by ${(off * 100).toFixed(6)} % (allowed ${(allowed * 100).toFixed(6)} %)`,
      off <= allowed,
    ],
    ...(compensation ? [['Volume, drawn', preciseVolume(drawn.volume, part.unit)] as const] : []),
    ['Volume, true rounds', trueRounds(receipt, part.unit)],
    ['Faceting error', percent((drawn.volume * scale ** 3) / receipt.trueVolume - 1), receipt.warnings.length === 0],
    ['Fineness', formatLengthWithUnit(receipt.fineness, part.unit)],
    [scale === 1 ? 'Proof, again' : 'Proof, as drawn', proof.text, proof.rank === 'pass'],
    ...findings.flatMap(({ text, aside }) => (aside ? [['Set aside', `${text} ${aside.reason}`] as const] : [])),
    ...receipt.pauses.map(
      ({ name, count, piece, layer, height }) =>
        [
          'Pause',
          `before layer ${layer}, at ${formatLengthWithUnit(height, part.unit)}: put ${count} × ${name} into ${piece}`,
        ] as const,
    ),
    ...receipt.hardware.map(
      ({ count, name, standard, length }) =>
        [
          'To buy',
          `${count} × ${name}${length === undefined ? '' : ` × ${formatLength(length, 'mm')}`} (${standard})`,
        ] as const,
    ),
    ...(receipt.muted.length > 0 ? [['Left out', receipt.muted.join(', ')] as const] : []),
  ]
  return (
    <section
      aria-label={receipt.variant ? `Receipt of ${receipt.variant}` : 'Receipt'}
      className="mt-5 border border-ink"
    >
      <h3 className="border-b border-ink px-3 py-1.5 font-semibold">
        Receipt{current ? '' : ' — the part has changed since'}
      </h3>
      <dl>
        {rows.map(([label, value, checked]) => (
          <div
            key={`${label} ${value}`}
            className="grid grid-cols-[110px_1fr_16px] items-baseline gap-2 border-b border-line px-3 py-1 last:border-b-0"
          >
            <dt className="text-xs text-ink-soft">{label}</dt>
            <dd className="figures text-[0.9375rem] break-words">{value}</dd>
            <dd>{checked && <RankMark rank="pass" />}</dd>
          </div>
        ))}
      </dl>
      {receipt.warnings.map((text) => {
        const stayed = compensation?.stayed.find(({ warning }) => warning === text)
        return (
          <p key={text} className="flex items-baseline gap-2 border-t border-line px-3 py-1.5 text-[0.9375rem]">
            <RankMark rank="warning" />
            <span>
              {text}{' '}
              {stayed && current && (
                <button
                  type="button"
                  aria-pressed={shown === stayed}
                  className="font-semibold text-mackerel underline"
                  onClick={() => onShow(shown === stayed ? undefined : stayed)}
                >
                  {shown === stayed ? 'Hide it' : 'Show it'}
                </button>
              )}
            </span>
          </p>
        )
      })}
    </section>
  )
}

/** "to 161.29 %, for a height of 120 mm" */
function scaledText({ scale, size }: Receipt, unit: PartUnit): string {
  const told = size && size.by !== 'factor' ? `, for a ${size.by} of ${formatLengthWithUnit(size.mm, unit)}` : ''
  return `to ${Number((scale * 100).toPrecision(6))} %${told}`
}

const trueWays: Readonly<Record<Receipt['trueWay'], string>> = {
  exact: 'exact',
  extrapolated: 'extrapolated',
  flats: 'of its flats alone',
}

/** "9469.214 mm³ ± 3.1, extrapolated"; nothing more is said of what is known to its ten-thousandth */
function trueRounds({ trueVolume, trueWay, trueError }: Receipt, unit: PartUnit): string {
  const off =
    trueError && trueError > untoldShare * trueVolume ? ` ± ${(trueError / mmPer(unit) ** 3).toPrecision(2)}` : ''
  return `${preciseVolume(trueVolume, unit)}${off}, ${trueWays[trueWay]}`
}

/** To the thousandth of a mm³, or as small a share of a cubic inch. */
function preciseVolume(mm3: number, unit: PartUnit): string {
  return unit === 'mm' ? `${mm3.toFixed(3)} mm³` : `${(mm3 / mmPer(unit) ** 3).toFixed(7)} in³`
}

/** "− 0.12 %" */
function percent(share: number): string {
  return `${share < 0 ? '−' : '+'} ${(Math.abs(share) * 100).toFixed(3)} %`
}

/** "2", "1, with a closed cavity of 4.19 cm³" */
function solidsOf({ solids: count, cavities }: Receipt, unit: PartUnit): string {
  if (cavities.length === 0) return String(count)
  const shown = cavities.map((volume) => formatVolume(volume, unit)).join(', ')
  return `${count}, with ${cavities.length === 1 ? 'a closed cavity' : 'closed cavities'} of ${shown}`
}
