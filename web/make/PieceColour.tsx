import { colourHex, type Piece, pieceColours } from '@makrel/core/document'
import { Popover } from 'radix-ui'
import { usePart } from '../state/part.ts'

/** The colour of a piece: one of the muted tints, or any other. It leaves with the piece where the file can hold it. */
export function PieceColour({ piece }: { readonly piece: Piece }) {
  const { edit } = usePart.getState()
  const set = (colour: Piece['colour'], merge?: string) =>
    edit({ type: 'set-piece', id: piece.id, change: { colour } }, merge)
  return (
    <Popover.Root>
      <Popover.Trigger
        aria-label={`Colour of ${piece.name}`}
        title="Colour of this piece"
        className="h-3.5 w-3.5 border border-ink-soft hover:border-mackerel"
        style={{ background: colourHex(piece.colour) }}
      />
      <Popover.Portal>
        <Popover.Content
          side="bottom"
          align="start"
          sideOffset={6}
          aria-label={`Colour of ${piece.name}`}
          className="z-50 flex items-center gap-1.5 rounded-sm border border-ink-soft bg-sheet p-2 shadow-[0_6px_18px_rgb(20_40_44/0.16)]"
        >
          {pieceColours.map((colour) => (
            <button
              key={colour}
              type="button"
              aria-label={colour}
              aria-pressed={piece.colour === colour}
              title={colour}
              onClick={() => set(colour)}
              className="h-6 w-6 border border-ink-soft aria-pressed:outline-2 aria-pressed:outline-mackerel"
              style={{ background: colourHex(colour) }}
            />
          ))}
          <label className="ml-1 flex items-center gap-1.5 text-ink-soft">
            another
            <input
              type="color"
              aria-label="Another colour"
              value={colourHex(piece.colour)}
              onChange={(event) => set(event.target.value.toLowerCase() as Piece['colour'], `${piece.id}.colour`)}
              className="h-6 w-8 cursor-pointer border border-line bg-sheet"
            />
          </label>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
