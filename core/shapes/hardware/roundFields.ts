import { size } from '../../fields/index.ts'

/** Where something is cut into a round, of that diameter before it is told by the face that it stands on. */
export const roundFields = <const D extends string>(diameter: D) =>
  ({
    round: {
      ...size('Diameter of the round', diameter, 'Diameter of the bar or bore that it is cut into.'),
      rare: true,
    },
    on: {
      kind: 'choice',
      label: 'On',
      default: 'outside',
      choices: { outside: 'about a bar', inside: 'inside a bore' },
      meaning: 'About the axis of the round bar, or of the bore, that it stands on.',
      rare: true,
    },
  }) as const

export interface OnRound {
  readonly round: number
  readonly on: 'outside' | 'inside'
}

/** The values that fit a round face of this signed radius, negative in a bore. */
export function onIts<V extends OnRound>(values: V, radius: number): V {
  return { ...values, round: 2 * Math.abs(radius), on: radius < 0 ? 'inside' : 'outside' }
}
