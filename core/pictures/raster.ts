import { dot, scaled, unit, type Vec3 } from '../place/index.ts'
import type { RenderMesh } from '../solids/index.ts'

/** Red, green, blue and opacity of each dot, row by row from the top, 0 to 255. */
export interface Picture {
  readonly width: number
  readonly height: number
  readonly dots: Uint8ClampedArray<ArrayBuffer>
}

type Colour = readonly [number, number, number]

interface Look {
  /** what a step's surfaces are drawn in */
  colourOf(step: string): Colour
  readonly line: Colour
}

/** From the front, from the right and from above, as the drawing shows a part that is opened. */
const toEye: Vec3 = unit([0.55, -1, 0.75])
const right: Vec3 = unit([1, 0.55, 0])
const up: Vec3 = unit([
  toEye[1] * right[2] - toEye[2] * right[1],
  toEye[2] * right[0] - toEye[0] * right[2],
  toEye[0] * right[1] - toEye[1] * right[0],
])
const light: Vec3 = unit([-0.35, -0.6, 1])
/** Dots of the large picture that each dot of the small one is the mean of, to either side. */
const finer = 3
/** The share of the picture that stays free round it. */
const margin = 0.07
/** Two dots of one face between which it bends by more than this have a line between them, as a cosine. */
const crease = Math.cos((40 * Math.PI) / 180)

/** A picture of a solid as it is seen on the drawing: shaded faces, with lines where one ends before another. */
export function picture(mesh: RenderMesh, width: number, height: number, { colourOf, line }: Look): Picture {
  const [w, h] = [width * finer, height * finer]
  const { depth, from, at } = seen(mesh, w, h)
  const colours = mesh.faces.map(({ owner }) => colourOf(owner.id))
  const shade = new Float32Array(3 * w * h)
  const cover = new Float32Array(w * h)
  for (let i = 0; i < w * h; i++) {
    const t = from[i]!
    if (t < 0) continue
    cover[i] = 1
    const isLine = [i + 1, i + 2, i + w, i + 2 * w].some(
      (other) => other < w * h && isBetween(mesh, depth, from, i, other),
    )
    const lit = 0.62 + 0.38 * Math.max(0, dot(normalAt(mesh, t, at[2 * i]!, at[2 * i + 1]!), light))
    const own = colours[mesh.faceOf[t]!]!
    for (let c = 0; c < 3; c++) shade[3 * i + c] = isLine ? line[c]! : own[c]! * lit
  }
  return smaller(shade, cover, width, height)
}

/** Which triangle is seen at each dot, −1 for none, how near it is, and where on it: shares of its second and third corner. */
function seen({ positions }: RenderMesh, w: number, h: number) {
  const count = positions.length / 3
  const flat = new Float32Array(3 * count)
  const [low, high] = [
    [Infinity, Infinity],
    [-Infinity, -Infinity],
  ]
  for (let i = 0; i < count; i++) {
    const p: Vec3 = [positions[3 * i]!, positions[3 * i + 1]!, positions[3 * i + 2]!]
    const [x, y] = [dot(p, right), -dot(p, up)]
    flat.set([x, y, dot(p, toEye)], 3 * i)
    ;[low[0], high[0]] = [Math.min(low[0]!, x), Math.max(high[0]!, x)]
    ;[low[1], high[1]] = [Math.min(low[1]!, y), Math.max(high[1]!, y)]
  }
  const scale = (1 - 2 * margin) * Math.min(w / (high[0]! - low[0]!), h / (high[1]! - low[1]!))
  const shift = [w / 2 - (scale * (low[0]! + high[0]!)) / 2, h / 2 - (scale * (low[1]! + high[1]!)) / 2]
  for (let i = 0; i < count; i++) for (const k of [0, 1]) flat[3 * i + k] = scale * flat[3 * i + k]! + shift[k]!
  const depth = new Float32Array(w * h).fill(-Infinity)
  const from = new Int32Array(w * h).fill(-1)
  const at = new Float32Array(2 * w * h)
  for (let t = 0; t < count / 3; t++) {
    const [ax, ay, az, bx, by, bz, cx, cy, cz] = flat.subarray(9 * t, 9 * t + 9) as unknown as number[]
    const whole = (bx! - ax!) * (cy! - ay!) - (cx! - ax!) * (by! - ay!)
    // What looks away is never seen of a closed solid; y runs down here.
    if (whole >= 0) continue
    const [left, end] = [Math.min(ax!, bx!, cx!), Math.max(ax!, bx!, cx!)]
    const [top, bottom] = [Math.min(ay!, by!, cy!), Math.max(ay!, by!, cy!)]
    for (let y = Math.max(0, Math.ceil(top - 0.5)); y < Math.min(h, bottom + 0.5); y++)
      for (let x = Math.max(0, Math.ceil(left - 0.5)); x < Math.min(w, end + 0.5); x++) {
        const [px, py] = [x + 0.5, y + 0.5]
        const u = ((px - ax!) * (cy! - ay!) - (cx! - ax!) * (py - ay!)) / whole
        const v = ((bx! - ax!) * (py - ay!) - (px - ax!) * (by! - ay!)) / whole
        if (u < -1e-6 || v < -1e-6 || u + v > 1 + 1e-6) continue
        const z = az! + u * (bz! - az!) + v * (cz! - az!)
        if (z <= depth[y * w + x]!) continue
        depth[y * w + x] = z
        from[y * w + x] = t
        at.set([u, v], 2 * (y * w + x))
      }
  }
  return { depth, from, at }
}

function normalOf(mesh: RenderMesh, t: number): Vec3 {
  return normalAt(mesh, t, 1 / 3, 1 / 3)
}

function normalAt({ normals }: RenderMesh, t: number, u: number, v: number): Vec3 {
  const own = (corner: number, i: number) => normals[9 * t + 3 * corner + i]!
  const sum = [0, 1, 2].map((i) => own(0, i) * (1 - u - v) + own(1, i) * u + own(2, i) * v)
  const size = Math.hypot(...sum)
  return size > 0 ? scaled(sum as unknown as Vec3, 1 / size) : toEye
}

/** Whether a line is seen between two dots: where the solid ends, one face lies before another, or two meet. */
function isBetween(mesh: RenderMesh, depth: Float32Array, from: Int32Array, i: number, other: number): boolean {
  const [a, b] = [from[i]!, from[other]!]
  if (b < 0) return true
  if (a === b) return false
  const bend = dot(normalOf(mesh, a), normalOf(mesh, b))
  if (mesh.faceOf[a] === mesh.faceOf[b]) return bend < crease
  // Faces that run into each other have none, unless one lies behind the other.
  return bend < crease || Math.abs(depth[i]! - depth[other]!) > 1
}

function smaller(shade: Float32Array, cover: Float32Array, width: number, height: number): Picture {
  const dots = new Uint8ClampedArray(4 * width * height)
  const w = width * finer
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const sum = [0, 0, 0, 0]
      for (let dy = 0; dy < finer; dy++)
        for (let dx = 0; dx < finer; dx++) {
          const i = (y * finer + dy) * w + x * finer + dx
          for (let c = 0; c < 3; c++) sum[c]! += shade[3 * i + c]!
          sum[3]! += cover[i]!
        }
      const share = sum[3]!
      const place = 4 * (y * width + x)
      for (let c = 0; c < 3; c++) dots[place + c] = share > 0 ? sum[c]! / share : 0
      dots[place + 3] = (255 * share) / finer ** 2
    }
  return { width, height, dots }
}
