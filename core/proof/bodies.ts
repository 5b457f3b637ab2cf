import type { Check, Finding } from './define.ts'

/** Whether a piece is one body, as it must be to print as one. */
export const bodiesCheck: Check = {
  id: 'bodies',
  label: 'One solid',
  meaning: 'Each piece is one connected solid.',
  run: ({ pieces }) =>
    pieces.flatMap(({ built, figures }): Finding[] => {
      if (!figures) return []
      const about = [{ kind: 'piece', id: built.piece.id } as const]
      const { name } = built.piece
      if (figures.solids === 1) return [{ check: 'bodies', rank: 'pass', text: `${name} is one solid.`, about }]
      const text = `${name} falls into ${figures.solids} separate solids; join them, or make pieces of them.`
      return [{ check: 'bodies', rank: 'fault', text, about }]
    }),
}
