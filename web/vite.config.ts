import tailwind from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

export default defineConfig({
  root: import.meta.dirname,
  plugins: [react(), tailwind()],
  worker: { format: 'es' },
  build: { outDir: '../dist/web', emptyOutDir: true, target: 'es2022', chunkSizeWarningLimit: 1500 },
  server: { proxy: { '/api': { target: 'http://127.0.0.1:4310', ws: true } } },
  logLevel: 'warn',
})
