import type { Box } from '@makrel/core/place'
import type { RenderMesh } from '@makrel/core/solids'
import { useEffect, useState } from 'react'
import { solids } from '../channel/client.ts'
import { type DrawnPiece, useBuild } from '../state/build.ts'
import { IconButton } from '../ui/Button.tsx'
import { Choice } from '../ui/Choice.tsx'
import { SeeThroughIcon } from '../ui/icons.tsx'
import { HardwareButton } from './Hardware.tsx'
import { useView } from './view.ts'

const axes = { x: 0, y: 1, z: 2 } as const
type Across = keyof typeof axes

/** The pieces as they are drawn: whole, or cut open where the view has a section. */
export function useCutaway(
  pieces: readonly DrawnPiece[],
  box: Box | undefined,
): readonly Pick<DrawnPiece, 'id' | 'mesh'>[] {
  const section = useView((state) => state.section)
  const shown = useBuild((state) => state.shown)
  const [opened, setOpened] = useState<ReadonlyMap<string, RenderMesh | undefined>>()
  const at = section && box ? positionOf(section, box) : undefined
  const across = section?.across
  useEffect(() => {
    if (!shown || !across || at === undefined) return setOpened(undefined)
    let current = true
    void solids()
      .call('cutaway', { across, at })
      .then(
        (answer) => current && setOpened(new Map(answer.map(({ piece, mesh }) => [piece, mesh]))),
        () => undefined,
      )
    return () => {
      current = false
    }
  }, [shown, across, at])
  return opened && section ? pieces.map(({ id }) => ({ id, mesh: opened.get(id) })) : pieces
}

function positionOf({ across, at }: { readonly across: Across; readonly at: number }, box: Box): number {
  const i = axes[across]
  // Seen from the front, the cut goes from the front to the back.
  const t = across === 'y' ? 1 - at : at
  return box.min[i] + (box.max[i] - box.min[i]) * t
}

/** Cuts the part open in one of three directions; the part itself stays whole. */
export function SectionSlider() {
  const section = useView((state) => state.section)
  const seeThrough = useView((state) => state.seeThrough)
  const set = (next: typeof section) => useView.setState({ section: next })
  return (
    <div className="ml-auto flex min-h-8 items-center gap-2 bg-[#f6f8f7]/85 px-2 text-ink-soft">
      <IconButton
        label="See through the part"
        pressed={seeThrough}
        onClick={() => useView.setState({ seeThrough: !seeThrough })}
      >
        <SeeThroughIcon size={15} />
      </IconButton>
      <HardwareButton />
      <Choice
        label="Section"
        value={section?.across ?? 'none'}
        shown={section ? undefined : 'section'}
        options={[
          { value: 'none', label: 'whole' },
          { value: 'x', label: 'cut from the right' },
          { value: 'y', label: 'cut from the front' },
          { value: 'z', label: 'cut from above' },
        ]}
        onChange={(across) => set(across === 'none' ? undefined : { across, at: 0.5 })}
      />
      {section && (
        <input
          type="range"
          aria-label="Position of the section"
          min={0.001}
          max={0.999}
          step={0.002}
          value={section.at}
          onChange={(event) => set({ ...section, at: Number(event.target.value) })}
          className="w-32 accent-mackerel"
        />
      )}
    </div>
  )
}
