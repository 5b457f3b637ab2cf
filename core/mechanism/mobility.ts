import type { MovingJoint, Positions } from './define.ts'
import { closingOf, residualsAt } from './posed.ts'

/** What a mechanism can do where it stands. */
export interface Mobility {
  /** moves that are independent of one another */
  readonly free: number
  /** freedoms that loops leave no room at all, by joint and index */
  readonly locked: readonly { readonly joint: string; readonly index: number }[]
  /** in how many ways its loops are held more than once: these have to agree, as pins that are parallel do */
  readonly overHeld: number
}

/** Slopes that differ by less than this of the largest are one. */
const same = 1e-6
/** A freedom moves where it takes more than this part in any free move. */
const still = 1e-5

/**
 * How many moves are left to pieces that hang together by joints: as many as all freedoms, less the independent conditions of the loops
 * (the rank of their slopes; Chebychev, Grübler and Kutzbach only count them). Undefined where wheels turn each other, whose joints are no
 * loops.
 */
export function mobilityOf(
  pieces: readonly string[],
  joints: readonly MovingJoint[],
  positions: Positions,
): Mobility | undefined {
  if (joints.some(({ together }) => together)) return undefined
  const freedoms = joints.flatMap(({ id, freedoms: own }) => own.map((_, index) => ({ joint: id, index })))
  const closing = closingOf(pieces, joints)
  // Asked while a piece is dragged: without a loop there is nothing to work out.
  if (closing === 0) return { free: freedoms.length, locked: [], overHeld: 0 }
  const at = (change: number, by: number): number[] => {
    const { joint, index } = freedoms[change]!
    const moved = { ...positions, [joint]: positions[joint]!.map((value, i) => (i === index ? value + by : value)) }
    return residualsAt(pieces, joints, moved)
  }
  // A degree or a millimetre, each its own column.
  const h = 1e-4
  const columns = freedoms.map((_, k) => {
    const [more, less] = [at(k, h), at(k, -h)]
    return more.map((value, row) => (value - less[row]!) / (2 * h))
  })
  const { rank, moves } = reduced(columns)
  const locked = freedoms.filter((_, k) => moves.every((move) => Math.abs(move[k]!) < still))
  return { free: freedoms.length - rank, locked, overHeld: 6 * closing - rank }
}

/** The rank of a matrix that is given by its columns, and what leaves it unmoved: Gauss–Jordan with full pivots. */
function reduced(columns: readonly (readonly number[])[]): {
  readonly rank: number
  readonly moves: readonly (readonly number[])[]
} {
  const count = columns.length
  const rows = Array.from({ length: columns[0]?.length ?? 0 }, (_, r) => columns.map((column) => column[r]!))
  const largest = Math.max(0, ...rows.flat().map(Math.abs))
  const pivots: number[] = []
  for (let done = 0; done < rows.length; done++) {
    let [row, column, size] = [done, -1, same * largest]
    for (let r = done; r < rows.length; r++)
      for (let c = 0; c < count; c++)
        if (!pivots.includes(c) && Math.abs(rows[r]![c]!) > size) [row, column, size] = [r, c, Math.abs(rows[r]![c]!)]
    if (column < 0) break
    ;[rows[done], rows[row]] = [rows[row]!, rows[done]!]
    const pivot = rows[done]!
    const scale = pivot[column]!
    for (let c = 0; c < count; c++) pivot[c] = pivot[c]! / scale
    for (const [r, other] of rows.entries()) {
      if (r === done) continue
      const factor = other[column]!
      for (let c = 0; c < count; c++) other[c] = other[c]! - factor * pivot[c]!
    }
    pivots.push(column)
  }
  const loose = Array.from({ length: count }, (_, c) => c).filter((c) => !pivots.includes(c))
  const moves = loose.map((c) => {
    const move = new Array<number>(count).fill(0)
    move[c] = 1
    for (const [r, column] of pivots.entries()) move[column] = -rows[r]![c]!
    return move
  })
  return { rank: pivots.length, moves }
}
