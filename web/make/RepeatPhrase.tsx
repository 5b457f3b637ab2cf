import type { Repeat } from '@makrel/core/document'
import type { Names, ValueKind } from '@makrel/core/measures'
import type { SideNames } from '@makrel/core/place'
import { usePart } from '../state/part.ts'
import { IconButton } from '../ui/Button.tsx'
import { Choice } from '../ui/Choice.tsx'
import { CloseIcon } from '../ui/icons.ts'
import { ValueField } from './ValueField.tsx'
import { rowDirections } from './words.ts'

export const newRepeats: Readonly<Record<Repeat['kind'], Repeat>> = {
  row: { kind: 'row', direction: 'across', count: '2', spacing: '20' },
  ring: { kind: 'ring', count: '6', sweep: '360' },
}

/** "; 4 times in a row, 20 apart from left to right" */
export function RepeatPhrase({
  id,
  index,
  repeat,
  names,
  sides,
}: {
  readonly id: string
  readonly index: number
  readonly repeat: Repeat
  readonly names: Names
  readonly sides: SideNames
}) {
  const focus = usePart((state) => (state.selection?.id === id ? state.focus : undefined))
  const { edit, focused } = usePart.getState()
  const set = (next: Repeat | undefined, merge?: string) => edit({ type: 'set-repeat', id, index, repeat: next }, merge)
  const value = (name: 'count' | 'spacing' | 'sweep', label: string, kind: ValueKind) => (
    <ValueField
      label={label}
      kind={kind}
      text={(repeat as unknown as Record<string, string>)[name]!}
      names={names}
      autoFocus={focus === `repeat${index}.${name}`}
      onAutoFocused={focused}
      onChange={(text, final) =>
        set({ ...repeat, [name]: text } as Repeat, final ? undefined : `${id}.${index}.${name}`)
      }
    />
  )
  return (
    <>
      ; {value('count', 'Copies', 'count')} times in a {repeat.kind}
      {repeat.kind === 'row' ? (
        <>
          , {value('spacing', 'Spacing', 'length')} apart{' '}
          <Choice
            label="Direction of the row"
            value={repeat.direction}
            options={(['across', 'along', 'up'] as const).map((direction) => ({
              value: direction,
              label: rowDirections[direction](sides),
            }))}
            onChange={(direction) => set({ ...repeat, direction })}
          />
        </>
      ) : (
        <> over {value('sweep', 'Sweep', 'angle')} round the middle</>
      )}
      <IconButton
        label={`Remove this ${repeat.kind}`}
        className="!h-5 !w-5 align-middle"
        onClick={() => set(undefined)}
      >
        <CloseIcon size={12} />
      </IconButton>
    </>
  )
}
