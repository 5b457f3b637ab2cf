import { usePart } from '../state/part.ts'

/** The field that adds something here: a step to the sheet, or a curve to an outline. */
const fieldHere = () => document.querySelector<HTMLElement>('#add-step, #draw-tool')
let wanted = false

/** Whether the keyboard is in that field and nothing is typed: what is done to steps by keys is meant for the sheet then. */
export function isIdleThere({ target }: Event): boolean {
  return target instanceof HTMLInputElement && target === fieldHere() && target.value === ''
}

/** Takes the keyboard to the field that adds something, from whatever stage. */
export async function beginAdding(): Promise<void> {
  const field = fieldHere()
  if (field) return field.focus()
  const { part } = usePart.getState()
  if (!part) return
  wanted = true
  const { router } = await import('../router.tsx')
  await router.navigate(`/part/${part.id}/make`)
}

/** The field is there: it takes the keyboard where that was meant for it. */
export function addFieldIsThere(): void {
  if (wanted) fieldHere()?.focus()
  wanted = false
}
