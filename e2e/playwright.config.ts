import { defineConfig } from '@playwright/test'
import { chromiumOptions } from '../scripts/chromium.mjs'

/** Where the processor stands in for a graphics card, smooth edges and painting the page through it are half of the time that a journey takes. */
const quickly = ['--webgl-msaa-sample-count=0', '--disable-gpu-compositing', '--disable-gpu-rasterization']

export default defineConfig({
  testDir: '.',
  globalSetup: './pictured.ts',
  timeout: 240_000,
  expect: { timeout: 60_000 },
  // Each journey has a server and a database of its own.
  fullyParallel: true,
  workers: 2,
  // A machine that stalls is not a fault of the application; what passes only at the second try is named at the end.
  retries: 1,
  reporter: process.env.MAKREL_E2E_REPORT
    ? [['list'], ['json', { outputFile: process.env.MAKREL_E2E_REPORT }]]
    : [['list']],
  outputDir: '../test-results',
  use: {
    viewport: { width: 1280, height: 800 },
    deviceScaleFactor: 1,
    launchOptions: { ...chromiumOptions, args: [...chromiumOptions.args, ...quickly] },
    // Traces cost a sixth of the time of a journey: only what failed is traced, at its second try.
    trace: 'on-first-retry',
    acceptDownloads: true,
  },
})
