import type { ConstraintDefinition, Ref } from './constraints/define.ts'
import { constraints } from './constraints/registry.ts'
import type { SolvedOutline } from './solved.ts'
import { joinedPoints, pointsOnRounds, refsOf, takesThese } from './system.ts'

/** A way in which things can be held. Several of them may take several constraints of that kind: what each is put on. */
export interface Hold {
  readonly definition: ConstraintDefinition
  readonly each: readonly (readonly string[])[]
}

interface Named {
  readonly id: string
  readonly ref: Ref
}

const rank = { point: 0, line: 1, round: 2, bent: 3 } as const

/** Every way in which these points, curves and axes, by their ids, can be held or measured. */
export function holdsFor({ system, solution }: SolvedOutline, ids: readonly string[]): Hold[] {
  const find = refsOf(system)
  const things = ids.flatMap((id): Named[] => {
    const ref = find(id)
    return ref ? [{ id, ref }] : []
  })
  if (things.length === 0 || things.length !== ids.length) return []
  // Points before lines before rounds; otherwise in the order they were chosen in.
  const sorted = things.sort((a, b) => rank[a.ref.kind] - rank[b.ref.kind])
  // Some hold only where the things meet already.
  const context = { start: solution.x, same: joinedPoints(system), liesOn: pointsOnRounds(system, find), value: 1 }
  const holds = (definition: ConstraintDefinition, group: readonly Named[]) =>
    definition.equation(refs(group), context) !== undefined
  return constraints.flatMap((definition: ConstraintDefinition): Hold[] => {
    const groups = groupsOf(definition, sorted, solution.x)
    if (!groups?.every((group) => holds(definition, group))) return []
    return [{ definition, each: groups.map((group) => group.map(({ id }) => id)) }]
  })
}

const refs = (group: readonly Named[]) => group.map(({ ref }) => ref)

/** How things are told apart into groups that the constraint can be put on; undefined where they cannot be. */
function groupsOf(
  definition: ConstraintDefinition,
  things: readonly Named[],
  x: Float64Array,
): readonly (readonly Named[])[] | undefined {
  const takes = (group: readonly Named[]) => takesThese(definition, refs(group))
  if (takes(things)) return [things]
  if (things.length < 2) return undefined
  if (things.every((thing) => takes([thing]))) return things.map((thing) => [thing])
  // A dimension between two things has one value; of several pairs none is the one that is meant.
  if (definition.value || things.length < 3) return undefined
  const spread = definition.spread?.(refs(things), x)?.map((group) => group.map((i) => things[i]!))
  if (spread) return spread.every(takes) ? spread : undefined
  for (const shared of sharedBy(definition, things)) {
    const pairs = things
      .filter((thing) => thing !== shared)
      .map((thing) => [shared, thing].sort((a, b) => rank[a.ref.kind] - rank[b.ref.kind]))
    if (pairs.every(takes)) return pairs
  }
  return undefined
}

/** What all the others may be held to: the only one of its kind, or else the first of things that are alike. */
function sharedBy({ shared }: ConstraintDefinition, things: readonly Named[]): readonly Named[] {
  const alone = things.filter(({ ref }) => things.filter((other) => other.ref.kind === ref.kind).length === 1)
  const alike = things.every(({ ref }) => ref.kind === things[0]!.ref.kind)
  return [...alone, ...(alike ? [things[0]!] : [])].filter(({ ref }) => !shared || ref.kind === shared)
}
