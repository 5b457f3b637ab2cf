import type { HeldFrame, Piece, Seat, Step } from '../document/index.ts'
import {
  type Box,
  boxOf,
  boxOut,
  composed,
  copies,
  corners,
  cross,
  dot,
  type Frame,
  frame,
  joined,
  levelSides,
  type PlaceValues,
  placed,
  type Reach,
  type Seating,
  subtract,
  type Vec3,
  world,
} from '../place/index.ts'
import { type Problem, problem } from '../problems/index.ts'
import { type AnyValues, boxReach, type NamedFace, type ShapeDefinition } from '../shapes/index.ts'
import type { ResolvedPart, ResolvedStep } from './resolve.ts'

/** A step ready to be built: its shape and the frames of all its copies, in the bed's frame. */
export interface Operand {
  readonly step: Step
  readonly shape: ShapeDefinition
  readonly values: AnyValues
  /** depth that clears everything in the way, for through holes, mm */
  readonly through: number
  /** ends of a cut that lie in a face of the body and must be carried past it, so that no skin stays there */
  readonly flush: { readonly top: boolean; readonly bottom: boolean }
  /** how far a hole's mouth is carried past the face it enters, mm */
  readonly overlap: number
  readonly frames: readonly Frame[]
  readonly box: Box
}

export interface PlannedPiece {
  readonly piece: Piece
  /** in the order of the sheet, without muted steps; the first one adds */
  readonly operands: readonly Operand[]
}

/** Where a step stands, for drawing its dimensions and for what stands on it. */
export interface StepGeometry {
  readonly seating: Seating
  /** of the first copy, in the bed's frame */
  readonly frame: Frame
  readonly faces: readonly NamedFace[]
}

export interface Plan {
  readonly pieces: readonly PlannedPiece[]
  readonly geometry: ReadonlyMap<string, StepGeometry>
  readonly operands: ReadonlyMap<string, Operand>
  readonly problems: readonly Problem[]
}

export const bedSeating: Seating = { frame: world, size: [0, 0], sides: levelSides }

/** Places every step, in the order of the sheet, and gathers effects into runs. */
export function planPart(resolved: ResolvedPart): Plan {
  const work = new Planning(resolved)
  const pieces = resolved.part.pieces.map((piece) => work.piece(piece))
  return { pieces, geometry: work.geometry, operands: work.operands, problems: work.problems }
}

class Planning {
  readonly geometry = new Map<string, StepGeometry>()
  readonly operands = new Map<string, Operand>()
  readonly problems: Problem[] = []
  private readonly resolved: ResolvedPart

  constructor(resolved: ResolvedPart) {
    this.resolved = resolved
  }

  piece(piece: Piece): PlannedPiece {
    const operands: Operand[] = []
    let material: Box | undefined
    for (const step of piece.steps) {
      const operand = this.step(this.resolved.steps.get(step.id)!, material)
      if (!operand || step.mute) continue
      if (step.effect === 'add') material = joined(material, operand.box)
      else if (operands.length === 0) {
        this.problems.push(problem('starts-with-nothing', ['steps', step.id], {}, { rank: 'warning' }))
        continue
      }
      operands.push(operand)
    }
    return { piece, operands }
  }

  private step({ step, shape, values, place, repeats }: ResolvedStep, material: Box | undefined): Operand | undefined {
    const seating = this.seating(step.place.on, ['steps', step.id, 'place', 'on'])
    if (!shape || !values || !place || !repeats || !seating) return undefined
    const first = placed(seating, place, reachOf(shape, values), shape.seat === 'stands')
    this.geometry.set(step.id, { seating, frame: first, faces: shape.faces(values as never) })
    const frames = copies(first, seating.frame, repeats)
    const through = material ? depthThrough(frames, material) : 1
    const box = boxOf(frames.flatMap((f) => corners(boxOut(f, shape.box(values as never, through)))))!
    this.adviseOnSize(step, shape, values, seating)
    const flush = this.flushEnds(step, shape, values, place, material)
    const overlap = overlapFor(shape.box(values as never, 0), place.tilt)
    const operand: Operand = { step, shape, values, through, flush, overlap, frames, box }
    this.operands.set(step.id, operand)
    return operand
  }

  /** A cut that is as deep as the body is thick ends in its far face. */
  private flushEnds(
    step: Step,
    shape: ShapeDefinition,
    values: AnyValues,
    place: PlaceValues,
    material: Box | undefined,
  ) {
    const level = step.effect === 'cut' && place.lift === 0 && place.tilt === 0
    const into = shape.seat === 'enters' || place.rest === 'in'
    if (!level || !into || !material) return { top: false, bottom: false }
    const { min, max } = shape.box(values as never, 0)
    const thick = this.thicknessBelow(step.place.on, material)
    const bottom = thick.some((mm) => Math.abs(mm - (max[2] - min[2])) < 1e-6)
    return { top: shape.seat === 'stands', bottom }
  }

  /** How far the material goes below a seat: of the step that has the face, and of all of the piece. */
  private thicknessBelow(on: Seat, material: Box): number[] {
    if (on.kind !== 'face') return []
    const below = this.geometry.get(on.step)
    const owner = this.resolved.steps.get(on.step)
    const face = below?.faces.find(({ name }) => name === on.face)
    if (!below || !owner?.shape || !owner.values || !face) return []
    const down: Vec3 = [-face.frame.n[0], -face.frame.n[1], -face.frame.n[2]]
    const own = reachOf(owner.shape, owner.values)(down) + dot(face.frame.origin, face.frame.n)
    return [own, depthBelow(composed(below.frame, face.frame), material)]
  }

  private seating(on: Seat, path: readonly string[]): Seating | undefined {
    if (on.kind === 'bed') return bedSeating
    if (on.kind === 'held') {
      this.problems.push(problem('reference-missing', path, {}, { rank: 'warning' }))
      return heldSeating(on.frame)
    }
    const below = this.geometry.get(on.step)
    if (!below) {
      const known = this.resolved.steps.get(on.step)
      const code = !known ? 'reference-missing' : known.values ? 'reference-later' : 'reference-broken'
      this.problems.push(problem(code, path))
      return undefined
    }
    const face = below.faces.find((candidate) => candidate.name === on.face)
    if (!face) {
      this.problems.push(problem('face-missing', path, { face: on.face, step: 'that step' }))
      return undefined
    }
    return { frame: composed(below.frame, face.frame), size: face.size, sides: face.sides }
  }

  /** A hole wider than the face it enters is built, but hardly meant. */
  private adviseOnSize(step: Step, shape: ShapeDefinition, values: AnyValues, seating: Seating): void {
    if (shape.seat !== 'enters' || step.place.on.kind === 'bed') return
    const { min, max } = shape.box(values as never, 0)
    const wide = Math.min(max[0] - min[0], max[1] - min[1])
    const body = Math.min(...seating.size)
    if (wide < body) return
    const data = { size: `${Math.round(wide * 1000) / 1000} mm`, body: `${Math.round(body * 1000) / 1000} mm` }
    this.problems.push(
      problem('cut-wider-than-body', ['steps', step.id, 'fields', 'diameter'], data, { rank: 'warning' }),
    )
  }
}

/** How far cuts reach out of the face they begin at, mm: less than any printer shows, more than numbers are rounded by. */
export const cutOverlap = 0.005

/** A tilted mouth must reach so much farther that its lower rim still clears the face. */
function overlapFor({ min, max }: Box, tilt: number): number {
  const slope = Math.min(10, Math.abs(Math.tan((tilt * Math.PI) / 180)))
  return cutOverlap + (Math.max(max[0] - min[0], max[1] - min[1]) / 2) * slope
}

/** Where a step that loses its reference stays. */
export function heldFrameOf(seating: Seating): HeldFrame {
  const { origin, u, v } = seating.frame
  return { origin, u, v, size: seating.size }
}

function heldSeating({ origin, u, v, size }: HeldFrame): Seating {
  return { frame: { ...frame(origin, u, v), n: cross(u, v) }, size, sides: levelSides }
}

/** How far down its own axis a shape must go to leave the far side of all material, from any of its copies. */
function depthThrough(frames: readonly Frame[], material: Box): number {
  // 1 mm past the far side, whatever the rounding of the numbers.
  return Math.max(1, ...frames.map((f) => depthBelow(f, material))) + 1
}

function depthBelow(f: Frame, material: Box): number {
  return Math.max(...corners(material).map((corner) => -dot(subtract(corner, f.origin), f.n)))
}

function reachOf(shape: ShapeDefinition, values: AnyValues): Reach {
  return (d) => (shape.reach ? shape.reach(values as never, d) : boxReach(shape.box(values as never, 0), d))
}
