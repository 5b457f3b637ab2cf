import { type Frame, matrixOf, type Vec3 } from '@makrel/core/place'
import type { RenderMesh } from '@makrel/core/solids'
import type { ThreeEvent } from '@react-three/fiber'
import { memo, useEffect, useMemo } from 'react'
import { BufferAttribute, BufferGeometry, Color, type Intersection, Matrix4, ShaderMaterial } from 'three'
import { acceleratedRaycast } from 'three-mesh-bvh'
import type { Selection } from '../state/part.ts'
import { ink, mackerel, plum, selectionWash } from './colours.ts'
import { edgeUnder } from './edges.tsx'
import { usePickTree } from './pickTree.ts'
import { usePointed } from './pointed.ts'
import { useView } from './view.ts'

/** A pointer that moved farther than this between press and release was turning the view, in pixels. */
const clickWithin = 4

/** What presses and the hovering pointer come to. */
export interface Picking {
  /** `mesh`: what it was seen on */
  pick(selection: Selection, mesh: RenderMesh): void
  /** which of `count` things that lie behind one another a press here is meant for */
  depthAt(event: MouseEvent, count: number): number
  /** A press on a face, before it is known whether it becomes a drag; whether it was taken. */
  press?(selection: Selection, event: PointerEvent, on: { readonly piece: string; readonly at: Vec3 }): boolean
  hover(selection: Selection | undefined, event: PointerEvent | undefined): void
}

/** One piece: its matt surface, its ink edges, and what is selected of it. Drawn anew where that is something else only. */
export const PieceModel = memo(function PieceModel({
  id,
  mesh,
  colour,
  selection,
  selectedIds,
  selectionCuts,
  seeThrough,
  motion,
  onPick,
}: {
  readonly id: string
  readonly mesh: RenderMesh
  readonly colour: string
  readonly selection: Selection | undefined
  /** all that is selected: steps with what their bundles hold, joints, pieces */
  readonly selectedIds: ReadonlySet<string>
  readonly selectionCuts: boolean
  readonly seeThrough: boolean
  readonly motion?: Frame | undefined
  onPick?: Picking | undefined
}) {
  const geometry = useGeometry(mesh.positions, mesh.normals)
  usePickTree(geometry, onPick ? mesh.positions : undefined)
  const edges = useGeometry(mesh.edges)
  const matrix = useMemo(() => (motion ? new Matrix4().fromArray(matrixOf(motion)) : new Matrix4()), [motion])
  // Others would have it all painted anew.
  const presses = useMemo(() => pressesOn(id, mesh, motion !== undefined, onPick), [id, mesh, motion, onPick])
  return (
    <group matrixAutoUpdate={false} matrix={matrix}>
      <mesh geometry={geometry} raycast={acceleratedRaycast} {...presses}>
        <meshLambertMaterial
          key={String(seeThrough)}
          color={colour}
          transparent={seeThrough}
          opacity={seeThrough ? 0.3 : 1}
          depthWrite={!seeThrough}
          polygonOffset
          polygonOffsetFactor={1}
          polygonOffsetUnits={1}
        />
      </mesh>
      <lineSegments geometry={edges} raycast={nothing}>
        <lineBasicMaterial color={ink} />
      </lineSegments>
      <Hatching mesh={mesh} />
      <PointedFaces mesh={mesh} />
      {selection && (
        <Highlight
          piece={id}
          mesh={mesh}
          selection={selection}
          ids={selectedIds}
          colour={selectionCuts ? plum : mackerel}
        />
      )}
    </group>
  )
})

/** What the pointer does on a piece. */
function pressesOn(piece: string, mesh: RenderMesh, isMoved: boolean, onPick: Picking | undefined) {
  const refAt = (faceIndex: number | null | undefined) =>
    faceIndex == null ? undefined : mesh.faces[mesh.faceOf[faceIndex]!]
  /** What the pointer is on: a face, and the edge of it that it is near to. */
  const under = ({ faceIndex, point }: Pick<Intersection, 'faceIndex' | 'point'>): Selection | undefined => {
    const ref = refAt(faceIndex)
    const own = ref && selectionOf(ref)
    if (!own || faceIndex == null || isMoved) return own
    const edge = edgeUnder(mesh, mesh.faceOf[faceIndex]!, point.toArray(), useView.getState())
    return edge ? { ...own, edge: edge.key } : own
  }
  const pick = (event: ThreeEvent<MouseEvent>) => {
    if (!onPick || event.delta > clickWithin) return
    event.stopPropagation()
    // All that lies under the pointer, the nearest first; pressing there again goes to what lies behind.
    const all = event.intersections.flatMap((each) => {
      const found = (each.eventObject.userData as { under?: typeof under }).under?.(each)
      return found ? [found] : []
    })
    const distinct = all.filter(
      ({ id: own, face }, i) => all.findIndex((other) => other.id === own && other.face === face) === i,
    )
    const chosen = distinct[onPick.depthAt(event.nativeEvent, distinct.length)]
    if (chosen) onPick.pick(chosen, mesh)
  }
  return {
    userData: { under },
    onClick: pick,
    onPointerDown: (event: ThreeEvent<PointerEvent>) => {
      const ref = refAt(event.faceIndex)
      const own = ref && selectionOf(ref)
      const on = { piece, at: event.point.toArray() as unknown as Vec3 }
      if (own && onPick?.press?.(own, event.nativeEvent, on)) event.stopPropagation()
    },
    ...(onPick && {
      onPointerMove: (event: ThreeEvent<PointerEvent>) => {
        event.stopPropagation()
        onPick.hover(under(event), event.nativeEvent)
      },
      onPointerOut: () => onPick.hover(undefined, undefined),
    }),
  }
}

function selectionOf({ owner, face }: RenderMesh['faces'][number]): Selection | undefined {
  return owner.kind === 'section' ? undefined : { kind: owner.kind, id: owner.id, face }
}

/** The flats of a section, hatched as on paper. */
function Hatching({ mesh }: { readonly mesh: RenderMesh }) {
  const positions = useMemo(() => subset(mesh, ({ owner }) => owner.kind === 'section'), [mesh])
  const geometry = useGeometry(positions)
  const material = useMemo(
    () =>
      new ShaderMaterial({
        transparent: true,
        depthWrite: false,
        polygonOffset: true,
        polygonOffsetFactor: 0,
        polygonOffsetUnits: -1,
        uniforms: { ink: { value: new Color(ink) }, paper: { value: new Color('#fbfcfa') } },
        vertexShader: 'void main() { gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0); }',
        // Lines at 45°, one in nine pixels.
        fragmentShader: `
          uniform vec3 ink; uniform vec3 paper;
          void main() {
            float line = 1.0 - smoothstep(0.6, 1.4, mod(gl_FragCoord.x + gl_FragCoord.y, 9.0));
            gl_FragColor = vec4(mix(paper, ink, line * 0.75), 0.92);
            #include <colorspace_fragment>
          }`,
      }),
    [],
  )
  useEffect(() => () => material.dispose(), [material])
  return positions.length > 0 ? <mesh geometry={geometry} material={material} raycast={nothing} /> : null
}

/** What a sentence names, while the pointer is on it there. */
function PointedFaces({ mesh }: { readonly mesh: RenderMesh }) {
  const pointed = usePointed((state) => state.pointed)
  const positions = useMemo(
    () =>
      pointed?.kind === 'step'
        ? subset(
            mesh,
            ({ owner, face }) => owner.id === pointed.id && (pointed.face === undefined || face === pointed.face),
          )
        : nowhere,
    [mesh, pointed],
  )
  return <Wash positions={positions} colour={mackerel} opacity={0.4} />
}

const nowhere = new Float32Array(0)

/** The faces of the selected step, joint or whole piece, the chosen one stronger. */
function Highlight({
  piece,
  mesh,
  selection,
  ids,
  colour,
}: {
  readonly piece: string
  readonly mesh: RenderMesh
  readonly selection: Selection
  readonly ids: ReadonlySet<string>
  readonly colour: string
}) {
  const all = useMemo(() => subset(mesh, ({ owner }) => ids.has(owner.id) || ids.has(piece)), [mesh, piece, ids])
  const face = useMemo(
    () =>
      subset(
        mesh,
        (ref) => selection.face !== undefined && ref.owner.id === selection.id && ref.face === selection.face,
      ),
    [mesh, selection.id, selection.face],
  )
  return (
    <>
      <Wash positions={all} colour={colour} opacity={0.2} />
      <Wash positions={face} colour={colour} opacity={0.28} />
    </>
  )
}

function Wash({
  positions,
  colour,
  opacity,
}: {
  readonly positions: Float32Array
  readonly colour: string
  readonly opacity: number
}) {
  const geometry = useGeometry(positions)
  if (positions.length === 0) return null
  return (
    <mesh name={selectionWash} geometry={geometry} raycast={nothing}>
      <meshBasicMaterial
        color={colour}
        transparent
        opacity={opacity}
        depthWrite={false}
        polygonOffset
        polygonOffsetFactor={0}
        polygonOffsetUnits={-1}
      />
    </mesh>
  )
}

/** A step's own shape, whatever becomes of it: translucent, seen through the part. */
export function GhostModel({
  mesh,
  cuts,
  motion,
}: {
  readonly mesh: RenderMesh
  readonly cuts: boolean
  /** from where it was when it was drawn to where it is planned now */
  readonly motion: Frame
}) {
  const geometry = useGeometry(mesh.positions)
  const matrix = useMemo(() => new Matrix4().fromArray(matrixOf(motion)), [motion])
  return (
    <mesh
      name={selectionWash}
      geometry={geometry}
      raycast={nothing}
      renderOrder={2}
      matrixAutoUpdate={false}
      matrix={matrix}
    >
      <meshBasicMaterial
        color={cuts ? plum : mackerel}
        transparent
        opacity={0.16}
        depthWrite={false}
        depthTest={false}
      />
    </mesh>
  )
}

function subset(mesh: RenderMesh, wanted: (face: RenderMesh['faces'][number]) => boolean): Float32Array {
  const chosen = new Set(mesh.faces.flatMap((face, i) => (wanted(face) ? [i] : [])))
  if (chosen.size === 0) return new Float32Array(0)
  const triangles: number[] = []
  for (let t = 0; t < mesh.faceOf.length; t++) if (chosen.has(mesh.faceOf[t]!)) triangles.push(t)
  const out = new Float32Array(triangles.length * 9)
  triangles.forEach((t, i) => {
    out.set(mesh.positions.subarray(9 * t, 9 * t + 9), 9 * i)
  })
  return out
}

export function geometryOf(positions: Float32Array, normals?: Float32Array): BufferGeometry {
  const geometry = new BufferGeometry()
  geometry.setAttribute('position', new BufferAttribute(positions, 3))
  if (normals && normals.length > 0) geometry.setAttribute('normal', new BufferAttribute(normals, 3))
  return geometry
}

/** The geometry of these arrays, freed on the graphics card when they are replaced. */
export function useGeometry(positions: Float32Array, normals?: Float32Array): BufferGeometry {
  const geometry = useMemo(() => geometryOf(positions, normals), [positions, normals])
  useEffect(() => () => geometry.dispose(), [geometry])
  return geometry
}

/** Not to be hit by the pointer. */
export function nothing(): void {}
