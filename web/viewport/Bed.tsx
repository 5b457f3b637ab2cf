import { useMemo } from 'react'
import { BufferGeometry, Color, DoubleSide, Float32BufferAttribute, ShaderMaterial } from 'three'
import { line } from './colours.ts'

/** The bed: a grid of 10 mm that fades with distance, and the outline of the printer's printing space. */
export function Bed({ size }: { readonly size: readonly [number, number, number] }) {
  const outline = useMemo(() => {
    const [x, y] = [size[0] / 2, size[1] / 2]
    return new BufferGeometry().setAttribute(
      'position',
      new Float32BufferAttribute([-x, -y, 0, x, -y, 0, x, -y, 0, x, y, 0, x, y, 0, -x, y, 0, -x, y, 0, -x, -y, 0], 3),
    )
  }, [size])
  const material = useMemo(
    () =>
      new ShaderMaterial({
        transparent: true,
        depthWrite: false,
        side: DoubleSide,
        uniforms: { colour: { value: new Color(line) }, reach: { value: Math.max(size[0], size[1]) * 0.75 } },
        vertexShader: `varying vec2 at; void main() { at = position.xy; gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0); }`,
        fragmentShader: `
          uniform vec3 colour; uniform float reach; varying vec2 at;
          float lines(float every) {
            vec2 g = abs(fract(at / every - 0.5) - 0.5) / fwidth(at / every);
            return 1.0 - min(min(g.x, g.y), 1.0);
          }
          void main() {
            float fade = 1.0 - smoothstep(reach * 0.35, reach, length(at));
            float strength = max(lines(10.0) * 0.55, lines(50.0));
            gl_FragColor = vec4(colour, strength * fade);
            #include <colorspace_fragment>
          }`,
      }),
    [size],
  )
  return (
    <group position={[0, 0, -0.02]}>
      <mesh material={material} renderOrder={-2}>
        <planeGeometry args={[size[0] * 1.6, size[1] * 1.6]} />
      </mesh>
      <lineSegments geometry={outline} renderOrder={-1}>
        <lineBasicMaterial color="#9fb0ad" />
      </lineSegments>
    </group>
  )
}
