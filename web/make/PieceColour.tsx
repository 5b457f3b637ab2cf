import type { Piece } from '@makrel/core/document'
import { usePart } from '../state/part.ts'
import { ColourChoice } from '../ui/ColourChoice.tsx'

/** The colour of a piece. It leaves with the piece where the file can hold it. */
export function PieceColour({ piece }: { readonly piece: Piece }) {
  return (
    <ColourChoice
      label={`Colour of ${piece.name}`}
      colour={piece.colour}
      onChange={(colour, final) =>
        usePart
          .getState()
          .edit({ type: 'set-piece', id: piece.id, change: { colour } }, final ? undefined : `${piece.id}.colour`)
      }
    />
  )
}
