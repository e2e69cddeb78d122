import fc from 'fast-check'
import { freezeKept } from '../base/memo.ts'
import { times } from './times.ts'

// The same cases in every run; MARKPOST_SEED=random (or a number) looks at others, MARKPOST_TIMES at more of them.
const { MARKPOST_SEED: seed } = process.env
fc.configureGlobal({ ...(seed === 'random' ? {} : { seed: Number(seed ?? 1) }), numRuns: times(100) })

freezeKept()
