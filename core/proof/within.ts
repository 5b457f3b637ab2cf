import type { Kernel, Solid } from '../kernel/index.ts'
import { apart, TriangleTree } from '../mesh/index.ts'
import { meet } from '../place/index.ts'
import { type Check, findingOf } from './define.ts'
import { marksFrom } from './gap.ts'
import { mm } from './phrase.ts'
import { whoseIn } from './whose.ts'

/** What is found. */
const texts = {
  'within-apart': 'The solids of {piece} stay {needed} apart.',
  'within-narrow': 'Solids of {piece} are {gap} apart; the {printer} needs {needed} to keep them from fusing.',
  'within-unknown': 'The gaps within {piece} are not known.',
} as const

/** Solids of one piece that hang in one another stay as far apart as pieces do. */
export const withinCheck: Check = {
  id: 'within',
  label: 'Gaps within',
  meaning: "Solids of one piece that lie apart are at least the printer's least gap apart.",
  texts,
  scope: 'piece',
  from: (context, piece) => [context.built.resolved.printer, whoseIn(context, piece).all()],
  async run(context, piece) {
    const { kernel, built, pause } = context
    const { built: own, figures } = piece
    if (figures!.solids < 2) return []
    const { leastGap, name: printer } = built.resolved.printer
    const { id, name } = own.piece
    const ofPiece = { kind: 'piece', id } as const
    const finding = findingOf('within', texts, [ofPiece])
    await pause()
    const near = nearest(kernel, own.solid!, leastGap)
    const told = { piece: name, needed: mm(leastGap) }
    if (!near) return [finding('pass', 'within-apart', told)]
    const { gap, marks, ends } = near
    if (!(gap >= 0)) return [finding('warning', 'within-unknown', { piece: name })]
    const tree = context.tree(piece)
    const { about } = whoseIn(context, piece).of(ends.flatMap((end) => tree.nearest(end)?.triangle ?? []))
    const say = findingOf('within', texts, [...about, ofPiece])
    return [say('fault', 'within-narrow', { ...told, gap: mm(gap), printer }, { marks, by: leastGap - gap })]
  },
}

/** What differs by less is as asked, mm. */
const hardly = 1e-4

/** The two of a solid's bodies that come nearest to each other, where that is nearer than `least`, mm; with where it is. */
function nearest(kernel: Kernel, solid: Solid, least: number) {
  return kernel.scope((scope) => {
    // What is inside out is a cavity.
    const bodies = scope
      .parts(solid)
      .filter((body) => body.volume() > 0)
      .map((body) => ({ body, box: body.bounds()! }))
    let found: { readonly gap: number; readonly pair: readonly [Solid, Solid] } | undefined
    for (const [i, one] of bodies.entries())
      for (const other of bodies.slice(i + 1)) {
        if (!meet(one.box, other.box, least)) continue
        const gap = one.body.gapTo(other.body, least)
        if (gap >= least - hardly || (found && found.gap <= gap)) continue
        found = { gap, pair: [one.body, other.body] }
      }
    if (!found) return undefined
    const [a, b] = found.pair.map((body) => new TriangleTree(body.mesh())) as [TriangleTree, TriangleTree]
    const near = apart(a, b, { within: least })
    const ends = near ? ([near.from, near.to] as const) : undefined
    return { gap: found.gap, marks: ends ? marksFrom(...ends) : [], ends: ends ?? [] }
  })
}
