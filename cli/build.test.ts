import { spawnSync } from 'node:child_process'
import { chmodSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { delimiter, join } from 'node:path'
import { afterAll, expect, it } from 'vitest'

const root = new URL('..', import.meta.url).pathname
const folder = mkdtempSync(join(tmpdir(), 'markpost-build-'))
afterAll(() => rmSync(folder, { recursive: true }))

/** The build file as it stands in the documentation. */
const script =
  /```sh\n(#!\/bin\/sh\n[\s\S]*?)```/.exec(readFileSync(join(root, 'docs/in-a-build.md'), 'utf8'))?.[1] ?? ''
const plan = (pin: string, lamp: string): string => `markpost: 1
title: Lamp
boards: { MCU: { board: uno-r3 } }
parts:
  LAMP: { part: led }
  R1: { part: resistor, options: { ohms: 330 } }
wires: [[LAMP.A, R1.1], [R1.2, ${pin}], [LAMP.K, MCU.GND]]
rehearsal:
  programs: { MCU: { lamp.ino: "void setup() { pinMode(${lamp}, OUTPUT); digitalWrite(${lamp}, HIGH); }\\nvoid loop() {}\\n" } }
  steps: [{ at: 0.5, expect: { LAMP: on } }]
`
const built = (plans: Readonly<Record<string, string>>): { status: number | null; said: string; reports: string[] } => {
  const place = mkdtempSync(join(folder, 'b-'))
  mkdirSync(join(place, 'bin'))
  // As it is found after it was installed.
  writeFileSync(join(place, 'bin/markpost'), `#!/bin/sh\nexec "${process.execPath}" "${root}bin/markpost.mjs" "$@"\n`)
  chmodSync(join(place, 'bin/markpost'), 0o755)
  for (const [name, text] of Object.entries({ ...plans, 'build.sh': script })) writeFileSync(join(place, name), text)
  const { status, stderr } = spawnSync('sh', ['build.sh'], {
    cwd: place,
    encoding: 'utf8',
    env: { ...process.env, PATH: `${join(place, 'bin')}${delimiter}${process.env.PATH}` },
  })
  return {
    status,
    said: stderr,
    reports: readdirSync(join(place, 'reports')).map(
      (name) => `${name}: ${readFileSync(join(place, 'reports', name), 'utf8')}`,
    ),
  }
}

it('the build file of the documentation passes what fits', { timeout: 60_000 }, () => {
  const { status, reports } = built({ 'lamp.markpost.yaml': plan('MCU.D5', '5') })
  expect(status).toBe(0)
  expect(reports.map((one) => one.split(':')[0])).toEqual(['lamp.junit.xml', 'lamp.rehearsal.xml', 'lamp.sarif'])
  for (const report of reports) expect(report).not.toMatch(/failures="[1-9]/)
})

it('and stops at a plan that does not, with what is wrong in its reports', { timeout: 60_000 }, () => {
  const { status, reports } = built({
    'lamp.markpost.yaml': plan('MCU.D5', '6'),
    'short.markpost.yaml': plan('MCU.5V', '5').replace('[R1.2, MCU.5V]', '[R1.2, MCU.5V], [MCU.5V, MCU.GND]'),
  })
  expect(status).toBe(1)
  const of = (name: string): string => reports.find((one) => one.startsWith(name)) ?? ''
  expect(of('lamp.rehearsal.xml')).toMatch(/failures="[1-9]/)
  expect(of('lamp.rehearsal.xml')).toContain('Expected LAMP on')
  expect(of('short.junit.xml')).toMatch(/failures="[1-9]/)
  expect(JSON.parse(of('short.sarif').replace('short.sarif: ', '')).runs[0].results.length).toBeGreaterThan(0)
})
