export interface Stage {
  readonly path: 'plan' | 'make' | 'move' | 'proof' | 'layers' | 'hand-off'
  readonly label: string
}

/** The stages in the order of the work. */
export const stages: readonly Stage[] = [
  { path: 'plan', label: 'Plan' },
  { path: 'make', label: 'Make' },
  { path: 'move', label: 'Move' },
  { path: 'proof', label: 'Proof' },
  { path: 'layers', label: 'Layers' },
  { path: 'hand-off', label: 'Hand off' },
]
