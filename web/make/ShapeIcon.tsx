import type { ShapeDefinition } from '@makrel/core/shapes'
import { takesAway } from './operations.ts'

/** A shape as a line drawing. */
export function ShapeIcon({
  shape,
  cuts = takesAway(shape.operation),
}: {
  readonly shape: ShapeDefinition
  readonly cuts?: boolean
}) {
  return <Icon path={shape.icon} className={cuts ? 'text-plum' : ''} />
}

export function Icon({ path, className }: { readonly path: string; readonly className: string }) {
  return (
    <svg viewBox="0 0 32 24" width="2rem" height="1.5rem" aria-hidden="true" className={className}>
      <path d={path} fill="none" stroke="currentColor" strokeWidth="1.3" strokeLinejoin="round" strokeLinecap="round" />
    </svg>
  )
}
