import type { ComponentType } from 'react'
import type { Stage } from './stages.ts'

/** What draws the part is on its way while a stage that shows it is fetched. */
const view = () => void import('../viewport/PartView.tsx').catch(() => undefined)

type Page = () => Promise<ComponentType>

/** What an open part is worked on with, each fetched by itself. */
export const pages: Readonly<Record<Stage['path'] | 'outline' | 'frame' | 'workshop' | 'guide', Page>> = {
  frame: async () => (await import('./Frame.tsx')).Frame,
  plan: async () => (await import('../plan/Plan.tsx')).Plan,
  make: async () => {
    view()
    return (await import('../make/Make.tsx')).Make
  },
  outline: async () => (await import('../outline/OutlinePage.tsx')).OutlinePage,
  move: async () => {
    view()
    return (await import('../move/Move.tsx')).Move
  },
  proof: async () => {
    view()
    return (await import('../proof/Proof.tsx')).Proof
  },
  guide: async () => (await import('../guide/Guide.tsx')).Guide,
  workshop: async () => (await import('../workshop/Workshop.tsx')).Workshop,
  layers: async () => (await import('../layers/Layers.tsx')).Layers,
  'hand-off': async () => {
    view()
    return (await import('../handoff/HandOff.tsx')).HandOff
  },
}

/** Fetches all of them ahead, one after the other: a stage is there when it is pressed, also once the server has been replaced. */
export async function fetchPages(): Promise<void> {
  for (const page of Object.values(pages)) await page().catch(() => undefined)
}
