import type { FindingRank } from '@makrel/core/proof'
import { AdviceIcon, FaultIcon, PassIcon, WarningIcon } from './icons.tsx'

const marks = {
  pass: { Icon: PassIcon, colour: 'text-moss' },
  advice: { Icon: AdviceIcon, colour: 'text-ink-soft' },
  warning: { Icon: WarningIcon, colour: 'text-amber' },
  fault: { Icon: FaultIcon, colour: 'text-rust' },
} as const

/** The mark of a rank: its own shape, and its colour besides. */
export function RankMark({ rank, size = 14 }: { readonly rank: FindingRank; readonly size?: number }) {
  const { Icon, colour } = marks[rank]
  return <Icon size={size} className={`shrink-0 ${colour}`} aria-label={rank} role="img" />
}

export function rankColour(rank: FindingRank): string {
  return marks[rank].colour
}
