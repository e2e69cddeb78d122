import { defineConfig } from 'vitest/config'
import base from './vitest.config.ts'

/**
 * The tests that `npm run mutate` runs: those of the core, which run in the same process as the planted fault. They take a
 * good deal longer when every line counts who reached it.
 */
export default defineConfig({ test: { ...base.test, include: ['core/**/*.test.ts'], testTimeout: 180_000 } })
