import { layerMiddle, risingOf, sharpCorners } from '../layers/index.ts'
import { withTurns } from '../pacing/index.ts'
import { ringArea } from '../plane/index.ts'
import { type Check, type Found, findingOf } from './define.ts'
import { mm, mm2 } from './phrase.ts'
import { touching } from './stands.ts'

/** What is found. */
const texts = {
  'steady-firm': '{piece} stands firm on {area}: at no height less than a tilt of {angle}° topples it.',
  'steady-falls':
    'From {height} up, the weight of {piece} lies beyond its foot of {area}: it stands only as long as it sticks to the bed.',
  'steady-slender':
    '{piece} is slender on its foot of {area}: at {height} a tilt of {angle}° topples it. A brim holds it, or a wider foot.',
  'steady-lifts':
    'Sharp corners of {piece} lie as far as {far} from its middle: {material} shrinks by {shrinks} up to there, which may lift them off the bed. Round them, or give them a brim.',
} as const

/** What a tilt of less than this topples is slender, degrees: ten times as high as it is wide. */
const slender = 5.7
/** What shrinks by more between its middle and a corner may lift that off the bed, mm: an estimate. */
const lifting = 0.3

/** Whether a piece stands by itself while it is printed, and stays flat on the bed. */
export const steadyCheck: Check = {
  id: 'steady',
  label: 'Steadiness',
  meaning: 'A piece stands by itself at every height that it is printed to, and its corners stay on the bed.',
  texts,
  scope: 'piece',
  from: ({ built: { resolved } }) => [resolved.printer, resolved.part.material],
  async run({ built, sections, pause }, piece): Promise<readonly Found[]> {
    const { printer } = built.resolved
    const { material } = built.resolved.part
    const { id, name } = piece.built.piece
    // What does not stand on the bed is told by its own check, and so is what nothing is laid of in the first layer.
    if (Math.abs(piece.figures!.min[2]) > touching) return []
    const own = sections(piece)
    const rising = await withTurns(risingOf(own, printer, piece.figures!.max[2]), pause)
    if (rising.length === 0) return []
    const foot = own.at(layerMiddle(0, printer))
    const finding = findingOf('steady', texts, [{ kind: 'piece', id }])
    const told = { piece: name, area: mm2(foot.reduce((sum, ring) => sum + ringArea(ring), 0)) }
    const least = rising.reduce((best, each) => (each.tips < best.tips ? each : best))
    const degrees = (angle: number) => Number(angle.toFixed(1))
    const found: Found[] = []
    const falls = rising.find(({ tips }) => tips < 0)
    if (falls) found.push(finding('warning', 'steady-falls', { ...told, height: mm(falls.height) }))
    else if (least.tips < slender)
      found.push(finding('advice', 'steady-slender', { ...told, angle: degrees(least.tips), height: mm(least.height) }))
    const shrinks = (far: number) => (far * material.shrinkage) / 100
    const corners = sharpCorners(foot).filter(({ far }) => shrinks(far) > lifting)
    if (corners.length > 0) {
      const far = corners.reduce((most, corner) => Math.max(most, corner.far), 0)
      const points = Float32Array.from(corners.flatMap(({ at }) => [...at, 0]))
      const values = { piece: name, far: mm(far), material: material.name, shrinks: mm(shrinks(far)) }
      found.push(finding('advice', 'steady-lifts', values, { ofPrinter: true, marks: [{ kind: 'points', points }] }))
    }
    if (found.length > 0) return found
    return [finding('pass', 'steady-firm', { ...told, angle: degrees(least.tips) })]
  },
}
