import { defineConfig } from 'vitest/config'

// A build that ran before leaves “production” behind, in which React cannot be driven.
process.env.NODE_ENV = 'test'

// Random cases are the day's own, and the same in all workers.
process.env.MAKREL_SEED ??= String(Math.floor(Date.now() / 86_400_000))

/** They put kinds of their own into registries, which no other test must see, or have modules forgotten that others have loaded. */
const apart = [
  'core/exchange/sample.test.ts',
  'core/joints/seated.test.ts',
  'core/operations/operations.test.ts',
  'core/planning/upgrade.test.ts',
  'web/state/checks.test.ts',
  'web/state/measured.test.ts',
  'web/state/windows.test.ts',
]

export default defineConfig({
  test: {
    // A slow machine is not a fault: what hangs is told all the same.
    testTimeout: 120_000,
    hookTimeout: 120_000,
    // Nothing else runs meanwhile, so that no core need be left free.
    maxWorkers: '100%',
    // Where a machine has little memory a worker would get less than the solids of all its tests take.
    execArgv: ['--max-old-space-size=3072'],
    projects: [
      {
        extends: true,
        test: {
          name: 'together',
          include: ['core', 'threads', 'web', 'scripts'].map((folder) => `${folder}/**/*.test.ts`),
          exclude: ['**/node_modules/**', ...apart],
          setupFiles: ['core/testing/seed.ts'],
          // What core keeps between calls is nothing that another test could see; so the solid library is compiled once a worker.
          isolate: false,
        },
      },
      {
        extends: true,
        // They need the database driver, which a fresh clone compiles while all others run.
        test: {
          name: 'served',
          include: ['server', 'cli'].map((folder) => `${folder}/**/*.test.ts`),
          // Its workers run as they are built: once for all files, as a build empties the folder that others read.
          globalSetup: ['server/testing/built.ts'],
          setupFiles: ['core/testing/seed.ts'],
          isolate: false,
        },
      },
      {
        extends: true,
        // Components are driven in a document, by what a maker reads and presses.
        test: {
          name: 'components',
          include: ['web/**/*.test.tsx'],
          environment: 'happy-dom',
          setupFiles: ['core/testing/seed.ts', 'web/testing/setup.ts'],
          isolate: false,
        },
      },
      { extends: true, test: { name: 'apart', include: apart, setupFiles: ['core/testing/seed.ts'] } },
    ],
  },
})
