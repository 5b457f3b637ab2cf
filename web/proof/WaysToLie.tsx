import { type KeptPose, type Laid, type Part, partedFrom, pieceOfBody } from '@makrel/core/document'
import { printPoseOf } from '@makrel/core/planning'
import { formatArea, formatSize } from '@makrel/core/units'
import { useState } from 'react'
import { checks } from '../channel/client.ts'
import type { PicturedLying } from '../channel/protocol.ts'
import { Overtaken, Stopped } from '../channel/work.ts'
import { newId } from '../ids.ts'
import { useBuild } from '../state/build.ts'
import { sayDone } from '../state/done.ts'
import { usePart } from '../state/part.ts'
import { Button } from '../ui/Button.tsx'
import { say } from '../ui/Notice.tsx'
import { PictureCanvas } from '../ui/PictureCanvas.tsx'
import { Stances } from './Stances.tsx'

/** Less is not worth a word, mm²; what is toppled by less of a tilt is, degrees. */
const [hardlyHangs, slender] = [0.5, 5.7]
/** Of each small picture, in dots. */
const [width, height] = [84, 63]

/** How else the pieces could lie on the bed, what each way comes to, and a press that prints it so. */
export function WaysToLie() {
  const part = usePart((state) => state.part!)
  const shown = useBuild((state) => state.shown)
  const [found, setFound] = useState<{ readonly of: Part; readonly lying: readonly PicturedLying[] }>()
  const [isBusy, setBusy] = useState(false)
  const look = async () => {
    setBusy(true)
    try {
      for (let of = shown; of; ) {
        const lying = await compared(of)
        const now = useBuild.getState().shown
        if (lying) setFound({ of, lying })
        // A proof of the same part took its turn: as where the part has just been opened.
        of = lying === undefined && now === of ? of : undefined
      }
    } catch (error) {
      // A maker who stops it knows.
      if (!(error instanceof Stopped)) say({ text: (error as Error).message, fault: true })
    } finally {
      setBusy(false)
    }
  }
  // What was found of other pieces says nothing of these; how they are printed changes none of it.
  const isCurrent = found !== undefined && sameBut(found.of, part)
  return (
    <section aria-label="Ways to lie" className="mt-3 border-y border-line py-2">
      <div className="flex items-center justify-between gap-3">
        <h3 className="font-semibold">Ways to lie</h3>
        {isCurrent ? (
          <Button onClick={() => setFound(undefined)}>Close</Button>
        ) : (
          <Button disabled={!shown || isBusy} onClick={() => void look()}>
            {isBusy ? 'Trying …' : 'Compare ways to lie'}
          </Button>
        )}
      </div>
      <Stances />
      {found && !isCurrent && <p className="mt-1 text-ink-soft">The part has changed since they were compared.</p>}
      {isCurrent && found.lying.map((each) => <Table key={each.pieces.join()} lying={each} all={found.lying} />)}
    </section>
  )
}

/** All ways of a part; undefined where something newer took their turn. */
async function compared(of: Part): Promise<readonly PicturedLying[] | undefined> {
  try {
    return await checks().call('lying', { width, height }, of)
  } catch (error) {
    if (error instanceof Overtaken) return undefined
    throw error
  }
}

/** Whether two states of a part differ in nothing but poses, views and what is set aside. */
function sameBut(one: Part, other: Part): boolean {
  const rest = (of: Part) => ({ ...of, poses: 0, printPose: 0, views: 0, setAside: 0, note: 0, name: 0 })
  const [a, b] = [rest(one), rest(other)] as Record<string, unknown>[]
  return Object.keys({ ...a, ...b }).every((key) => a![key] === b![key])
}

function Table({
  lying: { pieces, ways },
  all,
}: {
  readonly lying: PicturedLying
  readonly all: readonly PicturedLying[]
}) {
  const part = usePart((state) => state.part!)
  const pose = printPoseOf(part)
  const laid = (ids: readonly string[]) => pose?.laid.find(({ piece }) => ids.includes(piece))
  const now = (laid(pieces) ?? laid(pieces.map(partedFrom)))?.down ?? 'bottom'
  const quickest = Math.min(...ways.map(({ lines }) => lines))
  const area = (mm2: number) => formatArea(Number(mm2.toPrecision(2)), part.unit)
  const name = pieces.map((id) => pieceOfBody(part, id)?.name ?? id).join(' and ')
  return (
    <table className="mt-2 w-full text-left">
      <caption className={all.length > 1 ? 'pb-1 text-left font-semibold' : 'sr-only'}>{name}</caption>
      <thead className="text-xs text-ink-soft">
        <tr>
          <th className="font-normal">
            <span className="sr-only">How it lies</span>
          </th>
          <th className="font-normal">What it comes to</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {ways.map((way, i) => {
          const isNow = JSON.stringify(way.down) === JSON.stringify(now)
          const told = [
            way.begins > 0 ? `begins in mid-air at ${way.begins === 1 ? 'one place' : `${way.begins} places`}` : '',
            way.hangs >= hardlyHangs ? `${area(way.hangs)} hangs` : 'nothing hangs',
            `${formatSize(way.size[2], part.unit)} ${part.unit} high`,
            longer(way.lines / quickest),
            `${area(way.contact)} on the bed`,
            way.stances > 0
              ? way.kept === way.stances
                ? 'all that is held lies so'
                : `${way.kept} of ${way.stances} held`
              : '',
            way.asked === undefined ? '' : `loads take ${Math.round(100 * way.asked)} %`,
            way.rounds > 0 ? `${way.upright} of ${way.rounds} rounds upright` : '',
            way.tips < 0 ? 'falls over' : way.tips < slender ? `toppled by ${way.tips.toFixed(1)}°` : '',
            way.fitsBed ? '' : 'too large for the bed',
          ].filter(Boolean)
          const label = isNow
            ? 'As it is printed now'
            : i === 0
              ? 'The best of them'
              : way.isDrawn
                ? 'As it is drawn'
                : ''
          return (
            <tr key={JSON.stringify(way.down)} className="border-t border-line align-top">
              <td className="py-1.5 pr-2">
                <PictureCanvas picture={way.picture} style={{ width, height }} />
              </td>
              <td className="py-1.5 text-[0.9375rem] leading-5">
                {label && <span className="block font-semibold">{label}</span>}
                {told.join(', ')}
              </td>
              <td className="py-1.5 pl-2 text-right">
                {!isNow && (
                  <Button
                    aria-label={`Print ${name} so: ${told.join(', ')}`}
                    onClick={() => void printSo(pieces, way.down, all.length > 1)}
                  >
                    Print it so
                  </Button>
                )}
              </td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}

/** How much longer it takes than the quickest way; a tenth is no more than a guess. */
function longer(times: number): string {
  return times < 1.1 ? '' : `takes ${times.toFixed(1)} × as long`
}

/** What poses are called that are made here. */
const asLaid = 'As laid'

/** Keeps a pose in which these pieces lie so, and prints it in that; several go side by side. */
async function printSo(pieces: readonly string[], down: Laid['down'], isOneOfSeveral: boolean): Promise<void> {
  const { part, editAll } = usePart.getState()
  const { shown } = useBuild.getState()
  if (!part || !shown) return
  const printed = printPoseOf(part)
  // A pose that the maker has made for something stays as it is; ways were compared with all joints as drawn.
  const before = printed?.name.startsWith(asLaid) ? printed : undefined
  const own: Laid = { piece: pieces[0]!, down, turn: 0, at: [0, 0] }
  const others = before?.laid.filter(({ piece }) => !pieces.includes(piece)) ?? []
  const pose: KeptPose = {
    ...(before ?? { id: newId(), name: freeName(part.poses), set: [] }),
    laid: [...others, own],
  }
  try {
    const laid = isOneOfSeveral ? await checks().call('spread', { pose }, shown) : pose.laid
    // Nobody waits for another part's.
    if (usePart.getState().part !== part) return
    editAll([
      { type: 'keep-pose', pose: { ...pose, laid } },
      { type: 'print-pose', id: pose.id },
    ])
    sayDone(`It is printed in ${pose.name}: layers, proof and hand-off follow.`)
  } catch (error) {
    say({ text: (error as Error).message, fault: true })
  }
}

function freeName(poses: readonly KeptPose[]): string {
  for (let i = 1; ; i++) {
    const name = i === 1 ? asLaid : `${asLaid} ${i}`
    if (!poses.some((pose) => pose.name === name)) return name
  }
}
