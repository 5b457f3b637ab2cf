import type { AxisField, OutlineField, SectionsField } from '@makrel/core/fields'
import { outlineText, sectionsText, sectionTexts, textOfOutline } from '@makrel/core/fields'
import type { Names } from '@makrel/core/measures'
import { useNavigate } from 'react-router'
import { newId } from '../ids.ts'
import { usePart } from '../state/part.ts'
import { Choice } from '../ui/Choice.tsx'
import { newOutline } from './newOutline.ts'
import { RegionsChoice } from './RegionsChoice.tsx'
import { ValueField } from './ValueField.tsx'

/** In a sentence: which outline a shape is made from, with the way to its drawing. */
export function OutlineChoice({
  definition,
  text,
  onChange,
}: {
  readonly definition: Pick<OutlineField | SectionsField, 'label'> & Pick<OutlineField, 'lines'>
  readonly text: string
  onChange(text: string): void
}) {
  const part = usePart((state) => state.part!)
  const navigate = useNavigate()
  const { outline: id, regions } = outlineText(text)
  const chosen = part.outlines.find((each) => each.id === id)
  const open = (id: string) => void navigate(`/part/${part.id}/make/outline/${id}`)
  return (
    <>
      <Choice
        label={definition.label}
        value={id === '' ? 'none' : id}
        shown={chosen?.name ?? (id === '' ? 'to be chosen' : 'one that is gone')}
        options={() => [
          ...part.outlines.map(({ id, name }) => ({ value: id, label: name })),
          { value: 'new', label: 'draw a new one …' },
        ]}
        onChange={(value) => {
          if (value !== 'new') return onChange(value)
          const outline = newOutline(part, newId(), { kind: 'bed' })
          usePart.getState().edit({ type: 'add-outline', outline })
          onChange(outline.id)
          open(outline.id)
        }}
      />
      {chosen && (
        <button
          type="button"
          onClick={() => open(chosen.id)}
          className="ml-1 text-sm text-mackerel underline"
          aria-label={`Draw ${chosen.name}`}
        >
          draw
        </button>
      )}
      {chosen && !definition.lines && (
        <RegionsChoice
          outline={chosen}
          regions={regions}
          onChange={(next) => onChange(textOfOutline({ outline: chosen.id, regions: next }))}
        />
      )}
    </>
  )
}

/** Which straight line of the outline is meant. */
export function AxisChoice({
  definition,
  text,
  texts,
  onChange,
}: {
  readonly definition: AxisField
  readonly text: string
  readonly texts: Readonly<Record<string, string>>
  onChange(text: string): void
}) {
  const part = usePart((state) => state.part!)
  const outline = part.outlines.find(({ id }) => id === outlineText(texts[definition.of] ?? '').outline)
  const lines = outline?.curves.filter(({ kind }) => kind === 'line') ?? []
  const options = [
    { value: 'y-axis', label: 'its upright axis' },
    { value: 'x-axis', label: 'its level axis' },
    ...lines.map(({ id, helper }) => ({
      value: id,
      label: `line ${id}`,
      hint: helper ? 'construction line' : undefined,
    })),
  ]
  return (
    <Choice
      label={definition.label}
      value={text}
      shown={options.find(({ value }) => value === text)?.label ?? 'a line that is gone'}
      options={options}
      onChange={onChange}
    />
  )
}

/** Outlines one above the other, each with its height. */
export function SectionsEditor({
  definition,
  text,
  names,
  onChange,
}: {
  readonly definition: SectionsField
  readonly text: string
  readonly names: Names
  onChange(text: string, final: boolean): void
}) {
  const sections = sectionTexts(text)
  const write = (next: typeof sections, final: boolean) => onChange(sectionsText(next), final)
  return (
    <>
      {sections.map(({ outline, height }, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: sections are told apart by their place alone
        <span key={i}>
          {i > 0 && ', '}
          <OutlineChoice
            definition={{ label: `Section ${i + 1}` }}
            text={outline}
            onChange={(id) => write(sections.with(i, { outline: id, height }), true)}
          />{' '}
          at{' '}
          <ValueField
            label={`Height of section ${i + 1}`}
            kind="length"
            text={height}
            names={names}
            onChange={(next, final) => write(sections.with(i, { outline, height: next }), final)}
          />
          {sections.length > definition.least && (
            <button
              type="button"
              aria-label={`Leave out section ${i + 1}`}
              onClick={() => write(sections.toSpliced(i, 1), true)}
              className="text-ink-soft hover:text-rust"
            >
              ×
            </button>
          )}
        </span>
      ))}{' '}
      {sections.length < definition.most && (
        <button
          type="button"
          className="text-sm text-mackerel underline"
          onClick={() =>
            write(
              [...sections, { outline: sections.at(-1)?.outline ?? '', height: nextHeight(sections.at(-1)?.height) }],
              true,
            )
          }
        >
          another section
        </button>
      )}
    </>
  )
}

function nextHeight(before: string | undefined): string {
  if (before === undefined) return '0'
  return /^\d+(\.\d+)?$/.test(before) ? String(Number(before) + 20) : `${before} + 20`
}
