import type { Part } from '@makrel/core/document'
import { formats, handOffTolerance, type Receipt } from '@makrel/core/exchange'
import { evaluate } from '@makrel/core/measures'
import { attempt, ProblemError } from '@makrel/core/problems'
import { type Finding, worst } from '@makrel/core/proof'
import { formatLengthWithUnit, formatSize, formatVolume, mmPer, type PartUnit } from '@makrel/core/units'
import { useState } from 'react'
import { Link } from 'react-router'
import { solids } from '../channel/client.ts'
import { Drawing } from '../drawing/Drawing.tsx'
import { proofState, useBuild } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { Button } from '../ui/Button.tsx'
import { Choice } from '../ui/Choice.tsx'
import { DownloadIcon } from '../ui/icons.tsx'
import { RankMark } from '../ui/RankMark.tsx'
import { SidePanel } from '../ui/SidePanel.tsx'
import { saveBytes } from '../ui/saveBytes.ts'

type State =
  | { readonly kind: 'idle' }
  | { readonly kind: 'working' }
  | { readonly kind: 'failed'; readonly message: string }
  | { readonly kind: 'done'; readonly written: readonly Written[]; readonly part: Part }

interface Written {
  readonly receipt: Receipt
  readonly findings: readonly Finding[]
}

const finenesses = [
  { value: '0.05', label: '0.05 mm — draft' },
  { value: '0.02', label: '0.02 mm — fine' },
  { value: '0.01', label: '0.01 mm — very fine' },
  { value: 'own', label: 'another …' },
] as const

/** Writes the file, reads it back, measures it, and only then gives it out. */
export function HandOff() {
  const part = usePart((state) => state.part)!
  const findings = useBuild((state) => state.findings)
  const [format, setFormat] = useState<string>('3mf')
  const [piece, setPiece] = useState('all')
  const [fineness, setFineness] = useState<string>('0.02')
  const [own, setOwn] = useState('0.015')
  const [sizes, setSizes] = useState<'one' | 'all'>('one')
  const [state, setState] = useState<State>({ kind: 'idle' })
  const proof = proofState(findings)
  const chosen = formats.find(({ id }) => id === format)!
  const read = attempt([], () => finenessOf(fineness === 'own' ? own : fineness))

  const write = async () => {
    if (!read.ok) return
    setState({ kind: 'working' })
    try {
      const wanted = {
        part,
        format,
        fineness: read.value,
        piece: piece === 'all' || !part.pieces.some(({ id }) => id === piece) ? undefined : piece,
      }
      if (sizes === 'all' && part.variants.length > 0) {
        const { file, bytes, written } = await solids().call('handOffVariants', wanted)
        setState({ kind: 'done', written, part })
        saveBytes(file, 'application/zip', bytes)
      } else {
        const { bytes, receipt, findings } = await solids().call('handOff', wanted)
        setState({ kind: 'done', written: [{ receipt, findings }], part })
        saveBytes(receipt.file, chosen.mediaType, bytes)
      }
    } catch (error) {
      setState({ kind: 'failed', message: (error as Error).message })
    }
  }

  return (
    <main className="flex min-h-0 flex-1">
      <div className="relative min-w-0 flex-1">
        <Drawing />
      </div>
      <SidePanel label="Hand off" className="overflow-y-auto px-5 py-4">
        <h2 className="text-lg font-semibold">Hand off</h2>
        <p className="mt-1 text-ink-soft">The file is read back and measured before you get it.</p>
        {proof && proof.rank !== 'pass' && (
          <p className="mt-3 flex items-center gap-2 border border-line px-3 py-2">
            <RankMark rank={proof.rank} />
            <span>
              The proof has {proof.text}.{' '}
              <Link to="../proof" relative="path" className="font-semibold text-mackerel underline">
                Look at it
              </Link>
            </span>
          </p>
        )}
        <div className="mt-4 grid grid-cols-[5.75rem_1fr] items-center gap-x-3 gap-y-3">
          <span className="font-semibold">Format</span>
          <Choice
            look="box"
            label="Format"
            value={format}
            options={formats.map(({ id, label }) => ({ value: id, label }))}
            onChange={setFormat}
          />
          <span className="font-semibold">Pieces</span>
          <Choice
            look="box"
            label="Pieces"
            value={part.pieces.some(({ id }) => id === piece) ? piece : 'all'}
            options={[
              { value: 'all', label: part.pieces.length === 1 ? part.pieces[0]!.name : `all ${part.pieces.length}` },
              ...(part.pieces.length > 1 ? part.pieces.map(({ id, name }) => ({ value: id, label: name })) : []),
            ]}
            onChange={setPiece}
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
                onChange={setSizes}
              />
            </>
          )}
          <span className="font-semibold">Fineness</span>
          <Choice look="box" label="Fineness" value={fineness} options={finenesses} onChange={setFineness} />
          {fineness === 'own' && (
            <>
              <span />
              <label className="flex items-center gap-2">
                <input
                  aria-label="Fineness in mm"
                  aria-invalid={!read.ok}
                  value={own}
                  onChange={(event) => setOwn(event.target.value)}
                  className="figures h-8 w-24 rounded-sm border border-line px-2 text-[1rem] aria-invalid:border-rust"
                />
                mm from curve to flat
              </label>
            </>
          )}
          <span className="font-semibold">Unit</span>
          <span>{chosen.unit}</span>
        </div>
        {!read.ok && (
          <p role="alert" className="mt-2 text-rust">
            {read.problem.text}
          </p>
        )}
        <Button
          main
          className="mt-4 h-10 w-full justify-center text-base"
          disabled={state.kind === 'working' || !read.ok}
          onClick={() => void write()}
        >
          <DownloadIcon size={17} />{' '}
          {state.kind === 'working' ? 'Writing and reading back …' : 'Write, check and download'}
        </Button>
        {state.kind === 'failed' && (
          <p role="alert" className="mt-4 flex items-start gap-2 border-l-4 border-rust bg-rust-wash p-3">
            {state.message}
          </p>
        )}
        {state.kind === 'done' &&
          state.written.map(({ receipt, findings: found }) => (
            <ReceiptTable key={receipt.file} receipt={receipt} findings={found} current={state.part === part} />
          ))}
      </SidePanel>
    </main>
  )
}

/** @throws ProblemError too-small, too-large, and those of expressions */
function finenessOf(text: string): number {
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

function ReceiptTable({
  receipt,
  findings,
  current,
}: {
  readonly receipt: Receipt
  readonly findings: readonly Finding[]
  readonly current: boolean
}) {
  const part = usePart((state) => state.part)!
  const size = [0, 1, 2].map((i) => receipt.max[i]! - receipt.min[i]!)
  const off = Math.abs(receipt.volume - receipt.solidVolume) / receipt.solidVolume
  const rows: readonly (readonly [string, string, boolean?])[] = [
    ['File', receipt.file],
    ...(receipt.variant ? [['Variant', receipt.variant] as const] : []),
    ['Bytes', receipt.bytes.toLocaleString('en')],
    ['Pieces', receipt.pieces.join(', ')],
    ['Size', `${size.map((mm) => formatSize(mm, part.unit)).join(' × ')} ${part.unit}`, true],
    ['Surface', receipt.closed ? 'closed' : 'open', receipt.closed],
    [
      'Triangles',
      `${receipt.triangles.toLocaleString('en')}, ${receipt.oriented ? 'all facing outwards' : 'not all facing outwards'}`,
      receipt.oriented,
    ],
    ['Solids', solidsOf(receipt, part.unit)],
    ['Volume, file', preciseVolume(receipt.volume, part.unit)],
    ['Volume, solid', preciseVolume(receipt.solidVolume, part.unit)],
    [
      'Difference',
      `${(off * 100).toFixed(5)} % (allowed ${handOffTolerance.volume * 100} %)`,
      off <= handOffTolerance.volume,
    ],
    ['Volume, true rounds', `${preciseVolume(receipt.trueVolume, part.unit)}, ${receipt.trueWay}`],
    ['Flats for rounds', percent(receipt.volume / receipt.trueVolume - 1), receipt.warnings.length === 0],
    ['Fineness', formatLengthWithUnit(receipt.fineness, part.unit)],
    ['Proof, again', proofState(findings)?.text ?? '', worst(findings) === 'pass'],
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
            key={label}
            className="grid grid-cols-[110px_1fr_16px] items-baseline gap-2 border-b border-line px-3 py-1 last:border-b-0"
          >
            <dt className="text-xs text-ink-soft">{label}</dt>
            <dd className="figures text-[0.9375rem] break-words">{value}</dd>
            <dd>{checked && <RankMark rank="pass" />}</dd>
          </div>
        ))}
      </dl>
      {receipt.warnings.map((text) => (
        <p key={text} className="flex items-baseline gap-2 border-t border-line px-3 py-1.5 text-[0.9375rem]">
          <RankMark rank="warning" />
          {text}
        </p>
      ))}
    </section>
  )
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
