import { carried, type DrawnCurve, type Motion2 } from '../../plane/index.ts'
import { type DerivedContext, named } from './define.ts'

/** The curves with copies of those that are named, one for each motion. */
export function withCopies(
  context: DerivedContext,
  motions: readonly Motion2[],
): readonly DrawnCurve[] | { readonly detail: string } {
  const own = named(context)
  if (own.length === 0) return { detail: 'its curves are gone' }
  const copies = motions.flatMap((motion, k) =>
    own.map(
      ({ id, segments }): DrawnCurve => ({
        id: `${id}~${context.id}.${k + 1}`,
        segments: segments.map((s) => carried(s, motion)),
      }),
    ),
  )
  return [...context.curves, ...copies]
}
