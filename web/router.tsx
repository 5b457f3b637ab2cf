import { createBrowserRouter, Navigate } from 'react-router'
import { Calliper } from './calliper/Calliper.tsx'
import { pages } from './frame/pages.ts'
import { stages } from './frame/stages.ts'
import { Shelf } from './shelf/Shelf.tsx'

/** The shelf is there at once; what a part is worked on with follows. */
const later = (page: keyof typeof pages) => async () => ({ Component: await pages[page]() })

export const router = createBrowserRouter([
  { path: '/', element: <Shelf /> },
  {
    path: '/part/:id',
    lazy: later('frame'),
    hydrateFallbackElement: <></>,
    children: [
      { index: true, element: <Navigate to="make" replace /> },
      { path: 'make/outline/:outline', lazy: later('outline') },
      ...stages.map(({ path }) => ({ path, lazy: later(path) })),
    ],
  },
  { path: '/workshop', element: <Navigate to="/workshop/printers" replace /> },
  { path: '/workshop/:kind/:id?', lazy: later('workshop'), hydrateFallbackElement: <></> },
  { path: '/guide/:page?', lazy: later('guide'), hydrateFallbackElement: <></> },
  { path: '/calliper', element: <Calliper /> },
  { path: '*', element: <Navigate to="/" replace /> },
])
