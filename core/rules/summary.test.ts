import { readdirSync, readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import { readPlan } from '../plan/readPlan.ts'
import { catalog, wiringOf } from '../testing/plans.ts'
import { mistaken, sound } from '../testing/wiringSuite.ts'
import { resolve } from '../wiring/resolve.ts'
import { SUMMARY_VERSION, summarise } from './summary.ts'

/** A short number for a text (FNV-1a, 32 bits). */
function digest(text: string): string {
  let hash = 0x811c9dc5
  for (let at = 0; at < text.length; at += 1) hash = Math.imul(hash ^ text.charCodeAt(at), 0x01000193)
  return (hash >>> 0).toString(16)
}

/**
 * Servers keep summaries and make them anew when their version differs. When this fails, what the list of plans says has
 * changed: raise `SUMMARY_VERSION` and put the new digest here. Where wirings were only added the digest alone changes.
 */
it('the version of summaries is raised whenever what they say changes', () => {
  const samples = readdirSync('demo')
    .filter((name) => name.endsWith('.yaml'))
    .sort()
    .map((name) => {
      const read = readPlan(readFileSync(`demo/${name}`, 'utf8'), name, catalog)
      if (!read.ok) throw new Error(`${name} cannot be read`)
      return summarise(resolve(read.value, catalog))
    })
  const wirings = [...sound, ...mistaken].map((short) => summarise(wiringOf(short)))
  const said = [...samples, ...wirings].map(({ version: _, ...summary }) => summary)
  expect({ version: SUMMARY_VERSION, digest: digest(JSON.stringify(said)) }).toEqual({
    version: 36,
    digest: '80be16aa',
  })
})

it('says how far a build is, once a step of it was proven', () => {
  const plan = wiringOf(sound[0]!).plan
  const stageOf = (bringup: typeof plan.bringup) =>
    summarise(resolve({ ...plan, bringup } as typeof plan, catalog)).stage
  expect(stageOf(undefined)).toBeUndefined()
  expect(stageOf({ done: {}, stage: 'wired' })).toBe('wired')
})
