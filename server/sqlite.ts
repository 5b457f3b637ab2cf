import type { Sequelize } from 'sequelize'

/** All that is said to SQLite and to no other database. */
const settings = [
  // Write-ahead logging: a killed process leaves the last complete write, and readers do not wait for writers.
  'PRAGMA journal_mode = WAL',
  'PRAGMA synchronous = FULL',
  'PRAGMA foreign_keys = ON',
  'PRAGMA busy_timeout = 5000',
]

/** One connection: the settings are of a connection, and SQLite writes one at a time anyway. */
export const sqlitePool = { max: 1, min: 1 }

export async function setUp(database: Sequelize): Promise<void> {
  for (const setting of settings) await database.query(setting)
}

/** A whole copy of a database, also while it is written to; `to` is a file that is not there. */
export function copyQuery(to: string): string {
  return `VACUUM INTO '${to.replaceAll("'", "''")}'`
}
