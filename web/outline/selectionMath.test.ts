import type { Vec2 } from '@makrel/core/plane'
import { describe, expect, it } from 'vitest'
import { scaleBetween, turnBetween } from './selectionMath.ts'

const about: Vec2 = [15.3, -8.2]
const at = (angle: number, far: number): Vec2 => {
  const rad = (angle * Math.PI) / 180
  return [about[0] + far * Math.cos(rad), about[1] + far * Math.sin(rad)]
}

describe('dragging the handles of a selection', () => {
  it('turns by whole degrees counter-clockwise, the short way round', () => {
    expect(turnBetween(about, at(37.3, 20), at(37.3 + 21.4, 33), false)).toBe(21)
    expect(turnBetween(about, at(170, 20), at(-165, 20), false)).toBe(25)
    expect(turnBetween(about, at(10, 20), at(-12.6, 20), false)).toBe(-23)
  })
  it('takes a multiple of 15 degrees where that is near, and says exactly nothing for nothing', () => {
    expect(turnBetween(about, at(5, 20), at(51.6, 20), false)).toBe(45)
    expect(turnBetween(about, at(5, 20), at(52.8, 20), false)).toBe(48)
    expect(Object.is(turnBetween(about, at(5, 20), at(4.1, 20), false), 0)).toBe(true)
  })
  it('goes freely to a hundredth where nothing is inferred', () => {
    expect(turnBetween(about, at(0, 20), at(44.123, 20), true)).toBe(44.12)
    expect(scaleBetween(about, at(0, 20), at(90, 25.4), true)).toBe(1.27)
  })
  it('scales by steps, wherever the pointer goes, and never to nothing', () => {
    expect(scaleBetween(about, at(0, 20), at(60, 46.3), false)).toBe(2.3)
    expect(scaleBetween(about, at(0, 20), about, false)).toBe(0.05)
    expect(scaleBetween(about, about, at(0, 3), false)).toBe(1)
  })
})
