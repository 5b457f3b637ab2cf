import type { ComponentType } from 'react'
import { HandOff } from '../handoff/HandOff.tsx'
import { Layers } from '../layers/Layers.tsx'
import { Make } from '../make/Make.tsx'
import { Move } from '../move/Move.tsx'
import { OutlinePage } from '../outline/OutlinePage.tsx'
import { Plan } from '../plan/Plan.tsx'
import { Proof } from '../proof/Proof.tsx'
import { Frame } from './Frame.tsx'
import type { Stage } from './stages.ts'

/** What an open part is worked on with: fetched together, when the first part is opened. */
export const pages: Readonly<Record<Stage['path'] | 'outline' | 'frame', ComponentType>> = {
  frame: Frame,
  plan: Plan,
  make: Make,
  move: Move,
  proof: Proof,
  layers: Layers,
  'hand-off': HandOff,
  outline: OutlinePage,
}
