import type {
  AxisField,
  ChoiceField,
  FieldDefinition,
  FieldKind,
  NumberField,
  OutlineField,
  SectionsField,
} from '@makrel/core/fields'
import type { Names, ValueKind } from '@makrel/core/measures'
import type { SideNames } from '@makrel/core/place'
import type { ComponentType } from 'react'
import { usePart } from '../state/part.ts'
import { Choice } from '../ui/Choice.tsx'
import { AssetEditor } from './AssetEditor.tsx'
import { EdgesEditor } from './EdgesEditor.tsx'
import { FaceSizesEditor, FacesEditor } from './FacesEditor.tsx'
import { ItemEditor } from './ItemEditor.tsx'
import { AxisChoice, OutlineChoice, SectionsEditor } from './OutlineFields.tsx'
import { PlaneEditor } from './PlaneEditor.tsx'
import { StepChoice } from './StepChoice.tsx'
import { TextField } from './TextField.tsx'
import { ValueField } from './ValueField.tsx'
import { withSides } from './words.ts'

/** What the editor of a field's kind is given. */
export interface EditorProps<D extends FieldDefinition = FieldDefinition> {
  readonly definition: D
  readonly text: string
  /** of all fields of the same owner */
  readonly texts: Readonly<Record<string, string>>
  readonly names: Names
  readonly sides: SideNames
  readonly step: string | undefined
  readonly fault: string | undefined
  readonly autoFocus: boolean
  onAutoFocused(): void
  /** the field that this text would bring into the sentence */
  brings(text: string): string | undefined
  /** `final` ends one act of typing */
  onChange(text: string, final: boolean): void
}

/** How each kind of field is set in the sheet. */
const editors: Readonly<Record<FieldKind, ComponentType<EditorProps<never>>>> = {
  length: NumberEditor,
  angle: NumberEditor,
  count: NumberEditor,
  ratio: NumberEditor,
  choice: ChoiceEditor,
  text: (props: EditorProps) => <WordsEditor {...props} quoted />,
  corners: (props: EditorProps) => <WordsEditor {...props} quoted={false} />,
  outline: ({ definition, text, onChange }: EditorProps<OutlineField>) => (
    <OutlineChoice definition={definition} text={text} onChange={(id) => onChange(id, true)} />
  ),
  axis: ({ definition, text, texts, onChange }: EditorProps<AxisField>) => (
    <AxisChoice definition={definition} text={text} texts={texts} onChange={(id) => onChange(id, true)} />
  ),
  sections: ({ definition, text, names, onChange }: EditorProps<SectionsField>) => (
    <SectionsEditor definition={definition} text={text} names={names} onChange={onChange} />
  ),
  asset: AssetEditor,
  edges: EdgesEditor,
  faces: FacesEditor,
  faceSizes: FaceSizesEditor,
  plane: PlaneEditor,
  step: StepChoice,
  item: ItemEditor,
}

export function editorOf(kind: FieldKind): ComponentType<EditorProps> {
  return editors[kind] as unknown as ComponentType<EditorProps>
}

function NumberEditor({ definition, text, names, fault, autoFocus, onAutoFocused, onChange }: EditorProps) {
  const typed = { label: definition.label, text, fault, autoFocus, onAutoFocused }
  const { takes } = definition as NumberField
  return <ValueField {...typed} kind={definition.kind as ValueKind} takes={takes} names={names} onChange={onChange} />
}

function WordsEditor({
  definition,
  text,
  fault,
  autoFocus,
  onAutoFocused,
  quoted,
  onChange,
}: EditorProps & { readonly quoted: boolean }) {
  const typed = { label: definition.label, text, fault, autoFocus, onAutoFocused }
  return <TextField {...typed} quoted={quoted} onChange={onChange} />
}

function ChoiceEditor({ definition, text, sides, brings, onChange }: EditorProps<ChoiceField>) {
  return (
    <Choice
      label={definition.label}
      value={text}
      options={Object.entries(definition.choices).map(([value, label]) => ({
        value,
        label: withSides(label, sides),
      }))}
      focusMoves={(value) => brings(value) !== undefined}
      onChange={(value) => {
        const brought = brings(value)
        onChange(value, true)
        const { selection, select } = usePart.getState()
        if (brought && selection) select(selection, brought)
      }}
    />
  )
}
