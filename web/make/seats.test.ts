import { newPart } from '@makrel/core/document'
import { workOut } from '@makrel/core/planning'
import { findShapes, newStep } from '@makrel/core/shapes'
import { renderMeshOf } from '@makrel/core/solids'
import { bodied, built, partOf, step as stepOf, testKernel, treatment } from '@makrel/core/testing'
import { expect, it } from 'vitest'
import { madeFloor, offsetsOn, openFace, seatOptions } from './seats.ts'

const kernel = await testKernel()

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

const hollowed = (open: string, turn = '0') =>
  partOf([
    stepOf('b', 'plate', { width: '61.3', depth: '37.7', height: '12.2' }, { place: { turn } }),
    treatment('hollow', { thick: '2.1', open }, 'h'),
    treatment('bevel', { edges: 'upright of b', size: '1.3' }, 'v'),
    stepOf('on', 'bar', { diameter: '8.3', length: '20' }, { place: { on: { kind: 'face', step: 'b', face: 'top' } } }),
  ])
const drawnOf = async (part: ReturnType<typeof partOf>) => {
  const made = await built(kernel, part)
  return { plan: made.plan, drawn: made.pieces.flatMap((piece) => renderMeshOf(made, piece) ?? []) }
}

it.each(['0', '37.3'])(
  'a step can stand on all flat faces of a hollow and a bevel above it (turned by %s)',
  async (turn) => {
    const part = hollowed('b/top', turn)
    const { plan, drawn } = await drawnOf(part)
    const labels = seatOptions(part, plan, 'on', drawn, eye).map(({ label }) => label)
    const [hollow, bevel] = [
      labels.filter((label) => label.includes('of 2,')),
      labels.filter((label) => label.includes('of 3,')),
    ]
    // Four walls and the floor; the four bevelled edges.
    expect([hollow.length, bevel.length]).toEqual([5, 4])
    // The nearest step first, and no face twice.
    expect(labels.indexOf(bevel[0]!)).toBe(1)
    expect(new Set(labels).size).toBe(labels.length)
    expect(seatOptions(part, plan, 'h', drawn, eye).some(({ seat }) => seat.kind === 'face' && seat.step !== 'b')).toBe(
      false,
    )
  },
)

it('what is added to a hollow stands on its floor, where something fits in', async () => {
  const floorOf = async (open: string) => madeFloor('h', (await drawnOf(hollowed(open))).drawn)
  expect(await floorOf('b/top')).toMatch(/bottom/)
  expect(await floorOf('')).toBeUndefined()
  expect(await floorOf('b/bottom')).toBeUndefined()
})

it('what was drawn or copied on one face is centred on another, and keeps what was measured from its edges', () => {
  const own = { from: 'centre', to: 'own', by: '35.1' } as const
  const edge = { from: 'low', to: 'near', by: '8.9' } as const
  const { place } = bodied(stepOf('s', 'bar', {}, { place: { across: own, along: edge } }))
  const centred = { from: 'centre', to: 'centre', by: '0' }
  expect(offsetsOn(place, { kind: 'face', step: 'b', face: 'left' }, 'drawn')).toEqual({ across: centred, along: edge })
  expect(offsetsOn(place, { kind: 'bed' }, 'made')).toEqual({ across: centred, along: { ...edge, from: 'centre' } })
  // An axis of another step is where it was.
  const axis = { ...own, of: 'b', from: 'axis' } as const
  expect(offsetsOn({ ...place, across: axis }, { kind: 'face', step: 'b', face: 'left' }, 'drawn').across).toEqual(axis)
  // What another step tells stays so on the bed as well.
  const flush = { of: 'b', from: 'low', to: 'near', by: '0' } as const
  expect(offsetsOn({ ...place, across: flush }, { kind: 'bed' }, undefined).across).toEqual(flush)
  // So is that of a wheel.
  expect(offsetsOn(place, { kind: 'face', step: 'b', face: 'left' }, 'axis').across).toEqual(own)
})

it('of the faces of a step those that can be seen come first', async () => {
  const part = hollowed('b/top')
  const { plan, drawn } = await drawnOf(part)
  const first = (from: readonly [number, number, number]) =>
    seatOptions(part, plan, 'h', drawn, from)[1]!.label.split(' ')[0]
  expect([first([0, -300, 1]), first([0, 0, -300])]).toEqual(['front', 'bottom'])
})

it('a body can be stood on at its axes, after all that can be seen of it; a cut and a datum cannot', () => {
  const part = partOf([
    stepOf('b', 'ball', { diameter: '21.3' }),
    stepOf('h', 'hole', { diameter: '3.3' }, { place: { on: { kind: 'face', step: 'b', face: 'left side' } } }),
    stepOf('d', 'datum'),
    stepOf('on', 'bar'),
  ])
  const labels = seatOptions(part, workOut(part).plan, 'on', [], eye).map(({ label }) => label)
  expect(labels.slice(-3)).toEqual(['height axis of 1, ball', 'width axis of 1, ball', 'depth axis of 1, ball'])
  expect(labels.filter((label) => label.includes('axis'))).toHaveLength(3)
  expect(labels.indexOf('bottom side of 1, ball')).toBe(labels.length - 4)
})
