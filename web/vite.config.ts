import tailwind from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

export default defineConfig({
  // Fonts are outlines by the thousand: as text they are read many times as fast as as script.
  json: { stringify: true },
  // What one build has drawn is not shown by another one.
  define: { __VERSION_BUILT__: JSON.stringify(Date.now().toString(36)) },
  root: import.meta.dirname,
  plugins: [react(), tailwind()],
  worker: { format: 'es' },
  build: { outDir: '../dist/web', emptyOutDir: true, target: 'es2022', chunkSizeWarningLimit: 1500 },
  server: { proxy: { '/api': { target: 'http://127.0.0.1:4310', ws: true } } },
  logLevel: 'warn',
})
