import { levelSides, uprightSides } from '../place/index.ts'
import type { NamedFace } from './define.ts'

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
