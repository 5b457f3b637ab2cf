import type { KeptFlex } from '../document/index.ts'
import { type FlexFound, flexTesting, isOfPiece, sheetOfSolid } from '../flex/index.ts'
import { evaluateFree } from '../measures/index.ts'
import { withTurns } from '../pacing/index.ts'
import { inverse, pointOut } from '../place/index.ts'
import { tried } from '../problems/index.ts'
import type { Built } from '../solids/index.ts'
import { type Check, type Found, findingOf, type Mark, type ProofContext, type ProofPiece, stepName } from './define.ts'
import { flexCures } from './flexCures.ts'
import { clause, sentences } from './phrase.ts'
import { strainRank, strainText } from './strain.ts'

/** What is found. */
const texts = {
  'flex-not-tested': '“{test}”: {why}',
  'flex-unknown': '“{test}”: the strain of {where} is not known: the test gave no number.',
  'flex-gives-way': '“{test}”: {where} cannot be pushed so far: at {share} % of the way it gives way.',
  'flex-stops':
    '“{test}”: {where} cannot be pushed so far: at {share} % of the way it touches itself at {force} N, and goes no farther.',
  'flex-touches': '“{test}”: {where} touches itself before it is pushed so far: results beyond that are not valid.',
  'flex-breaks': '“{test}”: strain {strain} % of the {most} % that {material} takes once: {where} would break.{itself}',
  'flex-tires':
    '“{test}”: strain {strain} % of the {most} % that {material} takes again and again; once it takes {once} %.{itself}',
  'flex-holds': '“{test}”: strain {strain} % of the {most} % that {material} takes again and again.{itself}',
  'touches-itself': ' It touches itself there, at {force} N.',
} as const

/** Whether what is to flex does, and does not break. */
export const flexCheck: Check = {
  id: 'flex',
  label: 'Flex',
  meaning: 'What is bent in a flex test stays within the strain that its material takes.',
  texts,
  scope: 'part',
  async run(context) {
    const { built, pieces, pause } = context
    const findings: Found[] = []
    for (const flex of built.resolved.part.flexes) {
      await pause()
      const whole = pieces.find(({ built: { of, piece } }) => of === flex.of && piece.id === flex.of)
      const from = inputsOf(built, flex)
      findings.push(...(await context.kept('flex', whole ? [whole] : [], from, () => tested(context, flex, whole))))
    }
    return findings
  },
}

/** All that a test and its cures follow from, beside the solid of a whole piece that is tested. */
function inputsOf({ resolved, plan, motions }: Built, flex: KeptFlex): unknown {
  const { part, printer, measures, steps } = resolved
  const own = steps.get(flex.of)
  const outlines = [...(own?.used ?? [])].map(([id, solved]) => [
    part.outlines.find((outline) => outline.id === id),
    [...(solved?.points ?? [])],
  ])
  // A value may read something off the part.
  const pushed = [flex.way, flex.distance, flex.force].map((text) => tried(() => evaluateFree(text, measures.names)))
  return [
    ...[flex, pushed, part.unit, part.material, printer],
    ...[own?.step, own?.values, own?.present, own && stepName(resolved, flex.of), outlines],
    ...[measures.rows.map(({ measure, value, word }) => [measure.name, value, word])],
    ...[plan.geometry.get(flex.of)?.frame, motions !== undefined, motions?.get(flex.of), isOfPiece(part, flex)],
  ]
}

async function tested(
  { kernel, built, pause }: ProofContext,
  flex: KeptFlex,
  whole: ProofPiece | undefined,
): Promise<readonly Found[]> {
  const { material } = built.resolved.part
  const ofPiece = () => {
    const solid = whole?.built.solid
    if (!solid) return undefined
    // It bends as it is drawn, however it is laid down.
    const moved = built.motions?.get(flex.of)
    return kernel.scope((scope) => sheetOfSolid(kernel, moved ? scope.placed(solid, inverse(moved)) : solid))
  }
  const found = await withTurns(flexTesting(built.resolved, flex, ofPiece), pause)
  const about = [{ kind: isOfPiece(built.resolved.part, flex) ? 'piece' : 'step', id: flex.of }] as const
  const finding = findingOf('flex', texts, about)
  const test = flex.name
  if (found.fault !== undefined) return [finding('advice', 'flex-not-tested', { test, why: found.fault })]
  const rank = strainRank(found.strain, material)
  const where = whole?.built.piece.name ?? stepName(built.resolved, flex.of)
  const marks = markOf(built, flex.of, found)
  const force = Number(found.contact.toPrecision(2))
  const itself = sentences(...(found.contact > 0 ? [clause(texts, 'touches-itself', { force })] : []))
  const strained = (most: number) => ({
    ...{ test, strain: strainText(found.strain, most), most, material: material.name, itself },
  })
  const marked = marks ? { marks } : {}
  const cured = async () => {
    const cures = await flexCures(built, flex, found, pause)
    return { ...marked, ...(cures.length > 0 ? { cures } : {}) }
  }
  // What is no number says nothing of what it was asked for.
  if (!rank || !Number.isFinite(found.reached)) return [finding('warning', 'flex-unknown', { test, where })]
  if (found.reached < 1) {
    const told = { test, where, share: percent(found.reached) }
    if (found.contact > 0) return [finding('warning', 'flex-stops', { ...told, force }, marked)]
    return [finding('warning', 'flex-gives-way', told, marked)]
  }
  if (found.touches) return [finding('warning', 'flex-touches', { test, where }, marked)]
  if (rank === 'fault')
    return [finding('fault', 'flex-breaks', { ...strained(material.strainOnce), where }, await cured())]
  if (rank === 'warning') {
    const told = { ...strained(material.strainOften), once: material.strainOnce }
    return [finding('warning', 'flex-tires', told, await cured())]
  }
  return [finding('pass', 'flex-holds', strained(material.strainOften))]
}

const percent = (share: number) => Number((100 * share).toPrecision(2))

/** Where it is strained most, on the solid as it is drawn: through its whole thickness. */
function markOf(
  { plan, resolved, motions }: Built,
  id: string,
  { mesh, worst }: FlexFound,
): readonly Mark[] | undefined {
  const frame = plan.geometry.get(id)?.frame
  const step = resolved.steps.get(id)
  if (!frame || !step?.shape || !step.values || motions) return undefined
  const { min, max } = step.shape.box(step.values, 0)
  const [x, y] = [mesh.nodes[2 * worst]!, mesh.nodes[2 * worst + 1]!]
  const points = Float32Array.from([min[2], max[2]].flatMap((z) => [...pointOut(frame, [x, y, z])]))
  return [
    { kind: 'lines', points },
    { kind: 'points', points },
  ]
}
