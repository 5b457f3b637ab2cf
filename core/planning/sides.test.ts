import { describe, expect, it } from 'vitest'
import { add, norm, pointOut, scaled, subtract } from '../place/index.ts'
import { shapes } from '../shapes/index.ts'
import { built, onFace, partOf, step, testKernel } from '../testing/index.ts'
import { axisPlanes, outerSides, workOut } from './index.ts'

const kernel = await testKernel()
const sidesOf = (kind: string, fields: Record<string, string> = {}) =>
  outerSides(workOut(partOf([step('s', kind, fields)])).plan.geometry.get('s')!).map(({ name }) => name)

describe('the sides of a block round a step', () => {
  it('are there where nothing of it looks that way', () => {
    const all = ['top side', 'front side', 'back side', 'left side', 'right side', 'bottom side']
    expect(sidesOf('ball')).toEqual(all)
    expect(sidesOf('plate')).toEqual([])
    // It is stood on all round, and on both of its ends.
    expect(sidesOf('bar', { diameter: '17.9', length: '53.3' })).toEqual([])
    expect(sidesOf('wedge')).toContain('top side')
  })
  it('have all shapes that stand something to be stood on from above', () => {
    const known = shapes.flatMap(({ kind, seat, datum }) => {
      const geometry = workOut(partOf([step('s', kind)])).plan.geometry.get('s')
      // What is made from an outline or a file is nothing by itself.
      return geometry && seat === 'stands' && !datum ? [{ kind, geometry }] : []
    })
    expect(known.length).toBeGreaterThan(25)
    for (const { kind, geometry } of known) {
      const ups = [...geometry.faces, ...outerSides(geometry)].filter(({ frame: { n, v }, round }) =>
        round === undefined ? n[2] > 0.999 : Math.abs(v[2]) < 1e-6,
      )
      expect([kind, ups.length > 0]).toEqual([kind, true])
    }
  })
})

describe('the axes of a step', () => {
  it('go through the middle of its own, and not of its block, however many teeth it has', () => {
    for (const [kind, fields] of [
      ['gear', { teeth: '23' }],
      ['ball', { diameter: '21.3' }],
      ['wedge', { width: '83.3', depth: '31.7', height: '61.9' }],
    ] as const) {
      const { reach, ...geometry } = workOut(partOf([step('s', kind, fields)])).plan.geometry.get('s')!
      const planes = axisPlanes({ ...geometry, reach })
      const high = (reach([0, 0, 1]) - reach([0, 0, -1])) / 2
      expect(
        planes.map(({ name, frame: { origin, n } }) => [name, origin, n.map((x) => Math.round(x * 1e9) / 1e9 + 0)]),
      ).toEqual([
        ['height axis', [0, 0, high], [0, 0, 1]],
        ['width axis', [0, 0, high], [1, 0, 0]],
        ['depth axis', [0, 0, high], [0, 1, 0]],
      ])
    }
    expect(axisPlanes(workOut(partOf([step('s', 'datum')])).plan.geometry.get('s')!)).toEqual([])
  })
  it('have a bar stand across a ball, as far out on both sides, however that is turned', async () => {
    const [d, pin, long] = [21.3, 6.7, 40.3]
    for (const [turn, tilt] of [
      ['0', '0'],
      ['37.3', '24.1'],
    ]) {
      const ball = step('b', 'ball', { diameter: `${d}` }, { place: { turn: turn!, tilt: tilt! } })
      for (const axis of ['height axis', 'width axis', 'depth axis']) {
        const bar = step(
          'p',
          'bar',
          { diameter: `${pin}`, height: `${long}` },
          { place: { ...onFace('b', axis), lift: `${-long / 2}` } },
        )
        const { pieces, plan, problems } = await built(kernel, partOf([ball, bar]), 0.003)
        expect([axis, problems]).toEqual([axis, []])
        // The ball, the bar, and less what of it lies in the ball: that less what a bore leaves of it.
        const inside = (Math.PI / 6) * (d ** 3 - (d ** 2 - pin ** 2) ** 1.5)
        const known = (Math.PI / 6) * d ** 3 + (Math.PI / 4) * pin ** 2 * long - inside
        const solid = pieces[0]!.solid!
        expect(Math.abs(solid.volume() / known - 1)).toBeLessThan(2e-3)
        const { min, max } = solid.bounds()!
        const middle = pointOut(plan.geometry.get('b')!.frame, [0, 0, d / 2])
        expect(norm(subtract(middle, scaled(add(min, max), 0.5)))).toBeLessThan(0.01)
      }
    }
  })
})

it.each([
  ['0', '0'],
  ['37.3', '24.1'],
])(
  'a hole through a ball from any of its sides goes through its middle (turned by %s, tilted by %s)',
  async (turn, tilt) => {
    const [d, bore] = [21.3, 6.7]
    const ball = step('b', 'ball', { diameter: `${d}` }, { place: { turn, tilt } })
    // What a bore through its middle leaves of a ball: a sixth of π h³, where h is its height inside.
    const left = (Math.PI / 6) * (d ** 2 - bore ** 2) ** 1.5
    for (const side of ['top', 'bottom', 'left', 'right', 'front', 'back']) {
      const hole = step('h', 'hole', { diameter: `${bore}` }, { place: onFace('b', `${side} side`) })
      const { pieces, problems } = await built(kernel, partOf([ball, hole]), 0.002)
      expect([side, problems]).toEqual([side, []])
      expect(Math.abs(pieces[0]!.solid!.volume() / left - 1)).toBeLessThan(2e-3)
    }
  },
)
