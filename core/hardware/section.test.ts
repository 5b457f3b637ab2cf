import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { real, runs } from '../testing/sample.ts'
import { type Item, itemsFor, type SectionOptions, type ThreadSection, threadForms, threadSection } from './index.ts'

const asDrawn = { gap: 0, crest: 0, chord: 0.0005 } as const
const threads = itemsFor(['thread'])
const of = (item: Item, options: Partial<SectionOptions> = {}) =>
  threadSection(item.family.form!, item.sizes as never, { side: 'outside', ...asDrawn, ...options })!
const formOf = (id: string) => threads.filter(({ family }) => family.form!.id === id)

/** How wide the ridge is at a radius, mm. */
function widthAt({ points }: ThreadSection, radius: number): number {
  const sides = points.slice(1).flatMap((b, i) => {
    const a = points[i]!
    if ((a.radius - radius) * (b.radius - radius) > 0 || a.radius === b.radius) return []
    return [a.along + ((b.along - a.along) * (radius - a.radius)) / (b.radius - a.radius)]
  })
  return Math.max(...sides) - Math.min(...sides)
}
/** How far the corners of one section are from the lines of another at least, mm. */
function apart(a: ThreadSection, b: ThreadSection): number {
  const lines = [-1, 0, 1].flatMap((k) => b.points.map(({ along, radius }) => [along + k * b.pitch, radius] as const))
  let least = Infinity
  for (const { along, radius } of a.points)
    for (const [i, [x1, y1]] of lines.entries()) {
      const [x2, y2] = lines[i + 1] ?? [x1, y1]
      const [dx, dy] = [x2 - x1, y2 - y1]
      const t = Math.max(0, Math.min(1, ((along - x1) * dx + (radius - y1) * dy) / (dx * dx + dy * dy || 1)))
      least = Math.min(least, Math.hypot(along - x1 - t * dx, radius - y1 - t * dy))
    }
  return least
}

describe('a thread as its standard draws it', () => {
  it.each(threads.map((item) => [item.id, item] as const))('%s', (_, item) => {
    const { thread, pitch } = item.sizes as { thread: number; pitch: number }
    const form = item.family.form!
    const [screw, nut] = [of(item), of(item, { side: 'inside' })]
    expect(screw.outer).toBeCloseTo(thread / 2, 9)
    expect(nut.outer).toBeGreaterThanOrEqual(screw.outer - 1e-9)
    expect(nut.inner).toBeGreaterThanOrEqual(screw.inner - 1e-9)
    // At the pitch diameter ridge and groove are as wide, of screw and nut alike.
    for (const section of [screw, nut]) {
      expect(widthAt(section, form.pitchDiameter(item.sizes as never) / 2)).toBeCloseTo((form.ridge ?? 0.5) * pitch, 4)
      expect(section.points.every(({ along }, i, all) => i === 0 || along > all[i - 1]!.along)).toBe(true)
      expect(section.points.at(-1)!.along - section.points[0]!.along).toBeLessThan(pitch)
    }
    // Screwed together without a gap they touch, and do not cut into each other.
    expect(apart(screw, nut)).toBeLessThan(0.001)
  })
  it('of 60° has flats of P/8 over its ridges, P/4 between those of a nut, and the diameters of ISO 68-1', () => {
    for (const item of formOf('metric')) {
      const { thread, pitch } = item.sizes as { thread: number; pitch: number }
      expect(widthAt(of(item), thread / 2 - 1e-9)).toBeCloseTo(pitch / 8, 6)
      const nut = of(item, { side: 'inside' })
      expect(2 * nut.inner).toBeCloseTo(thread - 1.082532 * pitch, 5)
      expect(pitch - widthAt(nut, nut.inner + 1e-9)).toBeCloseTo(pitch / 4, 6)
      // ISO 965-1: d3 = d − 1.226869 P
      expect(2 * of(item).inner).toBeCloseTo(thread - 1.226869 * pitch, 5)
    }
  })
  it('is rounded without a flat where it is round (ISO 228-1, DIN 405-1)', () => {
    for (const item of [...formOf('pipe'), ...formOf('round')])
      for (const side of ['outside', 'inside'] as const) {
        const { points, outer, inner, pitch } = of(item, { side, chord: 1e-6 })
        // Both arcs of a ridge meet, and both of a root.
        const flat = (level: number, away: number) => {
          const at = points.filter(({ radius }) => Math.abs(radius - level) < 1e-9).map(({ along }) => along)
          const from = at.map((x) => (x < away ? x + pitch : x))
          return Math.max(...from) - Math.min(...from)
        }
        expect([flat(outer, -pitch) < 0.005 * pitch, flat(inner, 0) < 0.005 * pitch], item.id).toEqual([true, true])
      }
  })
  it('has the ridges of DIN 513 and ISO 2904', () => {
    for (const item of formOf('buttress'))
      expect(widthAt(of(item), item.sizes.thread! / 2 - 1e-9)).toBeCloseTo(0.26384 * item.sizes.pitch!, 4)
    for (const item of formOf('trapezoidal')) {
      const { pitch, thread } = item.sizes as { thread: number; pitch: number }
      expect(widthAt(of(item), thread / 2 - 1e-9)).toBeCloseTo((0.5 - Math.tan(Math.PI / 12) / 2) * pitch, 6)
      const nut = of(item, { side: 'inside' })
      // a_c above the ridges and below them.
      expect(nut.outer - thread / 2).toBeCloseTo(nut.inner - of(item).inner, 9)
    }
  })
})

it('the surfaces of two threads with gaps are as far apart as both gaps', () => {
  fc.assert(
    fc.property(fc.constantFrom(...threads), real(0, 0.06), real(0, 0.06), (item, a, b) => {
      const { pitch } = item.sizes as { pitch: number }
      const [screw, nut] = [of(item, { gap: a * pitch }), of(item, { side: 'inside', gap: b * pitch })]
      // Rounded corners are broken into flats, each off by the chord.
      expect(Math.abs(apart(nut, screw) - (a + b) * pitch)).toBeLessThan(0.0015)
      expect(apart(screw, nut)).toBeGreaterThan((a + b) * pitch - 0.0015)
    }),
    { numRuns: runs(300) },
  )
})

it('ridges are as wide as can be printed, of a screw and of a nut, or there is no thread', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...threads),
      fc.constantFrom('outside', 'inside'),
      real(0.02, 0.8),
      real(0, 0.05),
      (item, side, share, gap) => {
        const { pitch } = item.sizes as { pitch: number }
        const section = of(item, { side, crest: share * pitch, gap: gap * pitch })
        if (!section) return
        const ridge =
          side === 'outside' ? widthAt(section, section.outer - 1e-6) : pitch - widthAt(section, section.inner + 1e-6)
        // An arc takes the corner off a flat that is left.
        const { crestRound, rootRound } = item.family.form![side](item.sizes as never)
        if (crestRound + rootRound === 0) expect(ridge).toBeGreaterThan(share * pitch - 1e-4)
        const plain = of(item, { side, gap: gap * pitch })!
        expect(section.outer - section.inner).toBeLessThanOrEqual(plain.outer - plain.inner + 1e-9)
      },
    ),
    { numRuns: runs(300) },
  )
  const m8 = threads.find(({ id }) => id === 'iso-261 M8')!
  expect(of(m8, { crest: 1.2 })).toBeUndefined()
  expect(of(m8, { gap: 0.5 })).toBeUndefined()
  expect(of(m8, { gap: 0.1 })).toBeDefined()
})

it('any diameter and pitch has a section of each form, or none where no core would be left', () => {
  fc.assert(
    fc.property(fc.constantFrom(...threadForms), real(1, 90), real(0.2, 30), (form, thread, pitch) => {
      for (const side of ['outside', 'inside'] as const) {
        const section = threadSection(form, { thread, pitch }, { side, ...asDrawn })
        if (!section) {
          expect(pitch / thread).toBeGreaterThan(0.5)
          continue
        }
        expect(section.inner).toBeGreaterThan(0)
        expect(section.outer).toBeGreaterThan(section.inner)
        for (const { radius } of section.points) {
          expect(radius).toBeGreaterThan(section.inner - 1e-9)
          expect(radius).toBeLessThan(section.outer + 1e-9)
        }
      }
    }),
    { numRuns: runs(300) },
  )
})
