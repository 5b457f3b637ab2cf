import type { Vec2 } from '@makrel/core/plane'
import { lengthUnits, type PartUnit } from '@makrel/core/units'

/** How the plane of the drawing lies on the screen: `centre` is in its middle, `scale` pixels are a millimetre. */
export interface PlaneView {
  readonly centre: Vec2
  readonly scale: number
  readonly width: number
  readonly height: number
}

export function toScreen({ centre, scale, width, height }: PlaneView, [x, y]: Vec2): Vec2 {
  return [width / 2 + (x - centre[0]) * scale, height / 2 - (y - centre[1]) * scale]
}

export function toPlane({ centre, scale, width, height }: PlaneView, [x, y]: Vec2): Vec2 {
  return [centre[0] + (x - width / 2) / scale, centre[1] - (y - height / 2) / scale]
}

/** Nearer or farther by a factor, the place under the pointer staying where it is. */
export function zoomed(view: PlaneView, by: number, pointer: Vec2): PlaneView {
  const scale = Math.min(400, Math.max(0.05, view.scale * by))
  const at = toPlane(view, pointer)
  const there = toPlane({ ...view, scale }, pointer)
  return { ...view, scale, centre: [view.centre[0] + at[0] - there[0], view.centre[1] + at[1] - there[1]] }
}

/** The whole of a box in view, with some room round it; 120 mm where there is nothing. */
export function fitted(view: PlaneView, box: { readonly min: Vec2; readonly max: Vec2 } | undefined): PlaneView {
  if (!box) return { ...view, centre: [0, 0], scale: Math.min(view.width, view.height) / 120 }
  const [w, h] = [box.max[0] - box.min[0], box.max[1] - box.min[1]]
  const scale = Math.min(60, (view.width - 200) / Math.max(w, 5), (view.height - 200) / Math.max(h, 5))
  return {
    ...view,
    centre: [(box.min[0] + box.max[0]) / 2, (box.min[1] + box.max[1]) / 2],
    scale: Math.max(0.05, scale),
  }
}

/**
 * The round length that comes nearest to so many pixels, mm: 1, 2 or 5 of a power of ten, and of inches under one what is on a rule: halves of
 * halves.
 */
export function roundLength({ scale }: PlaneView, pixels: number, unit: PartUnit): number {
  const raw = pixels / scale
  if (unit === 'mm') return roundDecimal(raw)
  const inches = raw / lengthUnits.in
  return lengthUnits.in * (inches < Math.SQRT1_2 ? 2 ** Math.round(Math.log2(inches)) : roundDecimal(inches))
}

function roundDecimal(raw: number): number {
  const power = 10 ** Math.floor(Math.log10(raw))
  const first = raw / power
  return power * (first < 1.5 ? 1 : first < 3.5 ? 2 : first < 7.5 ? 5 : 10)
}

/** Free places fall on a lattice that is fine on the screen, so that they have few digits. */
export function onLattice(view: PlaneView, [x, y]: Vec2, unit: PartUnit): Vec2 {
  const step = roundLength(view, 6, unit)
  // Plus nothing: what is left of the origin by next to nothing is at 0, not at −0.
  const round = (value: number) => Math.round(Math.round(value / step) * step * 1e9) / 1e9 + 0
  return [round(x), round(y)]
}
