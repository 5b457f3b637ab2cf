import { workshopKinds } from '@makrel/core/fits'
import { DataTypes, type ModelAttributeColumnOptions, type QueryInterface, QueryTypes } from 'sequelize'
import type { RunnableMigration } from 'umzug'
import { nameKey, packed } from './kept.ts'
import { shippedThings } from './workshop.ts'

type ColumnType = ModelAttributeColumnOptions

/** The tables, one step per change that was ever published; steps are never edited, only added. */
export const migrations: readonly RunnableMigration<QueryInterface>[] = [
  {
    name: '001-parts-and-revisions',
    up: async ({ context: query }) => {
      await query.createTable('parts', {
        id: { type: DataTypes.STRING, primaryKey: true },
        name: { type: DataTypes.STRING, allowNull: false },
        revision: { type: DataTypes.INTEGER, allowNull: false },
        document: { type: DataTypes.TEXT, allowNull: false },
        picture: { type: DataTypes.BLOB },
        pictureRevision: { type: DataTypes.INTEGER },
        /** JSON: overall size [x, y, z] in mm, as it was when the picture was taken */
        size: { type: DataTypes.STRING },
        removedAt: { type: DataTypes.DATE },
        createdAt: { type: DataTypes.DATE, allowNull: false },
        updatedAt: { type: DataTypes.DATE, allowNull: false },
      })
      await query.createTable('revisions', {
        partId: { type: DataTypes.STRING, primaryKey: true, references: { model: 'parts', key: 'id' } },
        revision: { type: DataTypes.INTEGER, primaryKey: true },
        document: { type: DataTypes.TEXT, allowNull: false },
        createdAt: { type: DataTypes.DATE, allowNull: false },
      })
    },
    down: async ({ context: query }) => {
      await query.dropTable('revisions')
      await query.dropTable('parts')
    },
  },
  {
    name: '002-names-of-revisions',
    up: ({ context: query }) => query.addColumn('revisions', 'name', { type: DataTypes.STRING }),
    down: ({ context: query }) => query.removeColumn('revisions', 'name'),
  },
  {
    name: '003-pictures-of-outlines',
    up: ({ context: query }) =>
      query.createTable('kept_pictures', {
        hash: { type: DataTypes.STRING, primaryKey: true },
        data: { type: DataTypes.TEXT, allowNull: false },
      }),
    down: ({ context: query }) => query.dropTable('kept_pictures'),
  },
  {
    name: '004-packed-states-and-shelf-order',
    up: async ({ context: query }) => {
      const database = query.sequelize
      // A process that is killed in the middle has done nothing of it, and one killed right after all of it.
      if ('packed' in (await query.describeTable('revisions'))) return
      await database.transaction(async (transaction) => {
        const rows = <T extends object>(sql: string, replacements: Record<string, unknown> = {}) =>
          database.query<T>(sql, { replacements, type: QueryTypes.SELECT, transaction })
        const run = (sql: string, replacements: Record<string, unknown> = {}) =>
          database.query(sql, { replacements, transaction })
        // Pictures were pointed to by a text; they are by a kind of their own, which no part file can hold.
        const pointed = (text: string) => text.replace(/("data": )"picture:([0-9a-f]{64})"/g, '$1{ "picture": "$2" }')

        await query.createTable(
          'packed_revisions',
          {
            partId: { type: DataTypes.STRING, primaryKey: true, references: { model: 'parts', key: 'id' } },
            revision: { type: DataTypes.INTEGER, primaryKey: true },
            packed: { type: DataTypes.BLOB, allowNull: false },
            name: { type: DataTypes.STRING },
            createdAt: { type: DataTypes.DATE, allowNull: false },
          },
          { transaction },
        )
        const places = await rows<{ partId: string; revision: number }>('SELECT partId, revision FROM revisions')
        for (const place of places) {
          const [row] = await rows<{ document: string; name: string | null; createdAt: string }>(
            'SELECT document, name, createdAt FROM revisions WHERE partId = :partId AND revision = :revision',
            place,
          )
          const { document, ...rest } = row!
          await run(
            'INSERT INTO packed_revisions (partId, revision, packed, name, createdAt) VALUES (:partId, :revision, :packed, :name, :createdAt)',
            { ...place, ...rest, packed: packed(pointed(document)) },
          )
        }
        await run('DROP TABLE revisions')
        await run('ALTER TABLE packed_revisions RENAME TO revisions')

        await run('ALTER TABLE parts ADD COLUMN longest FLOAT')
        for (const { id, document, size } of await rows<{ id: string; document: string; size: string | null }>(
          `SELECT id, size, CASE WHEN document LIKE '%"picture:%' THEN document ELSE '' END AS document FROM parts`,
        )) {
          if (document)
            await run('UPDATE parts SET document = :document WHERE id = :id', { id, document: pointed(document) })
          if (size)
            await run('UPDATE parts SET longest = :longest WHERE id = :id', {
              id,
              longest: Math.max(...JSON.parse(size)),
            })
        }
        // All that the shelf is searched and put in order by, so that it need not look at the documents.
        await run('CREATE INDEX shelf ON parts (removedAt, updatedAt, name, longest, id)')
      })
      await database.query('VACUUM')
    },
  },
  {
    name: '005-owners-and-names-to-search',
    up: async ({ context: query }) => {
      const database = query.sequelize
      if ('owner' in (await query.describeTable('parts'))) return
      await database.transaction(async (transaction) => {
        const column = (name: string, type: ColumnType) => query.addColumn('parts', name, type, { transaction })
        await column('owner', { type: DataTypes.STRING, allowNull: false, defaultValue: '' })
        await column('version', { type: DataTypes.INTEGER, allowNull: false, defaultValue: 1 })
        await column('nameKey', { type: DataTypes.STRING, allowNull: false, defaultValue: '' })
        const rows = await database.query<{ id: string; name: string; head: string }>(
          'SELECT id, name, substr(document, 1, 200) AS head FROM parts',
          { type: QueryTypes.SELECT, transaction },
        )
        for (const { id, name, head } of rows)
          await database.query('UPDATE parts SET version = :version, nameKey = :key WHERE id = :id', {
            replacements: { id, key: nameKey(name), version: Number(/"version":\s*(\d+)/.exec(head)?.[1] ?? 1) },
            transaction,
          })
        await query.removeIndex('parts', 'shelf', { transaction })
        await query.addIndex('parts', ['owner', 'removedAt', 'updatedAt', 'nameKey', 'longest', 'id'], {
          name: 'shelf',
          transaction,
        })
      })
    },
  },
  {
    name: '006-units',
    up: async ({ context: query }) => {
      const database = query.sequelize
      if ('unit' in (await query.describeTable('parts'))) return
      await database.transaction(async (transaction) => {
        const unit = { type: DataTypes.STRING, allowNull: false, defaultValue: 'mm' }
        await query.addColumn('parts', 'unit', unit, { transaction })
        // It stands near the beginning, before all that a maker writes but the name.
        const rows = await database.query<{ id: string; head: string }>(
          'SELECT id, substr(document, 1, 2000) AS head FROM parts',
          { type: QueryTypes.SELECT, transaction },
        )
        for (const { id, head } of rows)
          if (/^\s*"unit":\s*"in"/m.test(head))
            await database.query("UPDATE parts SET unit = 'in' WHERE id = :id", { replacements: { id }, transaction })
      })
    },
  },
  {
    name: '007-printers-and-materials',
    up: async ({ context: query }) => {
      const database = query.sequelize
      if (await query.tableExists('workshop_things')) return
      await database.transaction(async (transaction) => {
        const text = { type: DataTypes.TEXT, allowNull: false }
        const date = { type: DataTypes.DATE, allowNull: false }
        await query.createTable(
          'workshop_things',
          {
            kind: { type: DataTypes.STRING, primaryKey: true },
            id: { type: DataTypes.STRING, primaryKey: true },
            owner: { type: DataTypes.STRING, primaryKey: true },
            name: { type: DataTypes.STRING, allowNull: false },
            revision: { type: DataTypes.INTEGER, allowNull: false },
            thing: text,
            formerly: text,
            removedAt: { type: DataTypes.DATE },
            createdAt: date,
            updatedAt: date,
          },
          { transaction },
        )
        // In this order, which is that of the list.
        const began = Date.now()
        const rows = workshopKinds.flatMap((kind) =>
          shippedThings[kind].map((thing, i) => ({
            ...{ kind, id: thing.id, owner: '', name: thing.name, revision: 1 },
            ...{ thing: JSON.stringify(thing), formerly: '[]', removedAt: null },
            ...{ createdAt: new Date(began + i), updatedAt: new Date(began + i) },
          })),
        )
        await query.bulkInsert('workshop_things', rows, { transaction })
      })
    },
    down: ({ context: query }) => query.dropTable('workshop_things'),
  },
  {
    // As part files of version 13 tell it of the same materials: a part and the workshop it comes from agree.
    name: '008-between-layers',
    up: async ({ context: query }) => {
      const database = query.sequelize
      const told = new Map(Object.entries({ pla: 55, petg: 60, asa: 45, pa: 60, tpu: 70 }))
      await database.transaction(async (transaction) => {
        const rows = await database.query<{ id: string; owner: string; thing: string; formerly: string }>(
          "SELECT id, owner, thing, formerly FROM workshop_things WHERE kind = 'materials'",
          { type: QueryTypes.SELECT, transaction },
        )
        for (const { id, owner, thing, formerly } of rows) {
          if (!told.has(id)) continue
          const whole = (state: object) => ({ acrossLayers: told.get(id), ...state })
          const replacements = {
            ...{ id, owner, thing: JSON.stringify(whole(JSON.parse(thing))) },
            formerly: JSON.stringify((JSON.parse(formerly) as object[]).map(whole)),
          }
          await database.query(
            "UPDATE workshop_things SET thing = :thing, formerly = :formerly WHERE kind = 'materials' AND id = :id AND owner = :owner",
            { replacements, transaction },
          )
        }
      })
    },
  },
]
