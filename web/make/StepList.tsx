import type { Plan, ResolvedPart } from '@makrel/core/build'
import { bundleKind, type Part, type Step } from '@makrel/core/document'
import type { Problem } from '@makrel/core/problems'
import { useState } from 'react'
import { usePart } from '../state/part.ts'
import { FoldedLine, holds, mainSizes, problemsOf, StepLine } from './StepLine.tsx'
import { stepTitle } from './words.ts'

interface Props {
  readonly part: Part
  readonly steps: readonly Step[]
  readonly resolved: ResolvedPart
  readonly plan: Plan
  readonly problems: readonly Problem[]
  /** in a long sheet, lines that are not selected fold to one row */
  readonly folds: boolean
  /** the number of the bundle, with its point */
  readonly lead?: string
  readonly depth?: number
}

const none: readonly Problem[] = []

/** The steps of a piece or of a bundle, and below each open bundle what it holds. */
export function StepList(props: Props) {
  const { part, steps, resolved, plan, problems, folds, lead = '', depth = 0 } = props
  const selection = usePart((state) => state.selection)
  const others = usePart((state) => state.others)
  const [opened, setOpened] = useState<ReadonlySet<string>>(new Set())
  const toggle = (id: string) => {
    const next = new Set(opened)
    if (!next.delete(id)) next.add(id)
    setOpened(next)
  }
  return (
    <ol>
      {steps.map((step, index) => {
        const selected = selection?.kind === 'step' && selection.id === step.id
        const chosen = selected || others.includes(step.id)
        const number = `${lead}${index + 1}`
        const open = step.shape === bundleKind && (opened.has(step.id) || holds(part, step, selection?.id))
        const own = problemsOf(problems, step.id)
        return (
          <li key={step.id} data-step={step.id} aria-current={selected}>
            {folds && !selected && step.shape !== bundleKind ? (
              <FoldedLine
                id={step.id}
                number={number}
                depth={depth}
                effect={step.effect}
                title={stepTitle(step)}
                sizes={mainSizes(step, resolved)}
                mute={!(resolved.steps.get(step.id)?.present ?? true)}
                chosen={chosen}
                problems={own.length > 0 ? own : none}
              />
            ) : (
              <StepLine
                part={part}
                step={step}
                number={number}
                index={index}
                last={index === steps.length - 1}
                depth={depth}
                resolved={resolved}
                plan={plan}
                problems={own}
                selected={selected}
                chosen={chosen}
                open={open}
                onOpen={() => toggle(step.id)}
              />
            )}
            {open && <StepList {...props} steps={step.steps ?? []} lead={`${number}.`} depth={depth + 1} />}
          </li>
        )
      })}
    </ol>
  )
}
