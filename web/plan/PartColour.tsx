import type { Part } from '@makrel/core/document'
import { usePart } from '../state/part.ts'
import { ColourChoice } from '../ui/ColourChoice.tsx'

/** The colour of all pieces at once. */
export function PartColour({ part: { pieces } }: { readonly part: Part }) {
  const [first, ...others] = pieces
  return (
    <ColourChoice
      label={pieces.length > 1 ? 'Colour of all pieces' : 'Colour'}
      large
      colour={others.every(({ colour }) => colour === first!.colour) ? first!.colour : undefined}
      onChange={(colour, final) =>
        usePart.getState().editAll(
          pieces.map(({ id }) => ({ type: 'set-piece', id, change: { colour } })),
          final ? undefined : 'part.colour',
        )
      }
    />
  )
}
