import type { Edit } from '@makrel/core/document'
import { type Cure, canBeSetAside, type Finding, type FindingRank, setAsideOf } from '@makrel/core/proof'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { newId } from '../ids.ts'
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
  onOffer,
}: {
  readonly chosen: string | undefined
  onChoose(key: string | undefined): void
  /** edits that are offered by what has the pointer or the focus */
  onOffer?(edits: readonly Edit[] | undefined): void
}) {
  const proving = useBuild((state) => state.proving)
  const part = usePart((state) => state.part)
  const selection = usePart((state) => state.selection)
  const isCurrent = proving?.of === part
  const keyed = withKeys(proving?.findings ?? [])
  const ofRank = (rank: FindingRank) => ({
    label: headings[rank],
    these: keyed.filter(({ finding }) => finding.rank === rank && !finding.aside),
  })
  const groups = [
    ...order.slice(0, -1).map(ofRank),
    { label: 'Set aside', these: keyed.filter(({ finding }) => finding.aside) },
    ofRank('pass'),
  ]
  return (
    <>
      <HowFar proving={proving} isCurrent={isCurrent} />
      {groups.map(({ label, these }) => {
        if (these.length === 0) return null
        return (
          <section key={label} className={`mt-4 ${isCurrent ? '' : 'opacity-50'}`} aria-label={label}>
            <h3 className="border-b border-line pb-1 font-semibold">
              {label} <span className="figures text-ink-soft">{these.length}</span>
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
                  onOffer={onOffer}
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
  if (state === 'curing') return <p className="mt-4">All checks are done. Trying what may put things right …</p>
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
  onOffer,
}: {
  readonly finding: Finding
  /** of the part as it is: else nothing is cured by it */
  readonly isCurrent: boolean
  readonly selected: boolean
  /** it is looked at on the drawing; pressed again it is not */
  readonly chosen: boolean
  onChoose(): void
  readonly onOffer: ((edits: readonly Edit[] | undefined) => void) | undefined
}) {
  const ends = () => onOffer?.(undefined)
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
          wraps
          title={`Then: ${cure.after}`}
          disabled={!isCurrent}
          onPointerEnter={() => onOffer?.(cure.edits)}
          onPointerLeave={ends}
          onFocus={() => onOffer?.(cure.edits)}
          onBlur={ends}
          onClick={() => {
            ends()
            applyCure(cure)
          }}
        >
          {cure.label}
        </Button>
      ))}
      {finding.tried && (
        <p className="mb-2 ml-8 text-[0.9375rem] text-ink-soft">Tried, and not enough: {finding.tried.join('; ')}.</p>
      )}
      {finding.aside ? (
        <p className="mb-2 ml-8 text-ink-soft">
          {finding.aside.reason}{' '}
          <TextButton disabled={!isCurrent} onClick={() => takeUp(finding.aside!.id)}>
            Take it up again
          </TextButton>
        </p>
      ) : (
        canBeSetAside(finding) && <SettingAside finding={finding} isCurrent={isCurrent} />
      )}
    </li>
  )
}

function takeUp(id: string): void {
  if (usePart.getState().edit({ type: 'take-up', id })) sayDone('Taken up again: it counts as before')
}

function TextButton({ children, ...more }: React.ComponentProps<'button'>) {
  return (
    <button
      type="button"
      className="text-mackerel underline underline-offset-2 disabled:text-ink-soft disabled:no-underline"
      {...more}
    >
      {children}
    </button>
  )
}

/** A finding that is meant to be so is set aside with a reason, which the receipt states. */
function SettingAside({ finding, isCurrent }: { readonly finding: Finding; readonly isCurrent: boolean }) {
  const [reason, setReason] = useState<string>()
  const [isAsked, setAsked] = useState(false)
  if (reason === undefined)
    return (
      <p className="mb-2 ml-8 text-[0.9375rem]">
        <TextButton disabled={!isCurrent} onClick={() => setReason('')}>
          Set aside …
        </TextButton>
      </p>
    )
  const close = () => {
    setReason(undefined)
    setAsked(false)
  }
  const keep = () => {
    const text = reason.trim()
    if (text === '') return setAsked(true)
    const aside = setAsideOf(finding, newId(), text)
    if (usePart.getState().edit({ type: 'set-aside', aside }))
      sayDone('Set aside: it comes back when it gets worse, and the receipt states it')
  }
  return (
    <form
      className="mb-2 ml-8"
      onSubmit={(event) => {
        event.preventDefault()
        keep()
      }}
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return
        event.stopPropagation()
        close()
      }}
    >
      <label className="block text-xs text-ink-soft">
        Why it may stay
        <input
          // biome-ignore lint/a11y/noAutofocus: it was asked for just now
          autoFocus
          value={reason}
          maxLength={400}
          aria-invalid={isAsked}
          onChange={({ target }) => setReason(target.value)}
          className="mt-0.5 block h-8 w-full rounded-sm border border-line bg-sheet px-2 text-base text-ink aria-invalid:border-rust"
        />
      </label>
      {isAsked && (
        <p role="alert" className="text-xs text-rust">
          Say why: the receipt states it.
        </p>
      )}
      <span className="mt-1.5 flex gap-2">
        <Button type="submit" disabled={!isCurrent}>
          Set it aside
        </Button>
        <Button onClick={close}>Cancel</Button>
      </span>
    </form>
  )
}
