import { main } from './run.ts'

/** For tests only: a process that runs one command line after the other, so that each finds what it runs compiled by those before it. */
export interface Ended {
  readonly status: number
  readonly stdout: string
  readonly stderr: string
}

async function ended(args: readonly string[]): Promise<Ended> {
  const told = { stdout: '', stderr: '' }
  const own = (['stdout', 'stderr'] as const).map((name) => {
    const { write } = process[name]
    process[name].write = (text: string | Uint8Array) => {
      told[name] += text
      return true
    }
    return () => {
      process[name].write = write
    }
  })
  try {
    return { status: await main(args), ...told }
  } catch (error) {
    // As the program by itself would end.
    return { status: 1, stdout: told.stdout, stderr: `${told.stderr}${(error as Error).stack}` }
  } finally {
    for (const back of own) back()
  }
}

process.on('message', async (args: readonly string[]) => process.send!(await ended(args)))
process.on('disconnect', () => process.exit())
