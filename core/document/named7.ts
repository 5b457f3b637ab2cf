/**
 * The printers and materials that parts up to version 7 named, as they were when parts began to carry them; kept as plain JSON,
 * whatever ships now.
 */

type Numbers = readonly number[]

function fits(round: Numbers, flat: Numbers) {
  const origin = { kind: 'shipped' }
  const names = ['press', 'snug', 'slide', 'free', 'captive']
  return Object.fromEntries(
    names.map((name, i) => [name, { round: { gap: round[i], origin }, flat: { gap: flat[i], origin } }]),
  )
}

const lengths = ['lineWidth', 'layerHeight', 'firstLayer', 'leastGap', 'leastLayers', 'overhang', 'bridge'] as const
const offsets = ['holeOffset', 'outsideOffset', 'flare'] as const

function printer(id: string, name: string, bed: Numbers, values: Numbers, round: Numbers, flat: Numbers) {
  const own = [...lengths, ...offsets].map((key, i) => [key, values[i]])
  return { id, name, bed, ...Object.fromEntries(own), fits: fits(round, flat) }
}

const printers = [
  printer(
    'tern-220',
    'Tern 220',
    [220, 220, 240],
    [0.44, 0.2, 0.24, 0.25, 2, 50, 15, 0.08, 0.02, 0.15],
    [0, 0.1, 0.2, 0.35, 0.35],
    [0, 0.08, 0.15, 0.3, 0.3],
  ),
  printer(
    'dunlin-140',
    'Dunlin 140',
    [140, 140, 130],
    [0.42, 0.16, 0.2, 0.2, 2, 55, 12, 0.06, 0.01, 0.1],
    [0, 0.08, 0.16, 0.3, 0.3],
    [0, 0.06, 0.12, 0.25, 0.25],
  ),
  printer(
    'gannet-350',
    'Gannet 350',
    [350, 350, 400],
    [0.64, 0.3, 0.36, 0.4, 2, 45, 20, 0.14, 0.04, 0.25],
    [0.05, 0.18, 0.3, 0.5, 0.5],
    [0.04, 0.15, 0.25, 0.45, 0.45],
  ),
]

const properties = ['density', 'price', 'shrinkage', 'stiffness', 'strainOnce', 'strainOften', 'keepsForm'] as const

function material(id: string, name: string, values: Numbers) {
  return { id, name, ...Object.fromEntries(properties.map((key, i) => [key, values[i]])) }
}

const materials = [
  material('pla', 'PLA', [1.24, 22, 0.3, 3300, 2, 1.2, 52]),
  material('petg', 'PETG', [1.27, 24, 0.4, 2000, 3.5, 2.1, 68]),
  material('asa', 'ASA', [1.07, 30, 0.6, 2000, 3.5, 2.1, 92]),
  material('pa', 'Nylon (PA 6)', [1.14, 48, 1.2, 1400, 6, 3.6, 90]),
  material('tpu', 'TPU 95A', [1.21, 36, 0.6, 45, 50, 30, 60]),
]

/** One that was not known was taken for the first, under its own name. */
export function printerThen(id: string): object {
  return printers.find((each) => each.id === id) ?? { ...printers[0], id, name: id }
}

export function materialThen(id: string): object {
  return materials.find((each) => each.id === id) ?? { ...materials[0], id, name: id }
}
