import { type AnyValues, type Fields, isNumberField } from '../fields/index.ts'
import type { Solid } from '../kernel/index.ts'
import { add, cross, norm, scaled, subtract, type Vec3 } from '../place/index.ts'
import { among } from './parts.ts'

/** Values of kinds that nobody chose, and how far each of them can go. */

interface Kind {
  readonly fields: Fields
  impossible?(values: never): { readonly field: string; readonly detail: string } | undefined
}

const isPossible = ({ impossible }: Kind, values: AnyValues) => impossible?.(values as never) === undefined

/** Each length a fifth smaller or larger at most, all else as it is; such as can be. Undefined where twenty tries find none. */
export function nearly(kind: Kind, values: AnyValues, random: () => number, chosen: AnyValues = {}) {
  for (let tries = 0; tries < 20; tries++) {
    const tried = Object.fromEntries(
      Object.entries({ ...values, ...chosen }).map(([name, value]): [string, AnyValues[string]] => {
        const isSize = kind.fields[name]!.kind === 'length' && typeof value === 'number' && !(name in chosen)
        return [name, isSize ? Number((value * (0.8 + 0.4 * random())).toFixed(3)) : value]
      }),
    )
    if (isPossible(kind, tried)) return tried
  }
  return undefined
}

/** Values over all choices, some of them far from what can be. */
export function wildly({ fields }: Kind, values: AnyValues, random: () => number): AnyValues {
  const all = Object.entries(values).map(([name, value]) => {
    const field = fields[name]!
    if (typeof value === 'number' && field.kind !== 'count')
      return [name, Number((value * 3 * random() ** 2).toFixed(3))]
    return [name, field.kind === 'choice' ? among(random, ...Object.keys(field.choices)) : value]
  })
  return Object.fromEntries(all)
}

/** Of each length and angle alone: the least and the most that can be with all else as it is, within four times what it is. */
export function endsOf(kind: Kind, values: AnyValues): Readonly<Record<string, readonly [number, number]>> {
  const sizes = Object.entries(kind.fields).filter(
    ([name, field]) => isNumberField(field) && field.kind !== 'count' && typeof values[name] === 'number',
  )
  return Object.fromEntries(
    sizes.map(([name]) => {
      const now = values[name] as number
      const can = (x: number) => isPossible(kind, { ...values, [name]: x })
      const far = 4 * Math.abs(now) + 1
      return [name, [lastOf(can, now, now - far), lastOf(can, now, now + far)]]
    }),
  )
}

/** The last number from one towards another that can be, where the first one can. */
function lastOf(can: (x: number) => boolean, from: number, to: number): number {
  if (can(to)) return to
  let [good, bad] = [from, to]
  for (let k = 0; k < 45; k++) {
    const middle = (good + bad) / 2
    if (can(middle)) good = middle
    else bad = middle
  }
  return Number(good.toFixed(9))
}

/** What of a solid's surface has which name, mm², in the order of the names. */
export function areasByName(solid: Solid, at: (point: Vec3, normal: Vec3) => string): readonly (string | number)[] {
  const { triangles } = solid.mesh()
  const positions = solid.corners()
  const areas = new Map<string, number>()
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k): Vec3 => {
      const v = 3 * triangles[t + k]!
      return [positions[v]!, positions[v + 1]!, positions[v + 2]!]
    }) as [Vec3, Vec3, Vec3]
    const across = cross(subtract(b, a), subtract(c, a))
    const size = norm(across)
    if (size < 1e-6) continue
    const name = at(scaled(add(a, add(b, c)), 1 / 3), scaled(across, 1 / size))
    areas.set(name, (areas.get(name) ?? 0) + size / 2)
  }
  return [...areas].sort(([a], [b]) => (a < b ? -1 : 1)).flat()
}
