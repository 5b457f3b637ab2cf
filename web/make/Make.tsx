import { BringIn } from '../bringIn/BringIn.tsx'
import { DropHint } from '../bringIn/DropHint.tsx'
import { useFileDrop } from '../bringIn/files.ts'
import { openMeshFile } from '../bringIn/state.ts'
import { PartBoundary } from '../frame/PartBoundary.tsx'
import { TitleBlock } from '../frame/TitleBlock.tsx'
import { useKeyList } from '../keys/keys.ts'
import { usePart } from '../state/part.ts'
import { say } from '../ui/Notice.tsx'
import { Viewport } from '../viewport/Viewport.tsx'
import { BuildSheet } from './BuildSheet.tsx'
import { useClipboard } from './clipboard.ts'
import { StepMenu } from './StepMenu.tsx'
import { stepKeys } from './stepKeys.ts'

/** The drawing and the sheet: two readings of the same part. */
export function Make() {
  useKeyList(stepKeys)
  useClipboard()
  const over = useFileDrop(dropped)
  return (
    <main className="flex min-h-0 flex-1">
      <div className="relative min-w-0 flex-1">
        <PartBoundary what="drawing">
          <Viewport editable tools />
        </PartBoundary>
        <div className="absolute inset-x-4 bottom-4">
          <TitleBlock />
        </div>
      </div>
      <PartBoundary what="build sheet">
        <BuildSheet />
      </PartBoundary>
      <StepMenu />
      <BringIn />
      {over && <DropHint text="Drop a mesh here to bring it in" />}
    </main>
  )
}

function dropped(file: File): void {
  if (/\.json$/i.test(file.name)) say({ text: 'Part files are opened on the shelf.' })
  else void openMeshFile(file, { kind: 'part' }, usePart.getState().part?.printer)
}
