import { type MouseEvent, useEffect, useRef, useState } from 'react'
import { NavLink, useNavigate, useParams } from 'react-router'
import { PlainHeader } from '../frame/PlainHeader.tsx'
import { guidePage, guidePages } from './pages.ts'

/** What can be done on each stage, and parts to make line by line. */
export function Guide() {
  const { page = 'make' } = useParams()
  const [html, setHtml] = useState<string>()
  const text = useRef<HTMLElement>(null)
  const navigate = useNavigate()
  useEffect(() => {
    let isCurrent = true
    document.title = `${guidePages.find(([name]) => name === page)?.[1] ?? 'Guide'} — Makrel`
    void guidePage(page)
      .catch(() => undefined)
      .then((found) => isCurrent && setHtml(found ?? '<p>This page is not there. The list on the left has all.</p>'))
    return () => {
      isCurrent = false
    }
  }, [page])
  useEffect(() => {
    // Our own pages, read when this was built: nothing of them was typed by anybody.
    if (text.current && html !== undefined) text.current.innerHTML = html
    text.current?.parentElement?.scrollTo({ top: 0 })
  }, [html])
  const follow = (event: MouseEvent<HTMLElement>) => {
    const link = (event.target as HTMLElement).closest('a')
    const to = link?.getAttribute('href')
    if (!to?.startsWith('/guide/') || event.ctrlKey || event.metaKey || event.shiftKey) return
    event.preventDefault()
    navigate(to)
  }
  return (
    <div className="flex h-full flex-col">
      <PlainHeader title="Guide" />
      <div className="flex min-h-0 flex-1 max-[50rem]:flex-col">
        <nav
          aria-label="Pages of the guide"
          className="w-60 shrink-0 overflow-y-auto border-r border-line bg-sheet py-4 max-[50rem]:max-h-40 max-[50rem]:w-full"
        >
          {guidePages.map(([name, title], i) => (
            <div key={name}>
              {i > 0 && name.startsWith('part-') && !guidePages[i - 1]![0].startsWith('part-') && (
                <p className="mt-4 px-5 pb-1 text-xs text-ink-soft">Parts to make</p>
              )}
              <NavLink
                to={`/guide/${name}`}
                className={({ isActive }) =>
                  `block px-5 py-1.5 hover:bg-mackerel-wash ${isActive ? 'bg-mackerel-wash font-semibold text-mackerel' : ''}`
                }
              >
                {title}
              </NavLink>
            </div>
          ))}
        </nav>
        <main className="min-w-0 flex-1 overflow-y-auto bg-ground px-8 py-6">
          {/* biome-ignore lint/a11y/useKeyWithClickEvents: only links in it are followed, which keys press as well */}
          <article ref={text} onClick={follow} className="guide mx-auto max-w-[46rem] text-base" />
        </main>
      </div>
    </div>
  )
}
