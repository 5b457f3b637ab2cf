import type { Chain } from './arrangement.ts'
import { flattenedChain } from './flatten.ts'
import { areaUnder, type LineSegment, segmentReach } from './segments.ts'
import type { Ring, Vec2 } from './vectors.ts'

/** What a drawn and solved outline gives to the shapes that are made from it; true curves, mm. */
export class Drawn {
  /** all that it depends on, as text: equal keys mean equal drawings */
  readonly key: string
  readonly name: string
  /** round all that is filled: outer loops counter-clockwise, holes clockwise */
  readonly loops: readonly Chain[]
  /** stretches that bound no region, as they were drawn */
  readonly open: readonly Chain[]
  /** drawn straight lines, helpers too, by the id of their curve */
  readonly lines: ReadonlyMap<string, LineSegment>
  /** points at which smoothing keeps an edge */
  readonly sharp: readonly Vec2[]

  constructor({ key, name, loops, open, lines, sharp }: Omit<Drawn, 'toJSON' | 'area' | 'reach' | 'rings'>) {
    this.key = key
    this.name = name
    this.loops = loops
    this.open = open
    this.lines = lines
    this.sharp = sharp
  }

  /** Stands for it where values are compared as text. */
  toJSON(): string {
    return this.key
  }

  /** mm², in closed form */
  area(): number {
    return this.loops.reduce((sum, { segments }) => sum + segments.reduce((own, s) => own + areaUnder(s), 0), 0)
  }

  /** How far it reaches along a direction, with its open stretches; −Infinity for an empty one. */
  reach(d: Vec2): number {
    return Math.max(
      ...[...this.loops, ...this.open].flatMap(({ segments }) => segments.map((s) => segmentReach(s, d))),
      -Infinity,
    )
  }

  /**
   * Its loops as flats. `grow`: whether they never lie inside the true curves, as for what is cut away, or never outside.
   * @throws ProblemError too-many-triangles
   */
  rings(fineness: number, grow: boolean): Ring[] {
    return this.loops.map(({ segments }) => flattenedChain(segments, true, fineness, grow))
  }
}
