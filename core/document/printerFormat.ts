import { fitNames, type Material, type Printer } from '../fits/index.ts'
import { byKind, type Described, date, number, oneOf, optional, record, text, tripleOf, whole } from './described.ts'
import { id } from './formatTerms.ts'
import { documentLimits } from './limits.ts'

/** Printers and materials as parts and the server keep them. Lengths in mm, angles in degrees. */

const called = text({ least: 1, most: documentLimits.name })
/** Between nothing and what no printer does. */
const upTo = (most: number) => number({ least: 0, most })
const size = (most: number) => number({ above: 0, most })

const origin = byKind(
  'kind',
  {
    shipped: record({ kind: oneOf('shipped') }),
    set: record({ kind: oneOf('set'), on: date }),
    calibrated: record({ kind: oneOf('calibrated'), from: called, on: date, spread: upTo(1) }),
  },
  'shipped, set by hand or calibrated',
)
const gap = record({ gap: upTo(5), origin })
const pairs = record({ round: gap, flat: gap })

export const printer: Described<Printer> = record({
  id,
  name: called,
  bed: tripleOf(number({ least: 10, most: 5000 })),
  lineWidth: size(5),
  layerHeight: size(5),
  firstLayer: size(5),
  leastGap: upTo(5),
  leastLayers: whole(0, 50),
  overhang: upTo(90),
  bridge: upTo(500),
  holeOffset: number({ least: -2, most: 2 }),
  outsideOffset: number({ least: -2, most: 2 }),
  flare: upTo(2),
  measured: optional(origin),
  fits: record(
    Object.fromEntries(fitNames.map((name) => [name, pairs])) as Record<(typeof fitNames)[number], typeof pairs>,
  ),
})

export const material: Described<Material> = record({
  id,
  name: called,
  density: size(30),
  price: upTo(100_000),
  shrinkage: upTo(20),
  measured: optional(origin),
  stiffness: size(1_000_000),
  strainOnce: size(1000),
  strainOften: size(1000),
  acrossLayers: optional(number({ above: 0, most: 100 })),
  keepsForm: number({ least: -100, most: 1000 }),
})
