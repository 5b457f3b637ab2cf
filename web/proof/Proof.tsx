import { useState } from 'react'
import { TitleBlock } from '../frame/TitleBlock.tsx'
import { PrintedIn } from '../move/PrintedIn.tsx'
import { usePrinted } from '../move/posed.ts'
import { useBuild } from '../state/build.ts'
import { SidePanel } from '../ui/SidePanel.tsx'
import { Viewport } from '../viewport/Viewport.tsx'
import { Findings, withKeys } from './Findings.tsx'
import { WaysToLie } from './WaysToLie.tsx'

/** The inspection of the solid: what is wrong first, and what each finding is about on the drawing. */
export function Proof() {
  const findings = useBuild((state) => state.proving?.findings)
  const [chosen, setChosen] = useState<string>()
  const printed = usePrinted()
  // A finding that is gone is looked at no more.
  const shown = withKeys(findings ?? []).find(({ key }) => key === chosen)?.finding
  return (
    <main className="flex min-h-0 flex-1">
      <div className="relative min-w-0 flex-1">
        <Viewport editable={!printed} motions={printed?.posed?.motions} marks={shown?.marks} />
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
        <Findings chosen={chosen} onChoose={setChosen} />
      </SidePanel>
    </main>
  )
}
