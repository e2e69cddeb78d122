import { defineConfig } from 'vitest/config'

/** `npm test` runs what `scripts/bundleTests.mjs` has made of the tests; by itself the runner takes the sources. */
const isBundled = process.env.MARKPOST_TESTS === 'bundled'

export default defineConfig({
  test: {
    isolate: false,
    include: isBundled
      ? ['.cache/tests/**/*.test.mjs']
      : ['{core,node,server,cli,web,benchmarks,torture,scripts}/**/*.test.ts'],
    environment: 'node',
    setupFiles: [isBundled ? '.cache/tests/core/testing/setup.mjs' : 'core/testing/setup.ts'],
    testTimeout: 30_000,
    // One a core: left to itself the runner keeps one core free.
    maxWorkers: 2,
    // What tests share is there once for all of them, and is not read again by the runner.
    ...(isBundled ? { server: { deps: { external: [/\.cache\/tests\/[^/]+\.mjs/] } } } : {}),
  },
})
