import { colourHex, type Piece, pieceColours } from '@makrel/core/document'
import { Popover } from 'radix-ui'

/** A swatch that opens a choice of colours: the muted tints, or any other one. */
export function ColourChoice({
  label,
  colour,
  large = false,
  onChange,
}: {
  readonly label: string
  /** undefined: there are several */
  readonly colour: Piece['colour'] | undefined
  readonly large?: boolean
  /** `final`: pressed; otherwise one of many while a colour is looked for */
  onChange(colour: Piece['colour'], final: boolean): void
}) {
  const hex = colour && colourHex(colour)
  return (
    <Popover.Root>
      <Popover.Trigger
        aria-label={label}
        title={label}
        className={`border border-ink-soft hover:border-mackerel ${large ? 'h-8 w-14 rounded-sm' : 'h-3.5 w-3.5'}`}
        style={{ background: hex ?? 'repeating-linear-gradient(45deg, #c7d0d3 0 6px, #d8cfba 6px 12px)' }}
      />
      <Popover.Portal>
        <Popover.Content
          side="bottom"
          align="start"
          sideOffset={6}
          aria-label={label}
          className="z-50 flex items-center gap-1.5 rounded-sm border border-ink-soft bg-sheet p-2 shadow-[0_6px_18px_rgb(20_40_44/0.16)]"
        >
          {pieceColours.map((tint) => (
            <button
              key={tint}
              type="button"
              aria-label={tint}
              aria-pressed={colour === tint}
              title={tint}
              onClick={() => onChange(tint, true)}
              className="h-6 w-6 border border-ink-soft aria-pressed:outline-2 aria-pressed:outline-mackerel"
              style={{ background: colourHex(tint) }}
            />
          ))}
          <label className="ml-1 flex items-center gap-1.5 text-ink-soft">
            another
            <input
              type="color"
              aria-label="Another colour"
              value={hex ?? '#c7d0d3'}
              onChange={(event) => onChange(event.target.value.toLowerCase() as Piece['colour'], false)}
              className="h-6 w-8 cursor-pointer border border-line bg-sheet"
            />
          </label>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
