import { countsThatFit, type Names, type ValueKind } from '@makrel/core/measures'
import { usePart } from '../state/part.ts'

/** Where a plain number was meant for how many there are, and was taken for a length: one click makes it a count. */
export function CountOffers({
  text,
  kind,
  names,
}: {
  readonly text: string
  readonly kind: ValueKind
  readonly names: Names
}) {
  const measures = usePart((state) => state.part!.measures)
  return countsThatFit(text, kind, names, measures).map(({ id, name }) => (
    <button
      key={id}
      type="button"
      className="ml-2 font-semibold text-mackerel underline"
      // The field keeps the keyboard.
      onPointerDown={(event) => event.preventDefault()}
      onClick={() => usePart.getState().edit({ type: 'set-measure', id, change: { kind: 'count' } })}
    >
      make {name} a count
    </button>
  ))
}
