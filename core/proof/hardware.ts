import type { Edit } from '../document/index.ts'
import { findStep } from '../document/index.ts'
import { type Item, itemBodies, itemsOf, toolAcross } from '../hardware/index.ts'
import type { Scope, Solid } from '../kernel/index.ts'
import { pauseFor } from '../layers/index.ts'
import { compose, cross, dot, type Frame, norm, subtract } from '../place/index.ts'
import { itemsIn, type StandingItem } from '../planning/index.ts'
import { wallRound } from '../shapes/index.ts'
import { type Built, itemSolid, tubeBelow, wayIn } from '../solids/index.ts'
import { type Check, type Found, type FoundCure, findingOf, stepName } from './define.ts'
import { clause, mm, mm3 } from './phrase.ts'

/** What is found. */
const texts = {
  'hardware-goes-in': 'What is bought goes in: {count} in all, each with its way in free.',
  'hardware-clash': 'The {item} does not go into {where}: it meets {volume} of material there.',
  'hardware-blocked': 'The {item} cannot be put into {where}: material lies in its way.',
  'hardware-tool': 'No tool reaches the {item} in {where}: material lies above it.',
  'hardware-thin':
    'Round the {item} in {where} there are {wall} of wall; it needs {needed}, or it splits what holds it.',
  'hardware-short': 'The thread of the {item} bites {bites} in {where}; {needed} are wanted for it to hold.',
  'hardware-loose':
    'The {item} in {where} is told to go through {told} of material, and {there} are there: tell it how thick both are.',
  'hardware-each-other': 'The {item} in {where} runs into the {other} in {there}.',
  'hardware-proud':
    'The {item} in {where} stands {by} above the layers that are laid when the print pauses for it: the nozzle runs into it. Give it more room, or lower it.',
  'hardware-open': '{where} has no solid to look at: nothing is told of what goes into it.',
  'hardware-smaller': 'Take the {item}',
  'hardware-smaller-then': 'It needs {needed} of wall.',
  'hardware-cover': 'Put it in while the print pauses',
  'hardware-covered': 'It is closed in: no way is needed.',
  'hardware-longer': 'Let the slot end {out} from the axis',
  'hardware-longer-then': 'The slot reaches the outside.',
  'hardware-deeper-then': 'The thread bites over a hole {size} deep.',
} as const

/** Rounds are broken into flats so finely, mm. */
const fineness = 0.05
/** What goes in touches on all sides: it is taken to be smaller by so much, mm. */
const touches = 0.02
/** Material in the way that is less comes of flats, mm³. */
const slight = 0.01
/** What stands out by less is pressed down by the next layer, mm. */
const slightlyProud = 0.02
/** In plastic a thread is to bite over so many times its diameter: a rule of thumb. */
const bitesTimes = 1.5
/** Where less of the material that is told is there, as a share, it is told. */
const mostlyThere = 0.97
/** Items whose axes are nearer than this lie on one, mm; as a sine, and as a share of the way between. */
const oneAxis = 0.05

/** Whether what is bought goes into what was made for it, and can be got there. */
export const hardwareCheck: Check = {
  id: 'hardware',
  label: 'Hardware',
  meaning:
    'Screws, nuts, inserts, bearings, pins and magnets go in, tools reach them, and there is wall enough round them.',
  texts,
  scope: 'part',
  from: ({ sheet }) => sheet(),
  async run({ built, kernel, pause }): Promise<readonly Found[]> {
    // A ring that springs into its groove has no body to try.
    const items = itemsIn(built.resolved, built.plan).filter(({ item }) => itemBodies(item).length > 0)
    const found: Found[] = []
    let fine = 0
    for (const group of groupsOf(items)) {
      await pause()
      // Most often nothing is wrong with any of them: that is asked of all at once.
      if (kernel.scope((scope) => areAllFine(scope, built, group))) {
        fine += group.length
        continue
      }
      for (const [i, item] of group.entries()) {
        if (i % 16 === 15) await pause()
        const own = kernel.scope((scope) => foundOf(scope, built, item))
        found.push(...own)
        if (own.length === 0) fine++
      }
    }
    const met = kernel.scope((scope) => meeting(scope, built, items))
    found.push(...met)
    const all = onlyOnce(found)
    if (fine > 0 && fine === items.length && met.length === 0)
      all.push(findingOf('hardware', texts, [])('pass', 'hardware-goes-in', { count: fine }))
    return all
  },
}

/** Those that the same pieces hold. */
function groupsOf(items: readonly StandingItem[]): readonly (readonly StandingItem[])[] {
  const groups = new Map<string, StandingItem[]>()
  for (const item of items) {
    const key = item.pieces.join(' ')
    groups.set(key, [...(groups.get(key) ?? []), item])
  }
  return [...groups.values()]
}

/** Whether all that has to be free for these is, and all that has to be there. False says nothing yet of any one of them. */
function areAllFine(scope: Scope, built: Built, group: readonly StandingItem[]): boolean {
  const [clear, filled]: [Solid[], Solid[]] = [[], []]
  const [first, ...more] = solidsOf(built, group[0]!)
  // Several solids that hold one item may each have a part of what has to be there.
  if (!first || more.length > 0) return false
  for (const held of group) {
    const { solid, frame } = solidsOf(built, held)[0]!
    const { item, length, way, wall, through, bites } = held
    if (way === 'closed in' && pauseFor(held, frame, built.resolved.printer).proud > slightlyProud) return false
    if (bites && bites.to - bites.from < bitesTimes * item.sizes.thread!) return false
    const less = held.pressed + touches
    const body = itemSolid(scope, item, fineness, { length, less })
    const far = farOf(solid)
    const path =
      way !== 'closed in' && wayIn(scope, item, fineness, { far, less, tool: toolAcross(item), side: way === 'side' })
    for (const each of [body, path]) if (each) clear.push(scope.placed(each, frame))
    const tubes = [
      wall && wallTube(scope, item, wall),
      through && through.to > through.from && tubeRound(scope, through.across, through),
      bites && tubeRound(scope, item.sizes.thread!, bites),
    ]
    for (const tube of tubes) if (tube) filled.push(scope.placed(tube, frame))
  }
  const { solid } = first
  if (!(scope.intersection([scope.union(clear), solid]).volume() <= slight)) return false
  return filled.length === 0 || scope.difference(scope.union(filled), [solid]).volume() <= slight
}

/** What several copies of one step have to tell is told once, of the one where it is worst. */
function onlyOnce(found: readonly Found[]): Found[] {
  const worst = new Map<string, Found>()
  for (const each of found) {
    const key = `${each.code} ${JSON.stringify(each.about)}`
    const known = worst.get(key)
    if (!known || (each.by ?? 0) > (known.by ?? 0)) worst.set(key, each)
  }
  return [...worst.values()]
}

/** The solids of the pieces that hold an item, each with the frame of the item in it. */
function solidsOf(built: Built, { pieces, frame }: StandingItem): readonly { solid: Solid; frame: Frame }[] {
  return built.pieces.flatMap(({ of, holds, piece, solid }) => {
    const own = pieces.includes(of) || holds?.some(({ id }) => pieces.includes(id))
    const motion = built.motions?.get(piece.id) ?? built.motions?.get(of)
    return own && solid ? [{ solid, frame: motion ? compose(motion, frame) : frame }] : []
  })
}

function whereOf(built: Built, { of }: StandingItem): string {
  if (of.kind === 'step') return stepName(built.resolved, of.id)
  return built.resolved.joints.get(of.id)?.joint.name ?? 'a joint'
}

function foundOf(scope: Scope, built: Built, held: StandingItem): readonly Found[] {
  const { item, pressed, way, length, wall, bites } = held
  const where = whereOf(built, held)
  const finding = findingOf('hardware', texts, [held.of])
  const solids = solidsOf(built, held)
  if (solids.length === 0) return [finding('advice', 'hardware-open', { where })]
  const less = pressed + touches
  const meets = (body: Solid | undefined) => (body ? materialIn(scope, body, solids) : 0)
  const out: Found[] = []
  const clash = meets(itemSolid(scope, item, fineness, { length, less }))
  if (!(clash <= slight))
    out.push(finding('warning', 'hardware-clash', { item: item.label, where, volume: mm3(clash) }, { by: clash }))
  const far = Math.max(...solids.map(({ solid }) => farOf(solid)))
  if (way !== 'closed in') {
    const own = meets(wayIn(scope, item, fineness, { far, less, side: way === 'side' }))
    const tool = toolAcross(item)
    if (!(own <= slight))
      out.push(
        finding(
          'warning',
          'hardware-blocked',
          { item: item.label, where },
          { by: own, cures: waysIn(built, held, scope, solids, far, less) },
        ),
      )
    else if (tool && !(meets(wayIn(scope, item, fineness, { far, less, tool })) <= slight))
      out.push(finding('warning', 'hardware-tool', { item: item.label, where }))
  }
  if (way === 'closed in') {
    const { proud } = pauseFor(held, solids[0]!.frame, built.resolved.printer)
    if (!(proud <= slightlyProud))
      out.push(
        finding(
          'warning',
          'hardware-proud',
          { item: item.label, where, by: mm(Number(proud.toFixed(3))) },
          { ofPrinter: true, by: proud },
        ),
      )
  }
  if (wall) {
    const there = wallAbout(scope, solids, item, wall)
    if (!(there >= wall - 1e-3)) {
      const values = {
        item: item.label,
        where,
        wall: mm(Number(there.toFixed(2))),
        needed: mm(Number(wall.toFixed(2))),
      }
      out.push(finding('warning', 'hardware-thin', values, { by: wall - there, cures: smaller(built, held, there) }))
    }
  }
  if (held.through) {
    const { across, from, to } = held.through
    const there = materialAbout(scope, solids, across, { from, to })
    if (!(there >= (to - from) * mostlyThere))
      out.push(
        finding('warning', 'hardware-loose', {
          ...{ item: item.label, where },
          ...{ told: mm(Number((to - from).toFixed(2))), there: mm(Number(there.toFixed(2))) },
        }),
      )
  }
  if (bites) {
    const thread = item.sizes.thread!
    const bitten = materialAbout(scope, solids, thread, bites)
    const needed = bitesTimes * thread
    if (!(bitten >= needed - 0.05)) {
      const depth = depthOf(built, held)
      out.push(
        finding(
          'warning',
          'hardware-short',
          { item: item.label, where, bites: mm(Number(bitten.toFixed(2))), needed: mm(Number(needed.toFixed(2))) },
          {
            by: needed - bitten,
            ...(depth !== undefined && {
              resize: {
                from: depth,
                to: Math.ceil(10 * (depth + needed - bitten)) / 10,
                after: clause(texts, 'hardware-deeper-then', {
                  size: mm(Math.ceil(10 * (depth + needed - bitten)) / 10),
                }),
              },
            }),
          },
        ),
      )
    }
  }
  return out
}

/** Beyond all of a solid, mm. */
function farOf(solid: Solid): number {
  const box = solid.bounds()
  return box ? 1 + norm(subtract(box.max, box.min)) : 1
}

/** How much material of these solids lies in a body, mm³. */
function materialIn(scope: Scope, body: Solid, solids: ReturnType<typeof solidsOf>): number {
  return solids.reduce(
    (sum, { solid, frame }) => sum + scope.intersection([scope.placed(body, frame), solid]).volume(),
    0,
  )
}

/** The wall round an item, below the lead-in of its hole. */
function wallTube(scope: Scope, item: Item, wall: number): Solid {
  const { outside, hole, height } = item.sizes as { outside: number; hole: number; height: number }
  return tubeBelow(scope, outside / 2 + 0.02, outside / 2 + 0.02 + wall, (outside - hole) / 2 + 0.05, height)
}

/** What stands right round a hole: a little beyond it, so that the hole itself does not count. */
function tubeRound(scope: Scope, across: number, { from, to }: { readonly from: number; readonly to: number }): Solid {
  return tubeBelow(scope, across / 2 + 0.02, across / 2 + 0.2, from, to)
}

/** How thick the wall round an item is where it is thinnest, up to what it needs, mm: to a hundredth of that. */
function wallAbout(scope: Scope, solids: ReturnType<typeof solidsOf>, item: Item, needed: number): number {
  const missing = (wall: number) => {
    const tube = wallTube(scope, item, wall)
    return tube.volume() - materialIn(scope, tube, solids)
  }
  const isThere = (wall: number) => missing(wall) <= slight
  if (isThere(needed)) return needed
  let [low, high] = [0, needed]
  for (let i = 0; i < 7; i++) {
    const half = (low + high) / 2
    if (isThere(half)) low = half
    else high = half
  }
  return low
}

/** Over which length there is material right round a hole, mm. */
function materialAbout(
  scope: Scope,
  solids: ReturnType<typeof solidsOf>,
  across: number,
  { from, to }: { readonly from: number; readonly to: number },
): number {
  if (!(to > from)) return 0
  const tube = tubeRound(scope, across, { from, to })
  return ((to - from) * materialIn(scope, tube, solids)) / tube.volume()
}

/** How deep its hole goes, where that is told by a size of its step. */
function depthOf(built: Built, { of }: StandingItem): number | undefined {
  const values = of.kind === 'step' ? built.resolved.steps.get(of.id)?.values : undefined
  return values && values.reach === 'blind' && typeof values.depth === 'number' ? values.depth : undefined
}

/** A smaller item of its kind that has wall enough, the largest first. */
function smaller(built: Built, { of, item }: StandingItem, wall: number): readonly FoundCure[] {
  const own = stepFieldOf(built, of)
  if (!own) return []
  const fitting = itemsOf(item.family)
    .filter(({ sizes }) => sizes.outside! < item.sizes.outside!)
    .filter((each) => wallRound(each) <= wall + (item.sizes.outside! - each.sizes.outside!) / 2)
    .at(-1)
  if (!fitting) return []
  const edits: readonly Edit[] = [{ type: 'set-field', id: own.step, field: 'item', text: fitting.id }]
  return [
    {
      label: clause(texts, 'hardware-smaller', { item: fitting.label }),
      edits,
      before: clause(texts, 'hardware-smaller', { item: item.label }),
      after: clause(texts, 'hardware-smaller-then', { needed: mm(Number(wallRound(fitting).toFixed(2))) }),
    },
  ]
}

/** What would make a way: a longer slot, or no way at all where it can be put in while the print pauses. */
function waysIn(
  built: Built,
  held: StandingItem,
  scope: Scope,
  solids: ReturnType<typeof solidsOf>,
  far: number,
  less: number,
): readonly FoundCure[] {
  const own = stepFieldOf(built, held.of)
  if (!own) return []
  const { fields } = own
  const set = (field: string, text: string): Edit => ({ type: 'set-field', id: own.step, field, text })
  const before = clause(texts, 'hardware-blocked', {
    item: held.item.label,
    where: whereOf(built, held),
  })
  if (held.way === 'side' && 'out' in fields) {
    const body = wayIn(scope, held.item, fineness, { far, less, side: true })!
    // How far out the last of what is in the way lies.
    const last = Math.max(
      ...solids.map(({ solid, frame }) => {
        const met = scope.intersection([scope.placed(body, frame), solid]).mesh()
        let most = 0
        for (let i = 0; i < met.positions.length; i += 3) {
          const p = [met.positions[i]!, met.positions[i + 1]!, met.positions[i + 2]!] as const
          most = Math.max(most, dot(subtract(p, frame.origin), frame.u))
        }
        return most
      }),
    )
    const out = Math.ceil(last) + 1
    return [
      {
        label: clause(texts, 'hardware-longer', { out: mm(out) }),
        edits: [set('out', `${out} mm`)],
        before,
        after: clause(texts, 'hardware-longer-then', {}),
      },
    ]
  }
  const closing = closes(built, own.step)
  return closing
    ? [
        {
          label: clause(texts, 'hardware-cover', {}),
          edits: [set(closing, 'closed')],
          before,
          after: clause(texts, 'hardware-covered', {}),
        },
      ]
    : []
}

/** The field by which a pocket is closed over what lies in it; undefined where it cannot be, or has nothing above it. */
function closes(built: Built, step: string): string | undefined {
  const { shape, values } = built.resolved.steps.get(step) ?? {}
  if (!shape || !values || !(Number(values.sunk) > 0)) return undefined
  return Object.entries(shape.fields).find(([, field]) => field.kind === 'choice' && 'closed' in field.choices)?.[0]
}

function stepFieldOf(built: Built, of: StandingItem['of']) {
  const found = of.kind === 'step' ? findStep(built.resolved.part, of.id)?.step : undefined
  return found && 'fields' in found ? { step: of.id, fields: found.fields } : undefined
}

/** Items that run into each other, but for those on one axis, as a screw and its nut. */
function meeting(scope: Scope, built: Built, items: readonly StandingItem[]): readonly Found[] {
  const placed = items.map((held) => {
    const solid = itemSolid(scope, held.item, 0.1, { length: held.length, less: held.pressed + touches })
    const body = solid && scope.placed(solid, held.frame)
    return { held, body, box: body?.bounds() }
  })
  const found: Found[] = []
  for (const [i, one] of placed.entries())
    for (const two of placed.slice(i + 1)) {
      if (!one.box || !two.box || isOneAxis(one.held.frame, two.held.frame)) continue
      if (![0, 1, 2].every((k) => one.box!.min[k]! < two.box!.max[k]! && two.box!.min[k]! < one.box!.max[k]!)) continue
      const volume = scope.intersection([one.body!, two.body!]).volume()
      if (volume <= slight) continue
      const values = {
        ...{ item: one.held.item.label, where: whereOf(built, one.held) },
        ...{ other: two.held.item.label, there: whereOf(built, two.held) },
      }
      found.push(
        findingOf('hardware', texts, [one.held.of, two.held.of])('warning', 'hardware-each-other', values, {
          by: volume,
        }),
      )
    }
  return found
}

function isOneAxis(a: Frame, b: Frame): boolean {
  if (norm(cross(a.n, b.n)) > oneAxis) return false
  const between = subtract(b.origin, a.origin)
  return norm(cross(between, a.n)) < oneAxis + oneAxis * Math.abs(dot(between, a.n))
}
