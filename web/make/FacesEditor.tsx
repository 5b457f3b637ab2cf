import {
  type FaceName,
  type FaceSizesField,
  type FacesField,
  faceNames,
  faceNamesText,
  faceNameText,
  faceSizesText,
  faceSizeTexts,
  usualSize,
} from '@makrel/core/fields'
import { workedOf } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { Choice } from '../ui/Choice.tsx'
import { CloseIcon } from '../ui/icons.tsx'
import { Lit } from '../viewport/Lit.tsx'
import { PickButton } from './EdgesEditor.tsx'
import { faceOf, faceOptions, faceWords } from './edgeWords.ts'
import type { EditorProps } from './editors.tsx'
import { ValueField } from './ValueField.tsx'

/** Faces that a step works on: chosen from a list, or pressed on the drawing. */
export function FacesEditor({ definition, text, step, onChange }: EditorProps<FacesField>) {
  const names = faceNames(text)
  const set = (next: readonly FaceName[]) => onChange(faceNamesText(next), true)
  return (
    <>
      {names.length === 0 && <span>no face</span>}
      {names.map((name, i) => (
        <Named
          key={faceNameText(name)}
          name={name}
          last={i === names.length - 1}
          onRemove={() => set(names.filter((each) => each !== name))}
        />
      ))}
      <AddFace label={definition.label} step={step} taken={names} onAdd={(name) => set([...names, name])} />
      <PickButton step={step} field="faces" />
    </>
  )
}

function Named({ name, last, onRemove }: { readonly name: FaceName; readonly last: boolean; onRemove(): void }) {
  const part = usePart((state) => state.part!)
  const words = faceWords(part, name)
  return (
    <span>
      <Lit of={{ kind: 'step', id: name.step, face: name.face }}>{words}</Lit>
      <button
        type="button"
        aria-label={`Remove: ${words}`}
        className="ml-0.5 inline-flex align-middle text-ink-soft hover:text-ink"
        onClick={onRemove}
      >
        <CloseIcon size={13} />
      </button>
      {last ? '' : ', '}
    </span>
  )
}

function AddFace({
  label,
  step = '',
  taken,
  onAdd,
}: {
  readonly label: string
  readonly step: string | undefined
  readonly taken: readonly FaceName[]
  onAdd(name: FaceName): void
}) {
  const part = usePart((state) => state.part!)
  const known = new Set(taken.map(faceNameText))
  return (
    <span className="ml-1.5">
      <Choice
        label={`${label}: add a face`}
        value="add"
        shown="add"
        options={() =>
          faceOptions(part, workedOf(part).plan, step).filter(
            ({ value }) => faceOf(value).face !== undefined && !known.has(value),
          )
        }
        onChange={(value) => onAdd(faceOf(value))}
      />
    </span>
  )
}

/** Faces with a length each: "the bottom of 1, plate 3". */
export function FaceSizesEditor({ definition, text, step, names, fault, onChange }: EditorProps<FaceSizesField>) {
  const part = usePart((state) => state.part!)
  const all = faceSizeTexts(text)
  const set = (next: typeof all, final: boolean) => onChange(faceSizesText(next), final)
  return (
    <>
      {all.length === 0 && <span>the same everywhere</span>}
      {all.map(({ face, size }, i) => {
        const words = faceWords(part, face)
        return (
          <span key={faceNameText(face)}>
            <Lit of={{ kind: 'step', id: face.step, face: face.face }}>{words}</Lit>{' '}
            <ValueField
              label={`${definition.label}, ${words}`}
              text={size}
              fault={fault}
              autoFocus={false}
              onAutoFocused={() => undefined}
              kind="length"
              names={names}
              onChange={(next, final) =>
                set(
                  all.map((each, k) => (k === i ? { ...each, size: next } : each)),
                  final,
                )
              }
            />
            <button
              type="button"
              aria-label={`Remove: ${words}`}
              className="ml-0.5 inline-flex align-middle text-ink-soft hover:text-ink"
              onClick={() =>
                set(
                  all.filter((_, k) => k !== i),
                  true,
                )
              }
            >
              <CloseIcon size={13} />
            </button>
            {i === all.length - 1 ? '' : ', '}
          </span>
        )
      })}
      <AddFace
        label={definition.label}
        step={step}
        taken={all.map(({ face }) => face)}
        onAdd={(face) => set([...all, { face, size: usualSize(3, part.unit) }], true)}
      />
    </>
  )
}
