import { readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import { readPlan } from '../plan/readPlan.ts'
import { catalog } from '../testing/plans.ts'
import { resolve } from '../wiring/resolve.ts'
import { rehearse } from './run.ts'
import { readScript } from './script.ts'

/** Sample plans with their programs, and what is expected of them. */
it.each([
  ['1-orchard-hive-watch', 'hive.ino', 'MCU', []],
  ['2-branch-line-crossing', 'crossing.ino', 'MCU', []],
  ['3-kiln-logger', 'kiln.py', 'PI', []],
  ['4-two-post-rain-gauge', 'gauge.ino', 'GAUGE', []],
  ['5-mended-by-monday', 'weather.ino', 'MCU', ['not-able 13', 'read-floating 17', 'not-able 23']],
] as const)('%s runs its program', (plan, program, ref, finds) => {
  const text = (name: string): string => readFileSync(`demo/${name}`, 'utf8')
  const read = readPlan(text(`${plan}.markpost.yaml`), plan, catalog)
  if (!read.ok) throw new Error(plan)
  const wiring = resolve(read.value, catalog)
  const name = program.replace(/\.\w+$/, '')
  const script = name === 'weather' ? undefined : readScript(text(`programs/${name}.rehearsal.yaml`), name)
  if (script && !script.ok) throw new Error(script.problems.map(({ message }) => message).join())
  const board = wiring.boards.find((one) => one.ref === ref)!
  const result = rehearse(wiring, board, [{ name: program, text: text(`programs/${program}`) }], {
    script: script?.value,
  })
  expect(result.findings.map(({ kind, line }) => `${kind} ${line}`)).toEqual(finds)
  expect(result.expectations.filter(({ came }) => !came)).toEqual([])
})
