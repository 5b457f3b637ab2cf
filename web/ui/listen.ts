type Listeners = { readonly [K in keyof DocumentEventMap]?: (event: DocumentEventMap[K]) => void }

/** Listens to a page or window until what it gives is called: what an effect gives back. */
export function listen(target: Document | Window, listeners: Listeners): () => void {
  const all = Object.entries(listeners) as [string, EventListener][]
  for (const [name, listener] of all) target.addEventListener(name, listener)
  return () => {
    for (const [name, listener] of all) target.removeEventListener(name, listener)
  }
}
