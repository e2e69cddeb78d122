import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

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
              test: /node_modules\/(react|react-dom|react-router|react-redux|react-bootstrap|@reduxjs|@restart|@tanstack|immer|scheduler|valibot|yaml)\//,
            },
          ],
        },
      },
    },
  },
  worker: { format: 'es' },
  css: {
    preprocessorOptions: {
      scss: { quietDeps: true, silenceDeprecations: ['import', 'global-builtin', 'color-functions', 'if-function'] },
    },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:4680' } },
})
