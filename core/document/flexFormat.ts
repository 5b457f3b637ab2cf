import { list, oneOf, record, type Typed, whole } from './described.ts'
import { expression, id, name } from './formatTerms.ts'

const mostEdges = 500

/** A flex test: something flat that is held and pushed in its plane. */
export const flex = record({
  id,
  name,
  /** the step that is flat, or the piece that is a prism */
  of: id,
  /** curves of its outline that are held, and those that are pushed */
  held: list(name, { most: mostEdges }),
  pushed: list(name, { most: mostEdges }),
  /** which way it is pushed, an angle in the plane of the outline */
  way: expression,
  by: oneOf('distance', 'force'),
  /** a length, and a number of newtons; the one that `by` names is used */
  distance: expression,
  force: expression,
  /** how often its triangles are halved */
  finer: whole(0, 2),
})

export interface KeptFlex extends Typed<typeof flex> {}
