import type { Ring, Scope, Solid } from '../../kernel/index.ts'
import { extruded } from '../prismatic.ts'
import { type Surfaces, surfacesOf } from '../surfaces.ts'

/**
 * What three layers leave open over the mouth of a hole that is printed upside down: in the first one a strip as wide as the hole, whose
 * sides run straight from edge to edge; in the second one a square of that width, whose other sides lie on the strip's; in the third an
 * octagon, on whose rim that of the hole lies. `mouth`: half of what is open below, along x and y; `across`: diameter of the hole; mm.
 */
export function bridgedOver(
  scope: Scope,
  { mouth: [x, y], outline }: { readonly mouth: readonly [number, number]; readonly outline: Ring },
  { across, depth, layer }: { readonly across: number; readonly depth: number; readonly layer: number },
): readonly Solid[] {
  const half = across / 2
  const body = (ring: Ring, low: number, high: number) => extruded(scope, { low, high, rings: () => [ring] })
  const box = (a: number, b: number): Ring => [
    [-a, -b],
    [a, -b],
    [a, b],
    [-a, b],
  ]
  const strip = scope.intersection([
    body(outline, -depth - layer, -depth),
    body(box(x + 1, Math.min(half, y)), -depth - layer, -depth),
  ])
  const corner = half * (Math.SQRT2 - 1)
  const octagon = [0, 90, 180, 270].flatMap((turn) => {
    const [c, s] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)]
    return [-corner, corner].map((y) => [c * half - s * y, s * half + c * y] as const)
  })
  return [strip, body(box(half, half), -depth - 2 * layer, -depth), body(octagon, -depth - 3 * layer, -depth)]
}

/** With what is open between its layers as a surface of its own: nothing of that is round, but for the hole's own wall. */
export function withBridge(
  { all, at }: Surfaces,
  { across, depth, layer }: { readonly across: number; readonly depth: number; readonly layer: number },
): Surfaces {
  return surfacesOf([...all, { name: 'bridge' }], {
    within: true,
    at(p, normal) {
      const isThere = p[2] < -depth - hardly && p[2] > -depth - 3 * layer - hardly
      const far = Math.hypot(p[0], p[1])
      const isWall =
        Math.abs(normal[2]) < 0.5 &&
        Math.abs(far - across / 2) < 0.05 &&
        Math.abs(p[0] * normal[1] - p[1] * normal[0]) < 0.02 * far
      return isThere && !isWall ? 'bridge' : at(p, normal)
    },
  })
}
const hardly = 1e-3
