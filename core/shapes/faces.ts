import type { Ring } from '../kernel/index.ts'
import { levelSides, uprightSides } from '../place/index.ts'
import type { NamedFace } from './surfaces.ts'

/** A level face looking up at height `z`, with its middle on the z axis. */
export function topFace(z: number, width: number, depth: number, name = 'top'): NamedFace {
  return {
    name,
    frame: { origin: [0, 0, z], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] },
    size: [width, depth],
    sides: levelSides,
  }
}

/** A level face looking down at height `z`; seen from below, left and right change places. */
export function bottomFace(z: number, width: number, depth: number, name = 'bottom'): NamedFace {
  return {
    name,
    frame: { origin: [0, 0, z], u: [-1, 0, 0], v: [0, 1, 0], n: [0, 0, -1] },
    size: [width, depth],
    sides: { across: ['right', 'left'], along: ['front', 'back'] },
  }
}

/** The four upright sides of a block of this size about the z axis, from z = 0 up. */
export function sideFaces(width: number, depth: number, height: number): NamedFace[] {
  const z = height / 2
  return [
    {
      name: 'front',
      frame: { origin: [0, -depth / 2, z], u: [1, 0, 0], v: [0, 0, 1], n: [0, -1, 0] },
      size: [width, height],
      sides: uprightSides,
    },
    {
      name: 'back',
      frame: { origin: [0, depth / 2, z], u: [-1, 0, 0], v: [0, 0, 1], n: [0, 1, 0] },
      size: [width, height],
      sides: uprightSides,
    },
    {
      name: 'left',
      frame: { origin: [-width / 2, 0, z], u: [0, -1, 0], v: [0, 0, 1], n: [-1, 0, 0] },
      size: [depth, height],
      sides: { across: ['back', 'front'], along: uprightSides.along },
    },
    {
      name: 'right',
      frame: { origin: [width / 2, 0, z], u: [0, 1, 0], v: [0, 0, 1], n: [1, 0, 0] },
      size: [depth, height],
      sides: { across: ['front', 'back'], along: uprightSides.along },
    },
  ]
}

/** The upright faces over the edges of an outline, from z = 0 to `height`, numbered counter-clockwise from its first edge. */
export function edgeFaces(name: string, outline: Ring, height: number): NamedFace[] {
  return outline.map(([x, y], i) => {
    const [x2, y2] = outline[(i + 1) % outline.length]!
    const long = Math.hypot(x2 - x, y2 - y)
    const u = [(x2 - x) / long, (y2 - y) / long, 0] as const
    return {
      name: `${name} ${i + 1}`,
      frame: { origin: [(x + x2) / 2, (y + y2) / 2, height / 2], u, v: [0, 0, 1], n: [u[1], -u[0], 0] },
      size: [long, height],
      sides: uprightSides,
    }
  })
}

/**
 * The round face of a bar about the z axis between two heights, entered at its front; of a bore (negative radius) at its
 * back, which is what is seen when one looks into it from the front.
 */
export function roundFace(name: string, radius: number, low: number, high: number): NamedFace {
  return {
    name,
    frame: { origin: [0, -radius, (low + high) / 2], u: [1, 0, 0], v: [0, 0, 1], n: [0, -1, 0] },
    size: [2 * Math.PI * Math.abs(radius), high - low],
    sides: uprightSides,
    round: radius,
  }
}
