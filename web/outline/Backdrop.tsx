import { assetData, type Outline } from '@makrel/core/document'
import { useMemo } from 'react'
import { usePart } from '../state/part.ts'
import { usePartEdges } from './partEdges.ts'
import { type PlaneView, toScreen } from './view.ts'

/** What lies behind the drawing: the picture, and the edges of the part as they are seen on its plane. */
export function Backdrop({ outline, view }: { readonly outline: Outline; readonly view: PlaneView }) {
  return (
    <>
      <Picture outline={outline} view={view} />
      <PartEdges outline={outline} view={view} />
    </>
  )
}

function Picture({ outline: { picture }, view }: { readonly outline: Outline; readonly view: PlaneView }) {
  const data = usePart((state) => picture && state.part && assetData(state.part, picture.asset))
  const size = useMemo(() => (data ? sizeOf(data) : undefined), [data])
  if (!picture || !data?.startsWith('data:image/')) return null
  const [x, y] = toScreen(view, picture.at)
  const width = picture.width * view.scale
  return (
    <image
      href={data}
      x={x - width / 2}
      y={y - (width * (size ?? 1)) / 2}
      width={width}
      height={width * (size ?? 1)}
      preserveAspectRatio="none"
      opacity={picture.strength}
      transform={`rotate(${-picture.turn} ${x} ${y})`}
    />
  )
}

/** Height over width, read from the head of the file: PNG (ISO/IEC 15948, 11.2.2) or JPEG (ITU-T T.81, B.2.2). */
function sizeOf(data: string): number {
  const bytes = Uint8Array.from(atob(data.slice(data.indexOf(',') + 1)), (c) => c.charCodeAt(0))
  const two = (at: number) => (bytes[at]! << 8) | bytes[at + 1]!
  if (bytes[0] === 0x89) return ((two(20) << 16) | two(22)) / ((two(16) << 16) | two(18))
  for (let at = 2; at + 9 < bytes.length; ) {
    const marker = bytes[at + 1]!
    if (marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker)) return two(at + 5) / two(at + 7)
    at += 2 + two(at + 2)
  }
  return 1
}

function PartEdges({ outline, view }: { readonly outline: Outline; readonly view: PlaneView }) {
  const edges = usePartEdges(outline)
  // In mm on the plane: it changes with the part, not with the view, which only moves it.
  const path = useMemo(
    () => (edges ?? []).map((ends) => `M${ends.map((p) => p.map((mm) => mm.toFixed(3)).join(' ')).join('L')}`).join(''),
    [edges],
  )
  const [x, y] = toScreen(view, [0, 0])
  return (
    <path
      d={path}
      transform={`translate(${x} ${y}) scale(${view.scale} ${-view.scale})`}
      vectorEffect="non-scaling-stroke"
      stroke="#a9b6b6"
      strokeWidth="1"
    />
  )
}
