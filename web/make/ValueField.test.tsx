import { evaluate, type Names, type ValueKind } from '@makrel/core/measures'
import { workOut } from '@makrel/core/planning'
import { partOf } from '@makrel/core/testing'
import { screen } from '@testing-library/react'
import { useState } from 'react'
import { beforeEach, describe, expect, it } from 'vitest'
import { usePart } from '../state/part.ts'
import { shown } from '../testing/page.tsx'
import { ValueField } from './ValueField.tsx'

const measured = (unit: 'mm' | 'in') =>
  partOf([], { unit, measures: [{ id: 'w', name: 'wall', kind: 'length', expression: '2.3 mm', note: '' }] })

/** What was said of the value: what is in force, and whether that ended an act of typing. */
let said: [string, boolean][] = []
beforeEach(() => {
  said = []
})

function Held({ from, kind, names, fault }: { from: string; kind: ValueKind; names: Names; fault?: string }) {
  const [text, setText] = useState(from)
  return (
    <>
      <ValueField
        {...{ label: 'Width', kind, text, names, fault }}
        onChange={(next, final) => {
          said.push([next, final])
          setText(next)
        }}
      />
      <button type="button" onClick={() => setText('77.7')}>
        from outside
      </button>
    </>
  )
}

function held(from: string, kind: ValueKind = 'length', unit: 'mm' | 'in' = 'mm', fault?: string) {
  const part = measured(unit)
  const { names } = workOut(part).resolved.measures
  const { user } = shown(<Held {...{ from, kind, names, ...(fault && { fault }) }} />, part)
  return { user, field: screen.getByLabelText<HTMLInputElement>('Width') }
}

describe('a value', () => {
  it('reads as its number until it has the keyboard, then as it was typed, all of it selected', async () => {
    const { user, field } = held('wall*2 + 1/3')
    expect(field.value).toBe('4.933')
    expect(field.dataset.named).toBe('true')
    await user.click(field)
    expect(field.value).toBe('wall*2 + 1/3')
    expect([field.selectionStart, field.selectionEnd]).toEqual([0, field.value.length])
  })
  it('keeps the name of a measure that is all of it', () => {
    expect(held('wall').field.value).toBe('wall 2.3')
  })

  it('is in force with each key that leaves it readable, and is one act of typing', async () => {
    const { user, field } = held('15.3')
    await user.click(field)
    await user.keyboard('85.1{Enter}')
    expect(said.map(([text]) => text)).toEqual(['8', '85', '85.', '85.1', '85.1'])
    expect(said.map(([, final]) => final)).toEqual([false, false, false, false, true])
    expect([field.selectionStart, field.selectionEnd]).toEqual([0, 4])
  })
  it('that cannot be read says so at its place; what was there is in force again once it is left, and the text stays', async () => {
    const { user, field } = held('15.3')
    await user.click(field)
    await user.keyboard('4 + wal')
    expect(screen.getByRole('alert').textContent).toContain('wal')
    expect(field.getAttribute('aria-invalid')).toBe('true')
    expect(said.at(-1)![0]).toBe('4 ')
    await user.tab()
    expect(said.at(-1)).toEqual(['15.3', true])
    expect(field.value).toBe('4 + wal')
    expect(screen.getByRole('alert')).toBeTruthy()
  })
  it('cannot be settled by Enter while it cannot be read', async () => {
    const { user, field } = held('15.3')
    await user.click(field)
    await user.keyboard('4 +{Enter}')
    expect(said.some(([, final]) => final)).toBe(false)
  })
  it('is taken back by Escape, which leaves it', async () => {
    const { user, field } = held('15.3')
    await user.click(field)
    await user.keyboard('85.1{Escape}')
    expect(said.at(-1)).toEqual(['15.3', true])
    expect(document.activeElement).not.toBe(field)
    expect(field.value).toBe('15.3')
  })
  it('that is left unread gives way to what comes from elsewhere', async () => {
    const { user, field } = held('15.3')
    await user.click(field)
    await user.keyboard('4 +')
    await user.click(screen.getByText('from outside'))
    expect(field.value).toBe('77.7')
    expect(screen.queryByRole('alert')).toBeNull()
  })
  it('only marks a fault that is told elsewhere', () => {
    const { field } = held('15.3', 'length', 'mm', 'too wide')
    expect(field.getAttribute('aria-invalid')).toBe('true')
    expect(screen.queryByRole('alert')).toBeNull()
  })
})

describe('arrow keys', () => {
  it.each<[string, ValueKind, 'mm' | 'in', string, string]>([
    ['15.3', 'length', 'mm', '{ArrowUp}', '16.3'],
    ['15.3', 'length', 'mm', '{Shift>}{ArrowDown}{/Shift}', '5.3'],
    ['15.3', 'length', 'mm', '{Alt>}{ArrowUp}{/Alt}', '15.4'],
    ['0.5', 'length', 'in', '{ArrowUp}', '0.55'],
    ['37.3', 'angle', 'mm', '{ArrowDown}', '36.3'],
    ['7', 'count', 'mm', '{Alt>}{ArrowUp}{/Alt}', '8'],
    ['1.2', 'ratio', 'mm', '{ArrowUp}', '1.3'],
    ['15.3 mm', 'length', 'in', '{ArrowUp}', '15.35 mm'],
    ['−2.5', 'length', 'mm', '{ArrowDown}', '-3.5'],
  ])('change %s, a %s in %s, by %s', async (from, kind, unit, keys, to) => {
    const { user, field } = held(from, kind, unit)
    await user.click(field)
    await user.keyboard(keys)
    expect(said.at(-1)![0].replace('−', '-')).toBe(to)
    const { names } = workOut(measured(unit)).resolved.measures
    expect(() => evaluate(said.at(-1)![0], kind, names)).not.toThrow()
  })
  it('leave a sum alone', async () => {
    const { user, field } = held('wall + 3')
    await user.click(field)
    await user.keyboard('{ArrowUp}{ArrowDown}')
    expect(said).toEqual([])
  })
})

it('a slash as the first key goes to the add field, and none into the value', async () => {
  const { user, field } = held('15.3')
  const add = document.createElement('input')
  add.id = 'add-step'
  document.body.append(add)
  await user.click(field)
  await user.keyboard('/')
  expect(field.value).toBe('15.3')
  add.remove()
  await user.click(field)
  await user.keyboard('1/3')
  expect(said.at(-1)![0]).toBe('1/3')
  expect(usePart.getState().part).toBeDefined()
})
