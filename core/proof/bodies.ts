import type { BuiltPiece } from '../build/index.ts'
import type { SolidMesh } from '../kernel/index.ts'
import { componentsOf } from '../mesh/index.ts'
import type { Check, Finding } from './define.ts'

/** Whether a piece is one body, as it must be to print as one; what does not touch the rest comes first. */
export const bodiesCheck: Check = {
  id: 'bodies',
  label: 'One solid',
  meaning: 'Each piece is one connected solid.',
  run: ({ pieces }) =>
    pieces.flatMap(({ built, figures }): Finding[] => {
      if (!figures) return []
      const about = { kind: 'piece', id: built.piece.id } as const
      const { name } = built.piece
      if (figures.solids === 1)
        return [{ check: 'bodies', rank: 'pass', text: `${name} is one solid.`, about: [about] }]
      const text = `${name} falls into ${figures.solids} separate solids; join them, or make pieces of them.`
      const apart = stepsApart(built).map((id) => ({ kind: 'step', id }) as const)
      return [{ check: 'bodies', rank: 'fault', text, about: [...apart, about] }]
    }),
}

/** The steps that have surfaces on other bodies than the largest one, and none on that. */
function stepsApart({ solid, ownerOf }: BuiltPiece): string[] {
  if (!solid) return []
  const { positions, triangles, runs } = solid.mesh()
  const bodyOf = componentsOf(triangles, positions.length / 3)
  const boxes = boxVolumes(solid.mesh(), bodyOf)
  const [largest] = [...boxes].sort((one, other) => other[1] - one[1])[0]!
  const main = new Set<string>()
  const others = new Set<string>()
  for (const { original, from, to } of runs) {
    const owner = ownerOf(original)
    if (!owner || owner.kind === 'joint') continue
    for (let t = from; t < to; t++) (bodyOf[t] === largest ? main : others).add(owner.id)
  }
  return [...others].filter((id) => !main.has(id))
}

/** Of the box of each body, mm³: a small knob may have more triangles than the plate that it should stand on. */
function boxVolumes({ positions, triangles }: SolidMesh, bodyOf: Uint32Array): ReadonlyMap<number, number> {
  const boxes = new Map<number, { low: number[]; high: number[] }>()
  triangles.forEach((v, corner) => {
    const body = bodyOf[Math.floor(corner / 3)]!
    const box = boxes.get(body) ?? { low: [Infinity, Infinity, Infinity], high: [-Infinity, -Infinity, -Infinity] }
    boxes.set(body, box)
    for (let i = 0; i < 3; i++) {
      box.low[i] = Math.min(box.low[i]!, positions[3 * v + i]!)
      box.high[i] = Math.max(box.high[i]!, positions[3 * v + i]!)
    }
  })
  return new Map(
    [...boxes].map(([body, { low, high }]) => [body, low.reduce((product, x, i) => product * (high[i]! - x), 1)]),
  )
}
