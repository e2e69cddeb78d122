import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, expect, it } from 'vitest'
import { runHere as run } from './testing/runHere.ts'

const folder = mkdtempSync(join(tmpdir(), 'markpost-schema-'))
afterAll(() => rmSync(folder, { recursive: true }))
const text = 'markpost: 1\ntitle: Lamp\nboards: { MCU: { board: uno-r3 } }\nparts: { LAMP: { part: led } }\n'

it('prints or writes the schemas, and names what it does not know', async () => {
  expect(JSON.parse((await run('schema')).out).title).toBe('Mark Post plan, format version 1')
  expect(JSON.parse((await run('schema', 'part')).out).title).toBe('Mark Post catalogue: a part')
  expect(await run('schema', 'house')).toMatchObject({ status: 2, said: expect.stringContaining('plan, board, part') })
})

it('plans that are written beside it name it in their first line, and others do not', async () => {
  const plan = join(folder, 'lamp.yaml')
  writeFileSync(plan, text)
  mkdirSync(join(folder, 'beside'))
  expect((await run('schema', '--out', join(folder, 'beside/plan.schema.json'))).status).toBe(0)
  for (const [out, line] of [
    ['beside/done.yaml', '# yaml-language-server: $schema=./plan.schema.json\nmarkpost: 1\n'],
    ['alone.yaml', 'markpost: 1\n'],
  ] as const) {
    await run('assign', plan, '--out', join(folder, out))
    expect(readFileSync(join(folder, out), 'utf8').slice(0, line.length)).toBe(line)
    expect((await run('check', join(folder, out))).status).not.toBe(2)
  }
})
