import type { Box } from '@makrel/core/place'
import { useFrame, useThree } from '@react-three/fiber'
import { useEffect, useMemo, useRef } from 'react'
import {
  CanvasTexture,
  Color,
  DoubleSide,
  Group,
  Matrix4,
  Mesh,
  MeshBasicMaterial,
  PlaneGeometry,
  SRGBColorSpace,
  Vector3,
} from 'three'
import { bedWords } from './bedWords.ts'
import { inkSoft } from './colours.ts'

/** Pixels of a letter's picture for one of its height, and the height of a picture for one of a letter. */
const [fine, room] = [64, 1.5]

/** Front, right, back and left in drafting lettering on the bed, the right way up from wherever one looks. */
export function BedWords({
  size,
  box,
}: {
  readonly size: readonly [number, number, number]
  readonly box: Box | undefined
}) {
  const invalidate = useThree((state) => state.invalidate)
  const words = useMemo(() => ({ group: new Group(), byWord: new Map<string, Mesh>() }), [])
  const matrix = useRef(new Matrix4())
  useEffect(() => {
    let isThere = true
    // With the letters of the page's own font, once that is there.
    void document.fonts.load(`${fine}px "Barlow Semi Condensed"`).then(() => {
      if (!isThere) return
      for (const word of ['front', 'right', 'back', 'left']) {
        const mesh = wordMesh(word)
        words.byWord.set(word, mesh)
        words.group.add(mesh)
      }
      invalidate()
    })
    return () => {
      isThere = false
      for (const mesh of words.byWord.values()) {
        const material = mesh.material as MeshBasicMaterial
        mesh.geometry.dispose()
        material.map?.dispose()
        material.dispose()
      }
      words.group.clear()
      words.byWord.clear()
    }
  }, [words, invalidate])
  useFrame(({ camera, size: { width, height } }) => {
    camera.updateMatrixWorld()
    matrix.current.multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse)
    const eye = camera.position.toArray()
    const shown = bedWords(size, box, { matrix: matrix.current.elements, eye, width, height })
    for (const [word, mesh] of words.byWord) {
      const place = shown.find((each) => each.word === word)
      mesh.visible = place !== undefined
      if (!place) continue
      const [along, up] = [new Vector3(...place.along), new Vector3(...place.up)]
      mesh.matrix.makeBasis(along, up, along.clone().cross(up)).setPosition(...place.at)
      mesh.matrix.scale(new Vector3(place.high, place.high, 1))
    }
  })
  return <primitive object={words.group} />
}

/** A word as a picture, one high letter for each unit of its height. */
function wordMesh(word: string): Mesh {
  const canvas = document.createElement('canvas')
  const font = `500 ${fine}px "Barlow Semi Condensed"`
  const pen = canvas.getContext('2d')!
  pen.font = font
  pen.letterSpacing = `${fine / 8}px`
  canvas.width = Math.ceil(pen.measureText(word).width + fine / 4)
  canvas.height = Math.ceil(fine * room)
  // Another size of a canvas forgets what was set.
  Object.assign(pen, { font, letterSpacing: `${fine / 8}px`, textAlign: 'center', textBaseline: 'middle' })
  pen.fillStyle = `#${new Color(inkSoft).getHexString()}`
  pen.fillText(word, canvas.width / 2, canvas.height / 2)
  const map = new CanvasTexture(canvas)
  map.colorSpace = SRGBColorSpace
  map.anisotropy = 8
  const material = new MeshBasicMaterial({ map, transparent: true, depthWrite: false, side: DoubleSide })
  const mesh = new Mesh(new PlaneGeometry(canvas.width / fine, room), material)
  mesh.matrixAutoUpdate = false
  mesh.renderOrder = -1
  mesh.raycast = () => undefined
  return mesh
}
