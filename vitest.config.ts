import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    isolate: false,
    include: ['{core,node,server,cli,web,benchmarks,torture,scripts}/**/*.test.ts'],
    environment: 'node',
    setupFiles: ['core/testing/setup.ts'],
    testTimeout: 30_000,
    // One a core: left to itself the runner keeps one core free.
    maxWorkers: 2,
  },
})
