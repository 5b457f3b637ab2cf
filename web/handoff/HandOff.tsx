import type { Part } from '@makrel/core/document'
import { formatOf, type Receipt, type StayedIn } from '@makrel/core/exchange'
import { poseToHandOff } from '@makrel/core/planning'
import { attempt } from '@makrel/core/problems'
import { type Finding, type Mark, solidFaults } from '@makrel/core/proof'
import { useState } from 'react'
import { Link } from 'react-router'
import { checks } from '../channel/client.ts'
import { usePosed } from '../move/posed.ts'
import { useBuild } from '../state/build.ts'
import { useProofWord } from '../state/built.ts'
import { usePart } from '../state/part.ts'
import { Button } from '../ui/Button.tsx'
import { DownloadIcon } from '../ui/icons.tsx'
import { RankMark } from '../ui/RankMark.tsx'
import { SidePanel } from '../ui/SidePanel.tsx'
import { saveBytes } from '../ui/saveBytes.ts'
import { standingIn, Viewport } from '../viewport/Viewport.tsx'
import { usualSizes } from '../workshop/MadeUpFor.tsx'
import { finenessOf, sizeOf, useChoices } from './choices.ts'
import { HandOffChoices } from './HandOffChoices.tsx'
import { ReceiptTable } from './ReceiptTable.tsx'
import { ToBuy } from './ToBuy.tsx'
import { useUsualFineness } from './useUsualFineness.ts'

type State =
  | { readonly kind: 'idle' }
  | { readonly kind: 'working' }
  | { readonly kind: 'failed'; readonly message: string }
  | {
      readonly kind: 'done'
      readonly written: readonly Written[]
      readonly part: Part
      /** has the browser keep the file: where its own proof has a fault it is not given unasked */
      readonly held?: () => void
    }

interface Written {
  readonly receipt: Receipt
  readonly findings: readonly Finding[]
}

/** Writes the file, reads it back, measures it, and only then gives it out. */
export function HandOff() {
  const part = usePart((state) => state.part)!
  const pieces = useBuild((state) => state.pieces)
  const [choices, choose] = useChoices(part.id)
  const usual = useUsualFineness()
  const [state, setState] = useState<State>({ kind: 'idle' })
  const [stayed, setStayed] = useState<StayedIn>()
  const pose = poseToHandOff(part, choices.pose)
  const posed = usePosed(pose)
  const proof = useProofWord()
  const fineness = attempt([], () => finenessOf(choices, usual))
  const size = attempt([], () => sizeOf(choices, part.unit))
  const isCurrent = state.kind === 'done' && state.part === part

  const give = (written: readonly Written[], save: () => void) => {
    const isFaulty = written.some(({ findings }) => solidFaults(findings).length > 0)
    setState({ kind: 'done', written, part, ...(isFaulty ? { held: save } : {}) })
    if (!isFaulty) save()
  }
  const write = async () => {
    if (!fineness.ok || !size.ok) return
    setState({ kind: 'working' })
    setStayed(undefined)
    const { format, piece, sizes, pose, made, unit } = choices
    try {
      const wanted = {
        format,
        fineness: fineness.value,
        ...{ size: size.value, unit },
        piece: pieces.some(({ id }) => id === piece) ? piece : undefined,
        pose,
        compensated: (made ?? usualSizes(part)) === 'printed',
      }
      if (sizes === 'all' && part.variants.length > 0) {
        const { file, bytes, written } = await checks().call('handOffVariants', wanted, part)
        give(written, () => saveBytes(file, 'application/zip', bytes))
      } else {
        const { bytes, receipt, findings } = await checks().call('handOff', wanted, part)
        give([{ receipt, findings }], () => saveBytes(receipt.file, formatOf(format)!.mediaType, bytes))
      }
    } catch (error) {
      setState({ kind: 'failed', message: (error as Error).message })
    }
  }

  return (
    <main className="flex min-h-0 flex-1">
      <div className="relative min-w-0 flex-1">
        <Viewport
          motions={posed?.motions}
          standing={standingIn(pose, posed)}
          marks={isCurrent && stayed ? marksOf(stayed) : undefined}
        />
      </div>
      <SidePanel label="Hand off" isMain className="overflow-y-auto px-5 py-4">
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
        <HandOffChoices
          choices={choices}
          usual={usual}
          faults={{
            ...(fineness.ok ? {} : { fineness: fineness.problem.text }),
            ...(size.ok ? {} : { size: size.problem.text }),
          }}
          onChange={choose}
        />
        <Button
          main
          className="mt-4 h-10 w-full justify-center text-base"
          disabled={state.kind === 'working' || !fineness.ok || !size.ok}
          onClick={() => void write()}
        >
          <DownloadIcon size={17} />{' '}
          {state.kind === 'working' ? 'Writing and reading back …' : 'Write, check and download'}
        </Button>
        <ToBuy />
        {state.kind === 'failed' && (
          <p role="alert" className="mt-4 flex items-start gap-2 border-l-4 border-rust bg-rust-wash p-3">
            {state.message}
          </p>
        )}
        {state.kind === 'done' && state.held && (
          <FaultsOfFile
            written={state.written}
            onTake={() => {
              state.held?.()
              setState({ kind: 'done', written: state.written, part: state.part })
            }}
          />
        )}
        {state.kind === 'done' &&
          state.written.map(({ receipt, findings: found }) => (
            <ReceiptTable
              key={receipt.file}
              receipt={receipt}
              findings={found}
              current={isCurrent}
              shown={stayed}
              onShow={setStayed}
            />
          ))}
      </SidePanel>
    </main>
  )
}

/** The walls that stay as they are drawn, or a place where they are too small to be walls. */
function marksOf({ triangles, at }: StayedIn): readonly Mark[] {
  const place: Mark = { kind: 'points', points: Float32Array.from(at) }
  return triangles.length > 0 ? [{ kind: 'triangles', points: triangles }, place] : [place]
}

/** Why a file was not given, with the way to have it all the same. */
function FaultsOfFile({ written, onTake }: { readonly written: readonly Written[]; onTake(): void }) {
  const faults = [...new Set(written.flatMap(({ findings }) => solidFaults(findings).map(({ text }) => text)))]
  return (
    <div role="alert" className="mt-4 border-l-4 border-rust bg-rust-wash p-3">
      <p className="font-semibold">The file was not downloaded: it would not print as it is meant.</p>
      <ul className="mt-1 list-disc pl-5">
        {faults.map((text) => (
          <li key={text}>{text}</li>
        ))}
      </ul>
      <Button className="mt-2" onClick={onTake}>
        Download it all the same
      </Button>
    </div>
  )
}
