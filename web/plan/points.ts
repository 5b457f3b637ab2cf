import { allSteps, type Part, type ReadPoint } from '@makrel/core/document'
import { pointWords } from '../make/words.ts'

export interface PointOption {
  readonly key: string
  readonly point: ReadPoint
  readonly label: string
}

export const keyOf = ({ step, face, edge }: ReadPoint) => edge ?? `${step}/${face}`

/** Every named face of every step, and every step's axis. */
export function pointOptions(
  part: Part,
  geometry: ReadonlyMap<string, { readonly faces: readonly { readonly name: string }[] }> | undefined,
): PointOption[] {
  return allSteps(part).flatMap(({ id }) => {
    const known = geometry?.get(id)
    if (!known) return []
    return [...known.faces.map(({ name }) => name), ''].map((face): PointOption => {
      const point = { step: id, face }
      return { key: keyOf(point), point, label: pointWords(part, point) }
    })
  })
}
