import fc from 'fast-check'
import { freezeKept } from '../base/memo.ts'

// The same cases in every run; MARKPOST_SEED=random (or a number) and MARKPOST_RUNS look further.
const { MARKPOST_SEED: seed, MARKPOST_RUNS: runs } = process.env
fc.configureGlobal({
  ...(seed === 'random' ? {} : { seed: Number(seed ?? 1) }),
  ...(runs === undefined ? {} : { numRuns: Number(runs) }),
})

freezeKept()
