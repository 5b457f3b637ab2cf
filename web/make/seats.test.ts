import { newPart } from '@makrel/core/document'
import { workOut } from '@makrel/core/planning'
import { findShapes, newStep } from '@makrel/core/shapes'
import { expect, it } from 'vitest'
import { openFace } from './seats.ts'

const eye = [200, -320, 200] as const
const faceOf = (
  typed: string,
  place: Parameters<typeof newStep>[2] = {},
  from: readonly [number, number, number] = eye,
) => {
  const part = newPart({ part: 'p', piece: 'p1' }, 'P')
  const base = newStep('base', findShapes('plate 60 60 5')[0]!)
  const step = newStep('s', findShapes(typed)[0]!, { on: { kind: 'face', step: 'base', face: 'top' }, ...place })
  const { plan } = workOut({ ...part, pieces: [{ ...part.pieces[0]!, steps: [base, step] }] })
  return openFace(plan.geometry.get('s')!, from)
}

it('the next step is meant for a face that can be seen, never for the one that the last stands on', () => {
  expect(faceOf('plate 20 20 5')).toBe('top')
  expect(faceOf('wedge 20 15 5')).toBe('slope')
  expect(faceOf('pyramid 20 20 15')).toBe('front')
  expect(faceOf('frustum 20 20 15 8 8')).toBe('top')
  // The broad side that looks at the eye, as its shape names it first.
  expect(faceOf('upright 5 30 30')).toBe('right')
  expect(faceOf('upright 5 30 30', {}, [-300, -50, 100])).toBe('top')
  expect(faceOf('bar 10 20')).toBe('end')
  // Laid on its side, the top is another one.
  expect(faceOf('plate 20 12 5', { tilt: '90' })).not.toBe('bottom')
})
