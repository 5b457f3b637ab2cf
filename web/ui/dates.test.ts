import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { dayText, momentText, timeText } from './dates.ts'

beforeEach(() => void vi.useFakeTimers({ now: new Date(2026, 2, 1, 0, 5) }))
afterEach(() => void vi.useRealTimers())

it.each([
  [new Date(2026, 2, 1, 0, 4), '00:04', '00:04'],
  [new Date(2026, 1, 28, 23, 59), '28 Feb', '28 Feb 23:59'],
  [new Date(2026, 0, 1, 9, 30), '1 Jan', '1 Jan 09:30'],
  [new Date(2025, 11, 31, 23, 59), '31 Dec 2025', '31 Dec 2025 23:59'],
])('%s is told by what is not understood', (at, day, moment) => {
  expect(dayText(at)).toBe(day)
  expect(momentText(at)).toBe(moment)
})

it('times have two digits each', () => {
  expect(timeText(new Date(2026, 0, 1, 4, 5))).toBe('04:05')
})
