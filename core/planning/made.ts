import {
  allSteps,
  type FieldTexts,
  hasBody,
  type Part,
  type Place,
  referencesOf,
  type Seat,
} from '../document/index.ts'
import { type FaceName, type Fields, planeText } from '../fields/index.ts'
import { treatmentOf } from '../operations/index.ts'
import { dot, moved, type SupportFunction, scaled, world } from '../place/index.ts'
import type { NamedFace } from '../shapes/index.ts'
import { bedSeating, type StepGeometry } from './geometry.ts'

/**
 * The flat faces that treatments made, by their step, in the bed's frame. They are found on the solid as each of them left it:
 * the plan alone does not know what becomes of an edge, or of the inside of a hollow.
 */
export type MadeFaces = Readonly<Record<string, readonly NamedFace[]>>

/** The treatments of whose faces something is told: a seat, a plane, a read-out. */
export function treatmentsStoodOn(part: Part): ReadonlySet<string> {
  const known = stoodOn.get(part)
  if (known) return known
  const steps = allSteps(part)
  const treatments = new Set(steps.filter((step) => !hasBody(step)).map(({ id }) => id))
  const found = new Set<string>()
  if (treatments.size > 0) {
    const note = (id: string) => treatments.has(id) && found.add(id)
    const seat = (on: Seat) => on.kind === 'face' && note(on.step)
    const place = (of: Place) => referencesOf(of).forEach(note)
    for (const step of steps)
      if (hasBody(step)) place(step.place)
      else for (const id of planeSteps(treatmentOf(step.operation)?.fields ?? {}, step.fields)) note(id)
    for (const { on } of part.outlines) seat(on)
    for (const joint of part.joints) place(joint.place)
    for (const { of } of part.readouts) for (const { step } of of) note(step)
  }
  stoodOn.set(part, found)
  return found
}
const stoodOn = new WeakMap<Part, ReadonlySet<string>>()

function planeSteps(fields: Fields, texts: FieldTexts): string[] {
  return Object.entries(fields).flatMap(([field, { kind, default: standard }]) => {
    const { of } = planeText(kind === 'plane' ? (texts[field] ?? standard) : 'x, 0')
    return 'face' in of ? [of.face.step] : []
  })
}

/** What a treatment stands as: nowhere itself, with faces that stand in the bed's frame. */
export function madeGeometry(faces: readonly NamedFace[]): StepGeometry {
  const known = geometries.get(faces)
  if (known) return known
  const reach: SupportFunction = (d) =>
    Math.max(
      0,
      ...faces.map(({ frame: { origin, u, v }, size: [w, h] }) => {
        return dot(origin, d) + (Math.abs(dot(u, d)) * w + Math.abs(dot(v, d)) * h) / 2
      }),
    )
  const along = (d: readonly [number, number, number]) => [-reach(scaled(d, -1)), reach(d)] as const
  const made: StepGeometry = {
    seating: bedSeating,
    frame: world,
    stands: world,
    faces,
    frames: [world],
    made: [world],
    extent: [along([1, 0, 0]), along([0, 1, 0])],
    reach,
    place: { across: nowhere, along: nowhere, rest: 'on', lift: 0, turn: 0, tilt: 0, lean: 0 },
  }
  geometries.set(faces, made)
  return made
}
const geometries = new WeakMap<readonly NamedFace[], StepGeometry>()
const nowhere = { from: 'centre', to: 'own', by: 0 } as const

/** A step some of whose faces a later one has moved along their normals, by so many mm outwards. */
export function shiftedGeometry(geometry: StepGeometry, names: readonly FaceName[], by: number): StepGeometry {
  const key = JSON.stringify([names, by])
  const known = shifted.get(geometry)
  if (known?.key === key) return known.geometry
  const isNamed = ({ name }: NamedFace) => names.some(({ face }) => face === undefined || face === name)
  const faces = geometry.faces.map((face): NamedFace => {
    if (!isNamed(face)) return face
    const { frame, round } = face
    const out = { ...face, frame: moved(frame, scaled(frame.n, by)) }
    // A bore has a negative radius: what goes outward in it makes it narrower.
    return round === undefined ? out : { ...out, round: round + by }
  })
  const next = { ...geometry, faces }
  shifted.set(geometry, { key, geometry: next })
  return next
}
const shifted = new WeakMap<StepGeometry, { readonly key: string; readonly geometry: StepGeometry }>()
