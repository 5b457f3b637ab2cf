import type { Box } from '@makrel/core/place'
import { useFrame, useThree } from '@react-three/fiber'
import { useEffect, useRef } from 'react'
import { MathUtils, Matrix4, type Object3D, type PerspectiveCamera, Spherical, Vector3 } from 'three'
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js'
import { picker } from '../channel/client.ts'
import { selectionWash } from './colours.ts'
import { type Pose, useView, type ViewName, viewDirections } from './view.ts'

/**
 * Turns, pans and zooms the view, fits it to `box` at first and when `fitKey` changes (undefined: not yet), and tells the overlay where things are.
 * The camera's field of view is narrow, so that parallel edges look nearly parallel, as on a drawing.
 */
export function CameraRig({ box, fitKey }: { readonly box: Box | undefined; readonly fitKey: string | undefined }) {
  const camera = useThree((state) => state.camera) as PerspectiveCamera
  const gl = useThree((state) => state.gl)
  const scene = useThree((state) => state.scene)
  const canvas = gl.domElement
  const size = useThree((state) => state.size)
  const invalidate = useThree((state) => state.invalidate)
  const controls = useRef<OrbitControls>(undefined)
  const last = useRef(new Matrix4())
  const fitted = useRef<string>(undefined)
  const known = useRef(box)
  known.current = box

  useEffect(() => {
    camera.up.set(0, 0, 1)
    const orbit = new OrbitControls(camera, canvas)
    orbit.enableDamping = false
    orbit.zoomToCursor = true
    let turning = false
    orbit.addEventListener('start', () => {
      turning = true
    })
    orbit.addEventListener('end', () => {
      turning = false
    })
    orbit.addEventListener('change', () => {
      // Only what turned the view, not a press that became something else.
      if (turning && useView.getState().name !== 'free') useView.setState({ name: 'free' })
      invalidate()
    })
    controls.current = orbit
    const look = (name: ViewName) => {
      if (known.current) fit(camera, orbit, known.current, viewDirections[name])
      useView.setState({ name })
      invalidate()
    }
    const changed = () => {
      orbit.update()
      useView.setState({ name: 'free' })
      invalidate()
    }
    const pose = (): Pose => {
      const away = camera.position.clone().sub(orbit.target)
      const tall = 2 * away.length() * Math.tan(MathUtils.degToRad(camera.fov / 2))
      return {
        from: away.normalize().toArray(),
        target: orbit.target.toArray(),
        tall,
        parallel: useView.getState().parallel,
      }
    }
    useView.setState({
      look,
      pose,
      take({ from, target, tall, parallel }) {
        useView.setState({ parallel })
        orbit.target.set(...target)
        const distance = tall / 2 / Math.tan(MathUtils.degToRad(camera.fov / 2))
        camera.position.copy(orbit.target).addScaledVector(new Vector3(...from).normalize(), distance)
        changed()
      },
      async picture(over) {
        gl.render(scene, camera)
        const blob = await onPaper(canvas, getComputedStyle(document.body).backgroundColor, over)
        return blob && new Uint8Array(await blob.arrayBuffer())
      },
      async asOpened() {
        if (!known.current) return undefined
        // Looked at for an instant as a part is when it is opened, with nothing selected, and back again before anybody sees it.
        const [at, target] = [camera.position.clone(), orbit.target.clone()]
        const washes: Object3D[] = []
        scene.traverse((each) => {
          if (each.name === selectionWash && each.visible) washes.push(each)
        })
        for (const wash of washes) wash.visible = false
        fit(camera, orbit, known.current, viewDirections.free)
        gl.render(scene, camera)
        const bitmap = createImageBitmap(canvas)
        for (const wash of washes) wash.visible = true
        orbit.target.copy(target)
        camera.position.copy(at)
        orbit.update()
        gl.render(scene, camera)
        const { left, top, width, height } = canvas.getBoundingClientRect()
        const image = await picker().call('compress', { bitmap: await bitmap })
        return { image, left, top, width, height }
      },
      fitTo(target) {
        fit(camera, orbit, target, camera.position.clone().sub(orbit.target).toArray())
        invalidate()
      },
      orbit(right, up) {
        const away = new Spherical().setFromVector3(upright(camera.position.clone().sub(orbit.target)))
        away.theta += MathUtils.degToRad(right)
        away.phi = MathUtils.clamp(away.phi - MathUtils.degToRad(up), 0.001, Math.PI - 0.001)
        camera.position.copy(orbit.target).add(level(new Vector3().setFromSpherical(away)))
        changed()
      },
      pan(right, up) {
        const tall = 2 * camera.position.distanceTo(orbit.target) * Math.tan(MathUtils.degToRad(camera.fov / 2))
        const shift = new Vector3(right * tall, up * tall, 0).applyQuaternion(camera.quaternion)
        orbit.target.add(shift)
        camera.position.add(shift)
        changed()
      },
      zoom(factor) {
        const away = camera.position.clone().sub(orbit.target).divideScalar(factor)
        away.clampLength(orbit.minDistance, orbit.maxDistance)
        camera.position.copy(orbit.target).add(away)
        changed()
      },
    })
    const unsubscribe = useView.subscribe(({ held }) => {
      orbit.enabled = !held
    })
    const unsubscribeLens = useView.subscribe(({ parallel }, before) => {
      if (parallel === before.parallel) return
      setLens(camera, orbit, parallel)
      invalidate()
    })
    setLens(camera, orbit, useView.getState().parallel)
    return () => {
      unsubscribe()
      unsubscribeLens()
      orbit.dispose()
    }
  }, [camera, canvas, invalidate, gl, scene])

  useEffect(() => {
    if (!box || fitted.current === fitKey || !controls.current || (fitted.current && !fitKey)) return
    fitted.current = fitKey ?? 'as drawn'
    fit(camera, controls.current, box, viewDirections.free)
    useView.setState({ name: 'free' })
    invalidate()
  }, [box, fitKey, camera, invalidate])

  useFrame(() => {
    // Near and far about the bed, however far off the eye is: depth is told apart best in a short range.
    const away = controls.current ? camera.position.distanceTo(controls.current.target) : camera.far
    const [near, far] = [Math.max(away / 200, away - deepest), away + deepest]
    if (camera.near !== near || camera.far !== far) {
      Object.assign(camera, { near, far })
      camera.updateProjectionMatrix()
    }
    camera.updateMatrixWorld()
    const matrix = new Matrix4().multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse)
    const { width, height } = useView.getState()
    if (matrix.equals(last.current) && width === size.width && height === size.height) return
    last.current = matrix
    const { x, y, z } = camera.position
    const pixelsPerMm = size.height / 2 / Math.tan((camera.fov * Math.PI) / 360)
    const inverse = matrix.clone().invert().elements
    useView.setState({
      matrix: matrix.elements,
      inverse,
      eye: [x, y, z],
      width: size.width,
      height: size.height,
      pixelsPerMm,
    })
  })
  return null
}

/** How far before and behind the middle of the view things are drawn, mm. */
const deepest = 4000

/** Degrees: narrow, so that parallel edges look nearly parallel; and so narrow that they do to the last pixel. */
const lenses = { perspective: 22, parallel: 0.6 } as const

/** Changes the field of view; the eye goes as far off as keeps everything in the middle at its size. */
function setLens(camera: PerspectiveCamera, orbit: OrbitControls, parallel: boolean): void {
  const before = Math.tan(MathUtils.degToRad(camera.fov / 2))
  camera.fov = parallel ? lenses.parallel : lenses.perspective
  const factor = before / Math.tan(MathUtils.degToRad(camera.fov / 2))
  const reach = Math.tan(MathUtils.degToRad(lenses.perspective / 2)) / Math.tan(MathUtils.degToRad(camera.fov / 2))
  orbit.minDistance = 5 * reach
  orbit.maxDistance = 8000 * reach
  camera.position.sub(orbit.target).multiplyScalar(factor).add(orbit.target)
  orbit.update()
  camera.updateProjectionMatrix()
}

/** Between axes where z is up, as here, and those where y is, as spherical coordinates have it. */
const upright = (p: Vector3) => new Vector3(p.x, p.z, -p.y)
const level = (p: Vector3) => new Vector3(p.x, -p.z, p.y)

/** What is on a canvas now, on paper of a colour. */
function onPaper(
  canvas: HTMLCanvasElement,
  colour: string,
  over: ((pen: CanvasRenderingContext2D) => void) | undefined,
): Promise<Blob | undefined> {
  const paper = document.createElement('canvas')
  paper.width = canvas.width
  paper.height = canvas.height
  const pen = paper.getContext('2d')
  if (!pen) return Promise.resolve(undefined)
  pen.fillStyle = colour
  pen.fillRect(0, 0, paper.width, paper.height)
  pen.drawImage(canvas, 0, 0)
  const scale = canvas.width / (canvas.clientWidth || canvas.width)
  pen.scale(scale, scale)
  over?.(pen)
  return new Promise((done) => paper.toBlob((blob) => done(blob ?? undefined), 'image/png'))
}

function fit(camera: PerspectiveCamera, orbit: OrbitControls, box: Box, from: readonly number[]): void {
  const middle = new Vector3(...box.min).add(new Vector3(...box.max)).multiplyScalar(0.5)
  const radius = Math.max(5, new Vector3(...box.max).sub(new Vector3(...box.min)).length() / 2)
  const narrow = Math.min(1, camera.aspect) * Math.tan((camera.fov * Math.PI) / 360)
  // Room for the dimension lines round the part and for the title block below it.
  const distance = (radius * 1.2) / Math.sin(Math.atan(narrow))
  const direction = new Vector3(from[0], from[1], from[2]).normalize()
  orbit.target.copy(middle)
  camera.position.copy(middle).addScaledVector(direction, distance)
  // The title block lies over the foot of the drawing: the part moves up by a twentieth of the view.
  const { clientWidth, clientHeight } = orbit.domElement as HTMLElement
  camera.setViewOffset(clientWidth, clientHeight, 0, clientHeight * 0.04, clientWidth, clientHeight)
  camera.updateProjectionMatrix()
  orbit.update()
}
