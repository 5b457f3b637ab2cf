import { describe, expect, it } from 'vitest'
import {
  differing,
  type KeptThing,
  type Printer,
  sameThing,
  shippedMaterials,
  shippedPrinters,
  standingOf,
  type WorkshopKind,
  workshopKinds,
} from '../fits/index.ts'
import { codeOf } from '../testing/index.ts'
import { readThingFile, thingFaults, writeThingFile } from './index.ts'

const [tern, dunlin, gannet] = shippedPrinters as readonly [Printer, Printer, Printer]
const things = { printers: shippedPrinters, materials: shippedMaterials }

describe('printers and materials as files', () => {
  it.each(workshopKinds)('%s come back as they were', (kind: WorkshopKind) => {
    for (const thing of things[kind]) {
      const { thing: read, faults } = readThingFile(kind, writeThingFile(kind, thing as never))
      expect(faults).toEqual([])
      expect(read).toEqual(thing)
    }
  })
  it('that miss values, or have some that cannot be, come with the nearest that can, and with what was wrong', () => {
    const { bridge: _, fits, ...rest } = tern
    const set = { gap: 0.27, origin: { kind: 'set', on: '2026-05-17T08:15:00.000Z' } } as const
    const odd = {
      ...{ ...rest, lineWidth: 12, bed: [220, 3, 'x'], leastLayers: 1.4, name: '', colour: 'red' },
      fits: {
        ...{ press: fits.press, snug: fits.snug, free: fits.free, captive: fits.captive },
        slide: { round: set, flat: { gap: -1, origin: { kind: 'guessed' } } },
      },
    }
    const { thing, faults } = readThingFile('printers', JSON.stringify({ format: 'makrel-printer', printer: odd }))
    expect(faults.map(({ place, text, offer }) => [place, text, offer]).sort()).toEqual(
      [
        ['name', 'must not be empty', 'Tern 220'],
        ['bed.1', 'must be at least 10', 10],
        ['bed.2', 'must be a number', 240],
        ['lineWidth', 'must be at most 5', 5],
        ['leastLayers', 'must be a whole number', 1],
        ['bridge', 'is missing', 15],
        ['fits.slide.flat.gap', 'must be at least 0', 0],
        ['fits.slide.flat.origin', 'cannot be read', undefined],
        ['colour', 'is not known here', undefined],
      ].sort(),
    )
    expect(thingFaults('printers', thing)).toEqual([])
    expect(thing).toMatchObject({ lineWidth: 5, bed: [220, 10, 240], leastLayers: 1, bridge: 15, name: 'Tern 220' })
    expect(thing.fits.slide).toEqual({ round: set, flat: { gap: 0, origin: { kind: 'shipped' } } })
    expect(thing.holeOffset).toBe(tern.holeOffset)
  })
  it.each([
    ['{', 'file-not-json'],
    ['null', 'file-not-thing'],
    ['[]', 'file-not-thing'],
    [JSON.stringify({ format: 'makrel-material', material: shippedMaterials[0] }), 'file-not-thing'],
    [JSON.stringify({ format: 'makrel-printer', printer: [] }), 'file-not-thing'],
    [JSON.stringify({ format: 'makrel-printer', version: 2, printer: tern }), 'file-newer'],
  ])('%s is refused', (text, code) => {
    expect(codeOf(() => readThingFile('printers', text))).toBe(code)
  })
})

describe('what a part carries', () => {
  const kept = (thing: Printer, ...formerly: Printer[]): KeptThing<Printer> => ({
    ...{ thing, formerly, revision: formerly.length + 1, updatedAt: '2026-05-17T08:15:00.000Z' },
  })
  const wider = { ...tern, lineWidth: 0.6 }
  it('goes with the list where it is a former state of what is there, and is told where it is another one', () => {
    expect(standingOf(tern, [kept(tern), kept(dunlin)])).toEqual({ kind: 'same' })
    expect(standingOf(tern, [kept(dunlin), kept(wider, tern)])).toEqual({ kind: 'changed', now: wider })
    expect(standingOf({ ...tern, bridge: 3 }, [kept(wider, tern)])).toEqual({ kind: 'other', now: wider })
    expect(standingOf(gannet, [kept(tern), kept(dunlin)])).toEqual({ kind: 'gone' })
  })
  it('is the same whatever order its values are written in', () => {
    const turned = Object.fromEntries(Object.entries(tern).reverse())
    expect(JSON.stringify(turned)).not.toBe(JSON.stringify(tern))
    expect(sameThing(turned, tern)).toBe(true)
    expect(sameThing({ ...turned, bed: [220, 240, 220] }, tern)).toBe(false)
    expect(differing(tern, { ...wider, bed: [220, 220, 241] }).toSorted()).toEqual(['bed', 'lineWidth'])
  })
})
