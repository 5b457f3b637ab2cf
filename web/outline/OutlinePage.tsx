import { useEffect } from 'react'
import { Link, useParams } from 'react-router'
import { PartBoundary } from '../frame/PartBoundary.tsx'
import { useKeyList } from '../keys/keys.ts'
import { useWorked } from '../state/built.ts'
import { usePart } from '../state/part.ts'
import { SidePanel } from '../ui/SidePanel.tsx'
import { OutlineCanvas } from './Canvas.tsx'
import { OutlineSheet } from './OutlineSheet.tsx'
import { outlineKeys } from './outlineKeys.ts'
import { useOutlineClipboard } from './partsActions.ts'
import { openOutline, useOutline } from './state.ts'
import { ToolRows } from './ToolRows.tsx'

/** The outline editor: a flat drawing on its plane, and the sheet that says what holds it. */
export function OutlinePage() {
  const { id = '', outline: outlineId = '' } = useParams()
  const part = usePart((state) => state.part!)
  const worked = useWorked()
  const preview = useOutline((state) => state.preview)
  const opened = useOutline((state) => state.id)
  useEffect(() => {
    openOutline(outlineId)
    return () => openOutline('')
  }, [outlineId])
  useKeyList(outlineKeys)
  useOutlineClipboard()
  const resolved = worked?.resolved.outlines.get(outlineId)
  if (!worked || opened !== outlineId) return null
  if (!resolved)
    return (
      <main className="flex flex-1 flex-col items-center justify-center gap-3">
        <p role="alert">This outline is not in the part any more.</p>
        <Link to={`/part/${id}/make`} className="font-semibold text-mackerel underline">
          Back to the build sheet
        </Link>
      </main>
    )
  const solved = preview?.outline.id === outlineId ? preview : resolved
  return (
    <main className="flex min-h-0 flex-1">
      <div className="relative min-w-0 flex-1">
        <PartBoundary what="outline">
          <OutlineCanvas solved={solved} names={worked.resolved.measures.names} unit={part.unit} />
        </PartBoundary>
      </div>
      <PartBoundary what="outline's sheet">
        <SidePanel label="Outline" className="flex flex-col">
          <OutlineSheet solved={solved} names={worked.resolved.measures.names} problems={worked.problems} />
          <ToolRows />
        </SidePanel>
      </PartBoundary>
    </main>
  )
}
