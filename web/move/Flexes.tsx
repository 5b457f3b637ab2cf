import { allSteps, type KeptFlex, type Part } from '@makrel/core/document'
import { usualSize } from '@makrel/core/fields'
import { sheetOf } from '@makrel/core/flex'
import { newId } from '../ids.ts'
import { ValueField } from '../make/ValueField.tsx'
import { numberedTitle } from '../make/words.ts'
import { useWorked } from '../state/built.ts'
import { sayDone } from '../state/done.ts'
import { usePart } from '../state/part.ts'
import { Button, IconButton } from '../ui/Button.tsx'
import { Choice } from '../ui/Choice.tsx'
import { AddIcon, RemoveIcon } from '../ui/icons.tsx'

interface Props {
  /** the one that is shown on the drawing's place */
  readonly shown: string | undefined
  onShow(id: string | undefined): void
}

/** Flex tests of the part: what is held, and what is pushed. */
export function Flexes({ shown, onShow }: Props) {
  const part = usePart((state) => state.part!)
  const { edit } = usePart.getState()
  const steps = useFlatSteps()
  if (steps.length === 0 && part.flexes.length === 0) return null
  return (
    <section aria-label="Flex tests" className="mt-5 border-t border-line px-5 pt-3 pb-4">
      <h2 className="text-lg font-semibold">Flex tests</h2>
      <ol className="mt-1">
        {part.flexes.map((flex) => (
          <FlexLine
            key={flex.id}
            flex={flex}
            steps={steps}
            shown={flex.id === shown}
            onShow={() => onShow(flex.id === shown ? undefined : flex.id)}
          />
        ))}
      </ol>
      <Button
        className="mt-2"
        disabled={steps.length === 0}
        onClick={() => {
          const flex: KeptFlex = {
            ...{ id: newId(), name: `Flex ${part.flexes.length + 1}`, of: steps[0]!.value, held: [], pushed: [] },
            ...{ way: '270', by: 'distance', distance: usualSize(1, part.unit), force: '5', finer: 0 },
          }
          edit({ type: 'keep-flex', flex })
          onShow(flex.id)
        }}
      >
        <AddIcon size={15} /> Add a flex test
      </Button>
    </section>
  )
}

/** What can be tested: steps that are flat, and whole pieces. */
function useFlatSteps(): readonly { readonly value: string; readonly label: string }[] {
  const part = usePart((state) => state.part!)
  const worked = useWorked()
  return worked ? flatSteps(part, worked) : []
}

function flatSteps(part: Part, { resolved }: NonNullable<ReturnType<typeof useWorked>>) {
  const steps = allSteps(part)
    .filter(({ id }) => sheetOf(resolved, { of: id }).fault === undefined)
    .map((step) => ({ value: step.id, label: numberedTitle(part, step) }))
  return [...steps, ...part.pieces.map(({ id, name }) => ({ value: id, label: `all of ${name}` }))]
}

const counted = (count: number) => (count === 0 ? 'no edge' : count === 1 ? 'one edge' : `${count} edges`)

function FlexLine({
  flex,
  steps,
  shown,
  onShow,
}: {
  readonly flex: KeptFlex
  readonly steps: readonly { readonly value: string; readonly label: string }[]
  readonly shown: boolean
  onShow(): void
}) {
  const worked = useWorked()
  const { edit } = usePart.getState()
  const names = worked?.resolved.measures.names
  if (!names) return null
  const set = (change: Partial<KeptFlex>) => edit({ type: 'keep-flex', flex: { ...flex, ...change } })
  const options = steps.some(({ value }) => value === flex.of)
    ? steps
    : [{ value: flex.of, label: 'a step that cannot be tested' }, ...steps]
  return (
    <li aria-label={flex.name} aria-current={shown} className="py-1.5">
      <div className="flex items-center gap-2">
        <button
          type="button"
          aria-pressed={shown}
          onClick={onShow}
          className="min-w-0 flex-1 truncate text-left text-base font-semibold hover:text-mackerel aria-pressed:text-mackerel"
        >
          {flex.name}
        </button>
        <IconButton
          label={`Drop ${flex.name}`}
          onClick={() => {
            edit({ type: 'drop-flex', id: flex.id })
            sayDone(`${flex.name} was dropped.`)
          }}
        >
          <RemoveIcon size={15} />
        </IconButton>
      </div>
      {shown && (
        <p className="text-base leading-[1.75rem]">
          <Choice label="What bends" value={flex.of} options={options} onChange={(of) => set({ of })} />, held at{' '}
          {counted(flex.held.length)} and pushed at {counted(flex.pushed.length)} by{' '}
          <Choice<KeptFlex['by']>
            label="Pushed by"
            value={flex.by}
            options={[
              { value: 'distance', label: 'a distance of' },
              { value: 'force', label: 'a force of' },
            ]}
            onChange={(by) => set({ by })}
          />{' '}
          {flex.by === 'distance' ? (
            <ValueField
              label="Distance"
              kind="length"
              text={flex.distance}
              names={names}
              onChange={(distance) => set({ distance })}
            />
          ) : (
            <>
              <ValueField
                label="Force"
                kind="ratio"
                text={flex.force}
                names={names}
                onChange={(force) => set({ force })}
              />{' '}
              N
            </>
          )}{' '}
          towards <ValueField label="Way" kind="angle" text={flex.way} names={names} onChange={(way) => set({ way })} />
          , in{' '}
          <Choice
            label="Triangles"
            value={String(flex.finer)}
            options={['usual', 'fine', 'finest'].map((label, i) => ({ value: String(i), label }))}
            onChange={(finer) => set({ finer: Number(finer) })}
          />{' '}
          triangles.
        </p>
      )}
    </li>
  )
}
