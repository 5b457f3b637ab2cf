import { defineJoint } from '../joints/define.ts'
import { circumradius, segmentsFor } from '../kernel/index.ts'
import { turnedAbout } from '../place/index.ts'
import { plainSurfaces, surfacesOf } from '../shapes/index.ts'

/** A pin ⌀ 4 on the second piece that slides and turns in a pocket ⌀ 6, 3 deep, of the first. */
export const slidingPin = defineJoint({
  kind: 'sliding-pin',
  label: 'sliding pin',
  words: [],
  icon: '',
  fields: {},
  sentence: () => ['sliding pin'],
  box: () => ({ min: [-3, -3, 0], max: [3, 3, 8] }),
  dimensions: () => [],
  surfaces: (_, side) =>
    surfacesOf(plainSurfaces('bore', 'floor', 'pin'), {
      at: (_point, n) => (side === 1 ? 'pin' : Math.abs(n[2]) > 0.9 ? 'floor' : 'bore'),
    }),
  freedoms: () => [
    { label: 'sliding', unit: 'mm', from: 0, to: 2, atRest: 0 },
    { label: 'turning', unit: 'degrees', from: -180, to: 180, atRest: 0 },
  ],
  motion: (_, [up = 0, angle = 0]) => ({ ...turnedAbout([0, 0, 0], [0, 0, 1], angle), origin: [0, 0, up] }),
  solids(_, { scope, fineness }) {
    const at = (z: number) => ({ origin: [0, 0, z], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] }) as const
    const segments = segmentsFor(3, fineness, true)
    const wide = circumradius(3, segments)
    const pocket = scope.placed(scope.cylinder(3.005, wide, wide, segments), at(-3))
    const pin = scope.placed(scope.cylinder(12, 2, 2, segmentsFor(2, fineness)), at(-2))
    return { cuts: [[pocket], []], adds: [[], [pin]] }
  },
})
