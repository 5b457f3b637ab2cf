import type { Kernel } from '../kernel/index.ts'
import { meshFigures, openEdgesOf, shellsOf, subMesh, type TriangleMesh, TriangleTree, tidied } from '../mesh/index.ts'
import { ProblemError } from '../problems/index.ts'
import { trianglesWithArea } from './area.ts'

/** More triangles than this are not kept in a part. */
const mostBroughtIn = 400_000

/** Triangles that go through each other by less than this share of the farthest coordinate are rounded so (single precision: 6e-8). */
const roundedShare = 2e-6
/** So many places where a surface runs through itself are enough to tell. */
const enough = 500

export interface SoundMesh {
  readonly mesh: TriangleMesh
  /** triangles that were there twice, and lone ones without area: neither is of any surface */
  readonly leftOut: number
  /** how many bodies ran into one another and are one now; 0 where none did */
  readonly united: number
}

/**
 * A closed mesh whose triangles face outwards and nowhere go through each other. One that is inside out as a whole is turned; bodies
 * that run into one another are united.
 * @throws ProblemError mesh-open, mesh-flipped, mesh-large, mesh-crosses; mesh-overlaps without a kernel
 */
export function soundMesh(name: string, read: TriangleMesh, kernel: Kernel | undefined): SoundMesh {
  if (read.triangles.length / 3 > mostBroughtIn) throw tooLarge(name, read)
  const mesh = withoutStray(read)
  const leftOut = (read.triangles.length - mesh.triangles.length) / 3
  const { openEdges, flippedEdges, volume } = meshFigures(mesh)
  if (openEdges > 0) {
    const [first] = openEdgesOf(mesh, 'open')
    throw new ProblemError('mesh-open', { name, count: openEdges, place: told(first) })
  }
  if (flippedEdges > 0) {
    const [first] = openEdgesOf(mesh, 'flipped')
    throw new ProblemError('mesh-flipped', { name, count: flippedEdges, place: told(first) })
  }
  const { positions, triangles } = mesh
  const outwards = volume >= 0 ? triangles : triangles.map((_, i) => triangles[i - (i % 3) + (2 - (i % 3))]!)
  const turned = { positions, triangles: outwards }
  const plain = openEdgesOf(turned, 'crowded').length > 0 ? tidied(turned) : turned
  const crossing = crossingShells(name, plain)
  if (crossing.size === 0) return { mesh: plain, leftOut, united: 0 }
  if (!kernel) throw new ProblemError('mesh-overlaps', { name, count: crossing.size })
  return { mesh: united(kernel, plain), leftOut, united: crossing.size }
}

/** Without triangles that are there twice, and without lone ones that have no area, which would tell where the mesh ends. */
function withoutStray(mesh: TriangleMesh): TriangleMesh {
  const once = openEdgesOf(mesh, 'crowded').length > 0 ? withoutDoubled(mesh) : mesh
  const withArea = trianglesWithArea(once)
  if (!withArea.includes(false)) return once
  const { shells, shellOf } = shellsOf(once)
  const isKept = shells.map(() => false)
  for (const [t, has] of withArea.entries()) if (has) isKept[shellOf[t]!] = true
  return isKept.includes(false) ? subMesh(once, (t) => isKept[shellOf[t]!]!) : once
}

function withoutDoubled(mesh: TriangleMesh): TriangleMesh {
  const { triangles } = mesh
  const seen = new Set<string>()
  return subMesh(mesh, (t) => {
    const own = [triangles[3 * t]!, triangles[3 * t + 1]!, triangles[3 * t + 2]!]
    const first = own.indexOf(Math.min(...own))
    const key = [0, 1, 2].map((i) => own[(first + i) % 3]).join(' ')
    return seen.size < seen.add(key).size
  })
}

/**
 * The shells that run through others.
 * @throws ProblemError mesh-crosses where one runs through itself, or the wall of a cavity through anything
 */
function crossingShells(name: string, mesh: TriangleMesh): ReadonlySet<number> {
  const { shells, shellOf } = shellsOf(mesh)
  let far = 0
  for (const x of mesh.positions) far = Math.max(far, Math.abs(x))
  const found = new Set<number>()
  const faults: number[] = []
  for (const pair of new TriangleTree(mesh).crossings(roundedShare * far, { places: true })) {
    const own = (pair ?? []).map((triangle) => shellOf[triangle]!)
    if (pair && (own[0] === own[1] || own.some((shell) => shells[shell]!.volume < 0))) faults.push(pair[0])
    else for (const shell of own) found.add(shell)
    if (faults.length >= enough) break
  }
  const [first] = faults
  if (first === undefined) return found
  const at = [0, 1, 2].map((k) => mesh.positions[3 * mesh.triangles[3 * first]! + k]!)
  const count = faults.length < enough ? faults.length : `${enough} or more`
  throw new ProblemError('mesh-crosses', { name, count, place: told(at) })
}

/** All shells as one solid: each outside less its own cavities, united. */
function united(kernel: Kernel, mesh: TriangleMesh): TriangleMesh {
  const { shells, shellOf } = shellsOf(mesh)
  const outsideOf = shells.map(({ volume, within }, i) => (volume < 0 && within >= 0 ? within : i))
  return kernel.scope((scope) => {
    const bodies = [...new Set(outsideOf)].map((outside) => {
      const { positions, triangles } = subMesh(mesh, (t) => outsideOf[shellOf[t]!] === outside)
      return scope.meshed({ positions: Float32Array.from(positions), triangles })
    })
    return tidied(scope.union(bodies).mesh())
  })
}

export function tooLarge(name: string, { triangles }: TriangleMesh): ProblemError {
  return new ProblemError('mesh-large', { name, count: triangles.length / 3, most: mostBroughtIn })
}

/** "12.5, 0, 3" */
function told(at: readonly number[] | undefined): string {
  return (at ?? []).map((x) => String(Math.round(x * 100) / 100)).join(', ')
}
