/** What a spring does, as its formula has it. */
export interface SpringFacts {
  /** what it gives for each of its units: N/mm, or N mm for a degree */
  readonly rate: number
  readonly per: 'mm' | 'degree'
  /** how far it is bent, in these units */
  readonly travel: number
  /** N, or N mm, to bend it so far */
  readonly force: number
  /** the largest strain there, as a share */
  readonly strain: number
  /** what else there is to know */
  readonly more?: readonly { readonly label: string; readonly text: string }[]
}

/** Of the material, MPa. */
export interface SpringStuff {
  readonly stiffness: number
}
