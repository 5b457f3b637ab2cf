import type { RenderMesh } from '@makrel/core/solids'
import { useEffect, useMemo, useState } from 'react'
import { EdgesGeometry } from 'three'
import { solids } from '../channel/client.ts'
import { useBuild } from '../state/build.ts'
import { useWorked } from '../state/built.ts'
import { itemsOf } from '../state/items.ts'
import { usePart } from '../state/part.ts'
import { IconButton } from '../ui/Button.tsx'
import { HardwareIcon } from '../ui/icons.tsx'
import { ink, inkSoft, mackerel, selectionWash } from './colours.ts'
import { nothing, useGeometry } from './PieceModel.tsx'
import { useView } from './view.ts'

/** Flats that meet at more than this have an edge, degrees. */
const sharp = 25

interface Drawn {
  readonly id: string
  readonly mesh: RenderMesh
}

/** Screws, nuts, bearings and what else the part takes, in their places: seen through what they lie in, and never handed off. */
export function Hardware() {
  const shown = useBuild((state) => state.shown)
  const wanted = useView((state) => state.hardware)
  const selected = usePart((state) => state.selection?.id)
  const [items, setItems] = useState<readonly Drawn[]>([])
  const has = shown !== undefined && wanted && itemsOf(shown).length > 0
  useEffect(() => {
    if (!shown || !has) return setItems([])
    let current = true
    void solids()
      .call('items', {})
      .then(
        (all) => current && setItems(all),
        () => current && setItems([]),
      )
    return () => {
      current = false
    }
  }, [shown, has])
  return items.map(({ id, mesh }) => <ItemModel key={id} mesh={mesh} isSelected={id === selected} />)
}

function ItemModel({ mesh, isSelected }: { readonly mesh: RenderMesh; readonly isSelected: boolean }) {
  const geometry = useGeometry(mesh.positions)
  const edges = useMemo(() => new EdgesGeometry(geometry, sharp), [geometry])
  useEffect(() => () => edges.dispose(), [edges])
  const colour = isSelected ? mackerel : inkSoft
  return (
    <group name={selectionWash}>
      <mesh geometry={geometry} raycast={nothing} renderOrder={1}>
        <meshBasicMaterial color={colour} transparent opacity={0.45} depthWrite={false} />
      </mesh>
      <mesh geometry={geometry} raycast={nothing} renderOrder={2}>
        <meshBasicMaterial
          color={colour}
          transparent
          opacity={isSelected ? 0.16 : 0.07}
          depthWrite={false}
          depthTest={false}
        />
      </mesh>
      <lineSegments geometry={edges} raycast={nothing} renderOrder={3}>
        <lineBasicMaterial color={ink} transparent opacity={0.3} depthWrite={false} depthTest={false} />
      </lineSegments>
    </group>
  )
}

/** Draws the items, or leaves them away; there where the part takes any. */
export function HardwareButton() {
  const shown = useView((state) => state.hardware)
  const worked = useWorked()
  const part = usePart((state) => state.part)
  if (!worked || !part || itemsOf(part).length === 0) return null
  return (
    <IconButton
      label="Show screws, nuts and what else it takes"
      pressed={shown}
      onClick={() => useView.setState({ hardware: !shown })}
    >
      <HardwareIcon size={15} />
    </IconButton>
  )
}
