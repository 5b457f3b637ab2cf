import { describe, expect, it } from 'vitest'
import {
  clearanceHole,
  clearances,
  families,
  findItems,
  type Item,
  itemKinds,
  itemOf,
  itemsFor,
  itemsOf,
  metricCoarse,
  minorDiameter,
  namesSize,
  pitchDiameter,
  unifiedCoarse,
} from './index.ts'

/** The items of a family by their sizes. */
function table(id: string): Readonly<Record<string, Item['sizes']>> {
  const family = families.find((each) => each.id === id)!
  return Object.fromEntries(itemsOf(family).map(({ size, sizes }) => [size, sizes]))
}
const rows = (id: string) => Object.entries(table(id))
/** Threads that no other table knows. */
const known = { ...metricCoarse, ...unifiedCoarse }

describe('every table', () => {
  it('has ids and columns of its own, and sizes that are more than nothing', () => {
    expect(new Set(families.map(({ id }) => id)).size).toBe(families.length)
    expect(new Set(families.map(({ label }) => label)).size).toBe(families.length)
    for (const family of families) {
      expect(family.id).toMatch(/^[a-z0-9.-]+$/)
      expect(itemKinds).toContain(family.kind)
      expect(family.standard).toMatch(/^(ISO|DIN|ASME) |^usual size$/)
      for (const [size, row] of Object.entries(family.rows)) {
        expect([size, row.length]).toEqual([size, Object.keys(family.columns).length])
        expect([size, row.every((x) => x > 0 && Number.isFinite(x))]).toEqual([size, true])
        if (family.threads) expect([family.id, size, known[size] !== undefined]).toEqual([family.id, size, true])
      }
    }
  })
  it('gives its items by their ids, in mm', () => {
    for (const item of itemsFor(itemKinds)) expect(itemOf(item.id)).toBe(item)
    expect(itemOf('iso-4032 M4')!.sizes).toEqual({ thread: 4, pitch: 0.7, flats: 7, height: 3.2 })
    expect(itemOf('asme-b18.2.2 1/4-20')!.sizes.flats).toBeCloseTo(11.1125, 9)
    expect(itemOf('iso-4032 M4.1')).toBeUndefined()
    expect(itemsFor(['nut']).every(({ family }) => family.kind === 'nut')).toBe(true)
  })
  it('grows with its sizes', () => {
    // A larger thread has a head, a nut or a washer that is larger all round.
    for (const family of families.filter(({ threads }) => threads)) {
      const all = itemsOf(family).map(({ sizes }) => sizes)
      const keys = Object.keys(family.columns)
      for (const [i, own] of all.entries())
        if (i > 0) for (const key of keys) expect(own[key]!).toBeGreaterThanOrEqual(all[i - 1]![key]! - 1e-9)
    }
  })
})

describe('threads', () => {
  it('have the pitch and minor diameters of their triangles', () => {
    for (const each of Object.values(known)) {
      expect(pitchDiameter(each)).toBeCloseTo(each.thread - 0.649519 * each.pitch, 5)
      expect(minorDiameter(each)).toBeCloseTo(each.thread - 1.082532 * each.pitch, 5)
      // ISO 68-1: the triangle is √3/2 P high; at the pitch diameter ridge and gap are as wide.
      const triangle = (Math.sqrt(3) / 2) * each.pitch
      expect(each.thread - pitchDiameter(each)).toBeCloseTo(2 * (3 / 8) * triangle, 9)
    }
  })
  it('go through their holes, closer in a closer one', () => {
    for (const each of Object.values(known)) {
      const holes = clearances.map((clearance) => clearanceHole(each, clearance))
      const [close, normal, loose] = holes as number[]
      expect(close).toBeGreaterThan(each.thread)
      expect(normal).toBeGreaterThan(close!)
      expect(loose).toBeGreaterThan(normal!)
      expect(loose).toBeLessThanOrEqual(1.35 * each.thread)
    }
    expect(Object.values(metricCoarse).every((each) => clearanceHole(each, 'normal') !== undefined)).toBe(true)
    expect(clearanceHole({ thread: 4.5 }, 'close')).toBeUndefined()
  })
  it('leave the next smaller screw room, and the next larger one none', () => {
    const all = Object.values(metricCoarse)
    for (const [i, each] of all.entries())
      for (const other of all.slice(i + 1)) expect(other.thread).toBeGreaterThan(clearanceHole(each, 'close')!)
  })
})

describe('screws', () => {
  it('with cylindrical heads have them as high as they are thick (ISO 4762)', () => {
    for (const [, { thread, headHeight, head }] of rows('iso-4762')) {
      expect(headHeight).toBe(thread)
      expect(head! / thread!).toBeGreaterThanOrEqual(1.5)
      expect(head! / thread!).toBeLessThan(1.95)
    }
  })
  it('of inches too, to the thousandth that a table rounds to (ASME B18.3)', () => {
    for (const [, { thread, headHeight }] of rows('asme-b18.3'))
      expect(Math.abs(headHeight! - thread!)).toBeLessThan(0.01)
  })
  it('with countersunk heads end where their cone comes to the thread (ISO 10642, 90°)', () => {
    for (const [size, { thread, head, headHeight }] of rows('iso-10642')) {
      if (thread! <= 12) expect(head).toBeCloseTo(2.24 * thread!, 9)
      expect([size, Math.abs((head! - thread!) / 2 - headHeight!) < 0.02]).toEqual([size, true])
    }
  })
  it('with button heads have them 0.55 of their thread high (ISO 7380-1)', () => {
    for (const [, { thread, headHeight }] of rows('iso-7380-1')) expect(headHeight).toBeCloseTo(0.55 * thread!, 9)
  })
  it('take a key that is smaller than what it goes into', () => {
    for (const id of ['iso-4762', 'iso-10642', 'iso-7380-1', 'asme-b18.3'])
      for (const [, { key, head, thread }] of rows(id)) {
        // Across its corners a key is 2/√3 as wide as across its flats.
        expect((key! * 2) / Math.sqrt(3)).toBeLessThan(0.85 * head!)
        expect(key!).toBeLessThan(thread!)
      }
    for (const [, { key, thread, pitch }] of rows('iso-4026'))
      expect((key! * 2) / Math.sqrt(3)).toBeLessThan(minorDiameter({ thread: thread!, pitch: pitch! }))
  })
})

describe('nuts', () => {
  it('of one thread take one wrench, whatever they are', () => {
    const hex = table('iso-4032')
    for (const id of ['iso-4035', 'iso-7040', 'iso-4161', 'iso-4017'])
      for (const [size, { flats }] of rows(id)) expect([id, size, flats]).toEqual([id, size, hex[size]!.flats])
  })
  it('are as thick beside their thread as they need, and no thicker', () => {
    for (const family of families.filter(({ kind }) => kind === 'nut'))
      for (const { sizes } of itemsOf(family)) {
        expect(sizes.flats! / sizes.thread!).toBeGreaterThanOrEqual(1.5 - 1e-9)
        expect(sizes.flats! / sizes.thread!).toBeLessThanOrEqual(2.3)
      }
  })
  it('are higher with a ring that locks them, and lower where they are thin', () => {
    const [thin, hex, lock] = [table('iso-4035'), table('iso-4032'), table('iso-7040')]
    for (const size of Object.keys(hex)) {
      expect(thin[size]!.height).toBeLessThan(hex[size]!.height!)
      if (lock[size]) expect(lock[size]!.height).toBeGreaterThan(hex[size]!.height!)
    }
    for (const [, { thread, height }] of rows('iso-4035')) if (thread! >= 8) expect(height).toBe(thread! / 2)
  })
})

describe('washers', () => {
  it('have the holes of the close series (ISO 7089 and ISO 273)', () => {
    for (const [size, { bore, outside, thread }] of rows('iso-7089')) {
      expect([size, bore]).toEqual([size, clearanceHole({ thread: thread! }, 'close')])
      // They carry the whole of a hex head.
      expect(outside!).toBeGreaterThan(table('iso-4017')[size]!.flats!)
    }
  })
})

describe('washers that spring or are wide', () => {
  it('go over their thread; wide ones are three times as wide as it, springy ones no wider than a nut’s plain one', () => {
    for (const [size, { bore, outside, thread }] of rows('iso-7093')) {
      expect([size, bore]).toEqual([size, clearanceHole({ thread: thread! }, 'close')])
      expect([size, Math.abs(outside! / thread! - 3) <= 0.1]).toEqual([size, true])
    }
    for (const [size, { bore, outside, thread, height }] of rows('din-127')) {
      expect(bore!).toBeGreaterThan(thread!)
      expect(bore!).toBeLessThan(1.05 * thread! + 0.1)
      expect([size, outside! < table('iso-7089')[size]!.outside!]).toEqual([size, true])
      // Their wire is about as wide as it is thick.
      expect((outside! - bore!) / 2 / height!).toBeGreaterThan(1.2)
      expect((outside! - bore!) / 2 / height!).toBeLessThan(2.2)
    }
  })
})

describe('pins', () => {
  it('of all kinds come in the diameters of dowels, but for split ones, which are called by their hole', () => {
    const dowels = Object.keys(table('iso-2338'))
    for (const id of ['iso-8752', 'iso-2341']) for (const [size] of rows(id)) expect(dowels).toContain(size)
    for (const [size, { diameter }] of rows('iso-1234')) expect(size).toBe(`⌀ ${diameter}`)
    for (const [, { diameter, head, headHeight }] of rows('iso-2341')) {
      expect(head! / diameter!).toBeGreaterThanOrEqual(1.5)
      expect(head! / diameter!).toBeLessThan(1.9)
      expect(headHeight!).toBeLessThan(diameter! / 2)
    }
  })
})

describe('screws that form their thread', () => {
  it('leave more than half of their ridge to bite (ISO 1478)', () => {
    for (const [size, { thread, core, pitch, head, headHeight }] of [...rows('iso-7049')]) {
      // Ridges of 60° with a point are not higher than 0.87 of their pitch.
      expect([size, (thread! - core!) / 2 < 0.87 * pitch!]).toEqual([size, true])
      expect([size, core! / thread! > 0.7 && core! / thread! < 0.8]).toEqual([size, true])
      expect(head! / thread!).toBeGreaterThan(1.75)
      expect(headHeight!).toBeLessThan(thread!)
    }
    for (const [, { thread, head, headHeight }] of rows('usual-wood'))
      expect((head! - thread!) / 2).toBeCloseTo(headHeight!, 9)
  })
})

describe('bearings of other kinds', () => {
  it('with a flange have the sizes of the ones without', () => {
    const plain = { ...table('iso-15'), ...table('usual-bearing') }
    for (const [size, { bore, outside, height, flange, flangeHeight }] of rows('usual-flanged')) {
      expect({ bore, outside, height }).toEqual(plain[size.slice(1)])
      expect(flange! - outside!).toBeGreaterThanOrEqual(1.5)
      expect(flangeHeight!).toBeLessThan(height! / 2)
    }
  })
  it('that bear along their axis have the bore of their number, and grow', () => {
    let last = 0
    for (const [size, { bore, outside }] of rows('iso-104')) {
      const code = Number(size.slice(-2))
      expect(bore).toBe(code >= 4 ? 5 * code : [10, 12, 15, 17][code])
      expect(outside!).toBeGreaterThan(last)
      last = outside!
    }
  })
  it('that are bushes have walls of 0.75 to 1.5 mm, as their series has (ISO 3547-1)', () => {
    for (const [size, { bore, outside, height }] of rows('iso-3547')) {
      expect(size).toBe(`${bore} × ${height}`)
      const wall = (outside! - bore!) / 2
      expect([size, wall]).toEqual([size, bore! <= 4 ? 0.75 : bore! <= 18 ? 1 : 1.5])
    }
  })
})

describe('magnets with a hole', () => {
  it('keep a wall about it that is a quarter of their diameter or so', () => {
    for (const [size, { diameter, bore, height }] of rows('usual-ring-magnet')) {
      expect(size).toBe(`${diameter} × ${bore} × ${height}`)
      expect((diameter! - bore!) / 2 / diameter!).toBeGreaterThan(0.2)
    }
  })
})

describe('bearings', () => {
  /** 62 of 6204 and of 625. */
  const seriesOf = (size: string) => size.slice(0, 2)
  it('have the bore that their number says (ISO 15)', () => {
    for (const [size, { bore }] of [...rows('iso-15'), ...rows('usual-bearing')]) {
      const code = Number(size.slice(-2))
      const told = size.length === 3 ? Number(size.slice(-1)) : code >= 4 ? 5 * code : [10, 12, 15, 17][code]!
      expect([size, bore]).toEqual([size, told])
    }
  })
  it('grow within a series, and are thicker from one series to the next', () => {
    const all = rows('iso-15')
    for (const [size, own] of all)
      for (const [other, { bore, outside, height }] of all) {
        if (seriesOf(size) === seriesOf(other) && size.length === other.length && bore! > own.bore!) {
          expect([size, other, outside! > own.outside!]).toEqual([size, other, true])
          expect([size, other, height! >= own.height!]).toEqual([size, other, true])
        }
        // 68 < 69 < 60 < 62 < 63 of one bore.
        const order = ['68', '69', '60', '62', '63']
        if (bore === own.bore && order.indexOf(seriesOf(other)) > order.indexOf(seriesOf(size))) {
          expect([size, other, outside! > own.outside!]).toEqual([size, other, true])
        }
      }
  })
})

describe('keys and rings', () => {
  it('have ways a little deeper than the key is high, for shafts one after the other (DIN 6885-1)', () => {
    let from = 6
    for (const [size, { height, inShaft, inHub, shaftFrom, shaftTo, width }] of rows('din-6885-1')) {
      expect([size, inShaft! + inHub! - height! >= 0.2 - 1e-9]).toEqual([size, true])
      expect([size, inShaft! + inHub! - height! <= 0.3 + 1e-9]).toEqual([size, true])
      expect([size, shaftFrom]).toEqual([size, from])
      from = shaftTo!
      // About a third to a quarter of the shaft.
      expect(width! / shaftFrom!).toBeLessThan(0.42)
      expect(width! / shaftTo!).toBeGreaterThan(0.24)
    }
  })
  it('have grooves a tenth of a mm wider than the ring (DIN 471, DIN 472)', () => {
    for (const id of ['din-471', 'din-472'])
      for (const [size, { height, grooveWidth }] of rows(id))
        expect([size, grooveWidth! - height!]).toEqual([size, expect.closeTo(0.1, 9)])
  })
  it('lie in their grooves: inside of a shaft, outside of a bore', () => {
    for (const [, { diameter, groove }] of rows('din-471')) expect(groove!).toBeLessThan(diameter!)
    for (const [, { diameter, groove }] of rows('din-472')) expect(groove!).toBeGreaterThan(diameter!)
  })
})

describe('items are found by what is typed', () => {
  it.each([
    ['M4 nut', 'iso-4032 M4'],
    ['m4 nut', 'iso-4032 M4'],
    ['nut M2.5', 'iso-4032 M2.5'],
    ['lock nut M8', 'iso-7040 M8'],
    ['M3 insert', 'usual-insert M3'],
    ['608', 'iso-15 608'],
    ['bearing 608', 'iso-15 608'],
    ['bearing 22', 'iso-15 608'],
    ['F608', 'usual-flanged F608'],
    ['roll pin 4', 'iso-8752 ⌀ 4'],
    ['cotter 3.2', 'iso-1234 ⌀ 3.2'],
    ['bush 8x10', 'iso-3547 8 × 10'],
    ['ring magnet 10x4x3', 'usual-ring-magnet 10 × 4 × 3'],
    ['ST2.9', 'iso-7049 ST2.9'],
    ['wood screw 4', 'usual-wood ⌀ 4'],
    ['thrust bearing 51102', 'iso-104 51102'],
    ['1/4-20', 'asme-b18.3 1/4-20'],
    ['1/4-20 nut', 'asme-b18.2.2 1/4-20'],
    ['countersunk M5', 'iso-10642 M5'],
    ['key 5x5', 'din-6885-1 5 × 5'],
    ['key 8 × 7', 'din-6885-1 8 × 7'],
    ['magnet 6 x 2 mm', 'usual-magnet 6 × 2'],
    ['iso 4762 m10', 'iso-4762 M10'],
    ['circlip 12', 'din-471 ⌀ 12'],
    ['dowel 2.5', 'iso-2338 ⌀ 2.5'],
    ['button M6', 'iso-7380-1 M6'],
    ['o-ring 20x2', 'usual-o-ring 20 × 2'],
    ['thread M8', 'iso-261 M8'],
    ['M8x1 thread', 'iso-261 M8 × 1'],
    ['thread 1/4-20', 'asme-b1.1 1/4-20'],
    ['G 1/4', 'iso-228 G1/4'],
    ['g 1 1/4 thread', 'iso-228 G1-1/4'],
    ['Tr 10 x 2', 'iso-2904 Tr10 × 2'],
    ['28-400', 'usual-neck 28-400'],
  ])('%s', (typed, id) => {
    expect(findItems(typed)[0]?.id).toBe(id)
  })
  it('by all of its words, or not at all', () => {
    expect(findItems('M4 plate')).toEqual([])
    expect(findItems('M4.1')).toEqual([])
    expect(findItems('M4', ['nut']).map(({ size }) => size)).toEqual(Array(4).fill('M4'))
    expect(findItems('', ['pin'])).toEqual(itemsFor(['pin']))
    for (const item of itemsFor(itemKinds)) {
      const typed = `${item.size} ${item.family.label}`
      expect(findItems(typed)[0], typed).toBe(item)
      expect(namesSize(typed, item)).toBe(true)
      expect(namesSize(item.family.label, item)).toBe(false)
    }
  })
})
