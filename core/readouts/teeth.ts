import { overPins, spanOver, type Teeth, teethSpanned, tipRadius, toothSizes } from '../gears/index.ts'
import { type ToothValues, teethOf } from '../shapes/index.ts'
import { length, toDecimals } from '../units/index.ts'
import type { ReadoutDefinition, ReadPlace, ReadResult } from './define.ts'

/** The usual size of pins for outside teeth, in modules (van Keuren). */
const pinModules = 1.728

/** A read-out of a gear, by what its own values come to. */
function ofGear(
  kind: string,
  label: string,
  meaning: string,
  read: (teeth: Teeth, values: ToothValues) => ReadResult,
): ReadoutDefinition {
  return {
    ...{ kind, label, meaning, dimension: length, takes: 1, of: 'gear', from: 'faces' },
    read: ([place]: readonly ReadPlace[]) => {
      const values = gearOf(place!)
      return values ? read(teethOf(values), values) : { detail: 'choose the axis of a gear with its teeth outside' }
    },
  }
}

function gearOf({ step }: ReadPlace): ToothValues | undefined {
  return step?.shape === 'gear' && step.adds ? (step.values as unknown as ToothValues) : undefined
}

const circle = (what: 'pitch' | 'base' | 'root', how: string) =>
  ofGear(`gear-${what}`, `${what} diameter`, `Of a gear: the diameter of its ${what} circle.`, (teeth) => ({
    value: 2 * toothSizes(teeth)[what],
    how,
  }))

export const gearPitch = circle('pitch', 'teeth times module')
export const gearBase = circle('base', 'that the flanks are wound off')
export const gearRoot = circle('root', 'over the floors of the spaces')
export const gearTip = ofGear(
  'gear-tip',
  'tip diameter',
  'Of a gear: the diameter over the tips of its teeth.',
  (teeth) => ({
    value: 2 * tipRadius(teeth),
    how: 'over the tips',
  }),
)

/** Across the lean of the teeth, as a calliper lies (ISO 21771, 4.5.4). */
export const gearSpan = ofGear(
  'gear-span',
  'span over teeth',
  'Of a gear: what a calliper reads over several of its teeth, as many as it best spans.',
  (teeth, { run, helix, height }) => {
    const k = teethSpanned(teeth)
    const lean =
      run === 'straight' ? 0 : Math.atan(Math.tan((helix * Math.PI) / 180) * Math.cos((teeth.pressure * Math.PI) / 180))
    const value = spanOver(teeth, k) * Math.cos(lean)
    const width = run === 'herringbone' ? height / 2 : height
    if (value * Math.sin(lean) >= width)
      return {
        detail: `its teeth are too narrow to be spanned: wider than ${toDecimals(value * Math.sin(lean), 3)} mm they could`,
      }
    return { value, how: `over ${k} teeth` }
  },
)

export const gearPins = ofGear(
  'gear-pins',
  'size over pins',
  'Of a gear whose teeth run straight: over two pins that lie in opposite spaces.',
  (teeth, { run }) => {
    if (run !== 'straight') return { detail: 'pins lie in straight teeth only' }
    const pin = toDecimals(pinModules * teeth.module, 3)
    return { value: overPins(teeth, pin), how: `over two pins ⌀ ${pin}` }
  },
)
