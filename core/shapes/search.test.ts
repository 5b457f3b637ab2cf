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
