import { pieceIsThere } from '../planning/index.ts'
import type { Check, Finding } from './define.ts'

/** Whether a piece's surface encloses it without openings, all triangles facing outwards. */
export const closedCheck: Check = {
  id: 'closed',
  label: 'Watertight',
  meaning: 'The surface is closed, and every triangle faces outwards.',
  scope: 'part',
  run: ({ built: part, pieces }) =>
    pieces.map(({ built, figures }): Finding => {
      const about = [{ kind: 'piece', id: built.piece.id } as const]
      const { name } = built.piece
      if (!figures && !pieceIsThere(part.resolved, built.of))
        return { check: 'closed', rank: 'pass', text: `${name} is left out, with all of its steps.`, about }
      // A piece that was not begun is no fault yet; one whose steps come to nothing is.
      if (!figures) {
        const rank = built.piece.steps.length === 0 ? 'advice' : 'fault'
        return { check: 'closed', rank, text: `${name} has no solid yet.`, about }
      }
      if (figures.openEdges > 0)
        return { check: 'closed', rank: 'fault', text: `${name} is open along ${figures.openEdges} edges.`, about }
      if (!figures.oriented && figures.flippedEdges === 0)
        return { check: 'closed', rank: 'fault', text: `${name} is turned inside out, all of it or in part.`, about }
      if (!figures.oriented)
        return {
          check: 'closed',
          rank: 'fault',
          text: `${name} has ${figures.flippedEdges} edges where triangles face different ways.`,
          about,
        }
      return {
        check: 'closed',
        rank: 'pass',
        text: `${name} is closed, and its ${figures.triangles.toLocaleString('en')} triangles all face outwards.`,
        about,
      }
    }),
}
