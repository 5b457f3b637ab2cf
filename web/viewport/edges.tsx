import type { ReadPoint } from '@makrel/core/document'
import { edgeCalled, isSmooth, type SolidEdge } from '@makrel/core/naming'
import type { Vec3 } from '@makrel/core/place'
import type { RenderMesh } from '@makrel/core/solids'
import { useMemo } from 'react'
import { shownReading } from '../plan/Readouts.tsx'
import type { DrawnPiece } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { chosenOn, runOf, useEdgePick } from './edgePick.ts'
import { usePointedEdge } from './picking.tsx'
import { useReadRows } from './reading.tsx'
import { type Projection, project, useView } from './view.ts'

/** A pointer is on an edge when it is as near as this to it, pixels. */
const onEdge = 5

/** The edges that are drawn round each face, by its place among the faces of a drawing. */
const roundFaces = new WeakMap<RenderMesh, ReadonlyMap<number, readonly SolidEdge[]>>()

function edgesRound(mesh: RenderMesh, face: number): readonly SolidEdge[] {
  let known = roundFaces.get(mesh)
  if (!known) {
    const round = new Map<number, SolidEdge[]>()
    for (const edge of mesh.named)
      if (!isSmooth(edge))
        for (const of of new Set(edge.faces)) {
          const list = round.get(of)
          if (list) list.push(edge)
          else round.set(of, [edge])
        }
    known = round
    roundFaces.set(mesh, round)
  }
  return known.get(face) ?? []
}

/** The edge of the face under the pointer that the pointer is on, `at` in the drawing's own frame. */
export function edgeUnder(mesh: RenderMesh, face: number, at: Vec3, view: Projection): SolidEdge | undefined {
  const pointer = project(view, at)
  if (!pointer) return undefined
  let best: { readonly edge: SolidEdge; readonly away: number } | undefined
  for (const edge of edgesRound(mesh, face)) {
    const shown = project(view, nearestOn(edge, at))
    const away = shown ? Math.hypot(shown[0] - pointer[0], shown[1] - pointer[1]) : Infinity
    if (away <= onEdge && (!best || away < best.away)) best = { edge, away }
  }
  return best?.edge
}

function nearestOn({ points, closed }: SolidEdge, p: Vec3): Vec3 {
  const count = points.length / 3
  let best: { readonly at: Vec3; readonly away: number } | undefined
  for (let i = 0; i < (closed ? count : count - 1); i++) {
    const [a, b] = [3 * i, 3 * ((i + 1) % count)]
    const d = [0, 1, 2].map((k) => points[b + k]! - points[a + k]!) as unknown as Vec3
    const from = [0, 1, 2].map((k) => p[k]! - points[a + k]!) as unknown as Vec3
    const long = d[0] ** 2 + d[1] ** 2 + d[2] ** 2
    const t = Math.min(1, Math.max(0, (d[0] * from[0] + d[1] * from[1] + d[2] * from[2]) / (long || 1)))
    const at = [0, 1, 2].map((k) => points[a + k]! + t * d[k]!) as unknown as Vec3
    const away = Math.hypot(at[0] - p[0], at[1] - p[1], at[2] - p[2])
    if (!best || away < best.away) best = { at, away }
  }
  return best!.at
}

/** The edges that are chosen or pointed at, drawn over the part; beside the chosen one what it measures. */
export function EdgeMarks({ pieces }: { readonly pieces: readonly Pick<DrawnPiece, 'mesh'>[] }) {
  const selection = usePart((state) => state.selection)
  const over = usePointedEdge()
  const view = useView()
  const find = (key: string | undefined) => {
    if (key === undefined) return undefined
    for (const { mesh } of pieces) {
      const edge = mesh && edgeCalled(mesh.named, key)
      if (edge) return edge
    }
    return undefined
  }
  const picking = useEdgePick(({ step, field }) => (field === 'edges' ? step : undefined))
  const chosen = picking === undefined ? find(selection?.edge) : undefined
  const pointed = over === selection?.edge ? undefined : find(over)
  const picked = useChosenEdges(pieces, picking)
  if (!chosen && !pointed && picked.length === 0) return null
  const lit = pointed && picking !== undefined ? runIn(pieces, pointed) : pointed ? [pointed] : []
  return (
    <div className="pointer-events-none absolute inset-0 overflow-hidden">
      <svg width={view.width} height={view.height} aria-hidden="true" fill="none" stroke="var(--color-mackerel)">
        {picked.map((edge) => (
          <path key={edge.key} d={pathOf(edge, view)} strokeWidth="3.5" data-chosen={edge.key} />
        ))}
        {lit.map((edge) => (
          <path key={edge.key} d={pathOf(edge, view)} strokeWidth="2.5" strokeOpacity="0.7" />
        ))}
        {chosen && <path d={pathOf(chosen, view)} strokeWidth="3.5" />}
      </svg>
      {chosen && selection && (
        <EdgeSizes edge={chosen} point={{ step: selection.id, face: selection.face ?? '', edge: chosen.key }} />
      )}
    </div>
  )
}

/** The edges that a step works on, as they are drawn while it is selected. */
function useChosenEdges(pieces: readonly Pick<DrawnPiece, 'mesh'>[], step: string | undefined): readonly SolidEdge[] {
  const part = usePart((state) => state.part)
  // biome-ignore lint/correctness/useExhaustiveDependencies: the rules are the part's
  return useMemo(
    () =>
      step === undefined
        ? []
        : pieces.flatMap(({ mesh }) => (mesh ? chosenOn(mesh, step).map((edge) => mesh.named[edge]!) : [])),
    [pieces, step, part],
  )
}

function runIn(pieces: readonly Pick<DrawnPiece, 'mesh'>[], edge: SolidEdge): readonly SolidEdge[] {
  const mesh = pieces.find((piece) => piece.mesh?.named.includes(edge))?.mesh
  return mesh ? runOf(mesh.named, edge) : [edge]
}

function pathOf({ points, closed }: SolidEdge, view: Projection): string {
  const shown = Array.from({ length: points.length / 3 }, (_, i) =>
    project(view, [points[3 * i]!, points[3 * i + 1]!, points[3 * i + 2]!]),
  )
  const way = shown.flatMap((p, i) => (p ? [`${i === 0 ? 'M' : 'L'}${p[0].toFixed(1)} ${p[1].toFixed(1)}`] : []))
  return `${way.join(' ')}${closed ? ' Z' : ''}`
}

function EdgeSizes({ edge, point }: { readonly edge: SolidEdge; readonly point: ReadPoint }) {
  const part = usePart((state) => state.part)!
  const view = useView()
  const picks = useMemo(() => [point], [point])
  const rows = useReadRows(picks)
  const middle = Math.floor(edge.points.length / 6)
  const at = project(view, [edge.points[3 * middle]!, edge.points[3 * middle + 1]!, edge.points[3 * middle + 2]!])
  const sizes = rows.flatMap(({ readout, value }) =>
    value === undefined ? [] : [`${words[readout.kind] ?? ''} ${shownReading(readout.kind, value, part.unit)}`],
  )
  if (!at || sizes.length === 0) return null
  return (
    <p
      role="status"
      aria-label="The chosen edge"
      className="figures absolute border border-mackerel bg-sheet/95 px-1.5 text-[0.9375rem] whitespace-nowrap text-mackerel"
      style={{ left: at[0] + 12, top: at[1] + 10 }}
    >
      {sizes.join(' · ')}
    </p>
  )
}

const words: Readonly<Record<string, string>> = {
  'edge-length': 'length',
  'edge-radius': 'radius',
  'edge-angle': 'angle',
}
