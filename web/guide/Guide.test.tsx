import { render, screen, waitFor } from '@testing-library/react'
import { userEvent } from '@testing-library/user-event'
import { MemoryRouter, Route, Routes } from 'react-router'
import { describe, expect, it } from 'vitest'
import { Guide } from './Guide.tsx'
import { guidePage, guidePages } from './pages.ts'

function guide(path: string) {
  const routes = (
    <Routes>
      <Route path="/guide/:page?" element={<Guide />} />
    </Routes>
  )
  render(<MemoryRouter initialEntries={[path]}>{routes}</MemoryRouter>)
  return userEvent.setup()
}
const page = () => document.querySelector('article.guide')!

describe('the guide', () => {
  it('opens at Make, with all of its pages beside it', async () => {
    guide('/guide')
    await waitFor(() => expect(page().querySelector('h1')).toBeTruthy())
    expect(document.title).toBe('Make — Makrel')
    const links = screen.getByRole('navigation').querySelectorAll('a')
    expect([...links].map((link) => link.textContent)).toEqual(guidePages.map(([, title]) => title))
    expect(screen.getByText('Parts to make')).toBeTruthy()
  })
  it('follows its links within the page', async () => {
    const user = guide('/guide/make')
    await waitFor(() => expect(page().querySelector('a[href^="/guide/"]')).toBeTruthy())
    const link = page().querySelector<HTMLAnchorElement>('a[href^="/guide/"]')!
    const to = link.getAttribute('href')!.slice('/guide/'.length)
    await user.click(link)
    const title = guidePages.find(([name]) => name === to)![1]
    await waitFor(() => expect(document.title).toBe(`${title} — Makrel`))
  })
  it('says where there is no such page', async () => {
    guide('/guide/nowhere')
    await waitFor(() => expect(page().textContent).toBe('This page is not there. The list on the left has all.'))
    expect(document.title).toBe('Guide — Makrel')
  })
  it.each(guidePages.map(([name]) => name))('%s leads only to pages and pictures that are there', async (name) => {
    const html = (await guidePage(name))!
    const hrefs = [...html.matchAll(/href="([^"]+)"/g)].map(([, href]) => href!)
    for (const href of hrefs.filter((each) => !/^(https?:|#)/.test(each)))
      expect(guidePages.map(([page]) => `/guide/${page}`)).toContain(href.replace(/#.*/, ''))
    expect(html).not.toContain('src="undefined"')
  })
})
