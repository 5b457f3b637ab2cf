import { allSteps, hasBody, type Offset, type Part, type Place, type Seat, type Step } from '@makrel/core/document'
import { compose, dot, levelSides, type SideNames, subtract, unit, type Vec3 } from '@makrel/core/place'
import { axisPlanes, outerSides, type Plan, type StepGeometry } from '@makrel/core/planning'
import type { RenderMesh } from '@makrel/core/solids'
import { useBuild } from '../state/build.ts'
import { flatFaces, isOpenTo } from '../viewport/faceForm.ts'
import { useView } from '../viewport/view.ts'
import { type OwnPlace, seatWords } from './words.ts'

/** What a step can stand on, as a choice. */
export interface SeatOption {
  readonly key: string
  readonly seat: Seat
  readonly label: string
  /** the signed radius of a round face, negative in a bore */
  readonly round?: number | undefined
}

export function seatKey(seat: Seat): string {
  return seat.kind === 'face' ? `${seat.step}/${seat.face}` : seat.kind
}

/**
 * The bed and every face that can be stood on of the steps above `stepId`, or of all: of the nearest step first, and of each those that can
 * be seen from `eye` before the others. What it holds itself is not above it. `drawn`: where the faces are found that treatments made.
 */
export function seatOptions(
  part: Part,
  plan: Plan,
  stepId: string | undefined,
  drawn: readonly RenderMesh[] = drawnMeshes(),
  eye: Vec3 = useView.getState().eye,
): SeatOption[] {
  const steps = allSteps(part)
  const above =
    stepId === undefined
      ? steps
      : steps.slice(
          0,
          steps.findIndex((step) => step.id === stepId),
        )
  const faces = [...above].reverse().flatMap((step) => {
    const all = facesOf(step, plan, drawn)
    const seen = all.filter(({ n, at }) => dot(n, subtract(eye, at)) > 0)
    const within = hasBody(step) ? axesOf(step, plan) : []
    return [...seen, ...all.filter((face) => !seen.includes(face)), ...within].map(({ name, round }): SeatOption => {
      const seat: Seat = { kind: 'face', step: step.id, face: name }
      return { key: seatKey(seat), seat, label: seatWords(part, seat), round }
    })
  })
  return [bedOption, ...faces]
}

/**
 * What becomes of distances where a step is stood on another seat. The point that something was drawn or made about means nothing there: it is
 * centred; an axis is a wheel's own. On the bed there are no edges to measure from: what was measured from one is measured from the datum. What another step tells stays so.
 */
export function offsetsOn(
  { across, along }: Place,
  seat: Seat,
  ownPlace: OwnPlace | undefined,
): Pick<Place, 'across' | 'along'> {
  const there = (offset: Offset): Offset => {
    const isOwn = (ownPlace === 'drawn' || ownPlace === 'made') && offset.of === undefined
    if (isOwn && offset.from === 'centre' && offset.to === 'own') return { from: 'centre', to: 'centre', by: '0' }
    const fromEdge = offset.of === undefined && offset.from !== 'centre'
    return seat.kind === 'bed' && fromEdge ? { ...offset, from: 'centre' } : offset
  }
  return { across: there(across), along: there(along) }
}

/** What the page shows just now. */
export function drawnMeshes(): readonly RenderMesh[] {
  return useBuild.getState().pieces.flatMap(({ mesh }) => mesh ?? [])
}

/** What can be stood on of a step: the plan knows the faces of bodies, and those of treatments that something stands on already; the drawing the others. */
function facesOf(step: Step, plan: Plan, drawn: readonly RenderMesh[]) {
  const geometry = plan.geometry.get(step.id)
  const planned = (geometry?.faces ?? []).map(({ name, frame, round }) => {
    const { origin, n } = compose(geometry!.frame, frame)
    return { name, round, n, at: origin }
  })
  if (hasBody(step)) {
    const adds = plan.operands.get(step.id)?.operation.material === 'more'
    const sides = geometry && adds ? outerSides(geometry) : []
    const placed = sides.map(({ name, frame }) => {
      const { origin, n } = compose(geometry!.frame, frame)
      return { name, round: undefined, n, at: origin }
    })
    return [...planned, ...placed]
  }
  const more = drawn.flatMap((mesh) => flatFaces(mesh, step.id))
  return [
    ...planned,
    ...more
      .filter(({ name }, i) => more.findIndex((other) => other.name === name) === i)
      .filter(({ name }) => !planned.some((face) => face.name === name))
      .map((face) => ({ ...face, round: undefined })),
  ]
}

/** What of a body can be stood on within it. */
function axesOf({ id }: Step, plan: Plan) {
  const geometry = plan.geometry.get(id)
  const adds = plan.operands.get(id)?.operation.material === 'more'
  return geometry && adds ? axisPlanes(geometry).map(({ name }) => ({ name, round: undefined })) : []
}

/** Of the faces that a treatment made, the level one that is best stood on: the floor of a hollow that is open above. Undefined where it has none. */
export function madeFloor(step: string, drawn: readonly RenderMesh[]): string | undefined {
  for (const mesh of drawn) {
    const floors = flatFaces(mesh, step).filter(({ n, at }) => n[2] > 0.999 && isOpenTo(mesh, at, n))
    if (floors.length > 0) return floors.reduce((low, each) => (each.at[2] < low.at[2] ? each : low)).name
  }
  return undefined
}

const bedOption: SeatOption = { key: 'bed', seat: { kind: 'bed' }, label: 'the bed' }

export function sidesOf(plan: Plan, stepId: string): SideNames {
  return plan.geometry.get(stepId)?.seating.sides ?? levelSides
}

/** For what goes on round faces alone: the first one of a step. */
export function roundFaceOf({ faces }: StepGeometry): string | undefined {
  return faces.find(({ round }) => round !== undefined)?.name
}

/**
 * The face of a step that the next one is most likely meant for: of those that it does not stand on itself, the one
 * that its shape names first, if it can be seen, or else the one that looks up, or at the eye; of what has no face at all, a ball, its top side.
 * Undefined where it has none but hidden ones.
 */
export function openFace(geometry: StepGeometry, eye: Vec3): string | undefined {
  const { faces, frame, seating } = geometry
  if (faces.length === 0) return outerSides(geometry)[0]?.name
  const open = faces.flatMap(({ name, frame: own, round }) => {
    const { origin, n } = compose(frame, own)
    const away = dot(subtract(origin, seating.frame.origin), seating.frame.n)
    const stoodOn = dot(n, seating.frame.n) < -0.99 && Math.abs(away) < 1e-6
    // A round is stood on when it was picked, not by itself.
    if (round !== undefined || stoodOn || n[2] < -0.5) return []
    return [{ name, up: n[2], seen: dot(n, unit(subtract(eye, origin))) }]
  })
  const best = (worth: (face: (typeof open)[number]) => number) =>
    open.reduce<(typeof open)[number] | undefined>(
      (first, face) => (first && worth(first) >= worth(face) - 1e-9 ? first : face),
      undefined,
    )
  // What a shape names first is what is mostly meant: the broad side of an upright, not its narrow top.
  const first = open.find(({ name }) => name === faces[0]?.name)
  if (first && (first.up > 0.3 || first.seen > 0.1)) return first.name
  const up = best((face) => face.up)
  return up && up.up > 0.3 ? up.name : best((face) => face.seen)?.name
}
