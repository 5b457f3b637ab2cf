import { mkdirSync } from 'node:fs'
import { dirname } from 'node:path'
import { Sequelize } from 'sequelize'
import { SequelizeStorage, Umzug } from 'umzug'
import { migrations } from './migrations.ts'

/** Opens the database file, making it and its folder where they are missing, and brings its tables up to date. */
export async function openDatabase(file: string): Promise<Sequelize> {
  mkdirSync(dirname(file), { recursive: true })
  const database = new Sequelize({ dialect: 'sqlite', storage: file, logging: false, pool: { max: 1, min: 1 } })
  // Write-ahead logging: a killed process leaves the last complete write, and readers do not wait for writers.
  await database.query('PRAGMA journal_mode = WAL')
  await database.query('PRAGMA synchronous = FULL')
  await database.query('PRAGMA foreign_keys = ON')
  await database.query('PRAGMA busy_timeout = 5000')
  const umzug = new Umzug({
    migrations: [...migrations],
    context: database.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize: database }),
    logger: undefined,
  })
  await umzug.up()
  return database
}
