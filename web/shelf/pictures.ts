import type { ShelfEntry } from '@makrel/core/document'
import { type Part, pieceOfBody } from '@makrel/core/document'
import { upgraded } from '@makrel/core/planning'
import {
  Group,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshLambertMaterial,
  PerspectiveCamera,
  Scene,
  Vector3,
  WebGLRenderer,
} from 'three'
import { api } from '../api.ts'
import { pictureSolids } from '../channel/client.ts'
import { sizeOf, wholeBox } from '../frame/whole.ts'
import { ink, pieceColour } from '../viewport/colours.ts'
import { workshopLights } from '../viewport/lights.ts'
import { geometryOf } from '../viewport/PieceModel.tsx'
import { viewDirections } from '../viewport/view.ts'

const width = 480
const height = 320

/** What a new picture changes of a part on the shelf. */
export type Pictured = Pick<ShelfEntry, 'revision' | 'pictureRevision' | 'size'>

/** Draws pictures of parts, one after another, with one context of the graphics card. */
function createPainter() {
  let queue: Promise<unknown> = Promise.resolve()
  let renderer: WebGLRenderer | undefined
  /** what was drawn already, for a list that was asked for before */
  const drawn = new Map<string, Pictured>()

  function inTurn<T>(work: () => Promise<T> | T): Promise<T> {
    const made = queue.then(work)
    queue = made.catch(() => undefined)
    return made
  }

  /**
   * Draws a part from its real solid, after all that is being drawn, and hands the picture to the server;
   * undefined where there is nothing to draw, or where `wanted` no longer holds once it is its turn.
   */
  function refreshPicture(entry: ShelfEntry, wanted: () => boolean): Promise<Pictured | undefined> {
    return inTurn(() => (wanted() ? picture(entry) : undefined))
  }

  /** A picture of a part as it is, or undefined where there is nothing to draw; as an address for an image. */
  async function pictureOf(part: Part): Promise<string | undefined> {
    const found = await inTurn(() => drawnPart(part))
    return found && `data:image/png;base64,${found.png}`
  }

  async function picture(entry: ShelfEntry): Promise<Pictured | undefined> {
    const known = drawn.get(entry.id)
    if (known?.revision === entry.revision) return known
    const { document, revision } = await api.read(entry.id)
    const found = await drawnPart(upgraded(document))
    if (!found) return undefined
    await api.setPicture(entry.id, { revision, size: found.size, png: found.png })
    const pictured = { revision, pictureRevision: revision, size: found.size }
    drawn.set(entry.id, pictured)
    return pictured
  }

  async function drawnPart(part: Part): Promise<{ png: string; size: [number, number, number] } | undefined> {
    const { pieces } = await pictureSolids().call('build', { have: {} }, part)
    const box = wholeBox(pieces)
    if (!box) return undefined
    try {
      renderer ??= new WebGLRenderer({ antialias: true, alpha: true, preserveDrawingBuffer: true })
    } catch {
      // The browser cannot draw.
      return undefined
    }
    return { png: rendered(renderer, part, pieces), size: sizeOf(box) }
  }

  return { refreshPicture, pictureOf }
}

export const { refreshPicture, pictureOf } = createPainter()

/** A PNG in base64. */
function rendered(
  renderer: WebGLRenderer,
  part: Part,
  pieces: Parameters<typeof wholeBox>[0] &
    readonly {
      id: string
      mesh?: { positions: Float32Array; normals: Float32Array; edges: Float32Array } | undefined
    }[],
): string {
  renderer.setSize(width, height, false)
  const scene = new Scene()
  scene.add(...workshopLights())
  const group = new Group()
  const disposables: { dispose(): void }[] = []
  for (const { id, mesh } of pieces) {
    const piece = pieceOfBody(part, id)
    if (!mesh || !piece) continue
    const surface = geometryOf(mesh.positions, mesh.normals)
    const edges = geometryOf(mesh.edges)
    const matt = new MeshLambertMaterial({
      color: pieceColour(piece.colour),
      polygonOffset: true,
      polygonOffsetFactor: 1,
      polygonOffsetUnits: 1,
    })
    const line = new LineBasicMaterial({ color: ink })
    group.add(new Mesh(surface, matt), new LineSegments(edges, line))
    disposables.push(surface, edges, matt, line)
  }
  scene.add(group)
  const box = wholeBox(pieces)!
  const middle = new Vector3(...box.min).add(new Vector3(...box.max)).multiplyScalar(0.5)
  const camera = new PerspectiveCamera(22, width / height, 1, 20_000)
  camera.up.set(0, 0, 1)
  const radius = new Vector3(...sizeOf(box)).length() / 2
  camera.position
    .copy(middle)
    .addScaledVector(new Vector3(...viewDirections.free).normalize(), (radius * 0.92) / Math.sin((11 * Math.PI) / 180))
  camera.lookAt(middle)
  renderer.render(scene, camera)
  const url = renderer.domElement.toDataURL('image/png')
  for (const item of disposables) item.dispose()
  return url.slice(url.indexOf(',') + 1)
}
