import type { AssetField } from '@makrel/core/fields'
import { chosenMesh, openMeshFile } from '../bringIn/state.ts'
import { usePart } from '../state/part.ts'
import type { EditorProps } from './editors.tsx'

/** The file that a mesh came from; a press puts another one in its place. */
export function AssetEditor({ definition, text, fault, onAutoFocused: _ }: EditorProps<AssetField>) {
  const name = usePart((state) => state.part?.assets.find(({ hash }) => hash === text)?.name)
  const replace = async () => {
    const { part, selection } = usePart.getState()
    const file = await chosenMesh()
    if (file && selection?.kind === 'step') await openMeshFile(file, { kind: 'step', id: selection.id }, part?.printer)
  }
  return (
    <button
      type="button"
      aria-label={definition.label}
      aria-invalid={fault !== undefined}
      title="Replace the file"
      className="choice aria-invalid:text-rust"
      onClick={() => void replace()}
    >
      {name ?? 'choose a file …'}
    </button>
  )
}
