import { assetOf, documentLimits, type Outline, type OutlinePicture } from '@makrel/core/document'
import { mmPer } from '@makrel/core/units'
import { useRef, useState } from 'react'
import { usePart } from '../state/part.ts'
import { Button, IconButton } from '../ui/Button.tsx'
import { OpenIcon, RemoveIcon } from '../ui/icons.tsx'
import { say } from '../ui/Notice.tsx'
import { NumberInput } from '../ui/NumberInput.tsx'
import { shrunkPicture } from './pictureFile.ts'
import { scaledPicture } from './pictureMath.ts'
import { SheetSection } from './SheetSection.tsx'
import { setTool, useOutline } from './state.ts'

/** A photograph or scan under the drawing: where it lies, how large it is, and how much of it is seen. */
export function PictureTools({ outline }: { readonly outline: Outline }) {
  const chooser = useRef<HTMLInputElement>(null)
  const { picture } = outline
  const unit = usePart((state) => state.part!.unit)
  const per = mmPer(unit)
  const put = (next: OutlinePicture | undefined, merge?: string) =>
    usePart.getState().edit({ type: 'set-outline', id: outline.id, change: { picture: next } }, merge)
  const take = async (file: File) => {
    const shrunk = await shrunkPicture(file, documentLimits.picture)
    if ('detail' in shrunk) {
      say({ text: shrunk.detail })
      return
    }
    const asset = assetOf(file.name, shrunk.data)
    const next: OutlinePicture = { asset: asset.hash, at: [0, 0], width: 100, turn: 0, strength: 0.5 }
    usePart.getState().editAll([
      { type: 'add-asset', asset },
      { type: 'set-outline', id: outline.id, change: { picture: next } },
    ])
  }
  return (
    <SheetSection title="Picture under the drawing">
      <input
        ref={chooser}
        type="file"
        accept="image/png,image/jpeg"
        aria-label="Picture to draw over"
        hidden
        onChange={(event) => {
          const file = event.target.files?.[0]
          event.target.value = ''
          if (file) void take(file)
        }}
      />
      {!picture && (
        <Button className="h-7" onClick={() => chooser.current?.click()}>
          <OpenIcon size={14} /> a photograph or scan …
        </Button>
      )}
      {picture && (
        <div className="flex flex-wrap items-center gap-x-4 gap-y-1.5">
          <NumberInput
            label={`wide, ${unit}`}
            value={picture.width / per}
            least={0.1 / per}
            most={1e5 / per}
            onChange={(width) => put({ ...picture, width: width * per })}
          />
          <NumberInput
            label="turned, °"
            value={picture.turn}
            least={-360}
            most={360}
            onChange={(turn) => put({ ...picture, turn })}
          />
          <NumberInput
            label="right"
            value={picture.at[0] / per}
            least={-1e6 / per}
            most={1e6 / per}
            onChange={(x) => put({ ...picture, at: [x * per, picture.at[1]] })}
          />
          <NumberInput
            label="up"
            value={picture.at[1] / per}
            least={-1e6 / per}
            most={1e6 / per}
            onChange={(y) => put({ ...picture, at: [picture.at[0], y * per] })}
          />
          <label className="flex items-center gap-1.5 text-ink-soft">
            seen
            <input
              type="range"
              aria-label="How much of the picture is seen"
              min={0}
              max={1}
              step={0.05}
              value={picture.strength}
              onChange={(event) => put({ ...picture, strength: Number(event.target.value) }, 'picture.strength')}
              className="w-24 accent-mackerel"
            />
          </label>
          <IconButton label="Remove the picture" onClick={() => put(undefined)}>
            <RemoveIcon size={14} />
          </IconButton>
          <Button className="h-7" onClick={() => setTool('picture')}>
            scale it by a measured distance
          </Button>
          <ScaleBy picture={picture} onScaled={put} />
        </div>
      )}
    </SheetSection>
  )
}

/** It was asked for by the press before. */
const takesKeyboard = (input: HTMLInputElement | null) => input?.focus()

/** Once two places were pressed: how far they are apart in truth. */
function ScaleBy({ picture, onScaled }: { readonly picture: OutlinePicture; onScaled(picture: OutlinePicture): void }) {
  const tool = useOutline((state) => state.tool)
  const spots = useOutline((state) => state.spots)
  const unit = usePart((state) => state.part!.unit)
  const [text, setText] = useState('')
  const [from, to] = spots
  if (tool !== 'picture' || !from || !to) return null
  const distance = Number(text.replace(',', '.')) * mmPer(unit)
  const sound = Number.isFinite(distance) && distance > 0
  const scale = () => {
    if (!sound) return
    onScaled(scaledPicture(picture, from.at, to.at, distance))
    setText('')
    setTool('select')
  }
  return (
    <label className="flex w-full items-center gap-2">
      These two places are
      <input
        ref={takesKeyboard}
        className="value w-16"
        aria-label={`Measured distance, ${unit}`}
        aria-invalid={text !== '' && !sound}
        value={text}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          event.stopPropagation()
          if (event.key === 'Enter') scale()
          if (event.key === 'Escape') setTool('select')
        }}
      />
      {unit} apart.
      <Button className="h-7" disabled={!sound} onClick={scale}>
        scale
      </Button>
    </label>
  )
}
