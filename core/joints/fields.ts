/** The gap that a joint leaves between what moves against each other, per side. */
export function gapField(between: string) {
  return {
    kind: 'length',
    label: 'Gap',
    default: 'captive',
    above: 0,
    most: 10,
    meaning: `Gap between ${between}, per side; a fit by name follows the printer.`,
  } as const
}

/** The gap that a joint leaves between what is printed above each other. */
export function upwardField(above: string) {
  return {
    kind: 'length',
    label: 'Gap upward',
    default: 'captive',
    above: 0,
    most: 10,
    layered: true,
    meaning: `Gap between ${above}, upward; rounded up to whole layers of the printer.`,
  } as const
}
