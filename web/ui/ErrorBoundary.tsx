import { Component, type ReactNode } from 'react'
import { Button } from './Button.tsx'

/** Keeps a defect in one part of the screen from taking the others with it. */
export class ErrorBoundary extends Component<
  {
    readonly what: string
    /** with another one of these it is tried again */
    readonly anew?: unknown
    readonly children: ReactNode
  },
  { readonly error: Error | undefined; readonly anew: unknown }
> {
  override state: { readonly error: Error | undefined; readonly anew: unknown } = {
    error: undefined,
    anew: this.props.anew,
  }

  static getDerivedStateFromError(error: Error) {
    return { error }
  }
  static getDerivedStateFromProps({ anew }: { readonly anew?: unknown }, state: { readonly anew: unknown }) {
    return anew === state.anew ? null : { anew, error: undefined }
  }

  override render() {
    const { error } = this.state
    if (!error) return this.props.children
    return (
      <div role="alert" className="m-4 border-l-4 border-rust bg-rust-wash p-4">
        <p className="font-semibold">The {this.props.what} stopped working.</p>
        <p className="mt-1 text-ink-soft">{error.message} — your part is kept.</p>
        <Button className="mt-3" onClick={() => this.setState({ error: undefined })}>
          Show it again
        </Button>
      </div>
    )
  }
}
