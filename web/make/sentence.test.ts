import { shapeOf } from '@makrel/core/shapes'
import { expect, it } from 'vitest'
import { sentenceParts } from './Sentence.tsx'

it('a sentence that cannot be said still shows the values of its step', () => {
  const plate = shapeOf('plate')!
  const fails = () => {
    throw new TypeError('x is undefined')
  }
  const parts = sentenceParts(fails, undefined, {}, plate.fields)
  expect(parts.flatMap((part) => (typeof part === 'string' ? [] : [part.field]))).toEqual(Object.keys(plate.fields))
})
