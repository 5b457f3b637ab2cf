import '@fontsource-variable/archivo/standard.css'
import '@fontsource/barlow-semi-condensed/500.css'
import './styles.css'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { RouterProvider } from 'react-router'
import { router } from './router.tsx'

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <RouterProvider router={router} />
  </StrictMode>,
)

/** What was made while the server was away is sent from whatever page is open, once that page is there. */
const send = () => void import('./state/part.ts').then(({ sendUnsent }) => sendUnsent())
window.addEventListener('online', send)
setTimeout(send, 1000)
setInterval(send, 15_000)
