import { hasBody } from '../document/index.ts'
import type { Item } from '../hardware/index.ts'
import { compose, type Frame, unit, world } from '../place/index.ts'
import { tried } from '../problems/index.ts'
import type { HeldItem } from '../shapes/index.ts'
import { scaledMotion } from './bundles.ts'
import type { Operand } from './operand.ts'
import type { Plan } from './plan.ts'
import type { ResolvedPart } from './resolve.ts'

/** An item where it stands, as the part is drawn. */
export interface StandingItem extends HeldItem {
  /** the step or joint that it is for */
  readonly of: { readonly kind: 'step' | 'joint'; readonly id: string }
  /** the pieces that hold it */
  readonly pieces: readonly string[]
}

/** Every item that a part takes, as many times as it does: of all copies of its steps, and of its joints. Muted steps take none. */
export function itemsIn(resolved: ResolvedPart, plan: Plan): readonly StandingItem[] {
  const out: StandingItem[] = []
  const note = (piece: string, operands: readonly Operand[], motion: Frame) => {
    for (const operand of operands) {
      if (operand.kind !== 'body' || !hasBody(operand.step)) continue
      const { step, body, copies, through } = operand
      for (const { frame, values } of copies) {
        const stands = compose(motion, frame)
        if (body.kind === 'bundle') {
          note(piece, body.operands, scaledMotion(stands, body))
          continue
        }
        const held = operand.operation.material === 'less' ? tried(() => body.shape.held?.(values, through)) : undefined
        if (held)
          out.push({
            ...held,
            frame: evened(compose(stands, held.frame)),
            of: { kind: 'step', id: step.id },
            pieces: [piece],
          })
      }
    }
  }
  for (const { piece, operands } of plan.pieces) note(piece.id, operands, world)
  for (const { joint, definition, values } of resolved.joints.values()) {
    const frame = plan.joints.get(joint.id)?.frame
    if (!definition?.held || !values || !frame) continue
    for (const held of tried(() => definition.held!(values)) ?? [])
      out.push({
        ...held,
        frame: compose(frame, held.frame),
        of: { kind: 'joint', id: joint.id },
        pieces: held.side === undefined ? joint.pieces : [joint.pieces[held.side]],
      })
  }
  return out
}

/** What is bought keeps its size, whatever a bundle is scaled by. */
function evened({ origin, u, v, n }: Frame): Frame {
  return { origin, u: unit(u), v: unit(v), n: unit(n) }
}

/** What has to be bought of one item: how many, and of which length where it comes in several; mm. */
export interface Bought {
  readonly item: Item
  readonly length: number | undefined
  readonly count: number
}

/** What a part takes, by item and length, in the order in which it is first needed. */
export function toBuy(items: readonly StandingItem[]): readonly Bought[] {
  const found = new Map<string, Bought>()
  for (const { item, bought: length } of items) {
    const key = `${item.id} ${length ?? ''}`
    found.set(key, { item, length, count: (found.get(key)?.count ?? 0) + 1 })
  }
  return [...found.values()]
}
