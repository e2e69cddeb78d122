import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'
import { paletteScss } from './core/base/palette.ts'

export default defineConfig({
  root: 'web',
  plugins: [react()],
  build: {
    outDir: '../dist/web',
    emptyOutDir: true,
    chunkSizeWarningLimit: 900,
    rolldownOptions: {
      output: {
        // What the first page needs of others' packages changes more seldom than the application.
        codeSplitting: {
          groups: [
            {
              name: 'packages',
              test: /node_modules\/(react|react-dom|react-router|react-redux|react-bootstrap|@reduxjs|@restart|@tanstack|immer|scheduler)\//,
            },
          ],
        },
      },
    },
  },
  worker: { format: 'es' },
  css: {
    preprocessorOptions: {
      scss: {
        additionalData: paletteScss,
        quietDeps: true,
        silenceDeprecations: ['import', 'global-builtin', 'color-functions', 'if-function'],
      },
    },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:4680' } },
})
