import { Drawing } from '../drawing/Drawing.tsx'
import { PartBoundary } from '../frame/PartBoundary.tsx'
import { TitleBlock } from '../frame/TitleBlock.tsx'
import { BuildSheet } from './BuildSheet.tsx'
import { useClipboard } from './clipboard.ts'
import { StepMenu } from './StepMenu.tsx'
import { useStepKeys } from './stepKeys.ts'

/** The drawing and the sheet: two readings of the same part. */
export function Make() {
  useStepKeys()
  useClipboard()
  return (
    <main className="flex min-h-0 flex-1">
      <div className="relative min-w-0 flex-1">
        <PartBoundary what="drawing">
          <Drawing editable tools />
        </PartBoundary>
        <div className="absolute inset-x-4 bottom-4">
          <TitleBlock />
        </div>
      </div>
      <PartBoundary what="build sheet">
        <BuildSheet />
      </PartBoundary>
      <StepMenu />
    </main>
  )
}
