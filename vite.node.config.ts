import { defineConfig } from 'vite'

/** Bundles the server and the command line for Node: our own workspaces go in, packages stay outside. */
export default defineConfig({
  // What one build has drawn is not shown by another one: see scripts/build.mjs.
  define: { __VERSION_BUILT__: JSON.stringify(process.env.MAKREL_BUILT ?? 'unbuilt') },
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
