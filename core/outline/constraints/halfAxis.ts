import { leftOf, minus, plus, times, unit2, type Vec2 } from '../../plane/index.ts'
import { at, type ConstraintDefinition, type Ref, single } from './define.ts'

/** The half axis of an ellipse that has no point of its own; the other one is the distance of its two points. */
export const halfAxis: ConstraintDefinition = {
  kind: 'half-axis',
  label: 'second semi-axis',
  meaning: 'How far an ellipse reaches square to its drawn semi-axis.',
  sign: 'M11 6 A5 3.5 0 1 1 11 5.99 M6 6 V2.5',
  takes: [['bent']],
  value: 'length',
  above: 0,
  equation([bent], { value }) {
    const size = sizeOf(bent)
    return size === undefined ? undefined : single([size], (x) => x[size]! - value, true)
  },
  measured([bent], x) {
    if (bent?.kind !== 'bent' || bent.size === undefined || !bent.axis) return undefined
    const [middle, end] = bent.axis.map((p) => at(x, p)) as [Vec2, Vec2]
    const out = leftOf(unit2(minus(end, middle)))
    return { kind: 'length', from: middle, to: plus(middle, times(out, x[bent.size]!)) }
  },
}

function sizeOf(ref: Ref | undefined): number | undefined {
  return ref?.kind === 'bent' ? ref.size : undefined
}
