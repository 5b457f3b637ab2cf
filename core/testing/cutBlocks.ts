import type { Part, Step } from '../document/index.ts'
import { partOf, step } from './index.ts'

/** Draws a number between two. */
export type Between = (low: number, high: number) => number

/**
 * A block, 15 to 30 by 12 to 24 mm, with `least` upright cuts through it or up to `more` more, anywhere over it as far as `within` of its
 * sides from its middle, turned by any angle; `cut` says of which shape, and its sizes but the height.
 */
export function cutBlock(
  random: () => number,
  { least, more, within }: { readonly least: number; readonly more: number; readonly within: number },
  cut: (between: Between) => readonly [kind: string, fields: Record<string, string>],
): Part {
  const between: Between = (low, high) => low + (high - low) * random()
  const at = (mm: number) => ({ from: 'centre', to: 'centre', by: `${mm}` }) as const
  const [w, d, h] = [between(15, 30), between(12, 24), between(2, 9)]
  const cuts = Array.from({ length: least + Math.floor(more * random()) }, (_, i): Step => {
    const place = {
      ...{ across: at(between(-within, within) * w), along: at(between(-within, within) * d), rest: 'on' as const },
      ...{ turn: `${between(-180, 180)}`, lift: '-1' },
    }
    const [kind, fields] = cut(between)
    return step(`c${i}`, kind, { ...fields, height: `${h + 2}` }, { operation: 'cut', place })
  })
  return partOf([step('a', 'plate', { width: `${w}`, depth: `${d}`, height: `${h}` }), ...cuts])
}
