import { type Joint, newPiece, onBed, type Part, type Place, type Step } from '../document/index.ts'
import { defaultFields } from '../fields/index.ts'
import { jointOf } from '../joints/index.ts'
import { onFace, partOf, step, treatment } from './index.ts'
import { boxMesh, joinedMesh, meshAsset, movedMesh } from './meshes.ts'

/** Parts that a proof must fault, and parts that it must not, at sizes nobody chose, anywhere on the bed, turned and mirrored. */

type Random = () => number

/** A part, and the checks of which one must find what is wrong with it, with the rank that it must have at least. */
export interface Deserving {
  readonly part: Part
  readonly checks: readonly string[]
  readonly rank?: 'warning'
}

/** Where a part lies: all of it turned, moved, and mirrored or not. */
interface Setting {
  readonly turn: number
  readonly at: readonly [number, number]
  readonly mirrored: boolean
}

/** Draws sizes, and puts things where they are told to be in a setting of its own. */
class Maker {
  readonly #random: Random
  readonly #setting: Setting

  constructor(random: Random) {
    this.#random = random
    this.#setting = {
      turn: random() < 0.2 ? 0 : 360 * random() - 180,
      at: random() < 0.2 ? [0, 0] : [30 * random() - 15, 30 * random() - 15],
      mirrored: random() < 0.5,
    }
  }

  /** Evenly between two sizes, mm. */
  size(low: number, high: number): number {
    return Number((low + (high - low) * this.#random()).toFixed(4))
  }

  /** As likely small as large: from thousandths on, where the least is one. */
  spread(low: number, high: number): number {
    return Number((low * (high / low) ** this.#random()).toFixed(4))
  }

  isSo(share = 0.5): boolean {
    return this.#random() < share
  }

  place([x, y, z]: readonly [number, number, number], more: Partial<Place> = {}): Place {
    const { turn, at, mirrored } = this.#setting
    const [c, s] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)]
    const side = mirrored ? -y : y
    const off = (by: number) => ({ from: 'centre', to: 'centre', by: `${by}` }) as const
    const [across, along] = [off(at[0] + c * x - s * side), off(at[1] + s * x + c * side)]
    return { ...onBed, across, along, lift: `${z}`, turn: `${turn}`, ...more }
  }

  block(
    id: string,
    [w, d, h]: readonly number[],
    at: readonly [number, number, number] = [0, 0, 0],
    more: Partial<Place> = {},
  ): Step {
    return step(id, 'plate', { width: `${w}`, depth: `${d}`, height: `${h}` }, { place: this.place(at, more) })
  }

  shape(
    id: string,
    kind: string,
    fields: Record<string, string>,
    at: readonly [number, number, number] = [0, 0, 0],
    more: Partial<Place> = {},
  ): Step {
    return step(id, kind, fields, { place: this.place(at, more) })
  }

  /** Three sizes of a block that is neither thin nor large. */
  sizes(low = 6, high = 30): readonly [number, number, number] {
    return [this.size(low, high), this.size(low, high), this.size(low, high)]
  }
}

/** Pieces of these steps. */
function pieces(...all: readonly (readonly Step[])[]): Part {
  const [first, ...others] = all
  const part = partOf(first!)
  return {
    ...part,
    pieces: [
      part.pieces[0]!,
      ...others.map((steps, i) => ({ ...newPiece(`p${i + 2}`, `Piece ${i + 2}`, 'sand'), steps })),
    ],
  }
}

function jointed(
  kind: string,
  plate: readonly Step[],
  fields: Record<string, string> = {},
  place: Partial<Place> = {},
): Part {
  const part = pieces(plate, [])
  const joint: Joint = {
    ...{ id: 'j', name: '', kind, pieces: ['p1', 'p2'] },
    place: { ...onBed, on: { kind: 'face', step: plate[0]!.id, face: 'top' }, ...place },
    fields: { ...defaultFields(jointOf(kind)!.fields), ...fields },
  }
  return { ...part, joints: [joint] }
}

/** The first printer that ships: what its lines, layers and gaps are. */
const { lineWidth, firstLayer, layerHeight, leastGap, leastLayers, holeOffset, bed } = partOf([]).printer

/** Ways to fail, each by a name. */
export const failing: Readonly<Record<string, (make: Maker) => Deserving>> = {
  'stands in the air': (m) => ({
    part: partOf([m.block('a', m.sizes(), [0, 0, m.spread(0.01, 30)])]),
    checks: ['stands'],
  }),
  'one piece of two is in the air': (m) => {
    const [a, b] = [m.sizes(), m.sizes()]
    const beside = a[0] / 2 + b[0] / 2 + m.size(0.4, 9)
    return { part: pieces([m.block('a', a)], [m.block('b', b, [beside, 0, m.spread(0.01, 20)])]), checks: ['stands'] }
  },
  'two in the air beside each other': (m) => {
    const [a, b] = [m.sizes(), m.sizes()]
    const [beside, up] = [a[0] / 2 + b[0] / 2 + m.size(0.3, 0.95), m.size(0.5, 30)]
    return { part: pieces([m.block('a', a, [0, 0, up])], [m.block('b', b, [beside, 0, up])]), checks: ['stands'] }
  },
  'in the air beside a tower': (m) => {
    const b = m.sizes(6, 15)
    const tower = [m.size(8, 20), m.size(8, 20), 60]
    const beside = tower[0]! / 2 + b[0] / 2 + m.size(0.3, 0.95)
    return { part: pieces([m.block('a', tower)], [m.block('b', b, [beside, 0, m.size(1, 40)])]), checks: ['stands'] }
  },
  'joined by less than a line': (m) => {
    const [w, d, h] = m.sizes()
    const long = m.size(3, 12)
    const bar = m.spread(0.001, 0.9 * lineWidth)
    return {
      part: partOf([
        m.block('a', [w, d, h]),
        m.block('b', [w, d, h], [w + long, 0, 0]),
        m.block('c', [w + long, bar, h], [(w + long) / 2, 0, 0]),
      ]),
      checks: ['joined'],
    }
  },
  'joined by a film': (m) => {
    const [w, d, h] = m.sizes()
    const long = m.size(3, 12)
    const up = m.size(0, h - 1)
    return {
      part: partOf([
        m.block('a', [w, d, h]),
        m.block('b', [w, d, h], [w + long, 0, 0]),
        m.block('c', [long + 2, d, m.spread(0.001, 0.04)], [(w + long) / 2, 0, up]),
      ]),
      checks: ['joined', 'bodies'],
    }
  },
  'hanging by a thread of a line or two': (m) => {
    const [[w, d, h], [w2, d2, h2]] = [m.sizes(8, 25), m.sizes(8, 25)]
    const long = m.size(1, 12)
    const thread = [w / 2 + long + 1, m.size(1.05, 1.9) * lineWidth, m.size(0.35, 0.85)]
    return {
      part: partOf([
        m.block('a', [w, d, h]),
        m.block('b', [w2, d2, h2], [(w + w2) / 2 + long, 0, 0]),
        m.block('c', thread, [thread[0]! / 2, 0, 0]),
      ]),
      checks: ['necks'],
    }
  },
  'a head on a stalk that snaps as it is touched': (m) => {
    const [low, high] = [m.sizes(9, 25), m.sizes(12, 25)]
    const [stalk, long] = [m.size(1, 1.3), m.size(2, 9)]
    return {
      part: partOf([
        m.block('a', low),
        m.block('b', [stalk, stalk, long + 2], [0, 0, low[2] - 1]),
        m.block('c', high, [0, 0, low[2] + long]),
      ]),
      checks: ['necks'],
      rank: 'warning',
    }
  },
  'touching along an edge': (m) => {
    const [a, b] = [m.sizes(), m.sizes()]
    const at = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2, 0] as const
    return { part: partOf([m.block('a', a), m.block('b', b, at)]), checks: ['bodies', 'joined'] }
  },
  'overlapping in a corner by less than a line': (m) => {
    const [a, b] = [m.sizes(), m.sizes()]
    const by = m.spread(0.001, 0.6 * lineWidth)
    const at = [(a[0] + b[0]) / 2 - by, (a[1] + b[1]) / 2 - by, 0] as const
    return { part: partOf([m.block('a', a), m.block('b', b, at)]), checks: ['bodies', 'joined'] }
  },
  'one on the corner of another': (m) => {
    const [a, b] = [m.sizes(), m.sizes()]
    const by = m.spread(0.001, 0.6 * lineWidth)
    const at = [(a[0] + b[0]) / 2 - by, (a[1] + b[1]) / 2 - by, a[2]] as const
    return { part: partOf([m.block('a', a), m.block('b', b, at)]), checks: ['bodies', 'joined'] }
  },
  'a wall thinner than a line': (m) => ({
    part: partOf([m.block('a', [m.size(5, 60), m.spread(0.02, 0.9 * lineWidth), m.size(3, 40)])]),
    checks: ['lines'],
  }),
  'a sheet thinner than half a layer': (m) => ({
    part: partOf([m.block('a', [m.size(5, 60), m.size(5, 60), m.spread(0.005, 0.45 * firstLayer)])]),
    checks: ['lines'],
  }),
  'a needle thinner than a line': (m) => ({
    part: partOf([m.shape('a', 'bar', { diameter: `${m.spread(0.05, 0.9 * lineWidth)}`, height: `${m.size(4, 90)}` })]),
    checks: ['lines'],
  }),
  'a tube with a wall thinner than a line': (m) => {
    const outside = m.size(6, 40)
    const bore = outside - 2 * m.spread(0.02, 0.85 * lineWidth)
    return {
      part: partOf([
        m.shape('a', 'bar', { diameter: `${outside}`, height: `${m.size(4, 40)}`, core: 'tube', bore: `${bore}` }),
      ]),
      // Its flats may leave nothing of it.
      checks: ['lines', 'closed'],
    }
  },
  'a ball on a point': (m) => ({
    part: partOf([m.shape('a', 'ball', { diameter: `${m.size(1.5, 40)}` })]),
    checks: ['foot'],
  }),
  'a block on its edge': (m) => {
    const lean = m.size(20, 70) * (m.isSo() ? 1 : -1)
    return { part: partOf([m.block('a', m.sizes(8, 25), [0, 0, 0], { lean: `${lean}` })]), checks: ['foot'] }
  },
  'a block on its corner': (m) => ({
    part: partOf([m.block('a', m.sizes(8, 25), [0, 0, 0], { lean: `${m.size(20, 65)}`, tilt: `${m.size(20, 65)}` })]),
    checks: ['foot'],
  }),
  'a cone on its tip': (m) => ({
    part: partOf([
      m.shape('a', 'bar', { diameter: '0.1', height: `${m.size(6, 30)}`, form: 'tapered', end: `${m.size(8, 30)}` }),
    ]),
    checks: ['foot'],
  }),
  'too small a gap between pieces': (m) => {
    const [a, b] = [m.sizes(), m.sizes()]
    const gap = m.spread(0.01, 0.93 * leastGap)
    return { part: pieces([m.block('a', a)], [m.block('b', b, [(a[0] + b[0]) / 2 + gap, 0, 0])]), checks: ['gap'] }
  },
  'pieces that overlap': (m) => {
    const [a, b] = [m.sizes(), m.sizes()]
    const into = m.spread(0.01, 3)
    return { part: pieces([m.block('a', a)], [m.block('b', b, [(a[0] + b[0]) / 2 - into, 0, 0])]), checks: ['gap'] }
  },
  'a pin too tight for its hole': (m) => {
    const pin = m.size(3, 12)
    const plate = m.size(5, 12)
    const hole = step(
      'h',
      'hole',
      { diameter: `${pin + 2 * m.spread(0.01, 0.9 * leastGap)}` },
      { place: onFace('a', 'top') },
    )
    return {
      part: pieces(
        [m.block('a', [pin + 12, pin + 14, plate]), hole],
        [m.shape('b', 'bar', { diameter: `${pin}`, height: `${m.size(14, 30)}` })],
      ),
      checks: ['gap'],
    }
  },
  'pieces right above each other': (m) => {
    const [a, b] = [m.sizes(), m.sizes()]
    return {
      part: pieces([m.block('a', a)], [m.block('b', b, [0, 0, a[2] + m.spread(0.01, 0.9 * leastGap)])]),
      checks: ['gap', 'fused'],
    }
  },
  'two bodies in one piece': (m) => {
    const [a, b] = [m.sizes(), m.sizes()]
    const beside = (a[0] + b[0]) / 2 + m.spread(0.001, 20)
    return { part: partOf([m.block('a', a), m.block('b', b, [beside, 0, 0])]), checks: ['bodies'] }
  },
  'a body loose in a cavity': (m) => {
    const [w, d, h] = m.sizes(20, 30)
    const [inner, room] = [m.size(3, 6), m.size(8, 12)]
    const low = (h - room) / 2
    const cut = { ...m.block('c', [room, room, room], [0, 0, low]), operation: 'cut' } as Step
    return {
      part: partOf([m.block('a', [w, d, h]), cut, m.block('b', [inner, inner, inner], [0, 0, low + 1])]),
      checks: ['bodies'],
    }
  },
  'cut in two': (m) => {
    const [w, d, h] = m.sizes(15, 40)
    const slit = {
      ...m.block('c', [m.spread(0.02, 3), d + 5, h + 5], [w * m.size(-0.3, 0.3), 0, -1]),
      operation: 'cut',
    } as Step
    return { part: partOf([m.block('a', [w, d, h]), slit]), checks: ['bodies'] }
  },
  'cut away as a whole': (m) => {
    const [w, d, h] = m.sizes()
    const all = { ...m.block('c', [w + m.size(1, 9), d + 2, h + 3], [0, 0, -1]), operation: 'cut' } as Step
    return { part: partOf([m.block('a', [w, d, h]), all]), checks: ['closed', 'sheet'] }
  },
  'larger than the bed': (m) => ({
    part: partOf([m.block('a', [m.size(5, 20), Math.hypot(bed[0], bed[1]) + m.size(0.5, 90), m.size(5, 20)])]),
    checks: ['bed'],
  }),
  'higher than the printer': (m) => ({
    part: partOf([m.block('a', [m.size(15, 40), m.size(15, 40), bed[2] + m.spread(0.01, 90)])]),
    checks: ['bed'],
  }),
  'a round that cannot be': (m) => {
    const [w, d, h] = m.sizes(8, 20)
    const radius = Math.max(w, d) * m.size(0.55, 3)
    return {
      part: partOf([m.block('a', [w, d, h]), treatment('round', { edges: 'upright of a', radius: `${radius}` }, 'r')]),
      checks: ['sheet'],
      rank: 'warning',
    }
  },
  'a hollow that leaves nothing': (m) => {
    const [w, d, h] = m.sizes(8, 20)
    const thick = Math.min(w, d) * m.size(0.51, 2)
    return {
      part: partOf([m.block('a', [w, d, h]), treatment('hollow', { thick: `${thick}`, open: 'a/top' }, 'h')]),
      checks: ['sheet'],
      rank: 'warning',
    }
  },
  'a value that is none': (m) => ({
    part: partOf([
      m.block('a', m.sizes()),
      step(
        'b',
        'plate',
        { width: m.isSo() ? '5 / 0' : 'wdth + 3', depth: '4', height: '3' },
        { place: onFace('a', 'top') },
      ),
    ]),
    checks: ['sheet'],
  }),
  'a bore wider than its bar': (m) => {
    const outside = m.size(5, 20)
    return {
      part: partOf([
        m.block('a', m.sizes(20, 30)),
        step(
          'b',
          'bar',
          { diameter: `${outside}`, height: '9.1', core: 'tube', bore: `${outside * m.size(1, 3)}` },
          { place: onFace('a', 'top') },
        ),
      ]),
      checks: ['sheet'],
    }
  },
  'a mesh that runs through itself': (m) => {
    const [a, b] = [m.sizes(10, 20), m.sizes(5, 9)]
    const deep = m.spread(0.01, 4)
    const mesh = joinedMesh([boxMesh(...a), movedMesh(boxMesh(...b), [1.3, 0.7, a[2] - deep])])
    const asset = meshAsset(mesh)
    return { part: { ...partOf([m.shape('m', 'mesh', { mesh: asset.hash })]), assets: [asset] }, checks: ['crosses'] }
  },
  'a fin thinner than a line': (m) => {
    const [w, d, h] = m.sizes(8, 30)
    const fin = [m.size(0.5, 0.9) * w, m.spread(0.02, 0.9 * lineWidth), m.size(1, 15)]
    return {
      part: partOf([m.block('a', [w, d, h]), m.block('b', fin, [0, d * m.size(-0.3, 0.3), h])]),
      checks: ['walls'],
    }
  },
  'a pin thinner than a line': (m) => {
    const [w, d, h] = m.sizes(8, 30)
    const pin = { diameter: `${m.spread(0.1, 0.9 * lineWidth)}`, height: `${m.size(3, 20)}` }
    return { part: partOf([m.block('a', [w, d, h]), m.shape('b', 'bar', pin, [0, 0, h])]), checks: ['walls'] }
  },
  'a three-sided bar thinner than a line': (m) => {
    const [w, d, h] = m.sizes(8, 30)
    const bar = { sides: '3', size: `${m.size(0.3, 0.9) * lineWidth}`, height: `${m.size(4, 20)}` }
    return { part: partOf([m.block('a', [w, d, h]), m.shape('b', 'prism', bar, [0, 0, h])]), checks: ['walls'] }
  },
  'a wall thinner than a line between two holes': (m) => {
    const [hole, h] = [m.size(2.5, 9), m.size(4, 12)]
    // Flats of bores lie outside of these by as much as the fineness.
    const apart = hole + m.spread(0.07, 0.75 * lineWidth)
    const cut = (id: string, x: number) =>
      ({ ...m.shape(id, 'bar', { diameter: `${hole}`, height: `${h + 5}` }, [x, 0, -2]), operation: 'cut' }) as Step
    return {
      part: partOf([m.block('a', [3 * hole + 9, hole + 9, h]), cut('b', -apart / 2), cut('c', apart / 2)]),
      checks: ['walls'],
    }
  },
  'a floor thinner than half a layer': (m) => {
    const [w, d, h] = m.sizes(9, 30)
    const floor = m.spread(0.01, 0.45 * layerHeight)
    const pocket = { ...m.block('c', [w - 4, d - 4, h], [0, 0, floor]), operation: 'cut' } as Step
    return { part: partOf([m.block('a', [w, d, h]), pocket]), checks: ['walls'] }
  },
  'a slot that closes': (m) => {
    const [w, d, h] = m.sizes(9, 30)
    const slot = [m.spread(0.01, 0.93 * leastGap), d * m.size(0.5, 2), h]
    const cut = {
      ...m.block('c', slot, [w * m.size(-0.2, 0.2), d * m.size(0.3, 0.5), m.size(1, 0.6 * h)]),
      operation: 'cut',
    }
    return { part: partOf([m.block('a', [w, d, h]), cut as Step]), checks: ['slots'] }
  },
  'a slit between layers that closes': (m) => {
    const [w, d, h] = m.sizes(9, 30)
    const slit = [w, d * m.size(0.3, 0.6), m.spread(0.02, 0.93 * leastLayers * layerHeight)]
    const cut = { ...m.block('c', slit, [0, d / 2, h * m.size(0.2, 0.7)]), operation: 'cut' }
    return { part: partOf([m.block('a', [w, d, h]), cut as Step]), checks: ['slots'] }
  },
  'a hole that closes': (m) => {
    const [w, d, h] = m.sizes(9, 30)
    const hole = { diameter: `${m.spread(0.15, 0.9 * (leastGap + 2 * holeOffset))}`, height: `${h + 5}` }
    const cut = { ...m.shape('c', 'bar', hole, [0, 0, -2]), operation: 'cut' } as Step
    return { part: partOf([m.block('a', [w, d, h]), cut]), checks: ['slots'] }
  },
  'a slide that is left open': (m) => ({
    part: jointed('slide', [m.block('plate', [90, m.size(48, 54), 12])]),
    checks: ['leaves'],
    rank: 'warning',
  }),
}

/** Sound parts, each kind by a name. */
export const sound: Readonly<Record<string, (make: Maker) => Part>> = {
  'a block': (m) => partOf([m.block('a', m.sizes(3, 60))]),
  'a plate with bosses and holes': (m) => {
    const [w, d, h] = [m.size(40, 80), m.size(40, 80), m.size(3, 9)]
    const on = (x: number, y: number) => ({
      ...onFace('a', 'top'),
      across: { from: 'centre', to: 'centre', by: `${x}` } as const,
      along: { from: 'centre', to: 'centre', by: `${y}` } as const,
    })
    return partOf([
      m.block('a', [w, d, h]),
      step('b', 'bar', { diameter: `${m.size(4, 12)}`, height: `${m.size(2, 15)}` }, { place: on(-11, m.size(-8, 8)) }),
      step('c', 'hole', { diameter: `${m.size(2, 9)}` }, { place: on(11, m.size(-8, 8)) }),
      step(
        'e',
        'plate',
        { width: '7.3', depth: `${m.size(4, 12)}`, height: `${m.size(2, 9)}` },
        { place: { ...on(0, 0), turn: '23.7' } },
      ),
    ])
  },
  'a rounded block': (m) => {
    const [w, d, h] = m.sizes(12, 40)
    const radius = `${m.size(0.6, 3)}`
    return partOf([
      m.block('a', [w, d, h]),
      treatment('round', { edges: m.isSo() ? 'upright of a' : 'of a/top', radius }, 'r'),
    ])
  },
  'an open box': (m) =>
    partOf([m.block('a', m.sizes(15, 50)), treatment('hollow', { thick: `${m.size(0.9, 3)}`, open: 'a/top' }, 'h')]),
  'a cone with a sharp tip': (m) => {
    const wide = m.size(8, 20)
    const cone = { diameter: `${wide}`, height: `${wide * m.size(0.9, 2)}`, form: 'tapered', end: '0.01' }
    return partOf([m.shape('a', 'bar', cone)])
  },
  'a plate with slots': (m) => {
    const [w, d, h] = m.sizes(20, 40)
    const [wide, deep] = [m.size(1.05 * leastGap, 3), d * m.size(0.5, 2)]
    const [x, y, z] = [w * m.size(-0.2, 0.2), d * m.size(0.3, 0.5), m.size(1, 0.6 * h)]
    // It leaves a wall at its end.
    const slot = [wide, Math.min(deep, 2 * (y + d / 2 - 2)), h]
    const cut = {
      ...m.block('c', slot, [x, y, z]),
      operation: 'cut',
    }
    return partOf([m.block('a', [w, d, h]), cut as Step])
  },
  'a ball sunk into a plate': (m) => {
    const [w, d, h] = m.sizes(20, 40)
    const ball = m.size(3, 15)
    // Joined over a round of 1.25 mm and more: less breaks off in a hand.
    const sunk = Math.max(0.02, 1.6 / ball ** 2)
    return partOf([
      m.block('a', [w, d, h]),
      m.shape('b', 'ball', { diameter: `${ball}` }, [0, 0, h - ball * m.size(sunk, 0.6)]),
    ])
  },
  'a tube': (m) => {
    const outside = m.size(10, 50)
    const bore = outside - 2 * m.size(0.9, 3)
    return partOf([
      m.shape('a', 'bar', { diameter: `${outside}`, height: `${m.size(5, 50)}`, core: 'tube', bore: `${bore}` }),
    ])
  },
  'half a ball': (m) => {
    const d = m.size(8, 40)
    return partOf([
      m.shape('a', 'ball', { diameter: `${d}`, form: 'part', from: `${d * m.size(0.2, 0.5)}`, to: `${d}` }),
    ])
  },
  'pieces far enough apart': (m) => {
    const [a, b] = [m.sizes(), m.sizes()]
    const gap = m.spread(1.05 * leastGap, 20)
    return pieces([m.block('a', a)], [m.block('b', b, [(a[0] + b[0]) / 2 + gap, 0, 0])])
  },
  'a pin in its hole': (m) => {
    const pin = m.size(3, 12)
    const hole = step(
      'h',
      'hole',
      { diameter: `${pin + 2 * m.size(1.1 * leastGap, 1)}` },
      { place: onFace('a', 'top') },
    )
    return pieces(
      [m.block('a', [pin + 12, pin + 14, m.size(5, 12)]), hole],
      [m.shape('b', 'bar', { diameter: `${pin}`, height: `${m.size(14, 30)}` })],
    )
  },
  'two blocks that are joined': (m) => {
    const [w, d, h] = m.sizes(8, 30)
    const [long, wide] = [m.size(3, 12), m.size(1.3 * lineWidth, 6)]
    return partOf([
      m.block('a', [w, d, h]),
      m.block('b', [w, d, h], [w + long, 0, 0]),
      m.block('c', [w + long, wide, h], [(w + long) / 2, 0, 0]),
    ])
  },
  'a mesh of bodies that touch': (m) => {
    const [a, b] = [m.sizes(12, 20), m.sizes(5, 9)]
    const mesh = boxMesh(...a)
    const asset = meshAsset(mesh)
    return {
      ...partOf([
        m.shape('m', 'mesh', { mesh: asset.hash }),
        step('b', 'plate', { width: `${b[0]}`, depth: `${b[1]}`, height: `${b[2]}` }, { place: onFace('m', 'top') }),
      ]),
      assets: [asset],
    }
  },
  'what is held by its joint': (m) =>
    jointed(['captive-ring', 'telescope', 'ball-socket', 'slide', 'twist-lock'][Math.floor(5 * m.size(0, 0.999))]!, [
      m.block('plate', [90, 90, m.size(11, 13)]),
    ]),
}

export type DeservingMaker = Maker
export const maker = (random: Random) => new Maker(random)
