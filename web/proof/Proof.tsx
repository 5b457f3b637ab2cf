import type { Edit } from '@makrel/core/document'
import type { Mark } from '@makrel/core/proof'
import { useState } from 'react'
import { TitleBlock } from '../frame/TitleBlock.tsx'
import { PrintedIn } from '../move/PrintedIn.tsx'
import { usePrinted } from '../move/posed.ts'
import { useBuild } from '../state/build.ts'
import { SidePanel } from '../ui/SidePanel.tsx'
import { standingIn, Viewport } from '../viewport/Viewport.tsx'
import { Findings, withKeys } from './Findings.tsx'
import { useChange } from './useChange.ts'
import { WaysToLie } from './WaysToLie.tsx'

/** The inspection of the solid: what is wrong first, and what each finding is about on the drawing. */
export function Proof() {
  const findings = useBuild((state) => state.proving?.findings)
  const [chosen, setChosen] = useState<string>()
  const [offered, setOffered] = useState<readonly Edit[]>()
  const change = useChange(offered)
  const printed = usePrinted()
  // A finding that is gone is looked at no more.
  const shown = withKeys(findings ?? []).find(({ key }) => key === chosen)?.finding
  return (
    <main className="flex min-h-0 flex-1">
      <div className="relative min-w-0 flex-1">
        <Viewport
          editable={!printed}
          motions={printed?.posed?.motions}
          standing={standingIn(printed?.pose, printed?.posed)}
          marks={change ?? shown?.marks}
        />
        {change && <ChangeLegend marks={change} />}
        <div className="absolute inset-x-4 bottom-4">
          <TitleBlock />
        </div>
      </div>
      <SidePanel label="Findings" isMain className="overflow-y-auto px-5 py-4">
        <h2 className="text-lg font-semibold">Proof</h2>
        <p className="mt-1 text-ink-soft">
          Every check is computed from the solid itself, and run again on what is handed off.
        </p>
        <PrintedIn />
        <WaysToLie />
        <Findings chosen={chosen} onChoose={setChosen} onOffer={setOffered} />
      </SidePanel>
    </main>
  )
}

/** What the colours of a change say. */
function ChangeLegend({ marks }: { readonly marks: readonly Mark[] }) {
  const has = (as: 'added' | 'removed') => marks.some((mark) => mark.kind === 'triangles' && mark.as === as)
  const rows = [
    { as: 'added', label: 'put there', look: 'bg-mackerel/50' },
    {
      as: 'removed',
      label: 'taken away',
      look: 'bg-[repeating-linear-gradient(135deg,#fbfcfa_0_1.5px,#b23a2a80_1.5px_6px)]',
    },
  ] as const
  return (
    <figure
      aria-label="What it would change"
      className="pointer-events-none absolute top-12 left-4 z-10 border border-line bg-sheet px-3 py-2"
    >
      <figcaption className="font-semibold">What it would change</figcaption>
      {rows
        .filter(({ as }) => has(as))
        .map(({ as, label, look }) => (
          <p key={as} className="mt-1 flex items-center gap-2">
            <span className={`h-3 w-6 border border-ink ${look}`} />
            {label}
          </p>
        ))}
      {marks.length === 0 && <p className="mt-1 text-ink-soft">Nothing of the part itself.</p>}
    </figure>
  )
}
