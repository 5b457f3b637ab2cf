import { type Compensation, compensated, type Stayed } from '../compensation/index.ts'
import type { Kernel, Solid } from '../kernel/index.ts'
import type { Plan } from '../planning/index.ts'
import type { Built, BuiltPiece } from './builder.ts'
import { copiesOf } from './copies.ts'
import { type FaceRef, namedSolid } from './named.ts'
import type { Posed } from './posed.ts'

/** A part as it is to be printed; `release` lets go of what was made for that, and is to be called once. */
export interface Printed extends Posed {
  /** what stays as it is drawn, by the ids of its pieces */
  readonly stayed: ReadonlyMap<string, readonly Stayed[]>
}

/**
 * The part with all made up for that its printer and material do; `only`: the pieces that leave, by their ids, all where none are told.
 * It lives as long as what it is made from.
 */
export function asPrinted(
  kernel: Kernel,
  built: Built,
  compensation: Compensation,
  only?: ReadonlySet<string>,
): Printed {
  const made: Solid[] = []
  const stayed = new Map<string, readonly Stayed[]>()
  const leaving = built.pieces.filter(({ piece }) => only?.has(piece.id) ?? true)
  const pieces = built.pieces.map((piece): BuiltPiece => {
    if (!piece.solid || !leaving.includes(piece)) return piece
    const { solid, stayed: own } = kernel.scope((scope) => {
      const result = compensated(scope, standingOf(piece, piece.solid!, leaving, built.plan), compensation)
      const isSame = result.solid === piece.solid
      return { ...result, solid: isSame ? result.solid : scope.handOver(result.solid) }
    })
    stayed.set(piece.piece.id, own)
    if (solid === piece.solid) return piece
    made.push(solid)
    // What bends out of the way in its joints does so on the print.
    return { ...piece, solid, key: `${piece.key} printed ${JSON.stringify(compensation)}` }
  })
  return {
    built: { ...built, pieces },
    stayed,
    release() {
      for (const solid of made.splice(0)) solid.release()
    },
  }
}

function standingOf(piece: BuiltPiece, solid: Solid, leaving: readonly BuiltPiece[], plan: Plan) {
  const named = namedSolid(solid, copiesOf(plan), piece.ownerOf)
  const keeps = named.faces.map((face) => isMating(face, plan))
  return {
    solid,
    named,
    keeps: (face: number) => keeps[face]!,
    others: leaving.flatMap((other) => (other !== piece && other.solid ? [other.solid] : [])),
  }
}

/** Whether a face has a gap of its own: a joint's has, and that of teeth and threads. */
function isMating({ owner, face }: FaceRef, plan: Plan): boolean {
  if (owner.kind === 'joint') return true
  const operand = plan.operands.get(owner.id)
  return operand?.body.kind === 'shape' && (operand.body.shape.mates?.test(face) ?? false)
}
