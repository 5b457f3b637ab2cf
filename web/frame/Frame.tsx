import { useEffect, useState } from 'react'
import { Outlet, useParams } from 'react-router'
import { ApiError } from '../api.ts'
import { useCalliperReadings } from '../calliper/receive.ts'
import { useKeyList } from '../keys/keys.ts'
import { buildAgain } from '../state/build.ts'
import { openedPart } from '../state/opening.ts'
import { usePart } from '../state/part.ts'
import { saves } from '../state/saves.ts'
import { trails } from '../state/trail.ts'
import { NoticeBar } from '../ui/Notice.tsx'
import { Carried } from '../workshop/Carried.tsx'
import { Conflict, Unkept } from './Conflict.tsx'
import { Header } from './Header.tsx'
import { PartBoundary } from './PartBoundary.tsx'
import { fetchPages } from './pages.ts'
import { partKeys } from './partKeys.ts'
import { Unopened } from './Unopened.tsx'
import { Working } from './Working.tsx'

/** What is shown first has the network and the processor to itself for so long, ms. */
const fetchAfter = 4000

/** One part with its stages: opens it, keeps it, and frames whatever stage is shown. */
export function Frame() {
  const { id = '' } = useParams()
  const part = usePart((state) => state.part)
  const [failure, setFailure] = useState<ApiError>()
  const [turn, setTurn] = useState(0)
  useKeyList(partKeys)
  useCalliperReadings()

  // biome-ignore lint/correctness/useExhaustiveDependencies: another turn is another try
  useEffect(() => {
    let current = true
    setFailure(undefined)
    // What was made a moment ago may still be on its way.
    void saves
      .all()
      .then(() => openedPart(id, () => current))
      .catch((error: unknown) => {
        document.getElementById('kept-picture')?.remove()
        if (current) setFailure(error instanceof ApiError ? error : new ApiError(0, String(error), undefined))
      })
    const leaving = () => void usePart.getState().saveNow(true)
    window.addEventListener('pagehide', leaving)
    const hidden = () => document.visibilityState === 'hidden' && trails.flush()
    document.addEventListener('visibilitychange', hidden)
    return () => {
      current = false
      window.removeEventListener('pagehide', leaving)
      document.removeEventListener('visibilitychange', hidden)
      usePart.getState().close()
    }
  }, [id, turn])

  useEffect(() => {
    const timer = setTimeout(() => void fetchPages(), fetchAfter)
    return () => clearTimeout(timer)
  }, [])

  useEffect(() => {
    document.title = part ? `${part.name} — Makrel` : 'Makrel'
  }, [part])

  if (failure) return <Unopened id={id} failure={failure} again={() => setTurn(turn + 1)} />
  if (!part || part.id !== id) return null
  return (
    <div className="flex h-full flex-col">
      <Header />
      <Conflict />
      <Unkept />
      <Carried />
      <Working again={buildAgain} />
      <PartBoundary what="stage">
        <Outlet />
      </PartBoundary>
      <NoticeBar />
    </div>
  )
}
