import { useEffect } from 'react'
import { Link, useParams } from 'react-router'
import { isTyping } from '../frame/keys.ts'
import { PartBoundary } from '../frame/PartBoundary.tsx'
import { useWorked } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { SidePanel } from '../ui/SidePanel.tsx'
import { removeParts } from './actions.ts'
import { OutlineCanvas } from './Canvas.tsx'
import { fitAll } from './fit.ts'
import { OutlineSheet } from './OutlineSheet.tsx'
import { useOutlineClipboard } from './partsActions.ts'
import { endTool, stepBack } from './press.ts'
import { openOutline, setTool, useOutline } from './state.ts'
import { ToolRows } from './ToolRows.tsx'
import { mostSides } from './tools/polygon.ts'
import { curveTools, tools } from './tools/registry.ts'
import { zoomed } from './view.ts'

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
  useOutlineKeys()
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

/** The keys of the tools, and those that take things back or out. */
function useOutlineKeys(): void {
  useOutlineClipboard()
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      if (isTyping(event) || event.ctrlKey || event.metaKey || event.altKey) return
      // What has the keyboard is pressed by Enter.
      if (event.key === 'Enter' && (event.target as HTMLElement).closest('button, a')) return
      const { view, tool, refused } = useOutline.getState()
      const key = event.key.toLowerCase()
      const middle = [view.width / 2, view.height / 2] as const
      const held = [...tools, ...curveTools].find((each) => each.key === key)
      if (event.key === 'Escape') stepBack()
      else if (event.key === 'Enter') endTool()
      else if (event.key === 'Delete' || event.key === 'Backspace') removeParts()
      else if (key === 'n') useOutline.setState({ refused: !refused })
      else if (key === 'h') useOutline.setState(({ helper }) => ({ helper: !helper }))
      else if (tool === 'polygon' && /^[3-9]$/.test(key)) useOutline.setState({ sides: Number(key) })
      else if (tool === 'polygon' && /^[+=-]$/.test(key))
        useOutline.setState(({ sides }) => ({
          sides: Math.min(mostSides, Math.max(3, sides + (key === '-' ? -1 : 1))),
        }))
      else if (key === '0') fitAll()
      else if (key === '+' || key === '=') useOutline.setState({ view: zoomed(view, 1.25, middle) })
      else if (key === '-') useOutline.setState({ view: zoomed(view, 0.8, middle) })
      else if (key === '/') document.getElementById('draw-tool')?.focus()
      // A line goes on as a bend, and a bend as a line.
      else if (held && (held.kind === 'line' || held.kind === 'bend') && (tool === 'line' || tool === 'bend'))
        useOutline.setState({ tool: held.kind, asked: [] })
      else if (held) setTool(held.kind)
      else if (event.key.startsWith('Arrow')) panBy(event.key)
      else return
      event.preventDefault()
    }
    window.addEventListener('keydown', pressed)
    return () => window.removeEventListener('keydown', pressed)
  }, [])
}

function panBy(key: string): void {
  const [dx, dy] = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[key] ?? [0, 0]
  useOutline.setState(({ view }) => ({
    view: { ...view, centre: [view.centre[0] + (dx! * 40) / view.scale, view.centre[1] + (dy! * 40) / view.scale] },
  }))
}
