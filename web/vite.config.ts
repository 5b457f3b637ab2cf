import { join } from 'node:path'
import tailwind from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig, type Plugin } from 'vite'
import { chunks } from './chunks.ts'

/** The canvas knows all of the drawing library as elements, and would bring all of it along. */
const elements: Plugin = {
  name: 'elements',
  enforce: 'pre',
  resolveId: (source, importer) =>
    source === 'three' && importer?.endsWith('react-three-fiber.esm.js')
      ? join(import.meta.dirname, 'viewport/elements.ts')
      : undefined,
}

export default defineConfig({
  // Fonts are outlines by the thousand: as text they are read many times as fast as as script.
  json: { stringify: true },
  // What one build has drawn is not shown by another one: see scripts/build.mjs.
  define: { __VERSION_BUILT__: JSON.stringify(process.env.MAKREL_BUILT ?? 'unbuilt') },
  root: import.meta.dirname,
  plugins: [react(), tailwind(), elements],
  worker: { format: 'es' },
  build: {
    outDir: '../dist/web',
    emptyOutDir: true,
    target: 'es2022',
    chunkSizeWarningLimit: 1500,
    rolldownOptions: {
      output: {
        codeSplitting: chunks,
      },
    },
  },
  server: { proxy: { '/api': { target: 'http://127.0.0.1:4310', ws: true } } },
  logLevel: 'warn',
})
