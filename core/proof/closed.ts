import { pieceIsThere } from '../planning/index.ts'
import { type Check, type Found, findingOf } from './define.ts'

/** What is found. */
const texts = {
  'closed-left-out': '{piece} is left out, with all of its steps.',
  'closed-empty': '{piece} has no solid yet.',
  'closed-open': '{piece} is open along {count} edges.',
  'closed-inside-out': '{piece} is turned inside out, all of it or in part.',
  'closed-flipped': '{piece} has {count} edges where triangles face different ways.',
  'closed-sound': '{piece} is closed, and its {count} triangles all face outwards.',
} as const

/** Whether a piece's surface encloses it without openings, all triangles facing outwards. */
export const closedCheck: Check = {
  id: 'closed',
  label: 'Watertight',
  meaning: 'The surface is closed, and every triangle faces outwards.',
  texts,
  scope: 'part',
  from: ({ built: { resolved }, pieces }) =>
    pieces.map(({ built: { piece, of } }) => [piece.steps.length, pieceIsThere(resolved, of)]),
  run: ({ built: part, pieces }) =>
    pieces.map(({ built, figures }): Found => {
      const finding = findingOf('closed', texts, [{ kind: 'piece', id: built.piece.id }])
      const { name: piece } = built.piece
      if (!figures && !pieceIsThere(part.resolved, built.of)) return finding('pass', 'closed-left-out', { piece })
      // A piece that was not begun is no fault yet; one whose steps come to nothing is.
      if (!figures) return finding(built.piece.steps.length === 0 ? 'advice' : 'fault', 'closed-empty', { piece })
      if (figures.openEdges > 0) return finding('fault', 'closed-open', { piece, count: figures.openEdges })
      if (!figures.oriented && figures.flippedEdges === 0) return finding('fault', 'closed-inside-out', { piece })
      if (!figures.oriented) return finding('fault', 'closed-flipped', { piece, count: figures.flippedEdges })
      return finding('pass', 'closed-sound', { piece, count: figures.triangles })
    }),
}
