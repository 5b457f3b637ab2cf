/** An answer whose content is read once: all who ask for it are given the same. */
type Answer = Pick<Response, 'ok' | 'status' | 'statusText' | 'json'>

/** A part that was asked for before anything else was there, by its id. */
interface Ahead {
  readonly id: string
  readonly answer: Promise<Answer>
}

async function asked(id: string): Promise<Answer> {
  const response = await fetch(`/api/parts/${encodeURIComponent(id)}`)
  const content = response.json()
  // Whoever takes it is told where that fails.
  content.catch(() => undefined)
  const { ok, status, statusText } = response
  return { ok, status, statusText, json: () => content }
}

function createAhead() {
  let ahead: Ahead | undefined
  return {
    ask(id: string): Promise<Answer> {
      ahead = { id, answer: asked(id) }
      ahead.answer.catch(() => undefined)
      return ahead.answer
    },
    forget(): void {
      ahead = undefined
    },
    /** What was asked for, once. */
    taken(path: string): Promise<Answer> | undefined {
      if (path !== `/parts/${ahead?.id}`) return undefined
      const { answer } = ahead!
      ahead = undefined
      return answer
    },
  }
}

export const ahead = createAhead()
