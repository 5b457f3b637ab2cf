import { applyEdit, type Edit, flattened, hasBody, type Part } from '../document/index.ts'
import { fieldKindOf, movedBetween, noReadings, type SolidReadings, withAdded, workOut } from '../planning/index.ts'

/**
 * Edits that lower a piece by so many mm (raise it, below 0), all of it alike and nothing else; undefined where there are
 * none, as where it stands on another piece, or is told its height by something.
 */
export function loweredBy(
  part: Part,
  pieceId: string,
  mm: number,
  solids: SolidReadings = noReadings,
): readonly Edit[] | undefined {
  const piece = part.pieces.find(({ id }) => id === pieceId)
  if (!piece || part.joints.some(({ pieces }) => pieces.includes(pieceId))) return undefined
  // To where flats of single precision still touch the bed.
  const by = Number(mm.toFixed(5))
  const own = new Set(flattened(piece.steps).map(({ id }) => id))
  const bodies = piece.steps.filter(hasBody)
  const grounded = bodies.filter(({ place: { on } }) => on.kind !== 'face' || !own.has(on.step))
  const edits = grounded.map(
    ({ id, place }): Edit => ({ type: 'set-place', id, change: { lift: withAdded(place.lift, -by, part.unit) } }),
  )
  const after = edits.reduce((so, edit) => applyEdit(so, edit, fieldKindOf), part)
  const [was, now] = [workOut(part, solids).plan.geometry, workOut(after, solids).plan.geometry]
  const moved = movedBetween(part, after, solids)
  const alike = [...own].every((id) => {
    const [before, then] = [was.get(id)?.frames, now.get(id)?.frames]
    if (!before) return true
    return before.every(({ origin }, i) => {
      const there = then?.[i]?.origin
      const away = there && [there[0] - origin[0], there[1] - origin[1], there[2] - origin[2] + by]
      return away !== undefined && Math.hypot(...away) < 1e-6
    })
  })
  return alike && moved.every((id) => own.has(id)) ? edits : undefined
}
