import { add, type Box, corners, dot, type Frame, scaled, subtract } from '@makrel/core/place'
import { useEffect, useMemo } from 'react'
import { DoubleSide } from 'three'
import { usePart } from '../state/part.ts'
import { mackerel } from './colours.ts'
import { useLateWorked } from './late.ts'
import { geometryOf } from './PieceModel.tsx'

/** How far a plane is drawn beyond what it goes through, as a share of the whole. */
const beyond = 0.06

/** The planes that the selected step names, as sheets a little larger than the part. */
export function FieldPlanes({ box }: { readonly box: Box | undefined }) {
  const { worked } = useLateWorked()
  const selection = usePart((state) => state.selection)
  const planes = selection?.kind === 'step' ? worked?.plan.planes.get(selection.id) : undefined
  if (!planes || !box) return null
  return Object.entries(planes).map(([field, plane]) => <Sheet key={field} plane={plane} box={box} />)
}

function Sheet({ plane, box }: { readonly plane: Frame; readonly box: Box }) {
  const [sheet, rim] = useMemo(() => {
    const [a, b, c, d] = sheetOver(plane, box)
    return [
      geometryOf(Float32Array.from([a, b, c, a, c, d].flat())),
      geometryOf(Float32Array.from([a, b, b, c, c, d, d, a].flat())),
    ]
  }, [plane, box])
  useEffect(
    () => () => {
      sheet.dispose()
      rim.dispose()
    },
    [sheet, rim],
  )
  return (
    <>
      <mesh geometry={sheet} raycast={nothing} renderOrder={2}>
        <meshBasicMaterial color={mackerel} transparent opacity={0.14} side={DoubleSide} depthWrite={false} />
      </mesh>
      <lineSegments geometry={rim} raycast={nothing} renderOrder={2}>
        <lineBasicMaterial color={mackerel} />
      </lineSegments>
    </>
  )
}

/** The corners of a rectangle in a plane that reaches over a box, counter-clockwise. */
function sheetOver({ origin, u, v }: Frame, box: Box) {
  const out = beyond * Math.hypot(...subtract(box.max, box.min))
  const range = (axis: Frame['u']) => {
    const all = corners(box).map((corner) => dot(subtract(corner, origin), axis))
    return [Math.min(...all) - out, Math.max(...all) + out] as const
  }
  const [[left, right], [low, high]] = [range(u), range(v)]
  const at = (x: number, y: number) => add(origin, add(scaled(u, x), scaled(v, y)))
  return [at(left, low), at(right, low), at(right, high), at(left, high)] as const
}

/** Not to be hit by the pointer. */
function nothing(): void {}
