import { accessSync, constants, existsSync, mkdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { dirname } from 'node:path'
import { Sequelize } from 'sequelize'
import sqlite3 from 'sqlite3'
import { SequelizeStorage, Umzug } from 'umzug'
import { migrations } from './migrations.ts'
import { StartFault } from './network.ts'
import { copyQuery, setUp, sqlitePool } from './sqlite.ts'

/**
 * Opens the database file, making it and its folder where they are missing, and brings its tables up to date; what is not
 * sound, another program's, or a newer version's is left as it is. A copy is made before tables are changed.
 *
 * @throws StartFault
 */
export async function openDatabase(file: string): Promise<Sequelize> {
  try {
    mkdirSync(dirname(file), { recursive: true })
    accessSync(existsSync(file) ? file : dirname(file), constants.W_OK)
    const filled = existsSync(file) && isFilled(file)
    const done = filled ? await lookedAt(file) : undefined
    return await opened(file, done)
  } catch (error) {
    throw error instanceof StartFault ? error : new StartFault(inWords(error, file))
  }
}

function isFilled(file: string): boolean {
  const found = statSync(file)
  if (!found.isFile()) throw new Error('EISDIR: it is no file')
  return found.size > 0
}

/** `done`: the names of the migrations that the file has been through; undefined for a new one. */
async function opened(file: string, done: readonly string[] | undefined): Promise<Sequelize> {
  const database = new Sequelize({ dialect: 'sqlite', storage: file, logging: false, pool: sqlitePool })
  try {
    await setUp(database)
    const next = done && migrations.find(({ name }) => !done.includes(name))
    if (next) await copied(database, `${file}.before-${next.name}`)
    const umzug = new Umzug({
      migrations: [...migrations],
      context: database.getQueryInterface(),
      storage: new SequelizeStorage({ sequelize: database }),
      logger: undefined,
    })
    await umzug.up()
    return database
  } catch (error) {
    await database.close()
    throw error
  }
}

/** A whole copy of a database, also while it is written to. */
export async function copied(database: Sequelize, to: string): Promise<void> {
  if (existsSync(to)) rmSync(to)
  await database.query(copyQuery(to))
}

/**
 * Copies a database into a file that is not there yet, also while a server writes to it; tells how many parts it holds.
 * @throws StartFault
 */
export async function backedUp(file: string, to: string): Promise<number> {
  if (!existsSync(file) || !isFilled(file)) throw new StartFault(`${file} does not exist, so there is nothing to copy.`)
  if (existsSync(to)) throw new StartFault(`${to} exists already; give another name.`)
  await lookedAt(file).catch((error: unknown) => {
    throw error instanceof StartFault ? error : new StartFault(inWords(error, file))
  })
  try {
    const database = await readOnly(file)
    try {
      await database.column(copyQuery(to))
    } finally {
      await database.close()
    }
    const copy = await readOnly(to)
    try {
      const [state] = await copy.column('PRAGMA integrity_check(1)')
      if (state !== 'ok') throw new StartFault(`The copy ${to} is damaged: do not rely on it.`)
      const [count] = await copy.column('SELECT count(*) FROM parts WHERE removedAt IS NULL')
      return Number(count)
    } finally {
      await copy.close()
    }
  } catch (error) {
    throw error instanceof StartFault ? error : new StartFault(inWords(error, to))
  }
}

/** What a file that is there has been through, without touching it. */
async function lookedAt(file: string): Promise<string[]> {
  const database = await readOnly(file)
  try {
    const tables = await database.column("SELECT name FROM sqlite_master WHERE type = 'table'")
    const own = tables.includes('SequelizeMeta') && tables.includes('parts')
    if (tables.length > 0 && !own)
      throw new StartFault(
        `${file} is the database of another program; it was left as it is. Set MAKREL_DATABASE to another file.`,
      )
    const done = own ? await database.column('SELECT name FROM SequelizeMeta') : []
    const newer = done.find((name) => !migrations.some((known) => known.name === name))
    if (newer !== undefined && !/^\d{3}-[a-z-]+$/.test(newer)) throw new StartFault(damaged(file))
    if (newer !== undefined)
      throw new StartFault(
        `${file} was written by a newer version (${newer}); it was left as it is. Start that version, or set MAKREL_DATABASE to another file.`,
      )
    const [state] = await database.column('PRAGMA quick_check(1)')
    if (state !== 'ok') throw new StartFault(damaged(file))
    return done
  } finally {
    await database.close()
  }
}

/** The first column of what a query of a file finds. */
async function readOnly(file: string) {
  const opened = await new Promise<sqlite3.Database>((done, failed) => {
    const database = new sqlite3.Database(file, sqlite3.OPEN_READONLY, (error) =>
      error ? failed(error) : done(database),
    )
  })
  return {
    column: (query: string) =>
      new Promise<string[]>((done, failed) =>
        opened.all<Record<string, string>>(query, (error, rows) =>
          error ? failed(error) : done(rows.map((row) => Object.values(row)[0]!)),
        ),
      ),
    close: () => new Promise<void>((done) => opened.close(() => done())),
  }
}

const damaged = (file: string) =>
  `${file} is damaged or not a database; it was left as it is. Restore a backup, or set MAKREL_DATABASE to another file.`

function inWords(error: unknown, file: string): string {
  const text = error instanceof Error ? error.message : String(error)
  if (/SQLITE_(NOTADB|CORRUPT)/.test(text)) return damaged(file)
  if (/SQLITE_(READONLY|CANTOPEN|PERM)|EACCES|EPERM|EROFS|ENOTDIR|EISDIR|ENOENT/.test(text))
    return `${file} cannot be opened for writing; change who may write to it, or set MAKREL_DATABASE to another file.`
  if (/SQLITE_(FULL|IOERR)|ENOSPC/.test(text)) return `There is no room to write ${file}.`
  return `${file} cannot be used: ${text}`
}

/**
 * Takes a database for this process; a file beside it names who has it, and since when that runs: numbers of processes are used again.
 * One that a killed process left is taken over.
 * @throws StartFault where another process that runs has it
 */
export function takenByThis(file: string): () => void {
  const lock = `${file}.lock`
  const own = [process.pid, startOf(process.pid)].join(' ').trim()
  const owner = () => (existsSync(lock) ? readFileSync(lock, 'utf8').trim() : '')
  try {
    mkdirSync(dirname(file), { recursive: true })
  } catch (error) {
    throw new StartFault(inWords(error, file))
  }
  for (;;) {
    try {
      writeFileSync(lock, own, { flag: 'wx' })
      return () => {
        if (owner() === own) rmSync(lock)
      }
    } catch (error) {
      if ((error as { code?: string }).code !== 'EEXIST') throw new StartFault(inWords(error, file))
      const other = owner()
      if (other !== own && isRunning(other))
        throw new StartFault(
          `${file} is in use by another server (process ${other.split(' ')[0]}); stop that one first. If that is something else, remove ${lock}.`,
        )
      rmSync(lock, { force: true })
    }
  }
}

/** Whether the process that a lock names runs, and is the one that wrote it. */
function isRunning(owner: string): boolean {
  const [pid, since] = owner.split(' ')
  const number = Number(pid)
  if (!Number.isInteger(number) || number <= 0) return false
  try {
    process.kill(number, 0)
  } catch (error) {
    if ((error as { code?: string }).code !== 'EPERM') return false
  }
  const now = startOf(number)
  return since === undefined || now === '' || since === now
}

/** When a process began, as the system counts it (proc(5): field 22 of stat, behind its name in brackets); empty where it does not tell. */
function startOf(pid: number): string {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8')
    return stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19] ?? ''
  } catch {
    return ''
  }
}
