import { defineConfig } from 'vite'
import { define } from './scripts/built.mjs'

/** Bundles the server and the command line for Node: our own workspaces go in, packages stay outside. */
export default defineConfig({
  define,
  build: {
    ssr: true,
    target: 'node20',
    emptyOutDir: true,
    minify: false,
    sourcemap: true,
    rollupOptions: {
      // Side by side: what starts a worker finds it beside itself.
      output: { entryFileNames: '[name].js', chunkFileNames: '[name].js' },
    },
  },
  ssr: { noExternal: [/^@makrel\//] },
  logLevel: 'warn',
})
