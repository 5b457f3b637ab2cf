import { type BundleStep, findStep, hasBody, isBundle } from '@makrel/core/document'
import { repeats } from '@makrel/core/repeats'
import { shapeOf } from '@makrel/core/shapes'
import { DropdownMenu } from 'radix-ui'
import type { ReactNode } from 'react'
import { create } from 'zustand'
import { selectedSteps, usePart } from '../state/part.ts'
import { useView } from '../viewport/view.ts'
import { fitSelection } from '../viewport/viewKeys.ts'
import { newRepeat } from './RepeatPhrase.tsx'
import {
  bundleSteps,
  copySteps,
  dissolveBundle,
  removeSteps,
  repeatAll,
  sameAgain,
  scaleSteps,
  selectAllSteps,
  setOfAll,
  toOwnPiece,
} from './stepActions.ts'
import { offeredTreatments, treatSelected } from './treat.ts'
import { faceWord } from './words.ts'

const useMenu = create<{ readonly at: readonly [number, number] | undefined }>()(() => ({ at: undefined }))

/** Opens the menu of what is selected, at a place of the page; `step` is selected first where it is not. */
export function openStepMenu(x: number, y: number, step: string | undefined): void {
  const state = usePart.getState()
  if (step && !selectedSteps(state).includes(step)) state.select({ kind: 'step', id: step })
  useMenu.setState({ at: [x, y] })
}

/** The first value of a step takes the keyboard. */
export function editFirstValue(id: string): void {
  const { part, select } = usePart.getState()
  const step = part && findStep(part, id)?.step
  const first = step?.kind === 'shape' ? shapeOf(step.shape)?.quick[0] : undefined
  select({ kind: 'step', id }, typeof first === 'object' ? first.field : (first ?? 'across'))
}

/** Earlier or later in the sheet, where it is not at that end already. */
function MoveItems({ id }: { readonly id: string }) {
  const { part, edit } = usePart.getState()
  const found = part && findStep(part, id)
  if (!found) return null
  const { index, bundles, piece } = found
  const last = (bundles.at(-1)?.steps ?? piece.steps).length - 1
  const move = (to: number) => () => edit({ type: 'move-step', id, to })
  return (
    <>
      {index > 0 && (
        <Item onSelect={move(index - 1)} keys="Alt ↑">
          Earlier in the sheet
        </Item>
      )}
      {index < last && (
        <Item onSelect={move(index + 1)} keys="Alt ↓">
          Later in the sheet
        </Item>
      )}
    </>
  )
}

function DissolveItem({ bundle }: { readonly bundle: BundleStep }) {
  const isRepeated = bundle.repeats.length > 0
  return (
    <Item disabled={isRepeated} onSelect={() => setTimeout(() => dissolveBundle(bundle.id))}>
      {isRepeated ? 'To dissolve it, remove its repeats first' : 'Dissolve the bundle'}
    </Item>
  )
}

function GhostItem({ ghost }: { readonly ghost: boolean }) {
  return (
    <Item onSelect={() => setOfAll({ ghost: !ghost })}>{ghost ? 'No ghost' : 'Show its own shape as a ghost'}</Item>
  )
}

const itemLook =
  'flex cursor-pointer items-baseline justify-between gap-6 px-4 py-1 outline-none data-[disabled]:text-ink-soft data-[highlighted]:bg-mackerel-wash data-[highlighted]:text-mackerel'
const menuLook =
  'z-50 max-h-(--radix-dropdown-menu-content-available-height) min-w-52 overflow-y-auto rounded-sm border border-ink-soft bg-sheet py-1 shadow-[0_6px_18px_rgb(20_40_44/0.16)]'

/** What can be done with what lies under a press of the right button: on a line of the sheet, on a face, on the empty bed. */
export function StepMenu() {
  const at = useMenu((state) => state.at)
  const part = usePart((state) => state.part)
  const selection = usePart((state) => state.selection)
  const others = usePart((state) => state.others)
  const inspected = useView((state) => state.inspected)
  const found = part && selection?.kind === 'step' ? findStep(part, selection.id) : undefined
  const close = () => useMenu.setState({ at: undefined })
  const several = others.length > 0
  // What an item does comes after the menu has given the keyboard back.
  const later = (work: () => void) => () => setTimeout(work, 0)
  const addOn = later(() => document.getElementById('add-step')?.focus())
  return (
    <DropdownMenu.Root open={at !== undefined} onOpenChange={(open) => !open && close()} modal={false}>
      <DropdownMenu.Trigger asChild>
        <span
          aria-hidden="true"
          tabIndex={-1}
          className="fixed h-0 w-0"
          style={{ left: at?.[0] ?? 0, top: at?.[1] ?? 0 }}
        />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          // Beside the place all of the window's height is there for it.
          side="right"
          align="start"
          aria-label={found ? 'What can be done with this step' : 'What can be done here'}
          onCloseAutoFocus={(event) => event.preventDefault()}
          className={menuLook}
        >
          {found ? (
            <>
              {!several && <Item onSelect={later(() => editFirstValue(found.step.id))}>Edit its first value</Item>}
              {!several && (
                <Item onSelect={addOn}>
                  {selection?.face ? `Add on its ${faceWord(selection.face)} …` : 'Add on it …'}
                </Item>
              )}
              <Item onSelect={later(copySteps)} keys="Ctrl D">
                Copy
              </Item>
              {!several && hasBody(found.step) && (
                <Item onSelect={later(() => sameAgain(found.step.id))}>Place a linked copy</Item>
              )}
              {!several && hasBody(found.step) && (
                <DropdownMenu.Sub>
                  <DropdownMenu.SubTrigger className={itemLook}>
                    Edges and walls <span aria-hidden="true">›</span>
                  </DropdownMenu.SubTrigger>
                  <DropdownMenu.Portal>
                    <DropdownMenu.SubContent className={menuLook}>
                      {offeredTreatments(selection?.face).map(({ words, treatment }) => (
                        <Item key={treatment.kind} onSelect={later(() => treatSelected(treatment))}>
                          {words}
                        </Item>
                      ))}
                    </DropdownMenu.SubContent>
                  </DropdownMenu.Portal>
                </DropdownMenu.Sub>
              )}
              <Line />
              {repeats.map((definition) => (
                <Item key={definition.kind} onSelect={later(() => repeatAll(newRepeat(definition), definition.first))}>
                  Repeat {definition.label}
                </Item>
              ))}
              <Line />
              {!several && isBundle(found.step) ? (
                <DissolveItem bundle={found.step} />
              ) : (
                <Item onSelect={later(bundleSteps)}>{several ? 'Make one bundle of them' : 'Make a bundle of it'}</Item>
              )}
              <Item onSelect={later(toOwnPiece)}>Make a piece of its own</Item>
              <Item onSelect={later(scaleSteps)}>Scale</Item>
              {hasBody(found.step) && <GhostItem ghost={found.step.ghost} />}
              <Item onSelect={() => setOfAll({ mute: !found.step.mute })}>
                {found.step.mute ? 'Take it back in' : 'Mute: leave it out'}
              </Item>
              {!several && <MoveItems id={found.step.id} />}
              {!several && (
                <Item
                  onSelect={() =>
                    useView.setState({ inspected: inspected ? undefined : { step: found.step.id, show: 'without' } })
                  }
                >
                  Before and after
                </Item>
              )}
              <Item onSelect={later(fitSelection)} keys="1">
                Bring into view
              </Item>
              <Line />
              <Item onSelect={later(removeSteps)} keys="Delete">
                Remove
              </Item>
            </>
          ) : (
            <>
              <Item onSelect={addOn} keys="/">
                Add a step …
              </Item>
              <Item onSelect={later(selectAllSteps)} keys="Ctrl A">
                Select all steps
              </Item>
              <Item onSelect={() => useView.getState().look(useView.getState().name)} keys="0">
                Bring the part into view
              </Item>
            </>
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}

function Item({
  children,
  keys,
  disabled = false,
  onSelect,
}: {
  readonly children: ReactNode
  readonly keys?: string
  readonly disabled?: boolean
  onSelect(): void
}) {
  return (
    <DropdownMenu.Item disabled={disabled} onSelect={onSelect} className={itemLook}>
      {children}
      {keys && <kbd className="ml-auto text-xs text-ink-soft">{keys}</kbd>}
    </DropdownMenu.Item>
  )
}

function Line() {
  return <DropdownMenu.Separator className="my-1 h-px bg-line" />
}
