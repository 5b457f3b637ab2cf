import type { ThreadForm, ThreadSizes } from './define.ts'

/**
 * A rounded bead round the neck of a bottle. What is agreed on is its outside diameter, that of the neck and the pitch; how wide the
 * bead is differs from maker to maker: it is drawn at a bit less than half of the pitch, halfway up.
 */
export const bottle: ThreadForm = {
  id: 'bottle',
  label: 'bead of a bottle',
  standard: 'usual size',
  flanks: [20, 20],
  ridge: 0.42,
  pitchDiameter: (sizes) => (sizes.thread + neck(sizes)) / 2,
  outside: (sizes) => ({ crest: sizes.thread, root: neck(sizes), ...rounded(sizes) }),
  inside: (sizes) => ({ crest: sizes.thread, root: neck(sizes), ...rounded(sizes) }),
}

/** Where no table says it, the bead stands out by 0.28 of the pitch. */
function neck({ thread, pitch, root }: ThreadSizes): number {
  return root ?? thread - 0.56 * pitch
}

function rounded(sizes: ThreadSizes) {
  const deep = (sizes.thread - neck(sizes)) / 2
  return { crestRound: deep / 2, rootRound: deep / 4 }
}
