import { type FlexFound, flexTested, isOfPiece, sheetOfSolid } from '../flex/index.ts'
import { inverse, pointOut } from '../place/index.ts'
import type { Built } from '../solids/index.ts'
import { type Check, type Finding, type Mark, stepName } from './define.ts'
import { flexCures } from './flexCures.ts'
import { strainRank, strainText } from './strain.ts'

/** Whether what is to flex does, and does not break. */
export const flexCheck: Check = {
  id: 'flex',
  label: 'Flex',
  meaning: 'What is bent in a flex test stays within the strain that its material takes.',
  scope: 'part',
  async run({ kernel, built, pieces, pause }) {
    const findings: Finding[] = []
    const { flexes, material } = built.resolved.part
    for (const flex of flexes) {
      await pause()
      const whole = pieces.find(({ built: { of, piece } }) => of === flex.step && piece.id === flex.step)
      const ofPiece = () => {
        const solid = whole?.built.solid
        if (!solid) return undefined
        // It bends as it is drawn, however it is laid down.
        const moved = built.motions?.get(flex.step)
        return kernel.scope((scope) => sheetOfSolid(kernel, moved ? scope.placed(solid, inverse(moved)) : solid))
      }
      const found = flexTested(built.resolved, flex, ofPiece)
      const about = [{ kind: isOfPiece(built.resolved.part, flex) ? 'piece' : 'step', id: flex.step }] as const
      const finding = (rank: Finding['rank'], text: string, more: Partial<Finding> = {}): Finding => ({
        ...{ check: 'flex', rank, text: `“${flex.name}”: ${text}`, about, ...more },
      })
      if (found.fault !== undefined) {
        findings.push(finding('advice', found.fault))
        continue
      }
      const rank = strainRank(found.strain, material)
      const takes = (limit: number) =>
        `strain ${strainText(found.strain, limit)} % of the ${limit} % that ${material.name} takes`
      const where = whole?.built.piece.name ?? stepName(built.resolved, flex.step)
      const marks = markOf(built, flex.step, found)
      const itself =
        found.contact > 0 ? ` It lies on itself there, with ${Number(found.contact.toPrecision(2))} N.` : ''
      const strained = async (): Promise<Partial<Finding>> => {
        const cures = await flexCures(built, flex, found, pause)
        return { ...(marks ? { marks } : {}), ...(cures.length > 0 ? { cures } : {}) }
      }
      // What is no number says nothing of what it was asked for.
      if (!rank || !Number.isFinite(found.reached))
        findings.push(finding('warning', `the strain of ${where} is not known: the test gave no number.`))
      else if (found.reached < 1)
        findings.push(
          finding(
            'warning',
            `${where} cannot be pushed so far: at ${percent(found.reached)} % of the way it ${stops(found)}.`,
            marks ? { marks } : {},
          ),
        )
      else if (found.touches)
        findings.push(
          finding(
            'warning',
            `${where} touches itself before it is pushed so far; what comes after is not told.`,
            marks ? { marks } : {},
          ),
        )
      else if (rank === 'fault')
        findings.push(
          finding('fault', `${takes(material.strainOnce)} once: ${where} would break.${itself}`, await strained()),
        )
      else if (rank === 'warning')
        findings.push(
          finding(
            'warning',
            `${takes(material.strainOften)} again and again; once it takes ${material.strainOnce} %.${itself}`,
            await strained(),
          ),
        )
      else findings.push(finding('pass', `${takes(material.strainOften)} again and again.${itself}`))
    }
    return findings
  },
}

/** What ends its way before its end. */
const stops = ({ contact }: FlexFound) =>
  contact > 0 ? `lies on itself, with ${Number(contact.toPrecision(2))} N, and goes no farther` : 'gives way'

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
  const { min, max } = step.shape.box(step.values as never, {} as never)
  const [x, y] = [mesh.nodes[2 * worst]!, mesh.nodes[2 * worst + 1]!]
  const points = Float32Array.from([min[2], max[2]].flatMap((z) => [...pointOut(frame, [x, y, z])]))
  return [
    { kind: 'lines', points },
    { kind: 'points', points },
  ]
}
