import type { Mark } from '@makrel/core/proof'
import { useEffect, useMemo } from 'react'
import { type BufferGeometry, Color, DoubleSide, Float32BufferAttribute, ShaderMaterial } from 'three'
import { mackerel, rust, sheet } from './colours.ts'
import { geometryOf } from './PieceModel.tsx'

/** Where a finding is, over the part: seen through it, so that nothing hides it. A field is drawn by itself (`surfaceField.tsx`). */
export function FindingMarks({ marks }: { readonly marks: readonly Mark[] }) {
  // biome-ignore lint/suspicious/noArrayIndexKey: marks of one finding have no other order
  return marks.map((mark, i) => (mark.kind === 'field' ? null : <OneMark key={`${mark.kind} ${i}`} mark={mark} />))
}

function OneMark({ mark }: { readonly mark: Exclude<Mark, { kind: 'field' }> }) {
  const geometry = useMemo(() => {
    const made = geometryOf(mark.points)
    if (mark.kind === 'points' && mark.values) {
      const { of, from, to } = mark.values
      const [low, high] = [new Color(rust), new Color(mackerel)]
      const colours = [...of].flatMap((value) =>
        low
          .clone()
          .lerp(high, Math.min(1, Math.max(0, (value - from) / (to - from || 1))))
          .toArray(),
      )
      made.setAttribute('color', new Float32BufferAttribute(colours, 3))
    }
    return made
  }, [mark])
  useEffect(() => () => geometry.dispose(), [geometry])
  const over = { depthTest: false, depthWrite: false, transparent: true }
  switch (mark.kind) {
    case 'triangles':
      if (mark.as) return <Changed geometry={geometry} as={mark.as} />
      return (
        <mesh geometry={geometry} raycast={nothing} renderOrder={3}>
          <meshBasicMaterial color={rust} opacity={0.35} side={2} {...over} />
        </mesh>
      )
    case 'lines':
      return (
        <lineSegments geometry={geometry} raycast={nothing} renderOrder={3}>
          <lineBasicMaterial color={rust} {...over} />
        </lineSegments>
      )
    case 'points':
      return (
        <points geometry={geometry} raycast={nothing} renderOrder={3}>
          <pointsMaterial
            size={6}
            sizeAttenuation={false}
            {...(mark.values ? { vertexColors: true } : { color: rust })}
            {...over}
          />
        </points>
      )
  }
}

/** What a change puts there is all of one colour, what it takes away is hatched: colour alone does not tell which is which. */
function Changed({ geometry, as }: { readonly geometry: BufferGeometry; readonly as: 'added' | 'removed' }) {
  const material = useMemo(
    () =>
      new ShaderMaterial({
        ...{ depthTest: false, depthWrite: false, transparent: true, side: DoubleSide },
        uniforms: {
          tone: { value: new Color(as === 'added' ? mackerel : rust) },
          paper: { value: new Color(sheet) },
          hatched: { value: as === 'removed' ? 1 : 0 },
        },
        vertexShader: `void main() { gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0); }`,
        fragmentShader: `
          uniform vec3 tone; uniform vec3 paper; uniform float hatched;
          void main() {
            float line = 1.0 - smoothstep(0.8, 1.6, mod(gl_FragCoord.x + gl_FragCoord.y, 7.0));
            gl_FragColor = vec4(mix(tone, paper, hatched * line), 0.5);
            #include <colorspace_fragment>
          }`,
      }),
    [as],
  )
  useEffect(() => () => material.dispose(), [material])
  return <mesh geometry={geometry} material={material} raycast={nothing} renderOrder={3} />
}

/** Not to be hit by the pointer. */
function nothing(): void {}
