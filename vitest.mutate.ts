import { defineConfig } from 'vitest/config'
import base from './vitest.config.ts'

/** The tests that `npm run mutate` runs: those of the core, which run in the same process as the planted fault. */
export default defineConfig({ test: { ...base.test, include: ['core/**/*.test.ts'] } })
