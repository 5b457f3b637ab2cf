import { step } from '@makrel/core/testing'
import { expect, it } from 'vitest'
import { bentFor } from './onRound.ts'

it('words are bent about the round that they are put on, and lie flat again', () => {
  const words = step('t', 'text', { text: 'gauge' })
  const about = bentFor(words, undefined, 18.65, 'mm')
  expect(about).toEqual({ round: '37.3', wrap: 'outside' })
  const bent = { ...words, fields: { ...words.fields, ...about } }
  expect(bentFor(bent, 18.65, undefined, 'mm')).toEqual({ round: '30', wrap: 'flat' })
  // From a round to another one they follow that by themselves.
  expect(bentFor(bent, 18.65, -5.3, 'mm')).toEqual({})
  expect(bentFor(words, undefined, (-25.4 * 1.5) / 2, 'in')).toEqual({ round: '1.5', wrap: 'inside' })
})

it('what cannot be bent stays as it is', () => {
  expect(bentFor(step('p', 'plate', {}), undefined, 18.65, 'mm')).toEqual({})
})
