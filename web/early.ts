import type { Part } from '@makrel/core/document'
import { ahead } from './ahead.ts'
import { readySolids } from './channel/workers.ts'
import { contentKey, keptDrawings, wasDrawnHere, windowNow } from './drawn/kept.ts'
import { served } from './drawn/served.ts'
import { waited } from './ui/waited.ts'

/**
 * The first script of the page. Where a part is opened, it is asked for, the worker that draws is started, and the part is shown as it was
 * drawn last if it is still the same. The rest of the application follows once that is on the screen, or found to be nowhere. Where it was never drawn here, the server may
 * have a drawing.
 */
const [, id, stage] = /^\/part\/([^/]+)\/?(.*)$/.exec(location.pathname) ?? []

/** Longer than this nothing else waits for a picture, ms. */
const longest = 250

/** Longer than this no worker waits for what the server says, ms. */
const longestAsked = 1000

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

/** Builds the part before the page asks for it; where there is a drawing to show, that goes first, and the page begins the build. */
async function buildAhead(id: string, opened: Promise<Part | undefined>): Promise<void> {
  // The page tells what is wrong with it.
  const part = opened.catch(() => undefined)
  const asked = wasDrawnHere(id) ? undefined : part.then((there) => there && served.drawing(there))
  if (asked && (await Promise.race([asked, waited(longestAsked)]))) return
  readySolids.start()
  const there = await part
  if (there) readySolids.build(there)
}

async function begin(): Promise<void> {
  if (id) {
    const part = plain(id)
    const opened = ahead.ask(part).then(openedFrom)
    // Where there can be a picture it has the processor to itself.
    if (pictured.includes(stage ?? '') && wasDrawnHere(part)) {
      await Promise.race([opened.then(showLast).catch(() => undefined), waited(longest)])
    }
    void buildAhead(part, opened)
    // All that shows a part is fetched at once, not one after the other.
    void import('./frame/pages.ts').then(({ pages }) => {
      void pages.frame()
      void (stage ? pages[stage as 'make']?.() : pages.make())
    })
  }
  await import('./main.tsx')
}

void begin()
