import { type Printer, strengthOf } from '../fits/index.ts'
import type { Kernel } from '../kernel/index.ts'
import { layerMiddle } from '../layers/index.ts'
import { type Bounds, liftedFrom, type Neck, necksOf } from '../necks/index.ts'
import { add, scaled } from '../place/index.ts'
import { ringArea } from '../plane/index.ts'
import type { Built } from '../solids/index.ts'
import { type Check, type Found, findingOf, type Mark, type ProofContext, type ProofPiece } from './define.ts'
import { isTooLarge } from './narrow.ts'
import { clause, mm, mm2, sentences } from './phrase.ts'
import { whoseIn } from './whose.ts'

/** What is found. */
const texts = {
  'necks-none': 'Nothing of {piece} hangs by a neck that less than {force} N breaks, looked at in steps of {cell}.',
  'necks-thread':
    '{piece} hangs together by {area} at {where}, of which the {printer} lays {laid}: less than two lines of {line} each way.',
  'necks-weak':
    '{piece} narrows to {area} at {where}: some {force} N on the far end of its smaller side, {arm} away, break it{layers}. An estimate: {material} bears {strength} MPa there, and a blow breaks it sooner.',
  'necks-between-layers': ' between two layers',
  'necks-then': '{size} wide: that bears what a hand may give it.',
  'necks-unknown': '{piece} has too much surface to look for all of its necks.',
  'necks-unmeasured':
    '{piece} hangs together at {count} of its necks by less than some {size}, too little to be measured: see the marks.',
} as const

/** A hand that takes a part off the bed, or puts it in its place, gives so much, N; what gives way to much less is broken by handling. */
const [hand, handling] = [10, 2]
/** Fewer lines each way are a thread. */
const leastLines = 2
/** Into so many cells the boxes round all solids of a piece are cut. */
const cells = 200_000
/** As a share of a line: no cell is smaller. */
const leastCell = 0.25
/** What is narrower than so many cells may lie between them. */
const narrow = 2
/** So many places round each ring of a section are asked whose they are, on both sides of it at so many mm. */
const [asked, nextTo] = [12, 0.05]
/** What is made wider one way bears more by the square of that, until it is as wide as the other way; then no more than by as much. */
const spare = 1.05
/** A plane that leans to the layers by less than this parts them: as a cosine. */
const betweenLayers = Math.cos(Math.PI / 4)

/** What a neck bears, N. */
function bears({ area, modulus, arm }: Bounds, strength: number): number {
  return Math.min(strength * area, arm > 0 ? (strength * modulus) / arm : Number.POSITIVE_INFINITY)
}

/** Whether pieces hang together by enough. */
export const necksCheck: Check = {
  id: 'necks',
  label: 'Necks',
  meaning: 'What is thick on both sides of a neck is joined by enough to be handled.',
  texts,
  scope: 'piece',
  from: (context, piece) => [
    context.built.resolved.printer,
    context.built.resolved.part.material,
    context.built.resolved.part.flexes.map(({ of }) => of),
    whoseIn(context, piece).all(),
  ],
  async run(context, piece) {
    const { printer } = context.built.resolved
    const { material } = context.built.resolved.part
    // That nothing of it is laid is told by its own check.
    if ((await context.laid(piece)).length === 0) return []
    const { id, name } = piece.built.piece
    const finding = findingOf('necks', texts, [{ kind: 'piece', id }])
    if (isTooLarge(piece)) return [finding('warning', 'necks-unknown', { piece: name })]
    const weakest = Math.min(...Object.values(strengthOf(material)))
    const thread = (leastLines * printer.lineWidth) ** 2
    const { solid } = piece.built
    const { necks, cell, unmeasured } = await necksOf(
      { positions: solid!.corners(), triangles: solid!.mesh().triangles },
      {
        cells,
        least: leastCell * printer.lineWidth,
        tree: context.tree(piece),
        isWanted: (bounds) => bounds.area < 2 * thread || bears(bounds, weakest) < hand,
        pause: context.pause,
      },
    )
    const found = necks.flatMap((neck) => findingsOf(context, piece, neck) ?? [])
    if (unmeasured.length > 0) {
      const marks = [{ kind: 'points', points: Float32Array.from(unmeasured.flat()) }] as const
      found.push(
        finding(
          'warning',
          'necks-unmeasured',
          { piece: name, count: unmeasured.length, size: mm(narrow * cell) },
          { marks },
        ),
      )
    }
    if (found.length > 0) return found.sort((a, b) => (b.by ?? 0) - (a.by ?? 0))
    return [finding('pass', 'necks-none', { piece: name, force: hand, cell: mm(cell) })]
  },
}

function findingsOf(context: ProofContext, piece: ProofPiece, neck: Neck): Found | undefined {
  const { kernel, built } = context
  const { printer } = built.resolved
  const { material } = built.resolved.part
  const { id, name } = piece.built.piece
  const { figures, section, arm } = neck
  const laid = laidOf(kernel, neck, printer)
  const isBetween = Math.abs(section.plane.normal[2]) > betweenLayers
  const strength = strengthOf(material)[isBetween ? 'across' : 'along']
  // What is not laid bears nothing.
  const share = laid / figures.area
  const force = share * bears({ ...figures, arm }, strength)
  const tree = context.tree(piece)
  const whose = whoseIn(context, piece)
  // It is told of what lies right beside it all round, on both sides; what is deepest on its sides may change with anything else.
  const round = section.rings.flatMap((ring) => {
    const every = Math.ceil(ring.length / asked)
    return ring.filter((_, i) => i % every === 0).map((p) => liftedFrom(section.plane, p))
  })
  const beside = [-nextTo, nextTo].flatMap((by) => round.map((p) => add(p, scaled(section.plane.normal, by))))
  const { about: owners, where } = whose.of(beside.map((p) => tree.nearest(p)!.triangle))
  const about = [...owners, { kind: 'piece', id } as const]
  const finding = findingOf('necks', texts, about)
  const told = {
    ...{ piece: name, area: mm2(figures.area), printer: printer.name, line: mm(printer.lineWidth) },
    where,
  }
  const points = section.rings.flatMap((ring) =>
    ring.flatMap((p, i) => [
      ...liftedFrom(section.plane, p),
      ...liftedFrom(section.plane, ring[(i + 1) % ring.length]!),
    ]),
  )
  const marks: Mark[] = [{ kind: 'lines', points: Float32Array.from(points) }]
  const lacks = spare * Math.max(1, hand / Math.max(force, hand / 100))
  const resize = {
    ...{ from: figures.across, to: figures.across * Math.sqrt(lacks), orTo: figures.across * lacks },
    after: clause(texts, 'necks-then', { size: 'so' }),
  }
  const more = { marks, by: hand - force, resize } as const
  if (laid < (leastLines * printer.lineWidth) ** 2)
    return finding('fault', 'necks-thread', { ...told, laid: mm2(laid) }, { ...more, ofPrinter: true })
  // What bends on purpose is looked at by its own check.
  const bends = about.some((owner) => isBent(built, owner.id))
  if (!(force < hand) || bends) return undefined
  return finding(
    force < handling ? 'warning' : 'advice',
    'necks-weak',
    {
      ...{
        ...told,
        force: Number(force.toPrecision(2)),
        arm: mm(arm),
        material: material.name,
        strength: Math.round(strength),
      },
      layers: sentences(...(isBetween ? [clause(texts, 'necks-between-layers', {})] : [])),
    },
    more,
  )
}

/** Whether a step, a joint or a piece is a spring, or has a flex test. */
function isBent({ resolved }: Built, id: string): boolean {
  const isSpring = resolved.steps.get(id)?.shape?.spring ?? resolved.joints.get(id)?.definition?.spring
  return isSpring !== undefined || resolved.part.flexes.some(({ of }) => of === id)
}

/** How much of a neck's section is laid in whole lines, mm²: row by row where layers cut it, or all at once where it lies in one. */
function laidOf(kernel: Kernel, { section: { plane, rings } }: Neck, printer: Printer): number {
  const steep = Math.hypot(plane.normal[0], plane.normal[1])
  const line = printer.lineWidth
  if (steep < 0.2) {
    const opened = kernel.scope((scope) =>
      scope.inset(scope.inset(rings, (line / 2) * (1 - slack)), (-line / 2) * (1 - slack)),
    )
    return opened.reduce((sum, ring) => sum + ringArea(ring), 0)
  }
  let area = 0
  const [low, high] = [-1, 1].map((sign) =>
    rings.flat().reduce((most, [, y]) => sign * Math.max(sign * most, sign * y), -sign * Number.POSITIVE_INFINITY),
  ) as [number, number]
  const bottom = plane.at[2] + low * steep
  const first = Math.max(0, Math.floor((bottom - printer.firstLayer) / printer.layerHeight))
  for (let layer = first; ; layer++) {
    const y = (layerMiddle(layer, printer) - plane.at[2]) / steep
    if (y > high) return area
    if (y < low) continue
    const thick = (layer === 0 ? printer.firstLayer : printer.layerHeight) / steep
    for (const wide of rowsAt(rings, y)) area += line * Math.floor(wide / line + slack) * thick
  }
}
/** A line that is wider than its room by this share is laid all the same. */
const slack = 0.02

/** How wide rings are at a height, stretch by stretch. */
function rowsAt(rings: readonly (readonly (readonly [number, number])[])[], y: number): readonly number[] {
  const at = rings
    .flatMap((ring) =>
      ring.flatMap((a, i) => {
        const b = ring[(i + 1) % ring.length]!
        return a[1] > y === b[1] > y ? [] : [a[0] + ((b[0] - a[0]) * (y - a[1])) / (b[1] - a[1])]
      }),
    )
    .sort((a, b) => a - b)
  return at.flatMap((x, i) => (i % 2 === 1 ? [x - at[i - 1]!] : []))
}
