import { type FileUnit, fileUnits, type OpenedMesh } from '@makrel/core/exchange'
import { type Printer, shippedPrinters } from '@makrel/core/fits'
import { formatSize, type PartUnit } from '@makrel/core/units'
import { Dialog } from 'radix-ui'
import { usePart } from '../state/part.ts'
import { Button } from '../ui/Button.tsx'
import { Choice } from '../ui/Choice.tsx'
import { bringItIn, closeBringIn, useBringIn } from './state.ts'

/** Asks what the numbers of a mesh file mean, with the size that it then has. */
export function BringInDialog() {
  const { file, opened, unit, fault, busy } = useBringIn()
  const part = usePart((state) => state.part)
  return (
    <Dialog.Root open={file !== undefined} onOpenChange={(open) => !open && closeBringIn()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-50 w-[26rem] max-w-[96vw] -translate-x-1/2 -translate-y-1/2 border border-ink bg-sheet p-6"
        >
          <Dialog.Title className="text-lg font-semibold break-words">Bring in {file}</Dialog.Title>
          {busy && !opened && <p className="mt-3 text-ink-soft">Reading …</p>}
          {opened && (
            <Opened
              opened={opened}
              unit={unit}
              shown={part?.unit ?? 'mm'}
              printer={part?.printer ?? shippedPrinters[0]!}
            />
          )}
          {fault && (
            <p role="alert" className="mt-4 border-l-4 border-rust bg-rust-wash p-3 break-words">
              {fault}
            </p>
          )}
          <div className="mt-5 flex justify-end gap-2">
            <Button onClick={closeBringIn}>{opened ? 'Cancel' : 'Close'}</Button>
            {opened && (
              <Button main autoFocus disabled={busy} onClick={() => void bringItIn()}>
                Bring it in
              </Button>
            )}
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}

function Opened({
  opened,
  unit,
  shown,
  printer,
}: {
  readonly opened: OpenedMesh
  readonly unit: FileUnit
  readonly shown: PartUnit
  readonly printer: Printer
}) {
  const { mm } = fileUnits.find(({ id }) => id === unit)!
  const size = opened.max.map((high, i) => (high - opened.min[i]!) * mm)
  const { bed, name } = printer
  const large = [...size].sort((a, b) => a - b).some((own, i) => own > [...bed].sort((a, b) => a - b)[i]!)
  const triangles = opened.pieces.reduce((sum, { mesh }) => sum + mesh.triangles.length / 3, 0)
  return (
    <dl className="mt-4 grid grid-cols-[6rem_1fr] items-center gap-x-3 gap-y-2.5">
      <dt className="font-semibold">{opened.pieces.length === 1 ? 'Mesh' : 'Meshes'}</dt>
      <dd className="break-words">
        {opened.pieces.map((piece) => piece.name).join(', ')}
        <span className="text-ink-soft"> · {triangles.toLocaleString('en')} triangles</span>
      </dd>
      <dt className="font-semibold">Unit</dt>
      <dd>
        {opened.stated ? (
          'millimetres, as the file states'
        ) : (
          <Choice<FileUnit>
            look="box"
            label="Unit of the file"
            value={unit}
            options={fileUnits.map(({ id, label }) => ({
              value: id,
              label: id === opened.unit ? `${label}, most likely` : label,
            }))}
            onChange={(next) => useBringIn.setState({ unit: next, fault: undefined })}
          />
        )}
      </dd>
      <dt className="font-semibold">Size</dt>
      <dd className="figures">
        {size.map((own) => formatSize(own, shown)).join(' × ')} {shown}
        {large && <span className="block font-[inherit] text-amber">larger than the bed of {name}</span>}
      </dd>
    </dl>
  )
}
