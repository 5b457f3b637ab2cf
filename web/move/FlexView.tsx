import type { KeptFlex } from '@makrel/core/document'
import { edgesOf, type FlexFound, type FlexResult, isOfPiece, sheetOf } from '@makrel/core/flex'
import type { Vec2 } from '@makrel/core/plane'
import { flattenedChain } from '@makrel/core/plane'
import { formatLengthWithUnit, formatNumber } from '@makrel/core/units'
import { useEffect, useMemo, useRef, useState } from 'react'
import { bender } from '../channel/client.ts'
import { Overtaken } from '../channel/work.ts'
import { useBuild } from '../state/build.ts'
import { useWorked } from '../state/built.ts'
import { usePart } from '../state/part.ts'
import { Choice } from '../ui/Choice.tsx'
import { Figures } from '../ui/Figures.tsx'
import { strainColour } from './strainColour.ts'

/** Something flat as it is held, pushed and bent. */
export function FlexView({ flex }: { readonly flex: KeptFlex }) {
  const part = usePart((state) => state.part!)
  const worked = useWorked()
  const { result, loops } = useFlex(flex)
  const [share, setShare] = useState(1)
  const [press, setPress] = useState<'held' | 'pushed'>('held')
  // What a whole piece fills is read off its solid.
  const own = worked && sheetOf(worked.resolved, flex)
  const round = own?.sheet?.region.loops ?? loops
  const rims = useMemo(() => {
    if (!round) return []
    // Each edge by itself, so that it can be pressed.
    return edgesOf({ loops: round })
      .flat()
      .map(({ edge, segment }) => ({
        edge,
        points: flattenedChain([segment], false, 0.02, false) as readonly Vec2[],
      }))
  }, [round])
  if (!round || rims.length === 0)
    return (
      <p className="p-10 text-center text-base text-ink-soft">
        {isOfPiece(part, flex) && !result
          ? 'Looking at it …'
          : (result?.fault ?? own?.fault ?? 'There is nothing to bend.')}
      </p>
    )
  const found = result && result.fault === undefined ? result : undefined
  const { material } = part
  const edges = [...new Set(rims.map(({ edge }) => edge))]
  const toggle = (edge: string) => {
    const other = press === 'held' ? 'pushed' : 'held'
    const own = flex[press].includes(edge) ? flex[press].filter((each) => each !== edge) : [...flex[press], edge]
    usePart.getState().edit({
      type: 'keep-flex',
      flex: { ...flex, [press]: own, [other]: flex[other].filter((each) => each !== edge) },
    })
  }
  return (
    <div className="absolute inset-0 flex flex-col bg-[linear-gradient(#f6f8f7,#edf1ef_45%)]">
      <div className="relative min-h-0 flex-1">
        <Drawing flex={flex} rims={rims} edges={edges} found={found} share={share} onPress={toggle} />
        <p className="absolute top-3 left-4 text-base">
          Click an edge to{' '}
          <Choice<'held' | 'pushed'>
            label="Click an edge to"
            value={press}
            options={[
              { value: 'held', label: 'hold it' },
              { value: 'pushed', label: 'push it' },
            ]}
            onChange={setPress}
          />
          .
        </p>
      </div>
      <div className="m-4 grid min-h-48 grid-cols-[1fr_20rem] gap-6 border border-ink bg-sheet px-4 py-3">
        <label className="flex items-center gap-3 self-start">
          <span className="font-semibold">Bent</span>
          <input
            type="range"
            aria-label="Bent"
            min={0}
            max={1}
            step={0.02}
            value={share}
            disabled={!found}
            onChange={(event) => setShare(Number(event.target.value))}
            className="h-6 flex-1 accent-mackerel"
          />
          <output className="figures w-14 text-right">{Math.round(100 * share)} %</output>
        </label>
        {result === undefined ? (
          <p>Bending …</p>
        ) : result.fault !== undefined ? (
          <p role="status">{result.fault}</p>
        ) : (
          <div data-testid="flex-result">
            <Figures
              rows={[
                ['Force', `${formatNumber(result.force, 2)} N`],
                ['Travel', formatLengthWithUnit(result.travel, part.unit)],
                ['Stiffness at first', `${formatNumber(result.stiffness, 3)} N/mm`],
                [
                  'Largest strain',
                  `${formatNumber(100 * Math.abs(result.strain), 2)} % of ${material.strainOften} %, once ${material.strainOnce} %`,
                ],
              ]}
            />
            {result.coarser && (
              <p className="mt-1 text-ink-soft">
                In coarser triangles: {formatNumber(result.coarser.force, 2)} N,{' '}
                {formatNumber(100 * Math.abs(result.coarser.strain), 2)} %.
              </p>
            )}
            {result.contact > 0 && (
              <p role="status" className="mt-1">
                It touches itself at {formatNumber(result.contact, 1)} N.
              </p>
            )}
            {result.reached < 1 && (
              <p role="alert" className="mt-1 text-rust">
                {result.contact > 0 ? 'It goes no farther than' : 'It gives way at'} {Math.round(100 * result.reached)}{' '}
                % of that.
              </p>
            )}
            {result.touches && (
              <p role="alert" className="mt-1 text-rust">
                It runs into itself there: results beyond that are not valid.
              </p>
            )}
          </div>
        )}
      </div>
    </div>
  )
}

/** What the test comes to, once it is known; undefined while it is worked out. */
function useFlex(flex: KeptFlex): { readonly result?: FlexResult | undefined; readonly loops?: FlexResult['loops'] } {
  const shown = useBuild((state) => state.shown)
  const [known, setKnown] = useState<{ readonly test: KeptFlex; readonly result: FlexResult }>()
  useEffect(() => {
    if (!shown) return
    let current = true
    bender()
      .call('flex', { flex }, shown)
      .then(
        (result) => current && setKnown({ test: flex, result }),
        (error: Error) => {
          if (current && !(error instanceof Overtaken)) setKnown({ test: flex, result: { fault: error.message } })
        },
      )
    return () => {
      current = false
    }
  }, [shown, flex])
  return {
    result: known?.test === flex ? known.result : undefined,
    // Of what it is of, while it is bent anew.
    loops: known?.test.of === flex.of ? known.result.loops : undefined,
  }
}

interface DrawingProps {
  readonly flex: KeptFlex
  readonly rims: readonly { readonly edge: string; readonly points: readonly Vec2[] }[]
  readonly edges: readonly string[]
  readonly found: FlexFound | undefined
  readonly share: number
  onPress(edge: string): void
}

function Drawing({ flex, rims, edges, found, share, onPress }: DrawingProps) {
  const { material } = usePart((state) => state.part!)
  const canvas = useRef<HTMLCanvasElement>(null)
  const [size, setSize] = useState<readonly [number, number]>([1, 1])
  const frame = useRef<HTMLDivElement>(null)
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => {
      const { width, height } = entry!.contentRect
      setSize([Math.max(1, width), Math.max(1, height)])
    })
    watch.observe(frame.current!)
    return () => watch.disconnect()
  }, [])
  const toScreen = useMemo(() => {
    const points = rims.flatMap((rim) => rim.points)
    const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)]
    const [low, high] = [Math.min(...xs), Math.max(...xs)]
    const [bottom, top] = [Math.min(...ys), Math.max(...ys)]
    const scale = 0.66 * Math.min(size[0] / Math.max(high - low, 1e-6), size[1] / Math.max(top - bottom, 1e-6))
    return ([x, y]: Vec2): Vec2 => [
      size[0] / 2 + scale * (x - (low + high) / 2),
      size[1] / 2 - scale * (y - (bottom + top) / 2),
    ]
  }, [rims, size])
  useEffect(() => {
    const context = canvas.current?.getContext('2d')
    if (!context) return
    context.clearRect(0, 0, size[0], size[1])
    if (!found) return
    const { mesh, moved, strains } = found
    const at = (node: number) =>
      toScreen([
        mesh.nodes[2 * node]! + share * moved[2 * node]!,
        mesh.nodes[2 * node + 1]! + share * moved[2 * node + 1]!,
      ])
    for (let e = 0; e < mesh.elements.length; e += 6) {
      const strain = (share * (Math.abs(strains[e]!) + Math.abs(strains[e + 1]!) + Math.abs(strains[e + 2]!))) / 3
      context.fillStyle = strainColour((100 * strain) / material.strainOnce)
      context.strokeStyle = context.fillStyle
      context.beginPath()
      for (let i = 0; i < 3; i++) context[i === 0 ? 'moveTo' : 'lineTo'](...at(mesh.elements[e + i]!))
      context.closePath()
      context.fill()
      context.stroke()
    }
    const [x, y] = at(found.worst)
    context.strokeStyle = '#a63a1f'
    context.lineWidth = 2
    context.beginPath()
    context.arc(x, y, 8, 0, 2 * Math.PI)
    context.stroke()
    context.lineWidth = 1
  }, [found, share, toScreen, size, material.strainOnce])
  return (
    <div ref={frame} className="absolute inset-0">
      <canvas ref={canvas} width={size[0]} height={size[1]} className="absolute inset-0" />
      {/* biome-ignore lint/a11y/useSemanticElements: edges of a drawing, in a drawing */}
      <svg width={size[0]} height={size[1]} className="absolute inset-0" role="group" aria-label="Edges">
        {rims.map(({ edge, points }, i) => {
          const path = points
            .map(
              (p, k) =>
                `${k === 0 ? 'M' : 'L'}${toScreen(p)
                  .map((x) => x.toFixed(1))
                  .join(' ')}`,
            )
            .join('')
          const held = flex.held.includes(edge)
          const pushed = flex.pushed.includes(edge)
          const name = `Edge ${edges.indexOf(edge) + 1}${held ? ', held' : pushed ? ', pushed' : ''}`
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: edges have no other order
            <g key={i}>
              <path
                d={path}
                fill="none"
                stroke={held ? 'var(--color-ink)' : pushed ? 'var(--color-mackerel)' : 'var(--color-ink-soft)'}
                strokeWidth={held || pushed ? 5 : 1.2}
                strokeDasharray={held ? '3 2' : undefined}
              />
              {/* biome-ignore lint/a11y/useSemanticElements: an edge of a drawing can be no button */}
              <path
                d={path}
                fill="none"
                stroke="transparent"
                strokeWidth="12"
                role="button"
                tabIndex={0}
                aria-label={name}
                className="cursor-pointer"
                onClick={() => onPress(edge)}
                onKeyDown={(event) => {
                  if (event.key !== 'Enter' && event.key !== ' ') return
                  event.preventDefault()
                  onPress(edge)
                }}
              >
                <title>{name}</title>
              </path>
            </g>
          )
        })}
      </svg>
    </div>
  )
}
