import type { Cure, Finding, FindingRank } from '@makrel/core/proof'
import { useNavigate } from 'react-router'
import { buildAgain, useBuild } from '../state/build.ts'
import { sayDone } from '../state/done.ts'
import { usePart } from '../state/part.ts'
import type { Proving } from '../state/proving.ts'
import { Button } from '../ui/Button.tsx'
import { RankMark } from '../ui/RankMark.tsx'

const order: readonly FindingRank[] = ['fault', 'warning', 'advice', 'pass']
const headings: Readonly<Record<FindingRank, string>> = {
  fault: 'Faults',
  warning: 'Warnings',
  advice: 'Notes',
  pass: 'Passed',
}

/** What the proof found, the gravest first, and how far it is. `chosen`: the key of the finding that is looked at. */
export function Findings({
  chosen,
  onChoose,
}: {
  readonly chosen: string | undefined
  onChoose(key: string | undefined): void
}) {
  const proving = useBuild((state) => state.proving)
  const part = usePart((state) => state.part)
  const selection = usePart((state) => state.selection)
  const isCurrent = proving?.of === part
  const keyed = withKeys(proving?.findings ?? [])
  return (
    <>
      <HowFar proving={proving} isCurrent={isCurrent} />
      {order.map((rank) => {
        const these = keyed.filter(({ finding }) => finding.rank === rank)
        if (these.length === 0) return null
        return (
          <section key={rank} className={`mt-4 ${isCurrent ? '' : 'opacity-50'}`} aria-label={headings[rank]}>
            <h3 className="border-b border-line pb-1 font-semibold">
              {headings[rank]} <span className="figures text-ink-soft">{these.length}</span>
            </h3>
            <ul>
              {these.map(({ key, finding }) => (
                <FindingLine
                  key={key}
                  finding={finding}
                  isCurrent={isCurrent}
                  selected={finding.about.some(({ id }) => id === selection?.id)}
                  chosen={key === chosen}
                  onChoose={() => onChoose(key === chosen ? undefined : key)}
                />
              ))}
            </ul>
          </section>
        )
      })}
    </>
  )
}

/** A finding is the same one as long as it says the same of the same things, whatever its numbers are by now. */
export function withKeys(findings: readonly Finding[]): readonly { readonly key: string; readonly finding: Finding }[] {
  const counts = new Map<string, number>()
  return findings.map((finding) => {
    const of = [finding.code, ...finding.about.map(({ id }) => id)].join(' ')
    const count = (counts.get(of) ?? 0) + 1
    counts.set(of, count)
    return { key: `${of} ${count}`, finding }
  })
}

/** How far the proof is, or why there is none; findings of an earlier state are said to be that. */
function HowFar({ proving, isCurrent }: { readonly proving: Proving | undefined; readonly isCurrent: boolean }) {
  if (!proving) return <p className="mt-4">Inspecting …</p>
  if (!isCurrent) return <p className="mt-4">Inspecting … These findings are from before the last change.</p>
  const { state, done, total, why } = proving
  if (state === 'running')
    return <p className="mt-4">{total > 0 ? `Inspecting … ${done} of ${total} checks done` : 'Inspecting …'}</p>
  if (state === 'done') return null
  return (
    <div className="mt-4" role="alert">
      <p>{state === 'stopped' ? 'The proof was stopped. What it had found by then:' : `The proof failed: ${why}`}</p>
      <Button className="mt-2" onClick={buildAgain}>
        Prove again
      </Button>
    </div>
  )
}

/** All its edits are one step of the way back. */
function applyCure({ label, after, edits }: Cure): void {
  const { editAll } = usePart.getState()
  if (editAll(edits)) sayDone(`${label}: ${after}`)
}

function FindingLine({
  finding,
  isCurrent,
  selected,
  chosen,
  onChoose,
}: {
  readonly finding: Finding
  /** of the part as it is: else nothing is cured by it */
  readonly isCurrent: boolean
  readonly selected: boolean
  /** it is looked at on the drawing; pressed again it is not */
  readonly chosen: boolean
  onChoose(): void
}) {
  const { select } = usePart.getState()
  const about = finding.about[0]
  const navigate = useNavigate()
  const go = () => {
    onChoose()
    if (about?.kind === 'measure') navigate(`../plan#measure-${about.id}`, { relative: 'path' })
    else if (about) select({ kind: about.kind, id: about.id })
  }
  return (
    <li className="border-b border-line">
      <button
        type="button"
        disabled={!about}
        aria-pressed={about && chosen}
        onClick={go}
        className={`flex w-full items-start gap-2.5 border-l-3 py-2 pr-2 pl-2 text-left disabled:opacity-100 ${chosen ? 'border-mackerel' : 'border-transparent'} ${selected ? 'bg-mackerel-wash' : about ? 'hover:bg-[#f3f6f4]' : ''}`}
      >
        <span className="mt-1">
          <RankMark rank={finding.rank} />
        </span>
        <span className="text-base leading-[1.375rem]">{finding.text}</span>
      </button>
      {finding.cures?.map((cure) => (
        <Button
          key={cure.label}
          className="mb-2 ml-8"
          title={`Then: ${cure.after}`}
          disabled={!isCurrent}
          onClick={() => applyCure(cure)}
        >
          {cure.label}
        </Button>
      ))}
    </li>
  )
}
