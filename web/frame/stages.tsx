import type { ComponentType } from 'react'
import { HandOff } from '../handoff/HandOff.tsx'
import { Layers } from '../layers/Layers.tsx'
import { Make } from '../make/Make.tsx'
import { Move } from '../move/Move.tsx'
import { Plan } from '../plan/Plan.tsx'
import { Proof } from '../proof/Proof.tsx'

export interface Stage {
  readonly path: string
  readonly label: string
  readonly Page: ComponentType
}

/** The stages in the order of the work. */
export const stages: readonly Stage[] = [
  { path: 'plan', label: 'Plan', Page: Plan },
  { path: 'make', label: 'Make', Page: Make },
  { path: 'move', label: 'Move', Page: Move },
  { path: 'proof', label: 'Proof', Page: Proof },
  { path: 'layers', label: 'Layers', Page: Layers },
  { path: 'hand-off', label: 'Hand off', Page: HandOff },
]
