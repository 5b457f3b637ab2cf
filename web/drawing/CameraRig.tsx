import type { Box } from '@makrel/core/place'
import { useFrame, useThree } from '@react-three/fiber'
import { useEffect, useRef } from 'react'
import { Matrix4, type PerspectiveCamera, Vector3 } from 'three'
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js'
import { useView, type ViewName, viewDirections } from './view.ts'

/**
 * Turns, pans and zooms the view, fits it to `box` when `fitKey` changes, and tells the overlay where things are.
 * The camera's field of view is narrow, so that parallel edges look nearly parallel, as on a drawing.
 */
export function CameraRig({ box, fitKey }: { readonly box: Box | undefined; readonly fitKey: string }) {
  const camera = useThree((state) => state.camera) as PerspectiveCamera
  const canvas = useThree((state) => state.gl.domElement)
  const size = useThree((state) => state.size)
  const invalidate = useThree((state) => state.invalidate)
  const controls = useRef<OrbitControls>(undefined)
  const last = useRef(new Matrix4())
  const fitted = useRef('')
  const known = useRef(box)
  known.current = box

  useEffect(() => {
    camera.up.set(0, 0, 1)
    const orbit = new OrbitControls(camera, canvas)
    orbit.enableDamping = false
    orbit.zoomToCursor = true
    orbit.minDistance = 5
    orbit.maxDistance = 8000
    orbit.addEventListener('change', () => invalidate())
    orbit.addEventListener('start', () => useView.setState({ name: 'free' }))
    controls.current = orbit
    const look = (name: ViewName) => {
      if (known.current) fit(camera, orbit, known.current, name)
      useView.setState({ name })
      invalidate()
    }
    useView.setState({ look })
    const unsubscribe = useView.subscribe(({ held }) => {
      orbit.enabled = !held
    })
    return () => {
      unsubscribe()
      orbit.dispose()
    }
  }, [camera, canvas, invalidate])

  useEffect(() => {
    if (!box || fitted.current === fitKey || !controls.current) return
    fitted.current = fitKey
    fit(camera, controls.current, box, 'free')
    useView.setState({ name: 'free' })
    invalidate()
  }, [box, fitKey, camera, invalidate])

  useFrame(() => {
    camera.updateMatrixWorld()
    const matrix = new Matrix4().multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse)
    const { width, height } = useView.getState()
    if (matrix.equals(last.current) && width === size.width && height === size.height) return
    last.current = matrix
    const { x, y, z } = camera.position
    const pixelsPerMm = size.height / 2 / Math.tan((camera.fov * Math.PI) / 360)
    useView.setState({ matrix, eye: [x, y, z], width: size.width, height: size.height, pixelsPerMm })
  })
  return null
}

function fit(camera: PerspectiveCamera, orbit: OrbitControls, box: Box, name: ViewName): void {
  const middle = new Vector3(...box.min).add(new Vector3(...box.max)).multiplyScalar(0.5)
  const radius = Math.max(5, new Vector3(...box.max).sub(new Vector3(...box.min)).length() / 2)
  const narrow = Math.min(1, camera.aspect) * Math.tan((camera.fov * Math.PI) / 360)
  // Room for the dimension lines round the part and for the title block below it.
  const distance = (radius * 1.2) / Math.sin(Math.atan(narrow))
  const direction = new Vector3(...viewDirections[name]).normalize()
  orbit.target.copy(middle)
  camera.position.copy(middle).addScaledVector(direction, distance)
  camera.near = distance / 100
  camera.far = distance * 20
  // The title block lies over the foot of the drawing: the part moves up by a twentieth of the view.
  const { clientWidth, clientHeight } = orbit.domElement as HTMLElement
  camera.setViewOffset(clientWidth, clientHeight, 0, clientHeight * 0.04, clientWidth, clientHeight)
  camera.updateProjectionMatrix()
  orbit.update()
}
