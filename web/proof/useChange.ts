import type { Edit } from '@makrel/core/document'
import type { Mark } from '@makrel/core/proof'
import { useEffect, useState } from 'react'
import { checks } from '../channel/client.ts'
import { useBuild } from '../state/build.ts'

/** What edits would change, as marks on the drawing: while what offers them has the pointer or the focus. Nothing where that cannot be built. */
export function useChange(edits: readonly Edit[] | undefined): readonly Mark[] | undefined {
  const shown = useBuild((state) => state.shown)
  const [change, setChange] = useState<{ readonly of: readonly Edit[]; readonly marks: readonly Mark[] }>()
  useEffect(() => {
    if (!edits || !shown) return
    let current = true
    checks()
      .call('change', { edits }, shown)
      .then(
        (marks) => current && setChange({ of: edits, marks }),
        // What it is offered for says it in words all the same.
        () => undefined,
      )
    return () => {
      current = false
    }
  }, [edits, shown])
  return change && change.of === edits ? change.marks : undefined
}
