import { asCubics, endOf, norm2, PointsNear, plus, type Segment, startOf, times, type Vec2 } from '../plane/index.ts'
import { flattestArc, type Sketch } from './sketch.ts'

/** Points by place, so that ends that meet are one. */
export class Ends {
  readonly #near: PointsNear<string>
  readonly #sketch: Sketch

  /** `within`: ends nearer than this are one, mm */
  constructor(sketch: Sketch, within: number) {
    this.#sketch = sketch
    this.#near = new PointsNear(within)
  }

  /** The point at a place: the one that is known there, or a new one. */
  at(p: Vec2): string {
    const known = this.#near.near(p)
    if (known !== undefined) return known
    const id = this.#sketch.point({ at: p })
    this.know(p, id)
    return id
  }

  /** A point that is there already. */
  know(p: Vec2, id: string): void {
    this.#near.put(p, id)
  }
}

/** A true segment as curves of a drawing: lines, arcs, circles and ellipses as such, cubics as curves near their four points. Their ids. */
export function drawnSegment(sketch: Sketch, ends: Ends, s: Segment): string[] {
  const whole = s.kind !== 'line' && s.kind !== 'cubic' && Math.abs(Math.abs(s.sweepRad) - 2 * Math.PI) < 1e-9
  switch (s.kind) {
    case 'line': {
      const [a, b] = [ends.at(s.from), ends.at(s.to)]
      return a === b ? [] : [sketch.curve('line', [a, b])]
    }
    case 'arc': {
      if (whole) return [sketch.curve('circle', [ends.at(s.centre)], { size: s.radius })]
      const [a, b] = [ends.at(startOf(s)), ends.at(endOf(s))]
      if (a === b) return []
      if (s.radius > flattestArc) return [sketch.curve('line', [a, b])]
      return [sketch.curve('arc', [sketch.point({ at: s.centre }), ...(s.sweepRad > 0 ? [a, b] : [b, a])])]
    }
    case 'ellipse':
      if (whole)
        return [
          sketch.curve('ellipse', [ends.at(s.centre), sketch.point({ at: plus(s.centre, times(s.major, 1)) })], {
            size: norm2(s.minor),
          }),
        ]
      return asCubics(s).flatMap((each) => drawnSegment(sketch, ends, each))
    case 'cubic': {
      const [a, b, c, d] = s.points
      return [sketch.curve('near', [ends.at(a), sketch.point({ at: b }), sketch.point({ at: c }), ends.at(d)])]
    }
  }
}
