import type { RevisionEntry } from '@makrel/core/document'
import { DataTypes, type Model, type ModelStatic, type Sequelize, type Transaction } from 'sequelize'
import { unpacked } from './kept.ts'

interface StateRow {
  readonly partId: string
  readonly revision: number
  readonly packed: Buffer
  readonly name: string | null
  readonly createdAt: Date
}
type StateModel = Model<StateRow, Partial<StateRow>> & StateRow

const [minute, hour, day] = [60_000, 3_600_000, 86_400_000]
/** Of states older than the first, one is kept for each stretch as long as the second, ms. */
const thinning = [
  [hour, 5 * minute],
  [day, hour],
  [30 * day, day],
  [365 * day, 30 * day],
] as const
/** The latest ones are kept, however old they are. */
const alwaysKept = 40
/** Old states are thinned out once in so many saves. */
const savesPerThinning = 20

/**
 * Which states are let go: what is old is kept at wider and wider distances, what has a name for ever. `states` are the latest
 * first; of each stretch its latest is kept.
 */
export function thinned(
  states: readonly { readonly revision: number; readonly at: number; readonly name: string | null }[],
  now: number,
  most: number,
): number[] {
  let stretch = ''
  return states.flatMap(({ revision, at, name }, i) => {
    if (name !== null || i < Math.min(alwaysKept, most)) return []
    const step = thinning.findLast(([age]) => now - at > age)?.[1]
    const of = step === undefined ? `${revision}` : `${step} ${Math.floor(at / step)}`
    const first = of !== stretch
    stretch = of
    return first && i < most ? [] : [revision]
  })
}

/** The earlier states of all parts. */
export class StateStore {
  readonly #rows: ModelStatic<StateModel>
  readonly #most: number

  /** `most`: how many states of a part are kept, beside those that have a name. */
  constructor(database: Sequelize, most: number) {
    this.#most = most
    this.#rows = database.define<StateModel>(
      'revision',
      {
        partId: { type: DataTypes.STRING, primaryKey: true },
        revision: { type: DataTypes.INTEGER, primaryKey: true },
        packed: DataTypes.BLOB,
        name: DataTypes.STRING,
        createdAt: DataTypes.DATE,
      },
      { updatedAt: false },
    )
  }

  async add(partId: string, revision: number, state: Uint8Array, transaction: Transaction): Promise<void> {
    await this.#rows.create({ partId, revision, packed: Buffer.from(state) }, { transaction, returning: false })
    if (revision % Math.min(savesPerThinning, this.#most) === 0) await this.thin(partId, transaction)
  }

  private async thin(partId: string, transaction: Transaction): Promise<void> {
    const rows = await this.#rows.findAll({
      where: { partId },
      attributes: ['revision', 'createdAt', 'name'],
      order: [['revision', 'DESC']],
      transaction,
    })
    const states = rows.map(({ revision, createdAt, name }) => ({ revision, at: createdAt.getTime(), name }))
    const revision = thinned(states, Date.now(), this.#most)
    if (revision.length > 0) await this.#rows.destroy({ where: { partId, revision }, transaction })
  }

  /** The latest first. */
  async list(partId: string): Promise<RevisionEntry[]> {
    const rows = await this.#rows.findAll({
      where: { partId },
      attributes: ['revision', 'createdAt', 'name'],
      order: [['revision', 'DESC']],
    })
    return rows.map(({ revision, createdAt, name }) => ({
      revision,
      createdAt: createdAt.toISOString(),
      name: name ?? '',
    }))
  }

  /** The text of a state, undefined where it is not kept. */
  async read(partId: string, revision: number): Promise<string | undefined> {
    const row = await this.#rows.findOne({ where: { partId, revision } })
    return row ? unpacked(row.packed) : undefined
  }

  /** False where there is none. */
  async rename(partId: string, revision: number, name: string | null, transaction: Transaction): Promise<boolean> {
    const [changed] = await this.#rows.update({ name }, { where: { partId, revision }, transaction })
    return changed > 0
  }
}
