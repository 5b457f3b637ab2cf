import { boxOfSegment, type Chain, type Drawn, nearestOn, type Segment, type Vec2 } from '../../plane/index.ts'

/** All stretches of an outline, with the curve that each was drawn as. */
export function stretchesOf(
  outline: Drawn,
): { readonly segment: Segment; readonly curve: string; readonly chain: Chain }[] {
  return [...outline.loops, ...outline.open].flatMap((chain) =>
    chain.segments.map((segment, i) => ({ segment, curve: chain.curves[i]!, chain })),
  )
}

/** Distances that differ by less are the same, mm. */
const alike = 1e-9

/** The stretches of an outline by the cells of the plane that they pass: what lies nearest is found without looking at all. */
class NearestStretch {
  readonly #cells = new Map<string, { readonly segment: Segment; readonly curve: string; readonly order: number }[]>()
  readonly #size: number
  /** rings of cells that are looked through; farther off, all stretches are */
  readonly #most: number

  constructor(outline: Drawn) {
    const all = stretchesOf(outline)
    const boxes = all.map(({ segment }) => boxOfSegment(segment))
    const extent = (i: 0 | 1) =>
      Math.max(...boxes.map(({ max }) => max[i])) - Math.min(...boxes.map(({ min }) => min[i]))
    const wide = all.length === 0 ? 1 : Math.max(extent(0), extent(1), 1e-6)
    // About as many cells across as there are stretches round the outline.
    const across = Math.min(512, Math.max(1, Math.ceil(Math.sqrt(all.length) * 2)))
    this.#size = wide / across
    this.#most = across + 2
    all.forEach(({ segment, curve }, order) => {
      const { min, max } = boxes[order]!
      const [x0, y0, x1, y1] = [...min, ...max].map((c) => Math.floor(c / this.#size)) as [
        number,
        number,
        number,
        number,
      ]
      for (let x = x0; x <= x1; x++)
        for (let y = y0; y <= y1; y++) {
          const key = `${x} ${y}`
          const cell = this.#cells.get(key)
          if (cell) cell.push({ segment, curve, order })
          else this.#cells.set(key, [{ segment, curve, order }])
        }
    })
  }

  curveAt(p: Vec2): string | undefined {
    const [cx, cy] = [Math.floor(p[0] / this.#size), Math.floor(p[1] / this.#size)]
    let best: { readonly curve: string; readonly distance: number; readonly order: number } | undefined
    for (let ring = 0; ring <= this.#most; ring++) {
      // What lies in a ring farther out is at least this far away.
      if (best && best.distance + alike <= (ring - 1) * this.#size) return best.curve
      for (let x = cx - ring; x <= cx + ring; x++)
        for (let y = cy - ring; y <= cy + ring; y += x === cx - ring || x === cx + ring ? 1 : Math.max(1, 2 * ring))
          for (const { segment, curve, order } of this.#cells.get(`${x} ${y}`) ?? []) {
            const { distance } = nearestOn(segment, p)
            // Of two that meet there, the one that is drawn first.
            const nearer = best ? best.distance - distance : Infinity
            if (nearer > alike || (nearer > -alike && order < best!.order)) best = { curve, distance, order }
          }
    }
    return this.#amongAll(p)
  }

  /** Of a point far off all cells: as far off it is hardly ever asked for. */
  #amongAll(p: Vec2): string | undefined {
    let best: { readonly curve: string; readonly distance: number } | undefined
    for (const cell of this.#cells.values())
      for (const { segment, curve } of cell) {
        const { distance } = nearestOn(segment, p)
        if (!best || distance < best.distance) best = { curve, distance }
      }
    return best?.curve
  }
}

const known = new WeakMap<Drawn, NearestStretch>()

/** The curve that lies nearest to a point of the plane. */
export function curveAt(outline: Drawn, p: Vec2): string | undefined {
  let index = known.get(outline)
  if (!index) {
    index = new NearestStretch(outline)
    known.set(outline, index)
  }
  return index.curveAt(p)
}
