import {
  type EdgeRule,
  type EdgesField,
  type EdgeTrait,
  edgeRules,
  edgeRulesText,
  edgeTraits,
} from '@makrel/core/fields'
import { Popover } from 'radix-ui'
import { workedOf } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { Choice } from '../ui/Choice.tsx'
import { CloseIcon } from '../ui/icons.tsx'
import { type PickKind, pickFor, useEdgePick } from '../viewport/edgePick.ts'
import { Lit } from '../viewport/Lit.tsx'
import { faceOf, faceOptions, faceValue, rulesWords, ruleWords, traitWords } from './edgeWords.ts'
import type { EditorProps } from './editors.tsx'

/** Which edges a step works on: by rules, and by pressing them on the drawing. */
export function EdgesEditor({ definition, text, step, fault, onChange }: EditorProps<EdgesField>) {
  const part = usePart((state) => state.part!)
  const rules = edgeRules(text)
  const set = (next: readonly EdgeRule[]) => onChange(edgeRulesText(next), true)
  const words = rulesWords(part, rules)
  return (
    <Popover.Root>
      <Popover.Trigger aria-label={`${definition.label}: ${words}`} title={fault} asChild>
        {/* biome-ignore lint/a11y/useSemanticElements: a button is one box that cannot break over two lines of a sentence */}
        <span
          role="button"
          tabIndex={0}
          className={fault ? 'choice text-rust' : 'choice'}
          onKeyDown={(event) => {
            if (event.key !== 'Enter' && event.key !== ' ') return
            event.preventDefault()
            event.currentTarget.click()
          }}
        >
          {words}
        </span>
      </Popover.Trigger>
      <PickButton step={step} field="edges" />
      <Popover.Portal>
        <Popover.Content
          side="bottom"
          align="start"
          sideOffset={6}
          collisionPadding={8}
          aria-label="Which edges"
          className="z-50 w-[27rem] max-w-[calc(100vw-1rem)] rounded-sm border border-ink-soft bg-sheet p-3 shadow-[0_6px_18px_rgb(20_40_44/0.16)]"
        >
          <p className="mb-2 text-ink-soft">
            Each line adds edges, or leaves some out again. The lines last: what is found follows every change.
          </p>
          <ul aria-label="Edges" className="space-y-1">
            {rules.map((rule, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: lines are told apart by their place alone
              <li key={i} className="flex items-start gap-1.5">
                <RuleLine
                  rule={rule}
                  step={step}
                  first={i === 0}
                  onChange={(next) => set(rules.map((each, k) => (k === i ? next : each)))}
                />
                <button
                  type="button"
                  aria-label={`Remove: ${ruleWords(part, rule)}`}
                  className="mt-1 ml-auto inline-flex text-ink-soft hover:text-ink"
                  onClick={() => set(rules.filter((_, k) => k !== i))}
                >
                  <CloseIcon size={14} />
                </button>
              </li>
            ))}
          </ul>
          <p className="mt-2 flex gap-3">
            <button
              type="button"
              className="text-mackerel underline"
              onClick={() => set([...rules, { less: false, traits: ['outer'], where: { kind: 'all' } }])}
            >
              add a line
            </button>
            <button
              type="button"
              className="text-mackerel underline"
              onClick={() => set([...rules, { less: true, traits: ['upright'], where: { kind: 'all' } }])}
            >
              leave some out
            </button>
          </p>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}

/** Begins or ends pressing edges or faces on the drawing for a step. */
export function PickButton({ step, field }: { readonly step: string | undefined; readonly field: PickKind }) {
  const picking = useEdgePick((state) => step !== undefined && state.step === step && state.field === field)
  return (
    <button
      type="button"
      aria-pressed={picking}
      aria-label={picking ? 'Done picking' : `Pick ${field} on the drawing`}
      className="ml-1.5 text-sm text-mackerel underline aria-pressed:font-semibold aria-pressed:no-underline"
      onClick={() => {
        if (step === undefined) return
        usePart.getState().select({ kind: 'step', id: step })
        pickFor(picking ? undefined : { step, field })
      }}
    >
      {picking ? 'done picking' : 'pick'}
    </button>
  )
}

type WhereKind = EdgeRule['where']['kind']

/** One line: "the outer edges of …". What was picked on the drawing is named, and can only be left out or removed. */
function RuleLine({
  rule,
  step = '',
  first,
  onChange,
}: {
  readonly rule: EdgeRule
  readonly step: string | undefined
  readonly first: boolean
  onChange(rule: EdgeRule): void
}) {
  const part = usePart((state) => state.part!)
  const { less, traits, where } = rule
  const options = () => faceOptions(part, workedOf(part).plan, step)
  const steps = () => options().filter(({ value }) => faceOf(value).face === undefined)
  const labelOf = (value: string) => options().find((each) => each.value === value)?.label ?? 'a step that is gone'
  const wayOf = (kind: string): EdgeRule['where'] => {
    const [one, other] = options()
    const nearest = faceOf(one?.value ?? '')
    if (kind === 'of') return { kind, of: nearest }
    if (kind === 'rims') return { kind, step: nearest.step }
    if (kind === 'meets') return { kind, faces: [nearest, faceOf(steps()[1]?.value ?? other?.value ?? nearest.step)] }
    return { kind: 'all' }
  }
  const sign = first ? (
    <span>the</span>
  ) : (
    <Choice
      label="Add or leave out"
      value={less ? 'less' : 'more'}
      options={[
        { value: 'more', label: 'and the' },
        { value: 'less', label: 'but not the' },
      ]}
      onChange={(value) => onChange({ ...rule, less: value === 'less' })}
    />
  )
  if (where.kind === 'edge')
    return (
      <p className="min-w-0 leading-6">
        {sign} {ruleWords(part, { ...rule, less: false }).replace(/^the /, '')}
      </p>
    )
  return (
    <p className="min-w-0 leading-6">
      {sign}{' '}
      <Choice
        label="Kind of edges"
        value={traits.join(' ') || 'any'}
        options={traitOptions}
        shown={traits.map((trait) => traitWords[trait]).join(' ') || 'any'}
        onChange={(value) => onChange({ ...rule, traits: value === 'any' ? [] : (value.split(' ') as EdgeTrait[]) })}
      />{' '}
      <Choice
        label="Where"
        value={where.kind as WhereKind}
        options={whereOptions}
        onChange={(kind) => onChange({ ...rule, where: wayOf(kind) })}
      />{' '}
      {where.kind === 'of' && (
        <Lit of={{ kind: 'step', id: where.of.step, face: where.of.face }}>
          <Choice
            label="Face or step"
            value={faceValue(where.of)}
            shown={labelOf(faceValue(where.of))}
            options={options}
            onChange={(value) => onChange({ ...rule, where: { kind: 'of', of: faceOf(value) } })}
          />
        </Lit>
      )}
      {where.kind === 'rims' && (
        <Lit of={{ kind: 'step', id: where.step }}>
          <Choice
            label="Step"
            value={where.step}
            shown={labelOf(where.step)}
            options={steps}
            onChange={(value) => onChange({ ...rule, where: { kind: 'rims', step: value } })}
          />
        </Lit>
      )}
      {where.kind === 'meets' &&
        where.faces.map((face, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the one and the other
          <span key={i}>
            {i === 1 && ' meets '}
            <Lit of={{ kind: 'step', id: face.step, face: face.face }}>
              <Choice
                label={i === 0 ? 'One face or step' : 'The other face or step'}
                value={faceValue(face)}
                shown={labelOf(faceValue(face))}
                options={options}
                onChange={(value) => {
                  const [one, other] = where.faces
                  const faces = i === 0 ? ([faceOf(value), other] as const) : ([one, faceOf(value)] as const)
                  onChange({ ...rule, where: { kind: 'meets', faces } })
                }}
              />
            </Lit>
          </span>
        ))}
    </p>
  )
}

const traitOptions = [
  { value: 'any', label: 'any', hint: 'outer and inner' },
  ...edgeTraits.map((trait) => ({ value: trait, label: traitWords[trait], hint: traitHints(trait) })),
  { value: 'outer upright', label: 'outer upright' },
  { value: 'outer level', label: 'outer level' },
]

function traitHints(trait: EdgeTrait): string {
  const hints: Readonly<Record<EdgeTrait, string>> = {
    outer: 'where the surface turns outwards',
    inner: 'in corners, where it turns inwards',
    upright: 'away from the bed',
    level: 'parallel to the bed',
    bed: 'on the bed',
  }
  return hints[trait]
}

const whereOptions: readonly { readonly value: WhereKind; readonly label: string }[] = [
  { value: 'all', label: 'edges, all of them' },
  { value: 'of', label: 'edges of' },
  { value: 'meets', label: 'edges where' },
  { value: 'rims', label: 'rims of' },
]
