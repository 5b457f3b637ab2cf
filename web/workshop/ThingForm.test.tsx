import { type KeptThing, type Printer, shippedPrinters } from '@makrel/core/fits'
import { fireEvent, screen, waitFor } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { api } from '../api.ts'
import { shown } from '../testing/page.tsx'
import { ThingForm } from './ThingForm.tsx'

const printer = shippedPrinters[0]!
const kept = (thing: Printer = printer): KeptThing<Printer> => ({ thing, revision: 3 }) as unknown as KeptThing<Printer>

let saved: Printer[] = []
beforeEach(() => {
  saved = []
  vi.spyOn(api, 'changeThing').mockImplementation(async (...all: unknown[]) => {
    saved.push(all.find((each) => typeof each === 'object' && each !== null && 'fits' in each) as Printer)
    return { revision: 4 } as never
  })
})
afterEach(() => void vi.restoreAllMocks())

const form = () => shown(<ThingForm kind="printers" kept={kept()} />)
const slide = () => screen.getByLabelText<HTMLInputElement>('slide, round')

describe('a printer', () => {
  it('keeps what is typed when its field is left, and that it was set by hand', async () => {
    const { user } = form()
    await user.clear(slide())
    await user.type(slide(), '0.237')
    expect(saved).toEqual([])
    await user.tab()
    await waitFor(() => expect(saved).toHaveLength(1))
    expect(saved[0]!.fits.slide.round.gap).toBe(0.237)
    expect(saved[0]!.fits.slide.round.origin.kind).toBe('set')
    // No other gap was.
    expect(saved[0]!.fits.slide.flat).toEqual(printer.fits.slide.flat)
  })
  it('takes a comma for a point', async () => {
    const { user } = form()
    await user.clear(slide())
    await user.type(slide(), '0,21')
    await user.tab()
    await waitFor(() => expect(saved.at(-1)?.fits.slide.round.gap).toBe(0.21))
  })
  it('is not kept with a value that cannot be: that is said at its field, with the nearest that can', async () => {
    const { user } = form()
    await user.clear(slide())
    await user.type(slide(), 'wide')
    await user.tab()
    expect(await screen.findByRole('alert')).toBeTruthy()
    expect(slide().getAttribute('aria-invalid')).toBe('true')
    await user.clear(slide())
    await user.type(slide(), '-3')
    fireEvent.blur(slide())
    await waitFor(() => expect(screen.getByRole('alert').textContent).toMatch(/Take /))
    expect(saved).toEqual([])
    await user.click(screen.getByRole('button', { name: /^Take / }))
    await waitFor(() => expect(screen.queryByRole('alert')).toBeNull())
  })
  it('is not kept anew where nothing was changed', async () => {
    const { user } = form()
    await user.click(slide())
    await user.tab()
    await new Promise((done) => setTimeout(done, 50))
    expect(saved).toEqual([])
  })
  it('is a guess until it is said to be measured', async () => {
    const { user } = form()
    expect(screen.getByText(/a guess: files leave as drawn until it is measured/)).toBeTruthy()
    await user.click(screen.getByRole('button', { name: 'I measured it' }))
    await waitFor(() => expect(saved).toHaveLength(1))
    expect(saved[0]!.measured?.kind).toBe('set')
  })
})
