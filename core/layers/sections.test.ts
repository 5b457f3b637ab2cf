import fc from 'fast-check'
import { describe, expect, it, vi } from 'vitest'
import type { Kernel, Ring, Solid } from '../kernel/index.ts'
import { built, onFace, partOf, step, testKernel } from '../testing/index.ts'
import { runs } from '../testing/sample.ts'
import { KnownSections, Sections } from './index.ts'

const kernel: Kernel = await testKernel()
const cut = (solid: Solid, z: number) => kernel.scope((scope) => scope.slice(solid, z))
const areaOf = (rings: readonly Ring[]) =>
  rings.reduce(
    (sum, ring) =>
      sum +
      ring.reduce((own, [x, y], i) => {
        const [nextX, nextY] = ring[(i + 1) % ring.length]!
        return own + (x * nextY - nextX * y) / 2
      }, 0),
    0,
  )

describe('sections of a solid', () => {
  it('are what a cut at their height gives, whatever stands on what, leans or is bored', async () => {
    const size = fc.integer({ min: 21, max: 173 }).map((x) => x / 10)
    await fc.assert(
      fc.asyncProperty(
        size,
        size,
        size,
        fc.constantFrom('0', '37.3'),
        fc.constantFrom('straight', 'tapered'),
        async (a, b, c, tilt, form) => {
          const block = step(
            'b',
            'plate',
            { width: `${a + 15}`, depth: '30.3', height: `${b}` },
            { place: { tilt, lift: '40' } },
          )
          const bar = step(
            'c',
            'bar',
            { diameter: '9.7', height: `${c}`, form, end: '3.1' },
            { place: onFace('b', 'top') },
          )
          const hole = step('h', 'hole', { diameter: '3.3' }, { place: onFace('b', 'top') })
          const { pieces } = await built(kernel, partOf([block, bar, hole]), 0.1)
          const solid = pieces[0]!.solid!
          const sections = new Sections(kernel, solid)
          const { min, max } = solid.bounds()!
          for (let i = 0; i < 25; i++) {
            const z = min[2] + ((i + 0.37) / 25) * (max[2] - min[2])
            expect(areaOf(sections.at(z))).toBeCloseTo(cut(solid, z).area, 5)
          }
        },
      ),
      { numRuns: runs(30) },
    )
  })
  it('are the same, whether they were packed meanwhile or not', async () => {
    const ball = step('b', 'ball', { diameter: '15.3' })
    const plate = step('p', 'plate', { width: '20.3', depth: '11.1', height: '4.3', corner: '2.1' })
    const { pieces } = await built(kernel, partOf([ball, plate]), 0.05)
    const solid = pieces[0]!.solid!
    const { min, max } = solid.bounds()!
    const heights = Array.from({ length: 40 }, (_, i) => min[2] + ((i + 0.37) / 40) * (max[2] - min[2]))
    const [all, few] = [new Sections(kernel, solid), new Sections(kernel, solid, { mostAtHand: 150 })]
    const first = heights.map((z) => all.at(z))
    // Up and down: what was packed is asked for again.
    for (const [i, z] of [...heights.entries(), ...[...heights.entries()].reverse()]) {
      const rings = few.at(z)
      expect(rings).toEqual(first[i])
      // What was asked for right before is at hand.
      expect(few.at(z)).toBe(rings)
      expect(all.at(z)).toBe(first[i])
    }
    // What was not asked for lately was let go of.
    const before = few.at(heights[0]!)
    for (const z of heights) few.at(z)
    expect(few.at(heights[0]!)).not.toBe(before)
  })
  it('of a prism are the very same between its ends, and others where it changes', async () => {
    const block = step('b', 'plate', { width: '20.3', depth: '11.1', height: '7.3', corner: '2.1' })
    const cone = step(
      'c',
      'bar',
      { diameter: '8.1', height: '6.7', form: 'tapered', end: '2' },
      { place: onFace('b', 'top') },
    )
    const { pieces } = await built(kernel, partOf([block, cone]), 0.1)
    const sections = new Sections(kernel, pieces[0]!.solid!)
    expect(sections.at(1.1)).toBe(sections.at(6.9))
    expect(sections.at(8.1)).not.toBe(sections.at(12.9))
    expect(areaOf(sections.at(8.1))).toBeGreaterThan(areaOf(sections.at(12.9)) + 1)
    expect(sections.at(-1)).toEqual([])
  })
})

describe('sections that are known from before', () => {
  it('are the very same where an edit left a layer alone, and others where it did not', async () => {
    const size = fc.integer({ min: 21, max: 83 }).map((x) => x / 10)
    await fc.assert(
      fc.asyncProperty(size, size, async (a, b) => {
        const posts = (high: number) =>
          built(
            kernel,
            partOf([
              step('a', 'plate', { width: '33.1', depth: '21.7', height: `${a}` }, { place: { turn: '15.3' } }),
              step('b', 'bar', { diameter: '9.3', height: '12.7' }, { place: onFace('a', 'top') }),
              step('c', 'hole', { diameter: '3.3', reach: 'blind', depth: `${high}` }, { place: onFace('b', 'end') }),
            ]),
            0.02,
          )
        const known = new KnownSections()
        const solidOf = async (high: number) => (await posts(high)).pieces[0]!.solid!
        const [one, other] = [await solidOf(b), await solidOf(b + 2)]
        const [before, after] = [one, other].map((solid) => new Sections(kernel, solid, { known })) as [
          Sections,
          Sections,
        ]
        const bottom = a + 12.7 - b
        expect(after.at(0.37 * a)).toBe(before.at(0.37 * a))
        expect(after.at(bottom + 0.7)).toBe(before.at(bottom + 0.7))
        // What the same triangles cross is not even cut again.
        const high = a + 0.4 * (10.7 - b)
        const own = before.at(high)
        const scopes = vi.spyOn(kernel, 'scope')
        const again = new Sections(kernel, other, { known })
        expect(again.at(high)).toBe(own)
        expect(scopes).not.toHaveBeenCalled()
        again.at(bottom - 1.3)
        expect(scopes).toHaveBeenCalled()
        scopes.mockRestore()
        // The deeper hole is there where the other one had ended.
        expect(after.at(bottom - 1)).not.toBe(before.at(bottom - 1))
        expect(after.at(bottom - 1).length).toBe(2)
        const alone = new Sections(kernel, other)
        expect(areaOf(after.at(0.37 * a))).toBeCloseTo(areaOf(alone.at(0.37 * a)), 6)
      }),
      { numRuns: runs(20) },
    )
  })
  it('are forgotten after some states that had no use for them', async () => {
    const [solid] = (await built(kernel, partOf([step('a', 'plate')]), 0.02)).pieces.map((piece) => piece.solid!)
    const known = new KnownSections()
    const at = () => new Sections(kernel, solid!, { known }).at(1)
    const first = at()
    known.begin()
    known.begin()
    expect(at()).toBe(first)
    for (let i = 0; i < 3; i++) known.begin()
    expect(at()).not.toBe(first)
    expect(at()).toEqual(first)
  })
})
