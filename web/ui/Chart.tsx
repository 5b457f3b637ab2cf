import { Filler, Chart as Library, LinearScale, LineController, LineElement, PointElement } from 'chart.js'
import { useEffect, useRef } from 'react'

Library.register(Filler, LineController, LineElement, PointElement, LinearScale)

interface Line {
  readonly label: string
  readonly points: readonly { readonly x: number; readonly y: number }[]
  readonly colour: 'mackerel' | 'amber' | 'ink'
  readonly dashed?: boolean
  readonly filled?: boolean
}

/** A small line chart in the look of the drawing; axes are fixed, so that it does not jump while it fills. */
export function Chart({
  label,
  height,
  range,
  lines,
}: {
  readonly label: string
  readonly height: number
  readonly range: { readonly x: readonly [number, number]; readonly y: readonly [number, number] }
  readonly lines: readonly Line[]
}) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const chart = useRef<Library>(undefined)
  useEffect(() => {
    chart.current = new Library(canvas.current!, {
      type: 'line',
      data: { datasets: [] },
      options: {
        animation: false,
        responsive: true,
        maintainAspectRatio: false,
        events: [],
        layout: { padding: { right: 6 } },
      },
    })
    return () => chart.current?.destroy()
  }, [])
  useEffect(() => {
    const style = getComputedStyle(document.documentElement)
    const token = (name: string) => style.getPropertyValue(`--color-${name}`).trim()
    const font = { family: 'Barlow Semi Condensed', size: 12 }
    const scale = ([min, max]: readonly [number, number]) => ({
      type: 'linear' as const,
      min,
      max,
      grid: { color: token('line'), tickLength: 3 },
      border: { color: token('ink') },
      ticks: { color: token('ink-soft'), font, maxTicksLimit: 7, includeBounds: true },
    })
    chart.current!.data.datasets = lines.map((line) => ({
      label: line.label,
      data: [...line.points],
      borderColor: token(line.colour),
      backgroundColor: token('mackerel-wash'),
      borderWidth: line.dashed || line.colour === 'ink' ? 1 : 1.75,
      borderDash: line.dashed ? [5, 4] : [],
      pointRadius: 0,
      fill: line.filled ?? false,
    }))
    chart.current!.options.scales = {
      x: scale(range.x),
      y: { ...scale(range.y), ticks: { ...scale(range.y).ticks, maxTicksLimit: 3 } },
    }
    chart.current!.update()
  }, [lines, range])
  return (
    <div style={{ height }} className="relative mt-1">
      <canvas ref={canvas} role="img" aria-label={label} />
    </div>
  )
}
