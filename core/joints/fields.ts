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
