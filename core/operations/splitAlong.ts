import { compose, world } from '../place/index.ts'
import { type Chain, Drawn, flattenedChain, offsetLoops } from '../plane/index.ts'
import { farthestIn, partingLoops, splitAlong as splitAlongRings } from '../splits/index.ts'
import { defineTreatment } from './define.ts'
import { gapField, toldHalves } from './halved.ts'

/** One piece made two along what is drawn. */
export const splitAlong = defineTreatment({
  kind: 'splitAlong',
  label: 'Split along',
  hint: 'in two along an outline',
  look: 'changed',
  material: 'less',
  acts: 'alone',
  words: ['split by outline', 'cut along', 'divide along', 'puzzle joint', 'parting line'],
  quick: [],
  icon: 'M4 5H28V19H4ZM16 2V9C20 8 20 16 16 15V22',
  fields: {
    outline: {
      kind: 'outline',
      label: 'Outline',
      default: '',
      meaning: 'A closed outline, whose inside becomes a piece of its own; or one open line from side to side.',
      lines: true,
    },
    seen: {
      kind: 'plane',
      label: 'Drawn',
      default: 'z, 0',
      meaning: 'The plane it is drawn on; the split goes through everything, square to this plane.',
    },
    gap: gapField,
  },
  sentence: () => [{ field: 'outline' }, ', drawn', { field: 'seen' }, ', gap', { field: 'gap' }],
  impossible: ({ outline }) =>
    outline instanceof Drawn && outline.loops.length === 0 && outline.open.length !== 1
      ? {
          field: 'outline',
          detail:
            outline.open.length === 0
              ? 'This outline is empty: draw something closed, or one line from side to side.'
              : 'Several lines are open: split along one line, or along something closed.',
        }
      : undefined,
  apply({ outline, seen, gap }, work) {
    const { scope, solid, planes, fineness, own, advise } = work
    const bounds = solid.bounds()
    if (!bounds) return [solid]
    // What is seen from the front has the bed's x to its right.
    const front = 'axis' in seen.of && seen.of.axis === 'y'
    const plane = front ? compose(planes.seen!, { ...world, u: [-1, 0, 0], n: [0, 0, -1] }) : planes.seen!
    const loops = partingLoops(outline, farthestIn(bounds, plane))
    if (!loops) {
      advise('split-crosses', {})
      return [solid]
    }
    const rings = (of: readonly Chain[]) => of.map(({ segments }) => flattenedChain(segments, true, fineness, false))
    const [inner, outer] = [-gap / 2, gap / 2].map((by) => rings(offsetLoops(loops, by, 'sharp')))
    return toldHalves(work, splitAlongRings(scope, solid, plane, { inner: inner!, outer: outer! }, own))
  },
})
