import { currentVersion, keptText, type Part, readPartFile } from '@makrel/core/document'
import { DataTypes, type Model, type ModelStatic, Op, type Sequelize, type Transaction } from 'sequelize'
import { PictureStore } from './pictures.ts'

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

/** An earlier state of a part, in the list of its history. */
export interface RevisionEntry {
  readonly revision: number
  readonly createdAt: string
  readonly name: string
}

export type SaveOutcome =
  | { readonly kind: 'saved'; readonly revision: number; readonly updatedAt: string }
  | { readonly kind: 'missing' }
  /** what is kept comes from a newer version of the program, and is left alone */
  | { readonly kind: 'newer'; readonly version: number }
  | { readonly kind: 'stale'; readonly revision: number; readonly document: Part }

type Row = Model<PartRow, Partial<PartRow>> & PartRow
interface RevisionRow {
  readonly partId: string
  readonly revision: number
  readonly document: string
  readonly name: string | null
  readonly createdAt: Date
}
type RevisionModel = Model<RevisionRow, Partial<RevisionRow>> & RevisionRow

/** The parts kept in the database. Writes run one after another; each is one transaction. */
export class PartStore {
  readonly #parts: ModelStatic<Row>
  readonly #revisions: ModelStatic<RevisionModel>
  readonly #pictures: PictureStore
  readonly #database: Sequelize
  readonly #kept: number
  #lastWrite: Promise<unknown> = Promise.resolve()

  constructor(database: Sequelize, kept = keptRevisions) {
    this.#database = database
    this.#kept = kept
    this.#pictures = new PictureStore(database)
    this.#parts = database.define<Row>('part', {
      id: { type: DataTypes.STRING, primaryKey: true },
      name: DataTypes.STRING,
      revision: DataTypes.INTEGER,
      document: DataTypes.TEXT,
      picture: DataTypes.BLOB,
      pictureRevision: DataTypes.INTEGER,
      size: DataTypes.STRING,
      removedAt: DataTypes.DATE,
      createdAt: DataTypes.DATE,
      updatedAt: DataTypes.DATE,
    })
    this.#revisions = database.define<RevisionModel>(
      'revision',
      {
        partId: { type: DataTypes.STRING, primaryKey: true },
        revision: { type: DataTypes.INTEGER, primaryKey: true },
        document: DataTypes.TEXT,
        name: DataTypes.STRING,
        createdAt: DataTypes.DATE,
      },
      { updatedAt: false },
    )
  }

  count(): Promise<number> {
    return this.#parts.count()
  }

  /** Parts on the shelf, the latest changed first; `search` looks in names. */
  async list(search = ''): Promise<ShelfEntry[]> {
    const name = search.trim() ? { name: { [Op.like]: `%${search.trim().replace(/[\\%_\0]/g, '')}%` } } : {}
    const rows = await this.#parts.findAll({
      where: { removedAt: null, ...name },
      attributes: ['id', 'name', 'revision', 'updatedAt', 'size', 'pictureRevision'],
      order: [
        ['updatedAt', 'DESC'],
        ['name', 'ASC'],
      ],
    })
    return rows.map(({ id, name, revision, updatedAt, size, pictureRevision }) => ({
      id,
      name,
      revision,
      updatedAt: updatedAt.toISOString(),
      size: size ? JSON.parse(size) : null,
      pictureRevision,
    }))
  }

  /** What was kept in an earlier version comes back in the current one. */
  async read(id: string): Promise<{ document: Part; revision: number; updatedAt: string } | undefined> {
    const row = await this.#parts.findOne({ where: { id, removedAt: null } })
    if (!row) return undefined
    const document = readPartFile(await this.#pictures.whole(row.document))
    return { document, revision: row.revision, updatedAt: row.updatedAt.toISOString() }
  }

  /** Keeps a new part; false where its id is taken. */
  create(document: Part): Promise<boolean> {
    return this.write(async (transaction) => {
      const text = await this.#pictures.put(keptText(document), transaction)
      const there = await this.#parts.findByPk(document.id, { transaction })
      // Asked again for what was kept already: the answer was lost on its way.
      if (there) return there.revision === 1 && there.removedAt === null && there.document === text
      await this.#parts.create({ id: document.id, name: document.name, revision: 1, document: text }, { transaction })
      await this.#revisions.create({ partId: document.id, revision: 1, document: text }, { transaction })
      return true
    })
  }

  /** Keeps a new state of a part, if `base` is still the latest revision. */
  save(id: string, base: number, document: Part): Promise<SaveOutcome> {
    return this.write(async (transaction): Promise<SaveOutcome> => {
      const row = await this.#parts.findOne({ where: { id, removedAt: null }, transaction })
      if (!row) return { kind: 'missing' }
      const version = versionOf(row.document)
      if (version > currentVersion) return { kind: 'newer', version }
      const text = await this.#pictures.put(keptText(document), transaction)
      if (row.revision !== base) {
        // The very same state: this save was done, and its answer was lost on its way.
        if (row.revision === base + 1 && row.document === text)
          return { kind: 'saved', revision: row.revision, updatedAt: row.updatedAt.toISOString() }
        const theirs = readPartFile(await this.#pictures.whole(row.document, transaction))
        return { kind: 'stale', revision: row.revision, document: theirs }
      }
      const revision = base + 1
      await row.update({ name: document.name, revision, document: text }, { transaction })
      await this.#revisions.create({ partId: id, revision, document: text }, { transaction })
      await this.#revisions.destroy({
        // Those that were given a name are kept.
        where: { partId: id, revision: { [Op.lte]: revision - this.#kept }, name: null },
        transaction,
      })
      return { kind: 'saved', revision, updatedAt: row.updatedAt.toISOString() }
    })
  }

  /** The kept states of a part, the latest first; undefined where there is no such part. */
  async revisions(id: string): Promise<RevisionEntry[] | undefined> {
    if (!(await this.#parts.count({ where: { id, removedAt: null } }))) return undefined
    const rows = await this.#revisions.findAll({
      where: { partId: id },
      attributes: ['revision', 'createdAt', 'name'],
      order: [['revision', 'DESC']],
    })
    return rows.map(({ revision, createdAt, name }) => ({
      revision,
      createdAt: createdAt.toISOString(),
      name: name ?? '',
    }))
  }

  /** A part as it was; what was kept in an earlier version comes back in the current one. */
  async revision(id: string, revision: number): Promise<Part | undefined> {
    if (!(await this.#parts.count({ where: { id, removedAt: null } }))) return undefined
    const row = await this.#revisions.findOne({ where: { partId: id, revision } })
    return row ? readPartFile(await this.#pictures.whole(row.document)) : undefined
  }

  /** Names a kept state, or takes its name away; false where there is none. */
  nameRevision(id: string, revision: number, name: string): Promise<boolean> {
    return this.write(async (transaction) => {
      const [changed] = await this.#revisions.update(
        { name: name.trim() || null },
        { where: { partId: id, revision }, transaction },
      )
      return changed > 0
    })
  }

  /** Takes a part off the shelf, or (`removed` false) puts it back; false where there is none. */
  setRemoved(id: string, removed: boolean): Promise<boolean> {
    return this.write(async (transaction) => {
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
    return this.write(async (transaction) => {
      const row = await this.#parts.findOne({ where: { id, removedAt: null }, transaction })
      if (!row) return false
      // A picture of a state that is not the latest any more is let go.
      if (picture.revision !== row.revision) return true
      await row.update(
        { picture: picture.png, pictureRevision: picture.revision, size: JSON.stringify(picture.size) },
        { transaction, silent: true },
      )
      return true
    })
  }

  /** Resolves when every write that was asked for is done. */
  async settled(): Promise<void> {
    await this.#lastWrite
  }

  private write<T>(work: (transaction: Transaction) => Promise<T>): Promise<T> {
    const done = this.#lastWrite.then(() => this.#database.transaction(work))
    this.#lastWrite = done.catch(() => undefined)
    return done
  }
}

/** The version that a kept document is written in; it stands near its beginning. */
function versionOf(document: string): number {
  return Number(/"version":\s*(\d+)/.exec(document.slice(0, 200))?.[1] ?? 1)
}
