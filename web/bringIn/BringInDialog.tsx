import { type FileUnit, type FileUnitTried, inEachUnit, type OpenedMesh } from '@makrel/core/exchange'
import { type Printer, shippedPrinters } from '@makrel/core/fits'
import { formatSize, type PartUnit } from '@makrel/core/units'
import { Dialog } from 'radix-ui'
import { usePart } from '../state/part.ts'
import { Button } from '../ui/Button.tsx'
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
          className="fixed top-1/2 left-1/2 z-50 w-[30rem] max-w-[96vw] -translate-x-1/2 -translate-y-1/2 border border-ink bg-sheet p-6"
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
  const [x, y, z] = opened.max.map((high, i) => high - opened.min[i]!) as [number, number, number]
  const tried = inEachUnit([x, y, z], printer.bed)
  const triangles = opened.pieces.reduce((sum, { mesh }) => sum + mesh.triangles.length / 3, 0)
  return (
    <dl className="mt-4 grid grid-cols-[6rem_1fr] gap-x-3 gap-y-2.5">
      <dt className="font-semibold">{opened.pieces.length === 1 ? 'Mesh' : 'Meshes'}</dt>
      <dd className="break-words">
        {opened.pieces.map((piece) => piece.name).join(', ')}
        <span className="text-ink-soft"> · {triangles.toLocaleString('en')} triangles</span>
      </dd>
      <dt className="font-semibold">{opened.stated ? 'Size' : 'Unit, size'}</dt>
      <dd>
        {opened.stated ? (
          <>
            <Size of={tried[0]!} shown={shown} printer={printer} />
            <span className="block text-ink-soft">in mm, as the file states</span>
          </>
        ) : (
          <fieldset className="flex flex-col gap-1">
            <legend className="sr-only">Unit of the file</legend>
            {tried.map((each) => (
              <label
                key={each.unit}
                className="-mx-2 flex cursor-pointer items-baseline gap-2 rounded-sm px-2 py-0.5 hover:bg-mackerel-wash has-checked:bg-mackerel-wash"
              >
                <input
                  type="radio"
                  name="unit"
                  value={each.unit}
                  checked={each.unit === unit}
                  onChange={() => useBringIn.setState({ unit: each.unit, fault: undefined })}
                  className="translate-y-px accent-mackerel"
                />
                <span className="w-12 shrink-0">{each.label}</span>
                <span>
                  <Size of={each} shown={shown} printer={printer} />
                  {each.unit === opened.unit && (
                    <span className="block text-ink-soft">most likely: {whyLikely(each, tried, shown)}</span>
                  )}
                </span>
              </label>
            ))}
          </fieldset>
        )}
      </dd>
    </dl>
  )
}

function Size({
  of: { size, is },
  shown,
  printer,
}: {
  readonly of: FileUnitTried
  readonly shown: PartUnit
  readonly printer: Printer
}) {
  return (
    <span className="figures">
      {size.map((own) => formatSize(own, shown)).join(' × ')} {shown}
      {is === 'too large' && (
        <span className="block font-[inherit] text-amber">larger than the bed of {printer.name}</span>
      )}
    </span>
  )
}

/** "in mm it would be only 2.41 mm long"; "in mm it would be larger than the bed" */
function whyLikely({ unit, is }: FileUnitTried, tried: readonly FileUnitTried[], shown: PartUnit): string {
  const long = ({ size }: FileUnitTried) => `${formatSize(Math.max(...size), shown)} ${shown}`
  const before = tried.slice(
    0,
    tried.findIndex((each) => each.unit === unit),
  )
  if (before.length === 0)
    return is === 'printable' ? 'most files are in mm, and it fits the bed' : 'most files are in mm'
  return before
    .map(
      (each) =>
        `in ${each.label} it would be ${each.is === 'too small' ? `only ${long(each)} long` : 'larger than the bed'}`,
    )
    .join(', ')
}
