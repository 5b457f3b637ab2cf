import { freedomOf } from '@makrel/core/outline'
import type { Vec2 } from '@makrel/core/plane'
import { partOf } from '@makrel/core/testing'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { usePart } from '../state/part.ts'
import { pressPlace } from './press.ts'
import { openOutline, setTool, solvedNow } from './state.ts'

const outline = {
  ...{ id: 'o', name: '', on: { kind: 'bed' as const }, points: [], curves: [], constraints: [], derived: [] },
  toggled: [],
}

beforeEach(() => {
  vi.useFakeTimers()
  usePart.setState({ part: partOf([], { outlines: [outline] }) })
  openOutline('o')
  setTool('line')
})
afterEach(() => vi.useRealTimers())

/** A comb with so many teeth, whose sides are level and upright; its corners in order. */
function comb(teeth: number, [x, y]: Vec2, wide: number, high: number): Vec2[] {
  const upper = Array.from({ length: teeth }, (_, i): Vec2[] => {
    const left = x + 2 * i * wide
    return [
      [left, y + high],
      [left + wide, y + high],
      ...(i + 1 < teeth
        ? ([
            [left + wide, y + high / 3],
            [left + 2 * wide, y + high / 3],
          ] as const)
        : []),
    ]
  })
  return [[x, y], ...upper.flat(), [x + (2 * teeth - 1) * wide, y]]
}

it.each<[string, Vec2[]]>([
  ['sixteen corners about the origin', comb(4, [-30.3, -8.9], 8.7, 17.8)],
  ['sixteen corners that are off it', comb(4, [11.7, 5.1], 3.17, 41.3)],
  [
    'corners on both axes',
    [
      [0, 0],
      [0, 21.3],
      [17.9, 21.3],
      [17.9, 8.2],
      [35.1, 8.2],
      [35.1, 0],
    ],
  ],
  [
    'slanted sides',
    [
      [1.3, 2.7],
      [8.1, 31.9],
      [22.6, 35.3],
      [40.2, 12.1],
      [31.3, 2.7],
    ],
  ],
])('%s that were typed and close say nothing twice', (_, corners) => {
  for (const corner of [...corners, corners[0]!]) pressPlace(corner)
  const solved = solvedNow()!
  expect(solved.outline.curves.length).toBe(corners.length)
  expect(solved.outline.points.length).toBe(corners.length)
  expect(solved.problems).toEqual([])
  const { redundant } = freedomOf(solved.system, solved.solution.x)
  expect([...redundant.keys()]).toEqual([])
  // And each corner is where it was typed.
  for (const { id } of solved.outline.points) {
    const at = solved.points.get(id)!
    expect(corners.some(([x, y]) => Math.hypot(at[0] - x, at[1] - y) < 1e-6)).toBe(true)
  }
})
