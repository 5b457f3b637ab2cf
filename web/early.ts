import type { Part } from '@makrel/core/document'
import { ahead } from './ahead.ts'
import { readySolids } from './channel/workers.ts'
import { contentKey, keptDrawings, wasDrawnHere, windowNow } from './drawn/kept.ts'

/**
 * The first script of the page. Where a part is opened, it is asked for, the worker that draws is started, and the part is shown as it was
 * drawn last if it is still the same. The rest of the application follows once that is on the screen, or found to be nowhere.
 */
const [, id, stage] = /^\/part\/([^/]+)\/?(.*)$/.exec(location.pathname) ?? []

/** Longer than this nothing else waits for a picture, ms. */
const longest = 250

/** Longer than this no picture stands for the drawing, ms. */
const longestShown = 6000

/** Of which stage pictures are kept. */
const pictured = ['', 'make']

/** What the server has of the part; undefined where it has none. */
async function openedFrom(response: Awaited<ReturnType<typeof ahead.ask>>): Promise<Part | undefined> {
  return response.ok ? ((await response.json()) as { document: Part }).document : undefined
}

async function showLast(part: Part | undefined): Promise<void> {
  if (!part) return
  const picture = await keptDrawings.picture(await contentKey(part))
  if (!picture || picture.window !== windowNow()) return
  const image = new Image()
  image.src = URL.createObjectURL(picture.image)
  await image.decode()
  // Whoever was quicker has drawn the part itself.
  if (document.querySelector('[data-drawn]')) return
  image.id = 'kept-picture'
  image.alt = ''
  image.dataset.drawn = 'kept'
  const { left, top, width, height } = picture
  const box = { left: `${left}px`, top: `${top}px`, width: `${width}px`, height: `${height}px` }
  Object.assign(image.style, { position: 'fixed', pointerEvents: 'none', ...box })
  document.body.append(image)
  // The drawing itself takes its place; where none comes it does not stay.
  setTimeout(() => image.remove(), longestShown)
  await new Promise((resolve) => requestAnimationFrame(() => setTimeout(resolve)))
}

/** What cannot be read is no part's: the application says so. */
function plain(text: string): string {
  try {
    return decodeURIComponent(text)
  } catch {
    return text
  }
}

async function begin(): Promise<void> {
  if (id) {
    const part = plain(id)
    const opened = ahead.ask(part).then(openedFrom)
    // Where there can be a picture it has the processor to itself.
    if (pictured.includes(stage ?? '') && wasDrawnHere(part)) {
      const patience = new Promise((resolve) => setTimeout(resolve, longest))
      await Promise.race([opened.then(showLast).catch(() => undefined), patience])
    }
    readySolids.start()
    // The page tells what is wrong with it.
    opened.then((there) => there && readySolids.build(there)).catch(() => undefined)
    // All that shows a part is fetched at once, not one after the other.
    void import('./frame/pages.ts').then(({ pages }) => {
      void pages.frame()
      void (stage ? pages[stage as 'make']?.() : pages.make())
    })
  }
  await import('./main.tsx')
}

void begin()
