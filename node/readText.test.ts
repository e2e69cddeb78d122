import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, expect, it } from 'vitest'
import { readText } from './readText.ts'

const folder = mkdtempSync(join(tmpdir(), 'markpost-read-'))
afterAll(() => rmSync(folder, { recursive: true }))
const file = (name: string): string => join(folder, name)
const replace = (make: () => void): void => {
  rmSync(file('x'))
  make()
}

it('reads a file, also through a link', () => {
  writeFileSync(file('a.yaml'), 'text: ä')
  symlinkSync(file('a.yaml'), file('link.yaml'))
  expect([readText(file('a.yaml'), 100), readText(file('link.yaml'), 100)]).toEqual(['text: ä', 'text: ä'])
})

it.each([
  ['a pipe that nobody writes to', () => execFileSync('mkfifo', [file('x')]), 'not a file'],
  ['nothing', () => rmSync(file('x')), 'there is no such file'],
  ['a device', () => symlinkSync('/dev/zero', file('x')), 'not a file'],
  ['a link in a circle', () => replace(() => symlinkSync(file('x'), file('x'))), 'ELOOP'],
  ['a large file', () => replace(() => writeFileSync(file('x'), 'x'.repeat(401))), '401 bytes; expected at most 100'],
])('%s: said at once', (_, make, said) => {
  make()
  expect(() => readText(file('x'), 100)).toThrow(said)
})

it('a folder is no file', () => {
  expect(() => readText(folder, 100)).toThrow('not a file')
})
