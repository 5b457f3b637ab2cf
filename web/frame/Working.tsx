import { useEffect, useState } from 'react'
import { useLocation } from 'react-router'
import { useWork } from '../channel/work.ts'
import { Button } from '../ui/Button.tsx'

/** Told where something takes long: what it is, for how long it has been running, and that it can be stopped, or done again. */
export function Working({ again }: { again?(): void }) {
  const running = useWork((state) => state.running)
  const stopped = useWork((state) => state.stopped)
  const { pathname } = useLocation()
  // It is done for whoever looks at the proof; elsewhere nobody waits for it.
  if (running?.call === 'cures' && !pathname.endsWith('/proof')) return null
  if (!running && !(again && stopped !== undefined)) return null
  return (
    <div className="pointer-events-none fixed inset-x-0 top-[6.75rem] z-40 flex justify-center max-[62.5rem]:justify-start max-[62.5rem]:pl-3">
      <div
        role="status"
        className="pointer-events-auto flex items-center gap-3 rounded-sm border border-ink-soft bg-sheet py-1.5 pr-1.5 pl-4 shadow-[0_6px_18px_rgb(20_40_44/0.16)]"
      >
        {running ? (
          <>
            <span>{running.text} …</span>
            <Elapsed since={running.since} />
            <Button onClick={running.stop}>Stop</Button>
          </>
        ) : (
          <>
            <span>{stopped} was stopped. The drawing is as it was before.</span>
            <Button onClick={again}>Do it again</Button>
          </>
        )}
      </div>
    </div>
  )
}

function Elapsed({ since }: { readonly since: number }) {
  const [seconds, setSeconds] = useState(0)
  useEffect(() => {
    const tick = () => setSeconds(Math.floor((performance.now() - since) / 1000))
    tick()
    const timer = setInterval(tick, 500)
    return () => clearInterval(timer)
  }, [since])
  return <span className="figures w-10 text-right text-ink-soft">{seconds} s</span>
}
