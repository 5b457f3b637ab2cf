import type { Sketch, SolvedOutline, Spot, Wish } from '@makrel/core/outline'
import type { Segment } from '@makrel/core/plane'
import type { AskedSize } from '../state.ts'

export interface ToolContext {
  readonly solved: SolvedOutline
  /** what the last spot asks of a line that ends there */
  readonly wishes: readonly Wish[]
  readonly sides: number
}

/** What a tool has drawn: sizes that can be typed now, and the spots that it goes on from. */
export interface Drawn {
  readonly sizes?: readonly AskedSize[]
  readonly next?: readonly Spot[]
}

export interface Tool {
  readonly kind: string
  readonly label: string
  readonly shelf: 'lines' | 'figures' | 'change'
  /** SVG path data in a 16 × 16 box */
  readonly icon: string
  /** the key that takes it up */
  readonly key: string
  /** what to press next, by how many spots it has */
  say(spots: number): string
  /** whether the spot after these ends a straight line, which can be level, upright, tangent … */
  isLine?(spots: number): boolean
  /** how many spots make it; `endless` goes on until Enter or a click on the first one */
  readonly spots: number | 'endless'
  /** what it would draw, for the eye */
  preview(spots: readonly Spot[], context: ToolContext): readonly Segment[]
  /** draws it; undefined where these spots make nothing */
  draw(sketch: Sketch, spots: readonly Spot[], context: ToolContext): Drawn | undefined
}

/** A tool that works on the curve under the pointer. */
export interface CurveTool extends Pick<Tool, 'kind' | 'label' | 'icon' | 'key'> {
  readonly shelf: 'change'
  readonly says: string
}
