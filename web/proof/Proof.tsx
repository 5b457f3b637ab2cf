import type { Cure, Finding, FindingRank } from '@makrel/core/proof'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { TitleBlock } from '../frame/TitleBlock.tsx'
import { PrintedIn } from '../move/PrintedIn.tsx'
import { usePrinted } from '../move/posed.ts'
import { useBuild } from '../state/build.ts'
import { sayDone } from '../state/done.ts'
import { usePart } from '../state/part.ts'
import { Button } from '../ui/Button.tsx'
import { RankMark } from '../ui/RankMark.tsx'
import { SidePanel } from '../ui/SidePanel.tsx'
import { Viewport } from '../viewport/Viewport.tsx'

const order: readonly FindingRank[] = ['fault', 'warning', 'advice', 'pass']
const headings: Readonly<Record<FindingRank, string>> = {
  fault: 'Faults',
  warning: 'Warnings',
  advice: 'Notes',
  pass: 'Passed',
}

/** The inspection of the solid: what is wrong first, and what each finding is about on the drawing. */
export function Proof() {
  const findings = useBuild((state) => state.findings)
  const selection = usePart((state) => state.selection)
  const [chosen, setChosen] = useState<string>()
  const printed = usePrinted()
  // A finding that is gone is looked at no more.
  const shown = findings?.find((finding) => keyOf(finding) === chosen)
  return (
    <main className="flex min-h-0 flex-1">
      <div className="relative min-w-0 flex-1">
        <Viewport editable={!printed} motions={printed?.posed?.motions} marks={shown?.marks} />
        <div className="absolute inset-x-4 bottom-4">
          <TitleBlock />
        </div>
      </div>
      <SidePanel label="Findings" className="overflow-y-auto px-5 py-4">
        <h2 className="text-lg font-semibold">Proof</h2>
        <p className="mt-1 text-ink-soft">
          Every check is computed from the solid itself, and run again on what is handed off.
        </p>
        <PrintedIn />
        {!findings && <p className="mt-4">Inspecting …</p>}
        {order.map((rank) => {
          const these = findings?.filter((finding) => finding.rank === rank) ?? []
          if (these.length === 0) return null
          return (
            <section key={rank} className="mt-4" aria-label={headings[rank]}>
              <h3 className="border-b border-line pb-1 font-semibold">
                {headings[rank]} <span className="figures text-ink-soft">{these.length}</span>
              </h3>
              <ul>
                {these.map((finding) => (
                  <FindingLine
                    key={keyOf(finding)}
                    finding={finding}
                    selected={finding.about.some(({ id }) => id === selection?.id)}
                    onChoose={() => setChosen(keyOf(finding))}
                  />
                ))}
              </ul>
            </section>
          )
        })}
      </SidePanel>
    </main>
  )
}

/** All its edits are one step of the way back. */
function applyCure({ label, after, edits }: Cure): void {
  const { editAll } = usePart.getState()
  if (editAll(edits)) sayDone(`${label}: ${after}`)
}

const keyOf = ({ check, text }: Finding) => `${check} ${text}`

function FindingLine({
  finding,
  selected,
  onChoose,
}: {
  readonly finding: Finding
  readonly selected: boolean
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
        onClick={go}
        className={`flex w-full items-start gap-2.5 py-2 pr-2 pl-2 text-left disabled:opacity-100 ${selected ? 'bg-mackerel-wash' : about ? 'hover:bg-[#f3f6f4]' : ''}`}
      >
        <span className="mt-1">
          <RankMark rank={finding.rank} />
        </span>
        <span className="text-base leading-[1.375rem]">{finding.text}</span>
      </button>
      {finding.cures?.map((cure) => (
        <Button key={cure.label} className="mb-2 ml-8" title={`Then: ${cure.after}`} onClick={() => applyCure(cure)}>
          {cure.label}
        </Button>
      ))}
    </li>
  )
}
