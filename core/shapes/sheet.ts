import type { Ring } from '../kernel/index.ts'
import { type Drawn, line } from '../plane/index.ts'

/** What of its plane something flat fills, and how thick it is, mm. */
export interface Sheet {
  readonly region: Pick<Drawn, 'loops' | 'area'>
  readonly thickness: number
}

/** Of rings: outer ones counter-clockwise, holes clockwise; each is one curve, "outside" and then "inside 1" and on. */
export function sheetOfRings(rings: readonly Ring[], thickness: number): Sheet {
  const loops = rings.map((ring, i) => {
    const name = i === 0 ? 'outside' : `inside ${i}`
    const segments = ring.flatMap((p, k) => {
      const q = ring[(k + 1) % ring.length]!
      return Math.hypot(q[0] - p[0], q[1] - p[1]) > 1e-9 ? [line([p[0], p[1]], [q[0], q[1]])] : []
    })
    return { segments, curves: segments.map(() => name), closed: true }
  })
  const area = rings.reduce(
    (sum, ring) =>
      ring.reduce((all, [x, y], k) => {
        const [nextX, nextY] = ring[(k + 1) % ring.length]!
        return all + (x * nextY - nextX * y) / 2
      }, sum),
    0,
  )
  return { region: { loops, area: () => area }, thickness }
}
