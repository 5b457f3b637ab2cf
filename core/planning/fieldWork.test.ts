import { describe, expect, it } from 'vitest'
import { partOf, step } from '../testing/index.ts'
import { workOut } from './index.ts'

const told = (fields: Record<string, string>, unit: 'mm' | 'in' = 'mm') =>
  workOut(partOf([step('g', 'gear', fields)], { unit })).problems

describe('a value that cannot be', () => {
  it.each([
    [{ teeth: '3' }, 'teeth', 5, 'count'],
    [{ teeth: '401' }, 'teeth', 400, 'count'],
    [{ run: 'helical', helix: '60' }, 'helix', 45, 'angle'],
    [{ pressure: '8.5' }, 'pressure', 10, 'angle'],
    [{ shift: '-1.5' }, 'shift', -1, 'ratio'],
  ] as const)('beyond its bounds offers the nearest that can: %o', (fields, field, value, kind) => {
    const [problem] = told(fields)
    expect(problem).toMatchObject({ path: ['steps', 'g', 'fields', field], offer: { field, value, kind } })
  })
  it('beside the others offers what goes with them, in mm whatever the part is in', () => {
    const [problem] = told({ hole: '50' })
    expect(problem).toMatchObject({ path: ['steps', 'g', 'fields', 'hole'], offer: { field: 'hole', kind: 'length' } })
    const { value } = problem!.offer as { value: number }
    expect(value).toBeGreaterThan(25)
    expect(told({ hole: `${value} mm` })).toEqual([])
    expect(told({ hole: `${value} mm`, height: '1', play: '0' }, 'in')[0]?.path.at(-1)).not.toBe('hole')
  })
  it('that cannot be read offers nothing', () => {
    const [problem] = told({ teeth: '3 +' })
    expect(problem!.path).toEqual(['steps', 'g', 'fields', 'teeth'])
    expect(problem!.offer).toBeUndefined()
  })
})
