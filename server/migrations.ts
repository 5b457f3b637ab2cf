import { DataTypes, type QueryInterface } from 'sequelize'
import type { RunnableMigration } from 'umzug'

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
]
