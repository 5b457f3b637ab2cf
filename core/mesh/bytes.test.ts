import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fromBytes, toBytes } from './bytes.ts'

const arrays = fc.oneof(
  fc.float32Array({ noNaN: true, maxLength: 9 }),
  fc.float64Array({ noNaN: true, maxLength: 9 }),
  fc.uint32Array({ maxLength: 9 }),
  fc.uint16Array({ maxLength: 9 }),
  fc.uint8Array({ maxLength: 9 }),
  fc.int32Array({ maxLength: 9 }),
)
const plain = fc.oneof(fc.string(), fc.integer(), fc.boolean(), fc.constant(null))
const any = fc.array(
  fc.record({ name: plain, of: arrays, deeper: fc.array(fc.record({ points: arrays, text: fc.string() })) }),
)

describe('data with arrays in it, as bytes', () => {
  it('comes out as it was, whatever lies in it and however long its arrays are', () => {
    fc.assert(
      fc.property(any, (value) => {
        expect(fromBytes(toBytes(value))).toEqual(value)
      }),
    )
  })
  it('takes only the part of a buffer that an array shows', () => {
    const whole = Float32Array.from({ length: 1000 }, (_, i) => i / 3)
    const bytes = toBytes({ shown: whole.subarray(7, 10) })
    expect(bytes.length).toBeLessThan(100)
    expect(fromBytes(bytes)).toEqual({ shown: Float32Array.of(7 / 3, 8 / 3, 3) })
  })
  it('is told where bytes hold nothing of the kind', () => {
    expect(() => fromBytes(Uint8Array.of(0, 0, 0, 9, 1, 2, 3, 4, 5, 6, 7, 8, 9, 9, 9, 9, 9))).toThrow()
  })
})
