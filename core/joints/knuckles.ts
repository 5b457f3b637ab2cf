import { circumradius, type Ring, type Scope, type Solid, segmentsFor } from '../kernel/index.ts'
import type { Freedom } from '../mechanism/index.ts'
import { type Box, type Frame, turnedAbout, type Vec3 } from '../place/index.ts'
import { hullOf } from '../plane/index.ts'
import { type DimensionLine, plainSurfaces, surfacesOf } from '../shapes/index.ts'
import { boreRing, isRoof, roofAt } from './bores.ts'
import type { JointContext, JointSolids } from './define.ts'
import { bored, hasClicks, type Leaves, ridgeHalf, ridgeTip, rooms } from './knuckleFaults.ts'
import type { Knuckles } from './knuckleFields.ts'

/** What a hinge is, of knuckles that alternate along its pin, one gap apart. */
export const knuckled = {
  comesApart: ({ made = 'printed' }: Readonly<Record<string, string>>) => made !== 'printed',
  box: (v: Leaves): Box => ({ min: [-v.knuckle / 2, -v.length / 2, 0], max: [v.knuckle / 2, v.length / 2, v.knuckle] }),
  dimensions: (v: Leaves): DimensionLine[] => {
    const [r, y] = [v.knuckle / 2, v.length / 2]
    return [
      { kind: 'linear', field: 'length', from: [r, -y, r], to: [r, y, r], offset: [1, 0, 0] },
      { kind: 'linear', field: 'knuckle', from: [r, -y, 0], to: [r, -y, v.knuckle], offset: [0, -1, 0] },
    ]
  },
  surfaces: (v: Leaves) => {
    const radii = { knuckle: v.knuckle / 2, pin: v.pin / 2, bore: v.pin / 2 + v.gap, room: v.knuckle / 2 + v.gap }
    return surfacesOf(plainSurfaces('arm', 'knuckle end', ...Object.keys(radii)), {
      at([x, , z], n) {
        if (Math.abs(n[1]) > 0.999) return 'knuckle end'
        const up = z - v.knuckle / 2
        const r = Math.hypot(x, up)
        // What looks away from the axis, or to it, is the round that lies nearest; all else is flat.
        const away = x * n[0] + up * n[2]
        if (r > radii.bore && rooms(v).some((room) => isRoof(bored(v), room, -away))) return 'bore'
        if (Math.abs(away) < 0.999 * r) return 'arm'
        const [name, radius] = Object.entries(radii).reduce((best, each) =>
          Math.abs(each[1] - r) < Math.abs(best[1] - r) ? each : best,
        )
        return Math.abs(radius - r) < 0.1 * radius ? name : 'arm'
      },
    })
  },
  freedoms: (v: Leaves): Freedom[] => [
    { label: 'folding', unit: 'degrees', from: 0, to: v.travel, atRest: 0, told: { to: 'travel' } },
  ],
  motion: (v: Leaves, [folded = 0]: readonly number[]): Frame => turnedAbout([0, 0, v.knuckle / 2], [0, -1, 0], folded),
  solids(v: Knuckles, { scope, fineness, up }: JointContext): JointSolids {
    const width = knuckleWidth(v)
    const start = (i: number) => -v.length / 2 + i * (width + v.gap)
    const owner = (i: number): 0 | 1 => (i % 2 === 0 ? 0 : 1)
    const cuts: [Solid[], Solid[]] = [[], []]
    const adds: [Solid[], Solid[]] = [[], []]
    for (let i = 0; i < v.count; i++) {
      const mine = owner(i)
      const body = scope.union([
        round(scope, v, v.knuckle / 2, start(i), width, fineness, false),
        arm(scope, v, mine, start(i), width),
        ...(mine === 1 && v.stop === 'end' ? [across(scope, v, [heel(v)], start(i), width)] : []),
      ])
      const bore = mine === 1 ? v.gap : v.made === 'separate' ? v.seat : undefined
      const [low, long] = [start(i) - 1, width + 2]
      const room = bore === undefined ? [] : [across(scope, v, [boreRing(bored(v), bore, up, fineness)], low, long)]
      if (mine === 1) {
        if (v.made === 'snapped') room.push(across(scope, v, [mouth(v)], low, long))
        if (hasClicks(v)) room.push(across(scope, v, grooves(v, scope, up), low, long))
      }
      adds[mine].push(room.length === 0 ? body : scope.difference(body, room))
      // The other leaf keeps a gap round this knuckle and beside it; a leaf that ends at the gap loses nothing.
      cuts[mine === 0 ? 1 : 0].push(
        round(scope, v, v.knuckle / 2 + v.gap, start(i) - v.gap, width + 2 * v.gap, fineness, true),
      )
    }
    if (v.made !== 'separate') adds[0].push(round(scope, v, v.pin / 2, -v.length / 2, v.length, fineness, false))
    if (hasClicks(v)) adds[0].push(across(scope, v, [folded(ridge(v), ridgeAt(v, up))], -v.length / 2, v.length))
    // What the heels come to lie on, all along, so that it is one with the arms.
    if (v.stop === 'end') adds[0].push(across(scope, v, [ledge(v)], -v.length / 2, v.length))
    return { cuts, adds: [[scope.union(adds[0])], [scope.union(adds[1])]] }
  },
}

/** What the knuckles bend out of the way of: the ridge on the pin. */
export function knuckleBends(v: Knuckles, { scope, fineness, up }: JointContext) {
  if (!hasClicks(v)) return [[], []] as const
  const half = ridgeHalf(v) + 0.05
  const top = v.pin / 2 + v.gap + v.ridge + 0.05
  const held: Ring = [
    [-half, 0],
    [half, 0],
    [half, top],
    [-half, top],
  ]
  const [from, long] = [-v.length / 2, v.length]
  const pin = round(scope, v, v.pin / 2, from, long, fineness, false)
  return [[scope.difference(across(scope, v, [folded(held, ridgeAt(v, up))], from, long), [pin])], []] as const
}

/** Of each knuckle along the pin. */
export function knuckleWidth(v: Knuckles): number {
  return (v.length - (v.count - 1) * v.gap) / v.count
}

/** A round about the axis from y = `from`; circumscribed where it makes room. */
function round(
  scope: Scope,
  v: Knuckles,
  radius: number,
  from: number,
  length: number,
  fineness: number,
  room: boolean,
): Solid {
  const segments = segmentsFor(radius, fineness, room)
  const bar = scope.cylinder(
    length,
    room ? circumradius(radius, segments) : radius,
    room ? circumradius(radius, segments) : radius,
    segments,
  )
  return scope.placed(bar, { origin: [0, from, v.knuckle / 2], u: [0, 0, 1], v: [1, 0, 0], n: [0, 1, 0] })
}

/** From the axis into its leaf, 1 mm past the leaf's edge so that they are one. */
function arm(scope: Scope, v: Knuckles, owner: 0 | 1, from: number, width: number): Solid {
  const far = v.knuckle / 2 + v.gap + 1
  const [x0, x1] = owner === 0 ? [-far, 0] : [0, far]
  const ring = [
    [x0, from],
    [x1, from],
    [x1, from + width],
    [x0, from + width],
  ] as const
  return scope.extrude([ring], v.leaf)
}

/** Along the axis from y on, of sections in x and the height above the axis. */
function across(scope: Scope, v: Leaves, rings: readonly Ring[], from: number, width: number): Solid {
  return scope.placed(scope.extrude(rings, width), {
    ...{ origin: [0, from + width, v.knuckle / 2], u: [1, 0, 0], v: [0, 0, 1], n: [0, -1, 0] },
  } as const)
}

/** A section turned about the axis, from x upward. */
function folded(ring: Ring, degrees: number): Ring {
  const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)]
  return ring.map(([x, z]) => [x * c - z * s, x * s + z * c] as const)
}

/** How far the heels go beyond where the leaf of the first piece begins. */
const heelReach = (v: Leaves) => v.knuckle / 2 + v.gap + Math.max(2, v.leaf)

/**
 * A heel of the second piece, as it is printed: at the end of its travel it lies on the leaf of the first, the gap above it. One that
 * leans as it is printed has the arm below it filled up.
 */
function heel(v: Knuckles): Ring {
  const low = v.leaf + v.gap - v.knuckle / 2
  const block: Ring = [
    [-heelReach(v), low],
    [0, low],
    [0, low + v.leaf],
    [-heelReach(v), low + v.leaf],
  ]
  const standing = folded(block, -v.travel)
  if (v.travel <= 135) return standing
  const arm: Ring = [
    [0, -v.knuckle / 2],
    [v.knuckle / 2 + v.gap + 1, -v.knuckle / 2],
    [v.knuckle / 2 + v.gap + 1, v.leaf - v.knuckle / 2],
  ]
  return hullOf([...standing, ...arm])
}

/** On the first piece, below the heels. */
function ledge(v: Knuckles): Ring {
  const [x, z] = [v.knuckle / 2 + v.gap, -v.knuckle / 2]
  return [
    [-heelReach(v), z],
    [-x, z],
    [-x, z + v.leaf],
    [-heelReach(v), z + v.leaf],
  ]
}

/** The way by which the pin goes in: to where the first piece is. */
function mouth(v: Knuckles): Ring {
  const far = v.knuckle + v.leaf
  return [
    [-far, -v.mouth / 2],
    [0, -v.mouth / 2],
    [0, v.mouth / 2],
    [-far, v.mouth / 2],
  ]
}

/**
 * How far the ridge stands turned from straight away from the face of the hinge, degrees. It goes round beside the roofs of the bores,
 * where it would meet nothing: that leaves three quarters of them.
 */
function ridgeAt(v: Leaves, up: Vec3): number {
  const roof = roofAt(v, up)
  return roof === undefined ? 0 : roof - 180
}

/** Along the pin, drawn as on top of it. */
function ridge(v: Knuckles): Ring {
  const [half, foot] = [ridgeHalf(v), 0.8 * (v.pin / 2)]
  return [
    [-half, foot],
    [half, foot],
    [half, v.pin / 2],
    [ridgeTip / 2, v.pin / 2 + v.gap + v.ridge],
    [-ridgeTip / 2, v.pin / 2 + v.gap + v.ridge],
    [-half, v.pin / 2],
  ]
}

/** In the second piece, where the ridge lies as it is printed and after each click. */
function grooves(v: Knuckles, scope: Scope, up: Vec3): Ring[] {
  const [groove] = scope.inset([ridge(v)], -v.gap)
  return Array.from({ length: 1 + Math.floor(v.travel / v.clicks + 1e-9) }, (_, i) =>
    folded(groove!, ridgeAt(v, up) - i * v.clicks),
  )
}
