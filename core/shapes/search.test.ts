import { expect, it } from 'vitest'
import { findShapes, newStep, shapes } from './index.ts'

const first = (typed: string) => findShapes(typed)[0]

it('finds shapes by label, by kind and by what else they are called', () => {
  expect(first('plate')?.shape.kind).toBe('plate')
  expect(first('cyl')?.shape.kind).toBe('bar')
  expect(first('gusset')?.shape.kind).toBe('wedge')
  expect(first('hole')?.shape.kind).toBe('hole')
  expect(first('round')?.shape.kind).toBe('bar')
  expect(
    findShapes('round')
      .map(({ shape }) => shape.kind)
      .slice(0, 2),
  ).toEqual(['bar', 'hole'])
  expect(findShapes('zzz')).toEqual([])
  expect(findShapes('')).toHaveLength(shapes.length)
})

it('takes over the values typed behind the name', () => {
  expect(first('plate 84 44 6')?.fields).toMatchObject({ width: '84', depth: '44', height: '6', corner: '0' })
  expect(first('plate 84×44×wall*2')?.fields).toMatchObject({ width: '84', depth: '44', height: 'wall*2' })
  expect(first('plate (foot + 2) 44')?.fields).toMatchObject({ width: 'foot + 2', depth: '44' })
  expect(first('plate 2 in 30')?.fields).toMatchObject({ width: '2 in', depth: '30' })
  expect(first('hole 5.3')?.fields).toMatchObject({ diameter: '5.3', reach: 'through' })
  expect(first('hole ⌀5.3 8')?.fields).toMatchObject({ diameter: '5.3', depth: '8', reach: 'blind' })
  expect(first('hole 8 slide 3')?.fields).toMatchObject({ diameter: '8 slide', depth: '3', reach: 'blind' })
  expect(first('slot 20 snug 6 slide')?.fields).toMatchObject({ length: '20 snug', width: '6 slide' })
  expect(first('round hole screw')?.fields).toMatchObject({ diameter: 'screw' })
})

it('takes a fraction for one of its own wherever sizes are parted from each other', () => {
  const sizes = (typed: string) => {
    const { width, depth, height } = findShapes(typed, shapes, 'in')[0]!.fields
    return [width, depth, height]
  }
  for (const typed of ['3 1/4 × 2 × 1/4', '3 1/4 x 2 x 1/4', '3 1/4 by 2 by 1/4', '3 1/4, 2, 1/4'])
    expect([typed, sizes(`plate ${typed}`)]).toEqual([typed, ['3 1/4', '2', '1/4']])
  expect(sizes('plate 3 x 2 x 1/4')).toEqual(['3', '2', '1/4'])
  expect(sizes('plate 3 2 1/4 5/16')).toEqual(['3', '2 1/4', '5/16'])
  expect(sizes('plate 2,5 x 3,75 x 1/8')).toEqual(['2,5', '3,75', '1/8'])
  for (const typed of ['wall x 20 x 1/4', 'wall by 20 by 1/4', 'wall, 20, 1/4', 'wall × 20 × 1/4'])
    expect([typed, sizes(`plate ${typed}`)]).toEqual([typed, ['wall', '20', '1/4']])
  expect(sizes('plate x 20 1/4')).toEqual(['x', '20 1/4', '13/64'])
})

it('finds gears by what they are called, with their teeth and module', () => {
  expect(first('gear 24')).toMatchObject({ shape: { kind: 'gear' }, fields: { teeth: '24', run: 'straight' } })
  expect(first('pinion 17 1.25 6')?.fields).toMatchObject({ teeth: '17', module: '1.25', height: '6' })
  expect(first('herringbone 31')?.fields).toMatchObject({ teeth: '31', run: 'herringbone' })
  expect(first('helical gear 19 2')?.fields).toMatchObject({ teeth: '19', module: '2', run: 'helical' })
})

it('sets holes into the face and solids on it', () => {
  expect(newStep('a', first('hole')!).place.rest).toBe('in')
  expect(newStep('a', first('plate')!).place.rest).toBe('on')
})

it('says what was typed behind a name and means nothing there, and whether all sizes were', () => {
  const typed = (text: string, names: readonly string[] = []) => {
    const [found] = findShapes(text, shapes, 'mm', (word) => names.includes(word))
    return [found!.shape.kind, found!.complete, found!.left]
  }
  expect(typed('plate 61.3 37.7 8.2')).toEqual(['plate', true, undefined])
  expect(typed('plate 61.3 37.7')).toEqual(['plate', false, undefined])
  expect(typed('plate 61.3 37.7 8.2 3 5.1')).toEqual(['plate', true, '5.1'])
  expect(typed('nut pocket 6 7 slide 3.2')).toEqual(['prism', true, 'slide 3.2'])
  expect(typed('nut pocket 6 slide 7')).toEqual(['prism', true, undefined])
  expect(typed('hole 5.3')).toEqual(['hole', true, undefined])
  expect(typed('hole 5.3 deep')).toEqual(['hole', true, 'deep'])
  expect(typed('cube 20')).toEqual(['plate', true, undefined])
  expect(typed('cube 20 30')).toEqual(['plate', true, '30'])
  expect(typed('tube 30 4')).toEqual(['bar', false, undefined])
  expect(typed('ball joint')).toEqual(['ball', false, 'joint'])
  expect(typed('ball knob', ['knob'])).toEqual(['ball', true, undefined])
  expect(typed('text Port side 3')).toEqual(['text', true, undefined])
})
