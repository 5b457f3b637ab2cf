import type { Mark, SurfaceField } from '@makrel/core/proof'
import { useThree } from '@react-three/fiber'
import { useEffect, useMemo } from 'react'
import { Color, Float32BufferAttribute, Mesh, Raycaster, ShaderMaterial, Vector2 } from 'three'
import { checks } from '../channel/client.ts'
import { useBuild } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { Button } from '../ui/Button.tsx'
import { belly, ink, mackerel, rust, sheet } from './colours.ts'
import { geometryOf } from './PieceModel.tsx'
import { savePicture } from './savePicture.ts'
import { type FieldMark, fieldText, limitText, nothingShown, shareOf, useShown } from './shownField.ts'

/** Works out the field of the finding that is looked at; whether one is looked at. */
export function useFieldOf(marks: readonly Mark[] | undefined): boolean {
  const found = marks?.find((each) => each.kind === 'field')
  // A proof tells what it found anew with each check.
  const told = found && JSON.stringify(found)
  const shown = useBuild((state) => state.shown)
  useEffect(() => {
    if (!told || !shown) return
    const mark = JSON.parse(told) as FieldMark
    useShown.setState({ ...nothingShown, mark })
    let current = true
    checks()
      .call('field', { mark }, shown)
      .then(
        (field) => current && useShown.setState({ field }),
        (error: unknown) => current && useShown.setState({ failure: error instanceof Error ? error.message : '' }),
      )
    return () => {
      current = false
      useShown.setState(nothingShown)
    }
  }, [told, shown])
  return told !== undefined
}

/** A field over the pieces, within the drawing, and what it is under the pointer. */
export function FieldOnPieces() {
  const field = useShown((state) => state.field)
  const meshes = useMemo(() => field && meshesOf(field), [field])
  useEffect(
    () => () => {
      for (const { geometry, material } of meshes ?? []) {
        geometry.dispose()
        material.dispose()
      }
    },
    [meshes],
  )
  useReading(meshes)
  return meshes?.map((mesh) => <primitive key={mesh.uuid} object={mesh} />)
}

type FieldMesh = Mesh<ReturnType<typeof geometryOf>, ShaderMaterial>

function meshesOf({ surfaces, from, to, limit, broken }: SurfaceField): FieldMesh[] {
  const colour = (value: string) => ({ value: new Color(value) })
  return surfaces.map(({ points, values, limits = values.map(() => limit) }) => {
    const geometry = geometryOf(points)
    geometry.setAttribute('told', new Float32BufferAttribute(values, 1))
    geometry.setAttribute('kept', new Float32BufferAttribute(limits, 1))
    const material = new ShaderMaterial({
      transparent: true,
      polygonOffset: true,
      polygonOffsetFactor: -1,
      polygonOffsetUnits: -2,
      uniforms: {
        ...{ bad: colour(rust), paper: colour(sheet), near: colour(mackerel), far: colour(belly) },
        end: { value: broken === 'below' ? to : from },
        side: { value: broken === 'below' ? 1 : -1 },
      },
      vertexShader: `
        attribute float told; attribute float kept; varying float value; varying float limit;
        void main() { value = told; limit = kept; gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0); }`,
      // Beyond the limit hatched in rust, as on its scale; towards the far end of the scale it fades into the part.
      fragmentShader: `
        uniform vec3 bad; uniform vec3 paper; uniform vec3 near; uniform vec3 far;
        uniform float end; uniform float side; varying float value; varying float limit;
        void main() {
          if (side * (value - end) > 0.0) discard;
          if (side * (limit - value) > 0.0) {
            float line = 1.0 - smoothstep(0.8, 1.6, mod(gl_FragCoord.x + gl_FragCoord.y, 7.0));
            gl_FragColor = vec4(mix(bad, paper, line * 0.7), 1.0);
          } else {
            float share = clamp((value - limit) / (end - limit), 0.0, 1.0);
            gl_FragColor = vec4(mix(near, far, share), 1.0 - 0.6 * share);
          }
          #include <colorspace_fragment>
        }`,
    })
    const mesh: FieldMesh = new Mesh(geometry, material)
    mesh.renderOrder = 2
    // Presses go to the pieces; what it is under the pointer is looked for below.
    mesh.raycast = () => undefined
    return mesh
  })
}

/** Tells the value at the pointer. */
function useReading(meshes: readonly FieldMesh[] | undefined): void {
  const { gl, camera } = useThree()
  useEffect(() => {
    const canvas = gl.domElement
    if (!meshes) return
    const caster = new Raycaster()
    let frame = 0
    const read = ({ offsetX: x, offsetY: y }: PointerEvent) => {
      const { clientWidth, clientHeight } = canvas
      caster.setFromCamera(new Vector2((2 * x) / clientWidth - 1, 1 - (2 * y) / clientHeight), camera)
      const hits = meshes.flatMap((mesh) => {
        const own: Parameters<Mesh['raycast']>[1] = []
        Mesh.prototype.raycast.call(mesh, caster, own)
        return own.map((hit) => ({ mesh, hit }))
      })
      hits.sort((one, other) => one.hit.distance - other.hit.distance)
      const nearest = hits[0]
      useShown.setState({ at: nearest && { value: valueAt(nearest.mesh, nearest.hit), x, y } })
    }
    const move = (event: PointerEvent) => {
      cancelAnimationFrame(frame)
      frame = requestAnimationFrame(() => read(event))
    }
    const leave = () => {
      cancelAnimationFrame(frame)
      useShown.setState({ at: undefined })
    }
    canvas.addEventListener('pointermove', move)
    canvas.addEventListener('pointerleave', leave)
    return () => {
      leave()
      canvas.removeEventListener('pointermove', move)
      canvas.removeEventListener('pointerleave', leave)
    }
  }, [meshes, gl, camera])
}

type Hit = Parameters<Mesh['raycast']>[1][number]

/** Between the values at the corners of what was hit, by how near it is to each. */
function valueAt({ geometry }: FieldMesh, { face, barycoord }: Hit): number {
  const told = geometry.getAttribute('told')
  const [a, b, c] = [face!.a, face!.b, face!.c].map((corner) => told.getX(corner)) as [number, number, number]
  const { x, y, z } = barycoord!
  return a * x + b * y + c * z
}

/** The scale of the field that is looked at, with its limit, and the value at the pointer. */
export function FieldScale() {
  const { mark, field, failure, at } = useShown()
  const unit = usePart((state) => state.part!.unit)
  const name = usePart((state) => state.part!.name)
  if (!mark) return null
  const place = 'pointer-events-none absolute top-12 left-4 border border-line bg-sheet px-3 py-2'
  if (!field)
    return (
      <p role={failure === undefined ? 'status' : 'alert'} className={place}>
        {failure === undefined ? 'Measuring …' : `This could not be measured all over the pieces. ${failure}`}
      </p>
    )
  const share = (value: number) => `${(100 * shareOf(value, field)).toFixed(2)}%`
  const text = (value: number) => fieldText(value, field, unit)
  const hatched = `repeating-linear-gradient(135deg, ${sheet} 0 1.5px, ${rust} 1.5px 6px)`
  const fading = `linear-gradient(to ${field.broken === 'below' ? 'right' : 'left'}, ${mackerel}, ${belly})`
  const [low, high] = field.broken === 'below' ? [hatched, fading] : [fading, hatched]
  const told = `${field.label}: from ${text(field.from)} to ${text(field.to)}; ${limitText(field, unit)}`
  return (
    <>
      <figure className={place} aria-label={told}>
        <figcaption className="flex justify-between gap-6">
          <span className="font-semibold">{field.label}</span>
          <span className="text-ink-soft">
            {field.broken === 'below' ? 'at least' : 'at most'} <span className="figures">{text(field.limit)}</span>
          </span>
        </figcaption>
        <div className="relative mt-1.5 flex h-3 w-60 border border-ink" aria-hidden="true">
          <span style={{ width: share(field.limit), background: low }} />
          <span className="flex-1" style={{ background: high }} />
          <span className="absolute -inset-y-1 w-0.5" style={{ left: share(field.limit), background: ink }} />
          {at && (
            <span
              className="absolute -bottom-2 -ml-1 border-x-4 border-b-4 border-x-transparent border-b-ink"
              style={{ left: share(at.value) }}
            />
          )}
        </div>
        <div className="figures mt-1.5 flex justify-between text-ink-soft" aria-hidden="true">
          <span>{text(field.from)}</span>
          <span>{text(field.to)} and more</span>
        </div>
        <Button className="pointer-events-auto mt-1.5 h-7" onClick={() => void savePicture(name, field.label)}>
          Save a picture (PNG)
        </Button>
      </figure>
      {at && (
        <p
          aria-hidden="true"
          className="figures pointer-events-none absolute z-10 border border-ink bg-sheet px-1.5 leading-5"
          style={{ left: at.x + 14, top: at.y - 26 }}
        >
          {text(at.value)}
        </p>
      )}
    </>
  )
}
