import '@fontsource-variable/archivo/standard.css'
import '@fontsource/barlow-semi-condensed/500.css'
import './styles.css'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { RouterProvider } from 'react-router'
import { router } from './router.tsx'
import { sendUnsent } from './state/part.ts'
import { openTrails } from './state/trail.ts'

void openTrails().then(sendUnsent)
window.addEventListener('online', () => void sendUnsent())
setInterval(() => void sendUnsent(), 15_000)

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <RouterProvider router={router} />
  </StrictMode>,
)
