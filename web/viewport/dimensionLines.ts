import { type BodyStep, type Edit, findBody, findStep, hasBody, type Offset, type Part } from '@makrel/core/document'
import { type FieldDefinition, isNumberField, type PlaneValue, planeText, planeTextOf } from '@makrel/core/fields'
import type { FitPair } from '@makrel/core/fits'
import type { ValueKind } from '@makrel/core/measures'
import {
  add,
  type Box,
  compose,
  corners,
  cross,
  directionIn,
  directionOut,
  dot,
  type Frame,
  norm,
  pointIn,
  pointOut,
  type Range,
  type Seating,
  scaled,
  shifted,
  subtract,
  unit,
  type Vec3,
  world,
} from '@makrel/core/place'
import type { Plan, ResolvedPart, ResolvedStep, StepGeometry } from '@makrel/core/planning'
import { tried } from '@makrel/core/problems'
import type { DimensionLine } from '@makrel/core/shapes'
import type { RenderMesh } from '@makrel/core/solids'
import { relationText, relationWay } from '../make/words.ts'
import type { Selection } from '../state/part.ts'

/** Where a typed dimension goes. */
export type DimensionTarget =
  | { readonly kind: 'field'; readonly id: string; readonly field: string }
  /** how far off a plane lies that a field names */
  | { readonly kind: 'plane'; readonly id: string; readonly field: string }
  | { readonly kind: 'offset'; readonly id: string; readonly axis: 'across' | 'along' }
  | { readonly kind: 'lift'; readonly id: string }

/** A dimension in the bed's frame, ready to be projected. */
export interface DrawnDimension {
  readonly key: string
  readonly label: string
  readonly form: 'linear' | 'diameter' | 'radius' | 'leader'
  readonly from: Vec3
  readonly to: Vec3
  /** unit direction in which the line stands off from the measured points */
  readonly away: Vec3
  /** mm to go that way before the line stands off, to be clear of what it measures on */
  readonly clear?: number
  readonly valueKind: ValueKind
  readonly takes?: FitPair | undefined
  /** text as typed, or the value itself (mm) where it only reads */
  readonly text?: string
  readonly value: number
  /** whether it may be less than nothing, which is the other way: and nothing at all, or not that */
  readonly signed?: 'or-nothing' | 'but-nothing'
  /** unit, the way its end goes where it is nothing */
  readonly way?: Vec3
  readonly target?: DimensionTarget
}

/** What typing a dimension changes. */
export function dimensionEdit(part: Part, target: DimensionTarget, text: string): Edit | undefined {
  const { id } = target
  switch (target.kind) {
    case 'field':
      return { type: 'set-field', id, field: target.field, text }
    case 'plane': {
      const { of } = planeText(findStep(part, id)?.step.fields[target.field] ?? '')
      return { type: 'set-field', id, field: target.field, text: planeTextOf({ of, at: text }) }
    }
    case 'lift':
      return { type: 'set-place', id, change: { lift: text } }
    case 'offset': {
      const offset = findBody(part, id)?.place[target.axis]
      const by = offset?.of === undefined ? text : relationText(relationWay(offset), text)
      return { type: 'set-offset', id, axis: target.axis, change: { by } }
    }
  }
}

/** The overall size of the part, on the sides that face the eye. */
export function overallDimensions(box: Box, eye: Vec3): DrawnDimension[] {
  const [low, high] = [box.min, box.max]
  const middle = (i: 0 | 1) => (low[i] + high[i]) / 2
  const x = eye[0] > middle(0) ? high[0] : low[0]
  const y = eye[1] > middle(1) ? high[1] : low[1]
  const outX: Vec3 = [x === high[0] ? 1 : -1, 0, 0]
  const outY: Vec3 = [0, y === high[1] ? 1 : -1, 0]
  // The height stands at the end of the near side that is away from the depth.
  const heightX = x === high[0] ? low[0] : high[0]
  const base = { form: 'linear', valueKind: 'length' } as const
  return [
    {
      ...base,
      key: 'width',
      label: 'Overall width',
      from: [low[0], y, low[2]],
      to: [high[0], y, low[2]],
      away: outY,
      value: high[0] - low[0],
    },
    {
      ...base,
      key: 'depth',
      label: 'Overall depth',
      from: [x, low[1], low[2]],
      to: [x, high[1], low[2]],
      away: outX,
      value: high[1] - low[1],
    },
    {
      ...base,
      key: 'height',
      label: 'Overall height',
      from: [heightX, y, low[2]],
      to: [heightX, y, high[2]],
      away: scaled(outX, -1),
      value: high[2] - low[2],
    },
  ]
}

/** The dimensions of the selected step or joint: its own sizes, and the distances that place it; `box`: what they stand beside. */
export function selectedDimensions(
  part: Part,
  resolved: ResolvedPart,
  plan: Plan,
  selection: Selection,
  box?: Box,
): DrawnDimension[] {
  if (selection.kind === 'joint') return jointDimensions(resolved, selection.id)
  const found = findStep(part, selection.id)
  const worked = resolved.steps.get(selection.id)
  if (worked?.treatment) return [...movedDimensions(worked, plan), ...planeDimensions(worked, plan, box)]
  const geometry = plan.geometry.get(selection.id)
  if (!found || !worked?.shape || !worked.values || !worked.place || !geometry) return []
  const { step } = found
  if (!hasBody(step)) return []
  const { shape, values } = worked
  const own = drawable(() => shape.dimensions(values)).map((dimension) =>
    shapeDimension(
      dimension,
      geometry.frame,
      step.id,
      shape.fields[dimension.field]!,
      step.fields[dimension.field] ?? '',
      values[dimension.field] as number,
    ),
  )
  const places = (['across', 'along'] as const).flatMap((axis) => {
    const offset = step.place[axis]
    const { by, range } = geometry.place[axis]
    if (by === 0) return []
    return [placeDimension(step.id, axis, offset, by, range, geometry.seating, geometry.frame)]
  })
  const { lift } = worked.place
  const lifted: DrawnDimension[] =
    lift === 0
      ? []
      : [
          {
            key: `${step.id}.lift`,
            label: 'Lift',
            form: 'linear',
            // A drop line down to what it was lifted off.
            from: add(geometry.frame.origin, scaled(geometry.seating.frame.n, -lift)),
            to: geometry.frame.origin,
            away: geometry.seating.frame.u,
            valueKind: 'length',
            text: step.place.lift,
            value: lift,
            target: { kind: 'lift', id: step.id },
          },
        ]
  const dropped = lifted.length > 0 && step.place.on.kind === 'bed' && !step.place.level ? [] : dropLine(step, geometry)
  return [...own, ...places, ...lifted, ...dropped]
}

/** How far a treatment has moved a face, from where it was to where it is now. */
function movedDimensions({ step, treatment, values }: ResolvedStep, plan: Plan): DrawnDimension[] {
  const moves = values && treatment?.moves?.(values)
  const field = treatment?.leader?.field
  const [name] = moves?.faces ?? []
  const geometry = name && plan.geometry.get(name.step)
  const face = geometry?.faces.find((each) => each.name === name?.face)
  if (!moves || !field || !geometry || !face || moves.by === 0) return []
  const { origin, n, u } = compose(geometry.frame, face.frame)
  return [
    {
      key: `${step.id}.${field}`,
      label: treatment.fields[field]!.label,
      form: 'linear',
      from: add(origin, scaled(n, -moves.by)),
      to: origin,
      away: u,
      clear: face.size[0] / 2,
      valueKind: 'length',
      text: step.fields[field] ?? '',
      value: moves.by,
      signed: 'but-nothing',
      target: { kind: 'field', id: step.id, field },
    },
  ]
}

/** How far the planes lie off that a treatment's fields name: from the middle of the bed, or from a face. */
function planeDimensions(
  { step, treatment, values }: ResolvedStep,
  plan: Plan,
  box: Box | undefined,
): DrawnDimension[] {
  const planes = plan.planes.get(step.id)
  if (!planes || !treatment || !values) return []
  return Object.entries(planes).map(([field, { origin, u, n }]) => {
    const { at } = values[field] as PlaneValue
    const away = scaled(u, -1)
    // Beside the part, where it hides nothing.
    const farthest = box ? Math.max(...corners(box).map((corner) => dot(subtract(corner, origin), away))) : 0
    const to = add(origin, scaled(away, Math.max(0, farthest)))
    return {
      key: `${step.id}.${field}`,
      label: treatment.fields[field]!.label,
      form: 'linear',
      from: add(to, scaled(n, -at)),
      to,
      away,
      valueKind: 'length',
      text: planeText(step.fields[field] ?? '').at,
      value: at,
      signed: 'or-nothing',
      way: n,
      target: { kind: 'plane', id: step.id, field },
    }
  })
}

/** The size of a treatment, at a leader to that of its faces which looks at the eye most; undefined where none is to be seen. */
export function leaderDimension(
  resolved: ResolvedPart,
  id: string,
  meshes: readonly RenderMesh[],
  eye: Vec3,
): DrawnDimension | undefined {
  const worked = resolved.steps.get(id)
  const leader = worked?.treatment?.leader
  const place = leader && facingPlace(meshes, id, eye)
  if (!worked?.treatment || !worked.values || !place || !leader) return undefined
  const { at, normal } = place
  const value = worked.values[leader.field] as number
  return {
    key: `${id}.${leader.field}`,
    label: worked.treatment.fields[leader.field]!.label,
    form: leader.form,
    from: add(at, scaled(normal, leader.form === 'radius' ? -value : -0.01)),
    to: at,
    away: normal,
    valueKind: 'length',
    text: worked.step.fields[leader.field] ?? '',
    value,
    target: { kind: 'field', id, field: leader.field },
  }
}

/** A place on the surface, and what it is worth to be pointed at there. */
interface Spot {
  readonly at: Vec3
  readonly normal: Vec3
  readonly size: number
}
const spots = new WeakMap<RenderMesh, { readonly id: string; readonly all: readonly Spot[] }>()

/** The middles of a step's triangles; those of the step asked for last are kept. */
function spotsOf(mesh: RenderMesh, id: string): readonly Spot[] {
  const known = spots.get(mesh)
  if (known?.id === id) return known.all
  const { positions, faceOf, faces } = mesh
  const own = faces.map(({ owner }) => owner.kind === 'step' && owner.id === id)
  const all: Spot[] = []
  faceOf.forEach((face, t) => {
    if (!own[face]) return
    const corner = (k: number): Vec3 => [positions[9 * t + k]!, positions[9 * t + k + 1]!, positions[9 * t + k + 2]!]
    const [a, b, c] = [corner(0), corner(3), corner(6)]
    const twice = cross(subtract(b, a), subtract(c, a))
    const size = norm(twice)
    if (size > 0)
      all.push({ at: scaled(add(add(a, b), c), 1 / 3), normal: scaled(twice, 1 / size), size: Math.sqrt(size) })
  })
  spots.set(mesh, { id, all })
  return all
}

/** The place of a step's faces that looks at the eye most, for how large it is there; undefined where none does. */
function facingPlace(meshes: readonly RenderMesh[], id: string, eye: Vec3): Spot | undefined {
  let best: { readonly spot: Spot; readonly worth: number } | undefined
  for (const mesh of meshes)
    for (const spot of spotsOf(mesh, id)) {
      const worth = dot(spot.normal, unit(subtract(eye, spot.at))) * spot.size
      if (worth > (best?.worth ?? 0)) best = { spot, worth }
    }
  return best?.spot
}

/** What floats over the bed shows how high, so that it is not overlooked. */
function dropLine({ id, place }: BodyStep, { frame, reach, seating }: StepGeometry): DrawnDimension[] {
  const stands =
    place.on.kind === 'face' && seating.size.some((mm) => mm > 0) && !place.level && place.lift.trim() === '0'
  const height = frame.origin[2] - reach(directionIn(frame, [0, 0, -1]))
  if (stands || height < 1e-3) return []
  const [x, y] = frame.origin
  return [
    {
      key: `${id}.drop`,
      label: 'Height over the bed',
      form: 'linear',
      from: [x, y, 0],
      to: [x, y, height],
      away: [-1, 0, 0],
      valueKind: 'length',
      value: height,
    },
  ]
}

/** The dimensions that a definition gives, but for those that lie nowhere; none where it cannot tell any. */
function drawable(give: () => readonly DimensionLine[]): readonly DimensionLine[] {
  const finite = (line: DimensionLine) =>
    Object.values(line)
      .flat()
      .every((value) => typeof value !== 'number' || Number.isFinite(value))
  return (tried(give) ?? []).filter(finite)
}

function jointDimensions(resolved: ResolvedPart, id: string): DrawnDimension[] {
  const worked = resolved.joints.get(id)
  if (!worked?.definition || !worked.values || !worked.place) return []
  const { across, along, lift } = worked.place
  const at = { ...world, origin: [across.by, along.by, lift] as Vec3 }
  return drawable(() => worked.definition!.dimensions(worked.values!)).map((dimension) =>
    shapeDimension(
      dimension,
      at,
      id,
      worked.definition!.fields[dimension.field]!,
      worked.joint.fields[dimension.field] ?? '',
      worked.values![dimension.field] as number,
    ),
  )
}

function shapeDimension(
  dimension: DimensionLine,
  at: Frame,
  id: string,
  field: FieldDefinition,
  text: string,
  value: number,
): DrawnDimension {
  const base = {
    key: `${id}.${dimension.field}`,
    label: field.label,
    valueKind: isNumberField(field) ? field.kind : 'length',
    takes: isNumberField(field) ? field.takes : undefined,
    text,
    value,
    target: { kind: 'field', id, field: dimension.field } as const,
  }
  if (dimension.kind === 'linear')
    return {
      ...base,
      form: 'linear',
      from: pointOut(at, dimension.from),
      to: pointOut(at, dimension.to),
      away: directionOut(at, dimension.offset),
    }
  const { centre, direction, radius } = dimension
  return {
    ...base,
    form: dimension.kind,
    from: pointOut(at, dimension.kind === 'radius' ? centre : add(centre, scaled(direction, -radius))),
    to: pointOut(at, add(centre, scaled(direction, radius))),
    away: directionOut(at, direction),
  }
}

/** From the side of the seat that is measured from, to the shape's point, along the seat. */
function placeDimension(
  id: string,
  axis: 'across' | 'along',
  offset: Offset,
  value: number,
  range: Range | undefined,
  seating: Seating,
  at: Frame,
): DrawnDimension {
  const i = axis === 'across' ? 0 : 1
  const j = 1 - i
  const local = pointIn(seating.frame, at.origin)
  const [low, high] = range ?? [-seating.size[i]! / 2, seating.size[i]! / 2]
  const mark = { low, centre: (low + high) / 2, axis: (low + high) / 2, high }[offset.from]
  const end = offset.from === 'high' ? mark - value : mark + value
  // On a round seat, distances across go round it: the line joins points of the surface.
  const flat = (u: number): Vec3 => {
    const [across, along] = i === 0 ? [u, local[1]] : [local[0], u]
    return pointOut(shifted(seating, seating.round && i === 1 ? 0 : across), [0, along, 0])
  }
  // The line stands beside the seat, past its nearer edge: extension lines run there from the shape. A round seat is as wide as
  // it looks, not as it is all round.
  const half = j === 0 && seating.round !== undefined ? Math.abs(seating.round) : seating.size[j]! / 2
  const away = local[j]! > 0 ? 1 : -1
  const awayLocal: [number, number, number] = [0, 0, 0]
  awayLocal[j] = away
  return {
    key: `${id}.${axis}`,
    label: axis === 'across' ? 'Distance across' : 'Distance along',
    form: 'linear',
    from: flat(mark),
    to: flat(end),
    away: directionOut(seating.frame, awayLocal),
    clear: Math.max(0, half - away * local[j]!),
    valueKind: 'length',
    // As the sheet says it: what stands beside another step is so far away.
    text: offset.of === undefined ? offset.by : relationText(relationWay(offset), offset.by),
    value: offset.of !== undefined && relationWay(offset).startsWith('beside-') ? -value : value,
    target: { kind: 'offset', id, axis },
  }
}
