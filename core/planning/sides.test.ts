import { describe, expect, it } from 'vitest'
import { shapes } from '../shapes/index.ts'
import { built, onFace, partOf, step, testKernel } from '../testing/index.ts'
import { outerSides, workOut } from './index.ts'

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
