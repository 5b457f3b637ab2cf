import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    include: [
      'core/**/*.test.ts',
      'threads/**/*.test.ts',
      'server/**/*.test.ts',
      'cli/**/*.test.ts',
      'web/**/*.test.ts',
      'scripts/**/*.test.ts',
    ],
    setupFiles: ['core/testing/seed.ts'],
    // A slow machine is not a fault: what hangs is told all the same.
    testTimeout: 120_000,
    hookTimeout: 120_000,
    // Nothing else runs meanwhile, so that no core need be left free.
    maxWorkers: '100%',
  },
})
