/** What sizes are rounded to while dragging and nudging. */
export interface StepSize {
  readonly label: string
  readonly mm: number
}

const inch = 25.4

/** Metric steps, and the inch's halves down to a thirty-second. */
export const stepSizes: readonly StepSize[] = [
  ...[0.01, 0.1, 0.25, 0.5, 1, 2, 5, 10].map((mm) => ({ label: `${mm} mm`, mm })),
  ...[32, 16, 8, 4, 2].map((part) => ({ label: `1/${part} in`, mm: inch / part })),
]

export const plainStep: StepSize = stepSizes.find(({ mm }) => mm === 1)!
