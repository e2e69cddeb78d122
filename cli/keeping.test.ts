import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { unzipSync } from 'fflate'
import { afterAll, describe, expect, it } from 'vitest'
import { PlanStore } from '../server/store.ts'
import { runHere as run } from './testing/runHere.ts'

const root = new URL('..', import.meta.url).pathname
const folder = mkdtempSync(join(tmpdir(), 'markpost-keeping-'))
afterAll(() => rmSync(folder, { recursive: true }))
const at = (name: string): string => join(folder, name)

const text = 'markpost: 1\ntitle: Kept\nboards: { MCU: { board: uno-r3 } }\n'
const data = at('data')
const store = new PlanStore(data, join(root, 'server/migrations'))
store.create({ title: 'Kept', text, uses: { boards: [], kit: [] }, sought: 'kept' })
store.close()

describe('what is kept, on the command line', () => {
  it('goes into one file and comes back', async () => {
    const made = await run('backup', '--data', data, '--out', at('all.backup'))
    expect([made.status, made.out]).toEqual([0, `${at('all.backup')}: 1 plan, 0 own entries, read back and sound\n`])
    expect((await run('restore', at('all.backup'), '--data', at('back'))).status).toBe(0)
    const over = await run('restore', at('all.backup'), '--data', data)
    expect([over.status, over.said]).toEqual([2, expect.stringContaining('with --over')])
  })
  it('is looked at, in words and as data', async () => {
    expect((await run('doctor', '--data', data)).out).toContain('1 plans, version 5 of 5')
    const { status, said } = await run('doctor', '--data', at('nothing'))
    expect([status, said]).toEqual([2, `${at('nothing')} does not exist`])
    expect(JSON.parse((await run('doctor', '--data', data, '--json')).out)).toContainEqual(
      expect.objectContaining({ what: 'the database', is: 'sound' }),
    )
  })
  it('goes out as an archive, and says in one line where that cannot be', async () => {
    expect((await run('export', '--all', '--data', data, '--out', at('all.zip'))).out).toContain('1 plan')
    expect(Object.keys(unzipSync(readFileSync(at('all.zip'))))).toContain('plans/kept.markpost.yaml')
    const bad = await run('export', '--all', '--data', data, '--out', at('none/all.zip'))
    expect([bad.status, bad.said]).toEqual([2, `${at('none/all.zip')}: cannot be written (ENOENT)`])
    expect((await run('export', '--data', data, '--out', at('x.zip'))).said).toContain('expected --all')
    expect((await run('export', '--all', '--data', at('empty'), '--out', at('x.zip'))).said).toContain('holds no plans')
  })
})

describe('a class, on the command line', () => {
  mkdirSync(at('class'))
  const asked = at('class/asked.yaml')
  writeFileSync(asked, `${text}parts: { LAMP: { part: led } }\n`)
  writeFileSync(at('class/anna.yaml'), text)
  writeFileSync(at('class/ben.yaml'), 'markpost: 1\ntitle: [')
  it('is a row each, without the plan that was asked for, however that is written', async () => {
    const { status, out } = await run('class', at('class'), '--asked', join(folder, 'class', '.', 'asked.yaml'))
    expect(status).toBe(1)
    expect(out.trim().split('\n')).toHaveLength(3)
    expect(out).toContain('lacks LED')
    expect(out).toContain('cannot be read')
    expect((await run('class', at('class/anna.yaml'))).status).toBe(0)
    expect((await run('class', at('class/anna.yaml'), '--csv')).out).toMatch(/^file,title,board/)
    expect((await run('class', at('all.zip'))).status).toBe(2)
  })
  it('gets a task, and what cannot be written is said', async () => {
    expect((await run('task', asked, '--out', at('task.yaml'))).status).toBe(0)
    expect(readFileSync(at('task.yaml'), 'utf8')).toContain('LAMP')
    expect((await run('task', asked, '--out', at('none/task.yaml'))).said).toContain('cannot be written (ENOENT)')
  })
})

it('a certificate that cannot be used is said before anything is opened', async () => {
  writeFileSync(at('bad.pem'), 'no certificate')
  for (const args of [
    ['--cert', at('bad.pem')],
    ['--cert', at('bad.pem'), '--key', at('bad.pem')],
    ['--cert', at('nothing.pem'), '--key', at('bad.pem')],
  ]) {
    const { status, said } = await run('serve', '--port', '0', '--data', at('tls'), ...args)
    expect([status, said]).toEqual([2, expect.stringContaining('expected')])
    expect(said).not.toContain('should not have happened')
  }
})
