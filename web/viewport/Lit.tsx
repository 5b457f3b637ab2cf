import { type ReactNode, useEffect, useRef } from 'react'
import { type Pointed, usePointed } from './pointed.ts'

/** Words that name something: it lights up on the drawing while the pointer or the keyboard is on them, and no longer than they are there. */
export function Lit({ of, children }: { readonly of: Pointed | undefined; readonly children: ReactNode }) {
  const own = useRef<Pointed>(undefined)
  const light = (pointed: Pointed | undefined) => {
    own.current = pointed
    usePointed.setState({ pointed })
  }
  useEffect(
    () => () => {
      if (own.current && usePointed.getState().pointed === own.current) usePointed.setState({ pointed: undefined })
    },
    [],
  )
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: it lights up what its words name; what can be done is done by the choice in it
    <span
      onPointerEnter={() => light(of)}
      onPointerLeave={() => light(undefined)}
      onFocus={({ target }) => target.matches(':focus-visible') && light(of)}
      onBlur={() => light(undefined)}
    >
      {children}
    </span>
  )
}
