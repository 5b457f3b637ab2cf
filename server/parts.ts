import { currentVersion } from '@makrel/core/document'
import { col, DataTypes, fn, type Model, type ModelStatic, Op, type Order, type Sequelize } from 'sequelize'
import type { KeptPart } from './kept.ts'
import { PictureStore } from './pictures.ts'
import { type RevisionEntry, StateStore } from './states.ts'
import { type Health, Writes } from './writes.ts'

/** How many earlier states of a part are kept, beside those that have a name. */
export const keptRevisions = 500

export interface PartRow {
  readonly id: string
  readonly name: string
  readonly revision: number
  readonly document: string
  readonly picture: Buffer | null
  readonly pictureRevision: number | null
  readonly size: string | null
  /** the longest side of the part, mm */
  readonly longest: number | null
  readonly removedAt: Date | null
  readonly createdAt: Date
  readonly updatedAt: Date
}

/** What the shelf shows of a part. */
export interface ShelfEntry {
  readonly id: string
  readonly name: string
  readonly revision: number
  readonly updatedAt: string
  /** overall size in mm, where the picture was taken */
  readonly size: readonly [number, number, number] | null
  readonly pictureRevision: number | null
}

/** How the shelf can be put in order: the latest changed, by name, the largest. */
export const shelfOrders = ['changed', 'name', 'size'] as const
export type ShelfOrder = (typeof shelfOrders)[number]

const orders: Record<ShelfOrder, Order> = {
  changed: [
    ['updatedAt', 'DESC'],
    ['id', 'ASC'],
  ],
  name: [
    [fn('lower', col('name')), 'ASC'],
    ['id', 'ASC'],
  ],
  size: [
    ['longest', 'DESC'],
    ['id', 'ASC'],
  ],
}

/** Some of the parts of the shelf, and how many it has in all. */
export interface ShelfPage {
  readonly total: number
  readonly entries: readonly ShelfEntry[]
}

export type SaveOutcome =
  | { readonly kind: 'saved'; readonly revision: number; readonly updatedAt: string }
  | { readonly kind: 'missing' }
  /** what is kept comes from a newer version of the program, and is left alone */
  | { readonly kind: 'newer'; readonly version: number }
  | { readonly kind: 'stale'; readonly revision: number; readonly text: string }

type Row = Model<PartRow, Partial<PartRow>> & PartRow
/** The parts kept in the database. Writes run one after another; what waits together is one transaction. */
export class PartStore {
  readonly #parts: ModelStatic<Row>
  readonly #states: StateStore
  readonly #pictures: PictureStore
  readonly #writes: Writes

  constructor(database: Sequelize, kept = keptRevisions) {
    this.#writes = new Writes(database)
    this.#states = new StateStore(database, kept)
    this.#pictures = new PictureStore(database)
    this.#parts = database.define<Row>('part', {
      id: { type: DataTypes.STRING, primaryKey: true },
      name: DataTypes.STRING,
      revision: DataTypes.INTEGER,
      document: DataTypes.TEXT,
      picture: DataTypes.BLOB,
      pictureRevision: DataTypes.INTEGER,
      size: DataTypes.STRING,
      longest: DataTypes.FLOAT,
      removedAt: DataTypes.DATE,
      createdAt: DataTypes.DATE,
      updatedAt: DataTypes.DATE,
    })
  }

  count(): Promise<number> {
    return this.#parts.count()
  }

  /** How writing goes, without a wait for what is being written. */
  health(): Health {
    return this.#writes.health()
  }

  /** `count` parts of the shelf, from the `from`th on; `search` looks in names. */
  async list({
    search = '',
    order = 'changed' as ShelfOrder,
    from = 0,
    count = 100,
  }: {
    search?: string
    order?: ShelfOrder
    from?: number
    count?: number
  } = {}): Promise<ShelfPage> {
    const name = search.trim() ? { name: { [Op.like]: `%${search.trim().replace(/[\\%_\0]/g, '')}%` } } : {}
    const where = { removedAt: null, ...name }
    // In two steps: which ones is told by an index alone, without a look at thousands of documents.
    const [total, places] = await Promise.all([
      this.#parts.count({ where }),
      this.#parts.findAll({ where, attributes: ['id'], order: orders[order], offset: from, limit: count }),
    ])
    const ids = places.map(({ id }) => id)
    const rows = await this.#parts.findAll({
      where: { id: ids },
      attributes: ['id', 'name', 'revision', 'updatedAt', 'size', 'pictureRevision'],
    })
    const byId = new Map(rows.map((row) => [row.id, row]))
    const entries = ids.flatMap((id) => {
      const row = byId.get(id)
      if (!row) return []
      const { name, revision, updatedAt, size, pictureRevision } = row
      return [
        {
          ...{ id, name, revision, pictureRevision },
          updatedAt: updatedAt.toISOString(),
          size: size ? JSON.parse(size) : null,
        },
      ]
    })
    return { total, entries }
  }

  /** The text is the kept document in the version that it was kept in. */
  async read(id: string): Promise<{ text: string; revision: number; updatedAt: string } | undefined> {
    const row = await this.#parts.findOne({
      where: { id, removedAt: null },
      attributes: ['document', 'revision', 'updatedAt'],
    })
    if (!row) return undefined
    const text = await this.#pictures.whole(row.document)
    return { text, revision: row.revision, updatedAt: row.updatedAt.toISOString() }
  }

  /** Keeps a new part; false where its id is taken. */
  create({ id, name, text, pictures, state }: KeptPart): Promise<boolean> {
    return this.#writes.write(async (transaction) => {
      await this.#pictures.put(pictures, transaction)
      const there = await this.#parts.findByPk(id, { transaction })
      // Asked again for what was kept already: the answer was lost on its way.
      if (there) return there.revision === 1 && there.removedAt === null && there.document === text
      await this.#parts.create({ id, name, revision: 1, document: text }, { transaction })
      await this.#states.add(id, 1, state, transaction)
      return true
    })
  }

  /** Keeps a new state of a part, if `base` is still the latest revision. */
  save(base: number, { id, name, text, pictures, state }: KeptPart): Promise<SaveOutcome> {
    return this.#writes.write(async (transaction): Promise<SaveOutcome> => {
      const where = { id, removedAt: null }
      const row = await this.#parts.findOne({
        where,
        attributes: ['revision', 'updatedAt', [fn('substr', col('document'), 1, 200), 'document']],
        transaction,
      })
      if (!row) return { kind: 'missing' }
      const version = versionOf(row.document)
      if (version > currentVersion) return { kind: 'newer', version }
      if (row.revision !== base) {
        const theirs = (await this.#parts.findOne({ where, attributes: ['document'], transaction }))!.document
        // The very same state: this save was done, and its answer was lost on its way.
        if (row.revision === base + 1 && theirs === text)
          return { kind: 'saved', revision: row.revision, updatedAt: row.updatedAt.toISOString() }
        return { kind: 'stale', revision: row.revision, text: await this.#pictures.whole(theirs, transaction) }
      }
      const [revision, updatedAt] = [base + 1, new Date()]
      await this.#pictures.put(pictures, transaction)
      await this.#parts.update({ name, revision, document: text, updatedAt }, { where, transaction, silent: true })
      await this.#states.add(id, revision, state, transaction)
      return { kind: 'saved', revision, updatedAt: updatedAt.toISOString() }
    })
  }

  /** The kept states of a part, the latest first; undefined where there is no such part. */
  async revisions(id: string): Promise<RevisionEntry[] | undefined> {
    if (!(await this.#parts.count({ where: { id, removedAt: null } }))) return undefined
    return this.#states.list(id)
  }

  /** The text of a part as it was, in the version that it was kept in. */
  async revision(id: string, revision: number): Promise<string | undefined> {
    if (!(await this.#parts.count({ where: { id, removedAt: null } }))) return undefined
    const text = await this.#states.read(id, revision)
    return text === undefined ? undefined : this.#pictures.whole(text)
  }

  /** The text of a part as it is kept, whether it can be read or not. */
  async raw(id: string): Promise<string | undefined> {
    const row = await this.#parts.findOne({ where: { id, removedAt: null }, attributes: ['document'] })
    return row ? this.#pictures.whole(row.document) : undefined
  }

  /** Names a kept state, or takes its name away; false where there is none. */
  nameRevision(id: string, revision: number, name: string): Promise<boolean> {
    return this.#writes.write((transaction) => this.#states.rename(id, revision, name.trim() || null, transaction))
  }

  /** Takes a part off the shelf, or (`removed` false) puts it back; false where there is none. */
  setRemoved(id: string, removed: boolean): Promise<boolean> {
    return this.#writes.write(async (transaction) => {
      const [changed] = await this.#parts.update(
        { removedAt: removed ? new Date() : null },
        { where: { id, removedAt: removed ? null : { [Op.ne]: null } }, transaction, silent: true },
      )
      return changed > 0
    })
  }

  async picture(id: string): Promise<Buffer | undefined> {
    return (
      (await this.#parts.findOne({ where: { id, removedAt: null }, attributes: ['picture'] }))?.picture ?? undefined
    )
  }

  /** The picture and size of the latest revision; false where there is no such part. */
  setPicture(id: string, picture: { revision: number; png: Buffer; size: readonly number[] }): Promise<boolean> {
    return this.#writes.write(async (transaction) => {
      const row = await this.#parts.findOne({
        where: { id, removedAt: null },
        attributes: ['id', 'revision'],
        transaction,
      })
      if (!row) return false
      // A picture of a state that is not the latest any more is let go.
      if (picture.revision !== row.revision) return true
      await row.update(
        {
          ...{ picture: picture.png, pictureRevision: picture.revision },
          ...{ size: JSON.stringify(picture.size), longest: Math.max(...picture.size) },
        },
        { transaction, silent: true },
      )
      return true
    })
  }

  /** Resolves when every write that was asked for is done. */
  settled(): Promise<void> {
    return this.#writes.settled()
  }
}

/** The version that a kept document is written in; it stands near its beginning. */
function versionOf(document: string): number {
  return Number(/"version":\s*(\d+)/.exec(document.slice(0, 200))?.[1] ?? 1)
}
