import type { KeptView } from '@makrel/core/document'
import type { Box, Vec3 } from '@makrel/core/place'
import { create } from 'zustand'
import type { KeptPicture } from '../drawn/kept.ts'

/** 4 × 4, column by column. */
export type Matrix = readonly number[]

const still: Matrix = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]

/** Where the drawing is seen from, shared with what is drawn over it. */
interface ViewState {
  /** world to clip space, and back */
  readonly matrix: Matrix
  readonly inverse: Matrix
  readonly eye: Vec3
  readonly width: number
  readonly height: number
  /** pixels per mm, for a length across the view at distance 1 mm from the eye */
  readonly pixelsPerMm: number
  readonly name: ViewName
  /** where the part is cut open, 0 to 1 of its size; undefined while it is whole */
  readonly section: { readonly across: 'x' | 'y' | 'z'; readonly at: number } | undefined
  readonly seeThrough: boolean
  /** whether the items that the part takes are drawn in their places */
  readonly hardware: boolean
  /** whether the centre of mass is marked */
  readonly centreMark: boolean
  /** one step is looked at: its own shape alone, the part as it is without it, or with it */
  readonly inspected: { readonly step: string; readonly show: 'alone' | 'without' | 'with' | 'until' } | undefined
  readonly parallel: boolean
  /** something is being dragged: the view stays as it is */
  readonly held: boolean
  look(name: ViewName): void
  /** From where it is looked at now; undefined before anything is drawn. */
  pose(): Pose | undefined
  /** Looks at it from there again. */
  take(pose: Pose): void
  /** What is seen, as a PNG; `over` draws on it, in pixels of the page. */
  picture(over?: (pen: CanvasRenderingContext2D) => void): Promise<Uint8Array | undefined>
  /** The drawing as it is when its part is opened, and where on the page it lies. */
  asOpened(): Promise<Omit<KeptPicture, 'window'> | undefined>
  /** Brings this box into full view, from where it is looked at. */
  fitTo(box: Box): void
  /** Turns by degrees to the right and upwards about the middle of the view. */
  orbit(right: number, up: number): void
  /** Shifts by shares of the view's height. */
  pan(right: number, up: number): void
  /** Nearer by this factor. */
  zoom(factor: number): void
}

export type Pose = Omit<KeptView, 'id' | 'name'>

export const viewNames = ['front', 'top', 'right', 'back', 'left', 'bottom', 'free'] as const
export type ViewName = (typeof viewNames)[number]

/** From the part towards the eye. */
export const viewDirections: Readonly<Record<ViewName, Vec3>> = {
  front: [0, -1, 0],
  back: [0, 1, 0],
  left: [-1, 0, 0],
  right: [1, 0, 0],
  // A hair off the pole, so that up stays up.
  top: [0, -0.001, 1],
  bottom: [0, -0.001, -1],
  free: [0.62, -1, 0.62],
}

export const useView = create<ViewState>()(() => ({
  matrix: still,
  inverse: still,
  eye: [0, 0, 1],
  width: 1,
  height: 1,
  pixelsPerMm: 1,
  name: 'free',
  section: undefined,
  seeThrough: false,
  hardware: true,
  centreMark: false,
  inspected: undefined,
  parallel: true,
  held: false,
  look: () => undefined,
  pose: () => undefined,
  take: () => undefined,
  picture: () => Promise.resolve(undefined),
  asOpened: () => Promise.resolve(undefined),
  fitTo: () => undefined,
  orbit: () => undefined,
  pan: () => undefined,
  zoom: () => undefined,
}))

export type Projection = Pick<ViewState, 'matrix' | 'inverse' | 'eye' | 'width' | 'height' | 'pixelsPerMm'>

/** A point of the part in pixels from the upper left of the drawing; undefined behind the eye. */
export function project({ matrix, width, height }: Projection, p: Vec3): readonly [number, number] | undefined {
  const [x, y, , w] = transformed(matrix, p)
  if (w <= 0) return undefined
  return [((x / w + 1) / 2) * width, ((1 - y / w) / 2) * height]
}

/** A point in homogeneous coordinates, as a matrix takes it. */
export function transformed(m: Matrix, [x, y, z]: Vec3): readonly [number, number, number, number] {
  const row = (i: number) => m[i]! * x + m[i + 4]! * y + m[i + 8]! * z + m[i + 12]!
  return [row(0), row(1), row(2), row(3)]
}

/** Pixels that one mm takes at `p`, across the view. */
export function scaleAt({ eye, pixelsPerMm }: Projection, p: Vec3): number {
  return pixelsPerMm / Math.max(1e-3, Math.hypot(p[0] - eye[0], p[1] - eye[1], p[2] - eye[2]))
}
