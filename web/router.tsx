import { createBrowserRouter, Navigate } from 'react-router'
import { Calliper } from './calliper/Calliper.tsx'
import { Frame } from './frame/Frame.tsx'
import { stages } from './frame/stages.tsx'
import { OutlinePage } from './outline/OutlinePage.tsx'
import { Shelf } from './shelf/Shelf.tsx'

export const router = createBrowserRouter([
  { path: '/', element: <Shelf /> },
  {
    path: '/part/:id',
    element: <Frame />,
    children: [
      { index: true, element: <Navigate to="make" replace /> },
      { path: 'make/outline/:outline', element: <OutlinePage /> },
      ...stages.map(({ path, Page }) => ({ path, element: <Page /> })),
    ],
  },
  { path: '/calliper', element: <Calliper /> },
  { path: '*', element: <Navigate to="/" replace /> },
])
