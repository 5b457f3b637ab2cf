import { pieceOfBody } from '@makrel/core/document'
import { layerCount, layerMiddle } from '@makrel/core/layers'
import type { Box } from '@makrel/core/place'
import { forEachCorner, type PackedRings } from '@makrel/core/plane'
import { formatArea, formatLengthWithUnit, mmPer } from '@makrel/core/units'
import { useEffect, useMemo, useState } from 'react'
import { checks } from '../channel/client.ts'
import type { PieceSection } from '../channel/protocol.ts'
import { wholeBox } from '../frame/whole.ts'
import { PrintedIn } from '../move/PrintedIn.tsx'
import { usePrinted } from '../move/posed.ts'
import { useBuild } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { Chart } from '../ui/Chart.tsx'
import { Figures } from '../ui/Figures.tsx'
import { SidePanel } from '../ui/SidePanel.tsx'
import { pieceColour } from '../viewport/colours.ts'
import { MadeUpFor, type Sizes, SizesChoice, usualSizes } from '../workshop/MadeUpFor.tsx'

/** The sections of all pieces at one height of one built part. */
interface Cut {
  readonly of: unknown
  readonly z: number
  readonly compensated: boolean
  readonly sections: readonly PieceSection[]
}

/** The part as the printer will see it: one real section after another. */
export function Layers() {
  const part = usePart((state) => state.part)!
  const pieces = useBuild((state) => state.pieces)
  const shown = useBuild((state) => state.shown)
  const [wanted, setWanted] = useState(0)
  const [cut, setCut] = useState<Cut>()
  const [areas, setAreas] = useState<readonly number[]>([])
  const [chosen, setMade] = useState<Sizes>()
  const made = chosen ?? usualSizes(part)
  const compensated = made === 'printed'
  const printing = usePrinted()
  const box = printing ? printing.posed?.box : wholeBox(pieces)
  const { layerHeight, firstLayer } = part.printer
  const heights = useMemo(() => ({ layerHeight, firstLayer }), [layerHeight, firstLayer])
  const count = box ? layerCount(box.max[2], heights) : 0
  const index = Math.min(wanted, Math.max(0, count - 1))

  useEffect(() => {
    if (!shown || count === 0) return setCut(undefined)
    let current = true
    const z = layerMiddle(index, heights)
    void checks()
      .call('section', { z, compensated }, shown)
      .then(
        (sections) => current && setCut({ of: shown, z, compensated, sections }),
        () => undefined,
      )
    return () => {
      current = false
    }
  }, [shown, index, count, heights, compensated])
  useEffect(() => {
    setAreas([])
    if (!shown || count === 0) return
    let current = true
    void checks()
      .call('areas', { heights, count, compensated }, shown)
      .then(
        (answer) => current && setAreas(answer),
        () => undefined,
      )
    return () => {
      current = false
    }
  }, [shown, count, heights, compensated])

  const sections = cut?.sections ?? []
  // The picture of the layer before stays until the new one is there; its figures would be taken for the new one's.
  const figures =
    cut !== undefined && cut.of === shown && cut.compensated === compensated && cut.z === layerMiddle(index, heights)
  const area = sections.reduce((sum, each) => sum + each.area, 0)
  const rings = sections.reduce((sum, each) => sum + each.rings.ends.length, 0)
  return (
    <main className="flex min-h-0 flex-1">
      <div className="relative min-w-0 flex-1">
        {box ? (
          <SectionView box={box} sections={sections} />
        ) : (
          <p className="p-10 text-center text-base text-ink-soft">There is no solid to cut into layers yet.</p>
        )}
      </div>
      <SidePanel label="Layers" isMain className="flex flex-col gap-4 overflow-y-auto px-5 py-4">
        <div>
          <h2 className="text-lg font-semibold">Layers</h2>
          <p className="mt-1 text-ink-soft">
            Sections through the middle of each layer of {formatLengthWithUnit(layerHeight, part.unit)}
            {firstLayer === layerHeight ? '' : `, the first of ${formatLengthWithUnit(firstLayer, part.unit)}`}.
          </p>
          <PrintedIn />
        </div>
        <div>
          <div className="grid grid-cols-[5.75rem_1fr] items-center">
            <span className="font-semibold">Sizes</span>
            <SizesChoice value={made} onChange={setMade} />
          </div>
          {compensated && <MadeUpFor />}
        </div>
        {count > 0 && (
          <>
            <label className="block">
              <span className="font-semibold">Layer</span>
              <input
                type="range"
                aria-label="Layer"
                min={1}
                max={count}
                step={1}
                value={index + 1}
                onChange={(event) => setWanted(Number(event.target.value) - 1)}
                className="mt-1 h-6 w-full accent-mackerel"
              />
            </label>
            <Figures
              rows={[
                ['Layer', `${index + 1} of ${count}`],
                ['Cut at height', formatLengthWithUnit(layerMiddle(index, heights), part.unit)],
                ['Filled area', figures ? formatArea(area, part.unit) : '…'],
                ['Outlines', figures ? String(rings) : '…'],
              ]}
            />
            {sections.length > 1 && (
              <ul>
                {sections.map(({ piece, area: own }) => {
                  const known = pieceOfBody(part, piece)
                  return (
                    known && (
                      <li key={piece} className="flex items-center gap-2 border-b border-line py-1">
                        <span
                          className="h-3 w-3 border border-ink-soft"
                          style={{ background: pieceColour(known.colour) }}
                        />
                        {known.name}
                        <span className="figures ml-auto text-[0.9375rem]">
                          {figures ? formatArea(own, part.unit) : '…'}
                        </span>
                      </li>
                    )
                  )
                })}
              </ul>
            )}
            <AreaChart areas={areas} index={index} />
          </>
        )}
      </SidePanel>
    </main>
  )
}

/** The next number of the form 1, 1.5, 2, 3, 4, 5, 6, 8 × 10ⁿ: a round end for an axis. */
function roundUp(value: number): number {
  const power = 10 ** Math.floor(Math.log10(value))
  return [1, 1.5, 2, 3, 4, 5, 6, 8, 10].map((n) => n * power).find((n) => n >= value) ?? value
}

function AreaChart({ areas: mm2, index }: { readonly areas: readonly number[]; readonly index: number }) {
  const unit = usePart((state) => state.part!.unit)
  const areas = useMemo(() => mm2.map((area) => area / mmPer(unit) ** 2), [mm2, unit])
  const most = roundUp(Math.max(1 / mmPer(unit) ** 2, ...areas))
  const range = useMemo(
    () => ({ x: [1, Math.max(2, areas.length)] as const, y: [0, most] as const }),
    [areas.length, most],
  )
  return (
    <div>
      <p className="font-semibold">
        Filled area by layer <span className="font-normal text-ink-soft">{unit}²</span>
      </p>
      <Chart
        label="Filled area of each layer"
        height={140}
        range={range}
        lines={[
          {
            label: 'here',
            points: [
              { x: index + 1, y: 0 },
              { x: index + 1, y: most },
            ],
            colour: 'ink',
          },
          { label: 'area', points: areas.map((y, i) => ({ x: i + 1, y })), colour: 'mackerel', filled: true },
        ]}
      />
    </div>
  )
}

/** The section from above, true to scale, with the outline of the whole part's size round it. */
function SectionView({ box, sections }: { readonly box: Box; readonly sections: readonly PieceSection[] }) {
  const part = usePart((state) => state.part)!
  const [width, depth] = [box.max[0] - box.min[0], box.max[1] - box.min[1]]
  const margin = Math.max(width, depth) * 0.12
  // However narrow the window is, the bed goes on to its edges.
  const beyond = Math.max(width, depth) * 5
  // The view's y points down; the section's points up.
  const view = `${box.min[0] - margin} ${-box.max[1] - margin} ${width + 2 * margin} ${depth + 2 * margin}`
  return (
    <svg
      viewBox={view}
      className="absolute inset-0 h-full w-full bg-[linear-gradient(#f6f8f7,#edf1ef_45%)]"
      role="img"
      aria-label="Section of this layer"
    >
      <defs>
        <pattern id="bed-grid" width="10" height="10" patternUnits="userSpaceOnUse">
          <path
            d="M10 0H0V10"
            fill="none"
            stroke="var(--color-line)"
            strokeWidth="1"
            vectorEffect="non-scaling-stroke"
          />
        </pattern>
        <pattern id="hatch" width="2.4" height="2.4" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V2.4" stroke="var(--color-ink)" strokeWidth="0.22" opacity="0.35" />
        </pattern>
      </defs>
      <rect
        x={box.min[0] - beyond}
        y={-box.max[1] - beyond}
        width={width + 2 * beyond}
        height={depth + 2 * beyond}
        fill="url(#bed-grid)"
      />
      <rect
        x={box.min[0]}
        y={-box.max[1]}
        width={width}
        height={depth}
        fill="none"
        stroke="var(--color-ink-soft)"
        strokeDasharray="4 3"
        strokeWidth="1"
        vectorEffect="non-scaling-stroke"
      />
      {sections.map(({ piece, rings }) => (
        <g key={piece} fillRule="evenodd">
          <path d={pathOf(rings)} fill={pieceColour(pieceOfBody(part, piece)?.colour ?? 'pewter')} />
          <path
            d={pathOf(rings)}
            fill="url(#hatch)"
            stroke="var(--color-ink)"
            strokeWidth="1.2"
            vectorEffect="non-scaling-stroke"
          />
        </g>
      ))}
    </svg>
  )
}

function pathOf(rings: PackedRings): string {
  const words: string[] = []
  forEachCorner(rings, (x, y, isFirst) => words.push(`${isFirst ? 'M' : 'L'}${x.toFixed(3)} ${(-y).toFixed(3)}`))
  // A new ring closes the one before.
  return words.join('').replace(/(?!^)M/g, 'ZM') + (words.length > 0 ? 'Z' : '')
}
