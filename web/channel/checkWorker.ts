import { applyEdit, type Part } from '@makrel/core/document'
import { flexTesting, isOfPiece, sheetOfSolid } from '@makrel/core/flex'
import type { Kernel, Solid } from '@makrel/core/kernel'
import { layerAreas, sectionAt } from '@makrel/core/layers'
import { type Judged, lyingOf } from '@makrel/core/lying'
import { withPosition } from '@makrel/core/mechanism'
import { withTurns } from '@makrel/core/pacing'
import { type Picture, picture } from '@makrel/core/pictures'
import { type Box, joined } from '@makrel/core/place'
import { packedRings } from '@makrel/core/plane'
import { fieldKindOf, poseOf, printPoseOf, readSolids, workOut } from '@makrel/core/planning'
import {
  changedMarks,
  type Finding,
  fieldOf,
  ProofMemory,
  type ProofOptions,
  type Reach,
  Swing,
} from '@makrel/core/proof'
import { alikeIn, BuildAborted, type Built, figuresOf, solidsToRead, spreadOut } from '@makrel/core/solids'
import { CheckBuilds } from './checkBuilds.ts'
import { soloMesh } from './ghost.ts'
import { type HandOffCall, HandOffs } from './handingOff.ts'
import { loadedKernel } from './loadedKernel.ts'
import type { NameOf } from './protocol.ts'
import { provedOf } from './provedOf.ts'
import { type Answers, serve, type Turn } from './serving.ts'
import { ink, material } from './tints.ts'

/** More than the printer's least gap is left between pieces that lie side by side, mm. */
const clearOf = 3

/** Lets messages in, and leaves off where nobody waits for the answer any more. */
function stopping({ pause, signal }: Turn): () => Promise<void> {
  return async () => {
    await pause()
    if (signal.aborted) throw new BuildAborted()
  }
}

/** The worker that measures and checks, beside the one that builds: an edit never waits for it. */
class Checks {
  readonly #kernel: Kernel
  readonly #builds: CheckBuilds
  readonly #swing: Swing
  readonly #memory = new ProofMemory()

  constructor(kernel: Kernel, builds: CheckBuilds) {
    this.#kernel = kernel
    this.#builds = builds
    this.#swing = new Swing(kernel)
  }

  async #proved(turn: Turn, options: Pick<ProofOptions, 'build'> = {}): Promise<readonly Finding[]> {
    const pose = printPoseOf(turn.part!)
    const standing = (built: Built) => this.#builds.standing(built, pose).posed.built
    // Its first findings need no second fineness.
    const fine = standing(await this.#builds.fine(turn))
    const twice = async () => {
      const drawn = await this.#builds.two(turn)
      return { fine: standing(drawn.fine), coarse: standing(drawn.coarse) }
    }
    return provedOf(this.#kernel, this.#builds, fine, turn, { ...options, twice, memory: this.#memory })
  }

  readonly answers: Answers<Exclude<NameOf<'checks'>, HandOffCall>> = {
    proof: (_, turn) => this.#proved(turn),
    cures: (_, turn) => {
      const build = (part: Part) => this.#builds.trial(part, { signal: turn.signal, pause: turn.giveWay })
      // All checks have told how far they are once already.
      return this.#proved({ ...turn, progress: () => undefined }, { build })
    },
    figures: async (_, turn) => figuresOf(await this.#builds.twice(turn)),
    field: async ({ mark }, turn) => {
      const { built } = this.#builds.standing(await this.#builds.fine(turn), printPoseOf(turn.part!)).posed
      return fieldOf(this.#kernel, built, mark, turn)
    },
    change: async ({ edits }, turn) => {
      const changed = edits.reduce((so, edit) => applyEdit(so, edit, fieldKindOf), turn.part!)
      const after = await this.#builds.trial(changed, turn)
      return changedMarks(this.#kernel, await this.#builds.fine(turn), after)
    },
    posed: async ({ pose }, turn) => {
      const fine = await this.#builds.fine(turn)
      const { posed, motions } = this.#builds.standing(fine, pose)
      const box = posed.built.pieces.reduce<Box | undefined>((all, { solid }) => {
        const own = solid?.bounds()
        return own ? joined(all, own) : all
      }, undefined)
      return { motions: Object.fromEntries(motions ?? []), box }
    },
    flex: async ({ flex }, turn) => {
      const part = turn.part!
      if (!isOfPiece(part, flex)) return withTurns(flexTesting(workOut(part).resolved, flex), stopping(turn))
      const fine = await this.#builds.fine(turn)
      const solid = fine.pieces.find(({ piece }) => piece.id === flex.of)?.solid
      return withTurns(
        flexTesting(fine.resolved, flex, () => solid && sheetOfSolid(this.#kernel, solid)),
        stopping(turn),
      )
    },
    spread: async ({ pose }, turn) => {
      const fine = await this.#builds.fine(turn)
      return spreadOut(this.#kernel, fine, pose, fine.resolved.printer.leastGap + clearOf)
    },
    lying: async ({ width, height }, turn) => {
      const fine = await this.#builds.fine(turn)
      const pictures = new Map<Judged, Picture>()
      const each = (way: Judged, solid: Solid) => {
        const mesh = soloMesh([solid], { kind: 'step', id: '' })
        pictures.set(way, picture(mesh, width, height, { colourOf: () => material, line: ink }))
      }
      const found = await this.#builds.holding(() => lyingOf(this.#kernel, fine, { pause: turn.giveWay, each }))
      return found.map(({ pieces, ways }) => ({
        pieces,
        ways: ways.map((way) => ({ ...way, picture: pictures.get(way)! })),
      }))
    },
    effect: async ({ step }, turn) => this.#builds.measurer.effectOf(await this.#builds.two(turn), step),
    swing: async ({ wanted, joint }, turn) => {
      const twice = await this.#builds.two(turn)
      return {
        at: this.#swing.at(twice, wanted, joint),
        motions: Object.fromEntries(poseOf(twice.fine, wanted).motions),
      }
    },
    sweep: async ({ wanted, joint }, turn) => this.#swing.at(await this.#builds.two(turn), wanted, joint),
    reach: async ({ wanted, joint, index, ends }, turn) => {
      const twice = await this.#builds.two(turn)
      const found: (Reach | undefined)[] = []
      for (const [from, to] of ends)
        found.push(
          await this.#swing.reach(twice, (at) => withPosition(wanted, { joint, index }, at), {
            ...{ from, to },
            pause: stopping(turn),
          }),
        )
      return found
    },
    section: async ({ z, compensated }, turn) => {
      const { pieces } = this.#builds.layered(await this.#builds.asPrinted(turn), compensated)
      return pieces.map(({ piece, solid }) => {
        const { rings, area } = sectionAt(this.#kernel, solid, z)
        return { piece: piece.id, area, rings: packedRings(rings) }
      })
    },
    read: async ({ readouts }, turn) => {
      const { fine, coarse } = await this.#builds.two(turn)
      const { plan } = fine
      const part = { ...fine.resolved.part, readouts }
      return readSolids(part, plan, solidsToRead(fine.pieces, plan), solidsToRead(alikeIn(fine, coarse), plan))
    },
    areas: async ({ heights, count, compensated }, turn) =>
      this.#builds
        .layered(await this.#builds.asPrinted(turn), compensated)
        .pieces.map(({ solid }) => layerAreas(this.#kernel, solid, heights, count))
        .reduce((sum, areas) => sum.map((area, i) => area + areas[i]!), new Array<number>(count).fill(0)),
  }
}

serve(
  loadedKernel().then((kernel) => {
    const builds = new CheckBuilds(kernel)
    return { ...new Checks(kernel, builds).answers, ...new HandOffs(kernel, builds).answers }
  }),
)
