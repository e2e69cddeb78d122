import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    isolate: false,
    include: ['{core,server,cli,web,benchmarks}/**/*.test.ts'],
    environment: 'node',
    setupFiles: ['core/testing/setup.ts'],
    testTimeout: 30_000,
  },
})
