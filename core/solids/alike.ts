import type { Solid } from '../kernel/index.ts'
import { meshFigures } from '../mesh/index.ts'
import type { Built, BuiltPiece } from './builder.ts'

/** What was built, and what failed meanwhile. */
type AsBuilt = Pick<Built, 'pieces' | 'buildProblems'>

/** How many bodies and cavities solids have that are measured again with each edit. */
const knownBodies = new WeakMap<Solid, string>()

function bodiesIn(solid: Solid): string {
  const known = knownBodies.get(solid)
  if (known !== undefined) return known
  const { solids, cavities } = meshFigures(solid.mesh())
  const own = `${solids} ${cavities.length}`
  knownBodies.set(solid, own)
  return own
}

/** Whether a piece is the same at two finenesses but for its flats: the same steps failed, and it falls into as many bodies and cavities. */
export function isAlike(one: AsBuilt, other: AsBuilt, id: string): boolean {
  const told = ({ buildProblems }: AsBuilt) => buildProblems.map(({ code, path }) => `${code} ${path.join('/')}`).join()
  if (told(one) !== told(other)) return false
  const [a, b] = [one, other].map((built) => solidOf(built, id))
  return a && b ? bodiesIn(a) === bodiesIn(b) : a === b
}

/** Of a piece, by its id. */
export function solidOf({ pieces }: Pick<Built, 'pieces'>, id: string): Solid | undefined {
  return pieces.find((each) => each.piece.id === id)?.solid
}

/** The pieces of a coarser build that what is measured on both may be extrapolated from. */
export function alikeIn(fine: AsBuilt, coarse: AsBuilt): readonly BuiltPiece[] {
  return coarse.pieces.filter(({ piece }) => isAlike(fine, coarse, piece.id))
}
