import { type EdgesField, edgeRules, type FacesField, faceNames } from '@makrel/core/fields'
import { workOut } from '@makrel/core/planning'
import { partOf, step, treatment } from '@makrel/core/testing'
import { screen } from '@testing-library/react'
import { useState } from 'react'
import { describe, expect, it } from 'vitest'
import { usePart } from '../state/part.ts'
import { choose, shown } from '../testing/page.tsx'
import { useEdgePick } from '../viewport/edgePick.ts'
import { EdgesEditor } from './EdgesEditor.tsx'
import { FacesEditor } from './FacesEditor.tsx'

const part = () =>
  partOf([
    step('b', 'plate', { width: '61.3', depth: '37.7', height: '8.2' }),
    step('h', 'hole', { diameter: '5.3' }, { place: { on: { kind: 'face', step: 'b', face: 'top' } } }),
    treatment('round', { edges: 'outer', radius: '1' }),
  ])

let now = ''

const rest = {
  ...{ texts: {}, sides: {} as never, step: 't', fault: undefined, names: workOut(part()).resolved.measures.names },
  ...{ autoFocus: false, onAutoFocused: () => undefined, brings: () => undefined },
}

function Held({ kind, from }: { readonly kind: 'edges' | 'faces'; readonly from: string }) {
  const [text, setText] = useState(from)
  now = text
  const typed = { ...rest, text, onChange: (next: string) => setText(next) }
  return kind === 'edges' ? (
    <EdgesEditor {...typed} definition={{ kind, label: 'Edges' } as EdgesField} />
  ) : (
    <FacesEditor {...typed} definition={{ kind, label: 'Open at' } as FacesField} />
  )
}

const held = (kind: 'edges' | 'faces', from: string) => shown(<Held kind={kind} from={from} />, part())

describe('which edges', () => {
  it('reads as a sentence, and opens by keyboard', async () => {
    const { user } = held('edges', 'outer upright; less of h/top')
    const words = screen.getByRole('button', { name: /^Edges: / })
    expect(words.textContent).toMatch(/outer upright/)
    words.focus()
    await user.keyboard('{Enter}')
    expect(screen.getByRole('list', { name: 'Edges' }).children).toHaveLength(2)
  })
  it('takes lines, leaves some out again, and loses them', async () => {
    const { user } = held('edges', 'upright')
    await user.click(screen.getByRole('button', { name: /^Edges: / }))
    await user.click(screen.getByRole('button', { name: 'add a line' }))
    await user.click(screen.getByRole('button', { name: 'leave some out' }))
    expect(edgeRules(now).map(({ less, traits }) => [less, traits.join(' ')])).toEqual([
      [false, 'upright'],
      [false, 'outer'],
      [true, 'upright'],
    ])
    await user.click(screen.getAllByRole('button', { name: /^Remove: / })[1]!)
    expect(edgeRules(now).map(({ less }) => less)).toEqual([false, true])
  })
  it('of another kind begins with the nearest step', async () => {
    const { user } = held('edges', 'outer')
    await user.click(screen.getByRole('button', { name: /^Edges: / }))
    await choose(user, 'Where', 'rims of')
    expect(edgeRules(now)[0]!.where).toMatchObject({ kind: 'rims', step: 'h' })
    await choose(user, 'Where', 'edges where')
    const { where } = edgeRules(now)[0]!
    expect(where.kind).toBe('meets')
    expect(where.kind === 'meets' && where.faces[0]).not.toEqual(where.kind === 'meets' && where.faces[1])
  })
  it('is picked on the drawing until it is done, with its step selected', async () => {
    const { user } = held('edges', 'outer')
    await user.click(screen.getByRole('button', { name: 'Pick edges on the drawing' }))
    expect(useEdgePick.getState()).toMatchObject({ step: 't', field: 'edges' })
    expect(usePart.getState().selection).toMatchObject({ kind: 'step', id: 't' })
    await user.click(screen.getByRole('button', { name: 'Done picking' }))
    expect(useEdgePick.getState().step).toBeUndefined()
  })
})

describe('which faces', () => {
  it('offers those that are not taken yet, and loses one that is taken', async () => {
    const { user } = held('faces', 'b/top')
    await user.click(screen.getByRole('combobox', { name: 'Open at: add a face' }))
    const offered = screen.getAllByRole('option').map((each) => each.textContent)
    expect(offered.some((each) => /front/.test(each!))).toBe(true)
    expect(offered.some((each) => /top of 1/.test(each!))).toBe(false)
    await user.click(screen.getAllByRole('option', { name: /front/ })[0]!)
    expect(faceNames(now)).toHaveLength(2)
    await user.click(screen.getAllByRole('button', { name: /^Remove: / })[0]!)
    expect(faceNames(now)).toHaveLength(1)
  })
  it('says where there is none', () => {
    held('faces', '')
    expect(screen.getByText('no face')).toBeTruthy()
  })
})
