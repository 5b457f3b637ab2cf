import { currentVersion, type RevisionEntry, type ShelfOrder, type ShelfPage } from '@makrel/core/document'
import type { PartUnit } from '@makrel/core/units'
import {
  col,
  DataTypes,
  fn,
  type Model,
  type ModelStatic,
  Op,
  type Order,
  type Sequelize,
  where as sqlWhere,
  type Transaction,
} from 'sequelize'
import { AssetStore } from './assets.ts'
import { type KeptPart, nameKey } from './kept.ts'
import type { Scope } from './scope.ts'
import { StateStore } from './states.ts'
import { type Health, Writes } from './writes.ts'

/** How many earlier states of a part are kept, beside those that have a name. */
export const keptRevisions = 500

export interface PartRow {
  readonly id: string
  readonly owner: string
  readonly name: string
  /** the name as it is searched for and put in order by */
  readonly nameKey: string
  readonly unit: PartUnit
  /** of the format that the document is written in */
  readonly version: number
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

const orders: Record<ShelfOrder, Order> = {
  changed: [
    ['updatedAt', 'DESC'],
    ['id', 'ASC'],
  ],
  name: [
    ['nameKey', 'ASC'],
    ['id', 'ASC'],
  ],
  size: [
    ['longest', 'DESC'],
    ['id', 'ASC'],
  ],
}

export type SaveOutcome =
  | { readonly kind: 'saved'; readonly revision: number; readonly updatedAt: string }
  | { readonly kind: 'missing' }
  /** what is kept comes from a newer version of the program, and is left alone */
  | { readonly kind: 'newer'; readonly version: number }
  | { readonly kind: 'stale'; readonly revision: number; readonly text: string }

type Row = Model<PartRow, Partial<PartRow>> & PartRow
interface Tables {
  readonly parts: ModelStatic<Row>
  readonly states: StateStore
  readonly assets: AssetStore
  readonly writes: Writes
}

/** All parts kept in the database. Writes run one after another; what waits together is one transaction. */
export class PartStore {
  readonly #tables: Tables

  constructor(database: Sequelize, kept = keptRevisions, writes = new Writes(database)) {
    const parts = database.define<Row>('part', {
      id: { type: DataTypes.STRING, primaryKey: true },
      owner: DataTypes.STRING,
      name: DataTypes.STRING,
      nameKey: DataTypes.STRING,
      unit: DataTypes.STRING,
      version: DataTypes.INTEGER,
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
    const [states, assets] = [new StateStore(database, kept), new AssetStore(database)]
    this.#tables = { parts, states, assets, writes }
  }

  /** What one owner has. Nothing on it reaches another one's parts. */
  shelf(scope: Scope): Shelf {
    return new Shelf(this.#tables, scope)
  }

  /** Of all owners. */
  count(): Promise<number> {
    return this.#tables.parts.count()
  }

  /** Of all owners' parts on the shelf those that were changed last, the latest first. */
  changedLately(count: number): Promise<Pick<PartRow, 'owner' | 'id' | 'revision' | 'updatedAt'>[]> {
    return this.#tables.parts.findAll({
      where: { removedAt: null },
      attributes: ['owner', 'id', 'revision', 'updatedAt'],
      order: orders.changed,
      limit: count,
    })
  }

  /** How writing goes, without a wait for what is being written. */
  health(): Health {
    return this.#tables.writes.health()
  }

  /** Resolves when every write that was asked for is done. */
  settled(): Promise<void> {
    return this.#tables.writes.settled()
  }
}

/** The parts of one owner. */
export class Shelf {
  readonly #parts: ModelStatic<Row>
  readonly #states: StateStore
  readonly #assets: AssetStore
  readonly #writes: Writes
  readonly #owner: string

  /** @internal use `PartStore.shelf` */
  constructor({ parts, states, assets, writes }: Tables, { owner }: Scope) {
    this.#parts = parts
    this.#states = states
    this.#assets = assets
    this.#writes = writes
    this.#owner = owner
  }

  /** A part of this owner that was not taken off the shelf. */
  private kept(id: string) {
    return { id, owner: this.#owner, removedAt: null }
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
    // No name holds a zero, and no query does. All other signs stand for themselves, as they would not in a pattern.
    const looked = nameKey(search.trim().replaceAll('\0', ''))
    const named = sqlWhere(fn('instr', col('nameKey'), looked), { [Op.gt]: 0 })
    const own = { owner: this.#owner, removedAt: null }
    const where = looked ? { [Op.and]: [own, named] } : own
    // In two steps: which ones is told by an index alone, without a look at thousands of documents.
    const [total, places] = await Promise.all([
      this.#parts.count({ where }),
      this.#parts.findAll({ where, attributes: ['id'], order: orders[order], offset: from, limit: count }),
    ])
    const ids = places.map(({ id }) => id)
    const rows = await this.#parts.findAll({
      where: { id: ids },
      attributes: ['id', 'name', 'unit', 'revision', 'updatedAt', 'size', 'pictureRevision'],
    })
    const byId = new Map(rows.map((row) => [row.id, row]))
    const entries = ids.flatMap((id) => {
      const row = byId.get(id)
      if (!row) return []
      const { name, unit, revision, updatedAt, size, pictureRevision } = row
      return [
        {
          ...{ id, name, unit, revision, pictureRevision },
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
      where: this.kept(id),
      attributes: ['document', 'revision', 'updatedAt'],
    })
    if (!row) return undefined
    const text = await this.#assets.whole(row.document)
    return { text, revision: row.revision, updatedAt: row.updatedAt.toISOString() }
  }

  /** Keeps a new part; false where its id is taken. */
  create({ id, name, unit, version, text, assets, state }: KeptPart): Promise<boolean> {
    return this.#writes.write(async (transaction) => {
      await this.#assets.put(assets, transaction)
      const there = await this.#parts.findByPk(id, { transaction })
      // Asked again for what was kept already: the answer was lost on its way.
      if (there)
        return (
          there.owner === this.#owner && there.revision === 1 && there.removedAt === null && there.document === text
        )
      await this.#parts.create(
        { id, owner: this.#owner, name, nameKey: nameKey(name), unit, version, revision: 1, document: text },
        { transaction },
      )
      await this.#states.add(id, 1, state, transaction)
      return true
    })
  }

  /** Keeps a new state of a part, if `base` is still the latest revision: the database itself compares and sets. */
  save(base: number, { id, name, unit, version, text, assets, state }: KeptPart): Promise<SaveOutcome> {
    return this.#writes.write(async (transaction): Promise<SaveOutcome> => {
      const [revision, updatedAt] = [base + 1, new Date()]
      const [set] = await this.#parts.update(
        { name, nameKey: nameKey(name), unit, version, revision, document: text, updatedAt },
        {
          where: { ...this.kept(id), revision: base, version: { [Op.lte]: currentVersion } },
          transaction,
          silent: true,
        },
      )
      if (set === 0) return this.whyNot(id, base, text, transaction)
      await this.#assets.put(assets, transaction)
      await this.#states.add(id, revision, state, transaction)
      return { kind: 'saved', revision, updatedAt: updatedAt.toISOString() }
    })
  }

  /** Why a save on `base` changed nothing. */
  private async whyNot(id: string, base: number, text: string, transaction: Transaction): Promise<SaveOutcome> {
    const row = await this.#parts.findOne({
      where: this.kept(id),
      attributes: ['revision', 'updatedAt', 'version', 'document'],
      transaction,
    })
    if (!row) return { kind: 'missing' }
    const { revision, version, document } = row
    if (version > currentVersion) return { kind: 'newer', version }
    // The very same state: this save was done, and its answer was lost on its way.
    if (revision === base + 1 && document === text)
      return { kind: 'saved', revision, updatedAt: row.updatedAt.toISOString() }
    return { kind: 'stale', revision, text: await this.#assets.whole(document, transaction) }
  }

  /** The kept states of a part, the latest first; undefined where there is no such part. */
  async revisions(id: string): Promise<RevisionEntry[] | undefined> {
    if (!(await this.#parts.count({ where: this.kept(id) }))) return undefined
    return this.#states.list(id)
  }

  /** The text of a part as it was, in the version that it was kept in. */
  async revision(id: string, revision: number): Promise<string | undefined> {
    if (!(await this.#parts.count({ where: this.kept(id) }))) return undefined
    const text = await this.#states.read(id, revision)
    return text === undefined ? undefined : this.#assets.whole(text)
  }

  /** The text of a part as it is kept, whether it can be read or not. */
  async raw(id: string): Promise<string | undefined> {
    const row = await this.#parts.findOne({ where: this.kept(id), attributes: ['document'] })
    return row ? this.#assets.whole(row.document) : undefined
  }

  /** Names a kept state, or takes its name away; false where there is none. */
  nameRevision(id: string, revision: number, name: string): Promise<boolean> {
    return this.#writes.write(async (transaction) => {
      if (!(await this.#parts.count({ where: this.kept(id), transaction }))) return false
      return this.#states.rename(id, revision, name.trim() || null, transaction)
    })
  }

  /** Takes a part off the shelf, or (`removed` false) puts it back; false where there is none. */
  setRemoved(id: string, removed: boolean): Promise<boolean> {
    return this.#writes.write(async (transaction) => {
      const [changed] = await this.#parts.update(
        { removedAt: removed ? new Date() : null },
        { where: { ...this.kept(id), removedAt: removed ? null : { [Op.ne]: null } }, transaction, silent: true },
      )
      return changed > 0
    })
  }

  async picture(id: string): Promise<Buffer | undefined> {
    return (await this.#parts.findOne({ where: this.kept(id), attributes: ['picture'] }))?.picture ?? undefined
  }

  /** Pictures and meshes that are kept, by their hashes. */
  assets(hashes: readonly string[]): Promise<ReadonlyMap<string, string>> {
    return this.#assets.get(hashes)
  }

  /** The picture and size of the latest revision; false where there is no such part. */
  setPicture(id: string, picture: { revision: number; png: Buffer; size: readonly number[] }): Promise<boolean> {
    return this.#writes.write(async (transaction) => {
      const row = await this.#parts.findOne({
        where: this.kept(id),
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
}
