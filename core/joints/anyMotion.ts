import { compose, turnedX, turnedY, turnedZ, type Vec3, world } from '../place/index.ts'
import { plainSurfaces, surfacesOf } from '../shapes/index.ts'
import { defineJoint } from './define.ts'

/** A piece that may be put anywhere: nothing is added, and nothing holds it. For poses, and to see what is in the way. */
export const anyMotion = defineJoint({
  kind: 'any-motion',
  label: 'free piece',
  words: ['loose piece', 'moving piece'],
  icon: 'M16 2 V22 M5 12 H27 M8 6 L24 18 M16 2 L13.5 5 M16 2 L18.5 5 M27 12 L24 9.5 M27 12 L24 14.5',
  comesApart: () => true,
  fields: {
    far: {
      kind: 'length',
      label: 'Moves by',
      default: '100',
      above: 0,
      most: 2000,
      meaning: 'How far it may be moved each way.',
    },
  },
  sentence: () => ['free piece', ', moved by up to', { field: 'far' }, 'each way and turned at will'],
  box: () => ({ min: [0, 0, 0], max: [0, 0, 0] }),
  dimensions: () => [],
  surfaces: () => surfacesOf(plainSurfaces('side')),
  solids: () => ({ cuts: [[], []], adds: [[], []] }),
  freedoms: ({ far }) => [
    ...(['moving right', 'moving back', 'moving up'] as const).map(
      (label) => ({ label, unit: 'mm', from: -far, to: far, atRest: 0, told: { to: 'far' } }) as const,
    ),
    ...(['tilting back', 'leaning right', 'turning'] as const).map(
      (label) => ({ label, unit: 'degrees', from: -180, to: 180, atRest: 0 }) as const,
    ),
  ],
  /** Turned about the joint's own place, about x, y and then z, and then moved. */
  motion(_, [x = 0, y = 0, z = 0, tilt = 0, lean = 0, turn = 0]) {
    const turned = compose(turnedZ(turn), compose(turnedY(lean), turnedX(tilt)))
    return compose({ ...world, origin: [x, y, z] as Vec3 }, turned)
  },
})
