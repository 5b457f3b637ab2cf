/** A part that was asked for before anything else was there, by its id. */
interface Ahead {
  readonly id: string
  readonly answer: Promise<Response>
}

function createAhead() {
  let asked: Ahead | undefined
  return {
    ask(id: string): Promise<Response> {
      asked = { id, answer: fetch(`/api/parts/${encodeURIComponent(id)}`) }
      // Whoever takes it is told where that fails.
      asked.answer.catch(() => undefined)
      return asked.answer
    },
    forget(): void {
      asked = undefined
    },
    /** What was asked for, once. */
    taken(path: string): Promise<Response> | undefined {
      if (path !== `/parts/${asked?.id}`) return undefined
      const { answer } = asked!
      asked = undefined
      return answer.then((response) => response.clone())
    },
  }
}

export const ahead = createAhead()
