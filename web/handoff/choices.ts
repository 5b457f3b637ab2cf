import { type FileSize, type FileUnit, sizedWays, type UsualFineness } from '@makrel/core/exchange'
import { evaluate, type ValueKind } from '@makrel/core/measures'
import { ProblemError } from '@makrel/core/problems'
import type { PartUnit } from '@makrel/core/units'
import { create } from 'zustand'
import { createJSONStorage, persist } from 'zustand/middleware'
import type { Sizes } from '../workshop/MadeUpFor.tsx'

/** How large a file is: as drawn, so many per cent of that, or of a size along one way. */
export const sizings = ['drawn', 'factor', ...sizedWays] as const

/** What is handed off, and how. */
export interface Choices {
  readonly format: string
  /** the id of a piece, or "all" */
  readonly piece: string
  /** mm, as text; "part": as the part needs it; or "own" */
  readonly fineness: string
  /** what was typed for the fineness */
  readonly own: string
  readonly sizes: 'one' | 'all'
  /** the id of a pose, empty for how it is drawn; how it is printed where none is chosen */
  readonly pose?: string | undefined
  /** whether the file makes up for what the printer and the material do; where that was measured unless something is chosen */
  readonly made?: Sizes | undefined
  /** in which the numbers of the file are */
  readonly unit: FileUnit
  readonly sizing: (typeof sizings)[number]
  /** what was typed for the size: per cent, or a length */
  readonly size: string
}

const usual: Choices = {
  ...{ format: '3mf', piece: 'all', fineness: 'part', own: '0.015', sizes: 'one', unit: 'mm' },
  ...{ sizing: 'drawn', size: '' },
}

/** What of it a maker is likely to want of the next part too. */
const ofMaker = ['format', 'fineness', 'own', 'unit'] as const

/** So many parts are remembered, the latest last. */
const mostParts = 200

interface Kept {
  readonly maker: Partial<Pick<Choices, (typeof ofMaker)[number]>>
  readonly parts: readonly (readonly [id: string, own: Partial<Choices>])[]
}

/** What was chosen last, on this machine: of each part, and of any. */
const useKept = create<Kept>()(
  persist((): Kept => ({ maker: {}, parts: [] }), {
    name: 'makrel-hand-off',
    storage: createJSONStorage(() => localStorage),
  }),
)

export function chosenOf({ maker, parts }: Kept, part: string): Choices {
  return { ...usual, ...maker, ...parts.find(([id]) => id === part)?.[1] }
}

export function withChosen({ maker, parts }: Kept, part: string, change: Partial<Choices>): Kept {
  const own = { ...parts.find(([id]) => id === part)?.[1], ...change }
  const others = parts.filter(([id]) => id !== part).slice(1 - mostParts)
  const shared = Object.entries(change).filter(([name]) => ofMaker.some((each) => each === name))
  return { maker: { ...maker, ...Object.fromEntries(shared) }, parts: [...others, [part, own]] }
}

/** What is chosen for a part, and how to change it; it is there again when the part is. */
export function useChoices(part: string): readonly [Choices, (change: Partial<Choices>) => void] {
  const kept = useKept()
  return [chosenOf(kept, part), (change) => useKept.setState(withChosen(useKept.getState(), part, change))]
}

/** A value that names nothing. */
function plain(text: string, kind: ValueKind, unit: PartUnit): number {
  const noNames = {
    unit,
    has: () => false,
    resolve: (name: string, at: readonly [number, number]) => {
      throw new ProblemError('unknown-name', { name, suggestion: '' }, at)
    },
  }
  return evaluate(text, kind, noNames).value
}

/** @throws ProblemError too-small, too-large, and those of expressions */
export function finenessOf({ fineness, own }: Choices, ofPart: UsualFineness): number {
  if (fineness === 'part') return ofPart.fineness
  const value = plain(fineness === 'own' ? own : fineness, 'length', 'mm')
  if (value < 0.001) throw new ProblemError('too-small', { label: 'Fineness', bound: '0.001 mm', value })
  if (value > 1) throw new ProblemError('too-large', { label: 'Fineness', bound: '1 mm', value })
  return value
}

/** @throws ProblemError not-above, and those of expressions */
export function sizeOf({ sizing, size }: Choices, unit: PartUnit): FileSize | undefined {
  if (sizing === 'drawn') return undefined
  const value = plain(size, sizing === 'factor' ? 'ratio' : 'length', unit)
  if (!(value > 0)) throw new ProblemError('not-above', { label: 'Size', bound: '0', value })
  return sizing === 'factor' ? { by: 'factor', factor: value / 100 } : { by: sizing, mm: value }
}
