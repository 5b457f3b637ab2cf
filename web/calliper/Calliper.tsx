import { formatNumber } from '@makrel/core/units'
import { useCallback, useEffect, useRef, useState } from 'react'
import { Link } from 'react-router'
import { Mark } from '../frame/Mark.tsx'
import { Button } from '../ui/Button.tsx'
import { type CalliperLine, openLine } from './line.ts'

/** Things in the boat shed to put between the jaws, with their true sizes in mm. */
const things = [
  { name: 'lantern rod', size: 22.03 },
  { name: 'shed-post screw', size: 5.24 },
  { name: 'gate pin', size: 7.96 },
  { name: 'locker plank', size: 18.4 },
  { name: 'oar shaft', size: 41.62 },
  { name: 'deck cap, across flats', size: 24.93 },
] as const

/** No two readings of a thing are the same: how far they scatter, mm (standard deviation). */
const scatter = 0.015
/** The longest the jaws open, mm, and how many pixels of the drawing a millimetre takes. */
const longest = 150
const scale = 4.6

/** A simulated calliper: it speaks to the server as a bridge to a real one would. */
export function Calliper() {
  const [jaw, setJaw] = useState(0)
  const [zero, setZero] = useState(0)
  const [unit, setUnit] = useState<'mm' | 'in'>('mm')
  const [answer, setAnswer] = useState('')
  const [connected, setConnected] = useState(false)
  const line = useRef<CalliperLine>(undefined)
  useEffect(() => {
    document.title = 'Calliper — Makrel'
    const opened = openLine(
      'instrument',
      (message) => {
        if (message.type === 'taken')
          setAnswer(
            message.pages === 0
              ? 'No part is open to take it.'
              : `Sent to ${message.pages} open ${message.pages === 1 ? 'part' : 'parts'}.`,
          )
        if (message.type === 'refused') setAnswer(`The reading was refused: ${message.reason}.`)
      },
      setConnected,
    )
    line.current = opened
    return () => opened.close()
  }, [])
  const reading = jaw - zero
  const shown = unit === 'mm' ? formatNumber(reading, 2) : formatNumber(reading / 25.4, 4)
  const send = useCallback(() => {
    const sent = line.current?.send({ value: Number(shown), unit })
    if (!sent) setAnswer('There is no connection to Makrel; the reading was not sent.')
  }, [shown, unit])
  const close = (size: number) => setJaw(clamped(size + scatter * normal()))
  return (
    <div className="flex h-full flex-col">
      <header className="flex h-[3.25rem] shrink-0 items-center gap-4 border-b border-ink bg-sheet px-5">
        <Link to="/" className="flex items-center gap-2.5 text-base font-semibold hover:text-mackerel">
          <Mark />
          Makrel
        </Link>
        <h1 className="text-base font-semibold">Calliper</h1>
        <p role="status" className="ml-auto text-ink-soft">
          {connected ? 'connected' : 'no connection; trying again'}
        </p>
      </header>
      <main className="min-h-0 flex-1 overflow-auto bg-ground px-6 py-8">
        <div className="mx-auto max-w-[56.25rem]">
          <p className="mb-6 text-ink-soft">
            A stand-in for a calliper with a data cable. Click into a value of an open part in another window; what you
            send from here is typed there.
          </p>
          <Instrument jaw={jaw} shown={shown} unit={unit} onJaw={(mm) => setJaw(clamped(mm))} onSend={send} />
          <div className="mt-6 flex flex-wrap items-center gap-2">
            <span className="mr-1 text-ink-soft">Between the jaws</span>
            {things.map(({ name, size }) => (
              <Button key={name} onClick={() => close(size)}>
                {name}
              </Button>
            ))}
          </div>
          <div className="mt-4 flex flex-wrap items-center gap-2">
            <Button main onClick={send}>
              Send the reading
            </Button>
            <Button onClick={() => setUnit(unit === 'mm' ? 'in' : 'mm')}>
              {unit === 'mm' ? 'to inches' : 'to mm'}
            </Button>
            <Button onClick={() => setZero(zero === 0 ? jaw : 0)}>{zero === 0 ? 'Zero here' : 'True zero'}</Button>
            <p role="status" className="ml-2 text-ink-soft">
              {answer}
            </p>
          </div>
        </div>
      </main>
    </div>
  )
}

/** Beam, jaws and display; the slider goes by dragging, or by the arrow keys. */
function Instrument({
  jaw,
  shown,
  unit,
  onJaw,
  onSend,
}: {
  readonly jaw: number
  readonly shown: string
  readonly unit: string
  onJaw(mm: number): void
  onSend(): void
}) {
  const held = useRef<{ readonly x: number; readonly jaw: number }>(undefined)
  const [left, top] = [70, 60]
  const x = left + jaw * scale
  const ticks = Array.from({ length: longest + 1 }, (_, mm) => mm)
  return (
    <svg viewBox="0 0 900 300" className="w-full border border-line bg-sheet" aria-label="Calliper">
      <g stroke="var(--color-ink)" fill="var(--color-belly)">
        <path d={`M${left - 20} ${top} H880 V${top + 44} H${left - 20} Z`} />
        <path d={`M${left - 20} ${top + 44} H${left} V270 L${left - 14} 270 L${left - 20} 230 Z`} />
        <path d={`M${left - 20} ${top} H${left - 6} L${left} ${top - 40} L${left - 8} ${top - 40} Z`} />
      </g>
      <g stroke="var(--color-ink)" strokeWidth="0.8">
        {ticks.map((mm) => (
          <line
            key={mm}
            x1={left + mm * scale}
            x2={left + mm * scale}
            y1={top + 44}
            y2={top + 44 - (mm % 10 === 0 ? 18 : mm % 5 === 0 ? 13 : 8)}
          />
        ))}
      </g>
      <g className="figures" fontSize="11" textAnchor="middle" fill="var(--color-ink)">
        {ticks
          .filter((mm) => mm % 10 === 0)
          .map((mm) => (
            <text key={mm} x={left + mm * scale} y={top + 20}>
              {mm}
            </text>
          ))}
      </g>
      <g
        role="slider"
        tabIndex={0}
        aria-label="Jaw"
        aria-valuemin={0}
        aria-valuemax={longest}
        aria-valuenow={jaw}
        aria-valuetext={`${shown} ${unit}`}
        className="cursor-ew-resize touch-none"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId)
          held.current = { x: event.clientX, jaw }
        }}
        onPointerMove={(event) => {
          const from = held.current
          const width = event.currentTarget.ownerSVGElement?.getBoundingClientRect().width
          if (from && width) onJaw(from.jaw + ((event.clientX - from.x) * 900) / width / scale)
        }}
        onPointerUp={() => {
          held.current = undefined
        }}
        onKeyDown={(event) => {
          const step = event.shiftKey ? 1 : 0.01
          if (event.key === 'ArrowRight' || event.key === 'ArrowUp') onJaw(jaw + step)
          else if (event.key === 'ArrowLeft' || event.key === 'ArrowDown') onJaw(jaw - step)
          else if (event.key === ' ' || event.key === 'Enter') onSend()
          else return
          event.preventDefault()
        }}
      >
        <g stroke="var(--color-ink)" fill="#dbe2e3">
          <path
            d={`M${x} ${top + 38} V270 L${x + 14} 270 L${x + 20} 230 V${top + 74} H${x + 190} V${top - 8} H${x} Z`}
          />
          <path d={`M${x + 6} ${top - 8} H${x + 20} L${x + 8} ${top - 40} L${x} ${top - 40} Z`} />
        </g>
        <rect x={x + 26} y={top} width="150" height="46" fill="var(--color-ground)" stroke="var(--color-ink)" />
        <text
          x={x + 142}
          y={top + 33}
          textAnchor="end"
          fontSize="28"
          className="figures select-none"
          fill="var(--color-ink)"
          data-testid="reading"
        >
          {shown}
        </text>
        <text x={x + 148} y={top + 33} fontSize="13" fill="var(--color-ink-soft)" className="select-none">
          {unit}
        </text>
      </g>
    </svg>
  )
}

function clamped(mm: number): number {
  return Math.min(longest, Math.max(0, mm))
}

/** A number of the standard normal distribution (Box and Muller 1958). */
function normal(): number {
  return Math.sqrt(-2 * Math.log(1 - Math.random())) * Math.cos(2 * Math.PI * Math.random())
}
