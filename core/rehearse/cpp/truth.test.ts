import { execFile, execFileSync } from 'node:child_process'
import { copyFileSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { promisify } from 'node:util'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { compiledByCpp } from '../../../benchmarks/compiledByCpp.ts'
import type { Platform } from '../platform/platform.ts'
import { randomSketch } from '../testing/randomSketch.ts'
import { randomSmall } from '../testing/randomSmall.ts'
import { type LevelChange, stubPlatform } from '../testing/recorder.ts'
import { rehearsedLines } from '../testing/rehearsedLines.ts'
import { sketches } from '../testing/sketches.ts'
import { sketchesOfHardware } from '../testing/sketchesOfHardware.ts'
import { sketchesOfLanguage } from '../testing/sketchesOfLanguage.ts'
import { sketchesOfRows } from '../testing/sketchesOfRows.ts'

/**
 * The same sketch twice: compiled by the compiler of this machine against `stub.h`, and rehearsed. What they write,
 * and when, must be the same to the last letter.
 */

const UNTIL = 1_000_000
/** Levels that come from outside: a contact that bounces, and a second one. */
const contact = [10, 60, 61, 62, 90, 140, 141, 230, 300, 444, 590, 700, 890]
const changes: readonly LevelChange[] = [
  ...contact.map((ms, at): LevelChange => ({ at: ms * 1000 + 137, pin: 2, level: at % 2 === 0 ? 1 : 0 })),
  { at: 333_300, pin: 3, level: 1 } as const,
  { at: 777_700, pin: 3, level: 0 } as const,
].sort((a, b) => a.at - b.at)

const rehearsed = (text: string, platform?: Platform): string[] =>
  rehearsedLines(text, { until: UNTIL, changes, ...(platform ? { platform } : {}) })

const folder = mkdtempSync(join(tmpdir(), 'markpost-truth-'))
const run = promisify(execFile)

async function compiled(name: string, text: string): Promise<string[]> {
  const source = join(folder, `${name}.cpp`)
  const table = changes.map(({ at, pin, level }) => `{${at}.0, ${pin}, ${level}}`).join(', ')
  writeFileSync(
    source,
    `#include "stub.h"\n#line 1\n${text}\nstatic const stub::Change table[] = {${table}};\nint main() { stub::changes = table; stub::left = ${changes.length}; stub::until = ${UNTIL}; setup(); for (;;) { stub::wait(1); loop(); } }\n`,
  )
  await run('g++', [...flags, '-I', folder, '-o', join(folder, name), source])
  const { stdout } = await run(join(folder, name), [], { encoding: 'latin1' })
  return stdout.trimEnd().split('\n')
}
const flags = ['-std=c++17', '-fsigned-char', '-fwrapv', '-w', '-O0']

beforeAll(() => {
  mkdirSync(folder, { recursive: true })
  // Compiled once, so that each sketch costs little.
  copyFileSync(resolve('core/rehearse/testing/stub.h'), join(folder, 'stub.h'))
  execFileSync('g++', [...flags, '-x', 'c++-header', '-o', join(folder, 'stub.h.gch'), join(folder, 'stub.h')])
}, 60_000)
afterAll(() => {
  rmSync(folder, { recursive: true, force: true })
})

describe('a sketch does what the compiler says that it does', () => {
  it.each(sketches)('%s', async (title, text) => {
    expect(rehearsed(text)).toEqual(await compiled(title.replace(/\W/g, '-'), text))
  })
})

describe('over the features of the language and what boards are for, a page each', () => {
  let truths: string[] = []
  const pages = [...sketchesOfLanguage, ...sketchesOfRows, ...sketchesOfHardware]
  beforeAll(() => {
    truths = compiledByCpp(
      pages.map(([, text]) => text),
      { until: UNTIL, changes },
    )
  }, 120_000)
  it.each(pages.map(([title, text], at) => [title, text, at] as const))('%s', (_, text, at) => {
    expect(rehearsed(text)).toEqual(truths[at]!.split('\n'))
  })
})

describe('made by chance', () => {
  const seeds = Array.from({ length: 40 }, (_, seed) => seed + 1000)
  let truths: string[] = []
  beforeAll(() => {
    truths = compiledByCpp(seeds.map(randomSketch), { until: UNTIL, changes })
  }, 120_000)
  it.each(seeds)('%i', (seed) => {
    expect(rehearsed(randomSketch(seed))).toEqual(truths[seeds.indexOf(seed)]!.split('\n'))
  })
})

describe('made by chance for boards whose int has sixteen bits', () => {
  const small: Platform = { ...stubPlatform, widths: { int: 16, double: 32, pointer: 16, charSigned: true } }
  const seeds = Array.from({ length: 30 }, (_, seed) => seed + 5000)
  let truths: string[] = []
  beforeAll(() => {
    const texts = seeds.map((seed) => randomSmall(seed).classes)
    truths = compiledByCpp(texts, { until: UNTIL, changes, header: 'small.h' })
  }, 120_000)
  it.each(seeds)('%i', (seed) => {
    expect(rehearsed(randomSmall(seed).sketch, small)).toEqual(truths[seeds.indexOf(seed)]!.split('\n'))
  })
})
