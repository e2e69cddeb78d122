import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { runHere as run } from './testing/runHere.ts'

const folder = mkdtempSync(join(tmpdir(), 'markpost-rehearse-'))
afterAll(() => rmSync(folder, { recursive: true }))
const file = (name: string, text: string): string => {
  const path = join(folder, name)
  writeFileSync(path, text)
  return path
}
const wiring = `markpost: 1
title: Shed lamp
boards: { MCU: { board: uno-r3 } }
parts:
  KEY: { part: button }
  LAMP: { part: led }
  R1: { part: resistor, options: { ohms: 330 } }
wires: [[KEY.1, MCU.D2], [KEY.2, MCU.GND], [LAMP.A, R1.1], [R1.2, MCU.D5], [LAMP.K, MCU.GND]]
`
const sketch = `void setup() { Serial.begin(9600); pinMode(5, OUTPUT); pinMode(2, INPUT_PULLUP); }
void loop() { bool on = !digitalRead(2); digitalWrite(5, on); Serial.println(on); delay(100); }
`
const script = `rehearsal: 1
seconds: 2
steps:
  - { at: 0.5, expect: { LAMP: off } }
  - { at: 1, set: { KEY: pressed } }
  - { at: 1.5, expect: { LAMP: on } }
`
const kept = `${wiring}rehearsal:
  programs:
    MCU:
      lamp.ino: |
${sketch.replace(/^/gm, '        ').trimEnd()}
  seconds: 2
  steps: [{ at: 0.5, expect: { LAMP: off } }, { at: 1, set: { KEY: pressed } }, { at: 1.5, expect: { LAMP: on } }]
`
const plan = file('lamp.yaml', wiring)
const program = file('lamp.ino', sketch)
const steps = file('lamp.rehearsal.yaml', script)

describe('a rehearsal on the command line', () => {
  it('runs the program that is named, by the script that is named', async () => {
    const done = await run('rehearse', plan, program, '--script', steps)
    expect(done).toMatchObject({ status: 0, said: '' })
    expect(done.out).toContain('2.00 s')
    expect(done.out).toContain('2 of 2 expectations came; nothing wrong')
    expect(done.out).toContain('LAMP: on')
  })

  it('runs the program that the plan keeps, by its own script or by another', async () => {
    const own = file('kept.yaml', kept)
    const done = await run('rehearse', own)
    expect(done).toMatchObject({ status: 0, said: '' })
    expect(done.out).toContain('2 of 2 expectations came; nothing wrong')
    const other = file('other.rehearsal.yaml', 'rehearsal: 1\nsteps:\n  - { at: 1, expect: { LAMP: on } }\n')
    const missed = await run('rehearse', own, '--script', other)
    expect(missed.status).toBe(1)
    expect(missed.out).toContain('0 of 1 expectations came; 1 to mend')
    // A program that is named runs in place of the kept one.
    const dark = file('dark.ino', sketch.replace('!digitalRead(2)', 'false'))
    expect((await run('rehearse', own, dark)).status).toBe(1)
  })

  it.each<[string, string[], string]>([
    ['a plan that keeps none', [plan], 'the plan keeps no program; name the files of one behind it'],
    ['a file that is not there', [plan, join(folder, 'none.ino')], 'none.ino'],
    ['a language that the board has not', [plan, file('a.py', 'print(1)\n')], 'has no programs in'],
    ['a text that is no program', [plan, file('b.ino', 'void setup() { int = ; }\n')], 'b.ino:1:'],
    [
      'a script that names nothing of the plan',
      [plan, program, '--script', file('c.rehearsal.yaml', 'rehearsal: 1\nsteps: [{ at: 1, set: { DOOR: open } }]\n')],
      'DOOR',
    ],
    [
      'a board that has no program',
      [file('kept2.yaml', kept), '--board', 'NOBODY'],
      'has no such board; expected one of MCU',
    ],
    ['another board where it has one', [plan, program, '--with', 'MCU=x.ino'], 'it has one board'],
    [
      'other boards without a program',
      [file('kept3.yaml', kept), '--with', 'THERE=x.ino'],
      'expected the files of a program before it',
    ],
  ])('ends with 2 at %s', async (_, args, said) => {
    const done = await run('rehearse', ...args)
    expect(done.status).toBe(2)
    expect(done.said).toContain(said)
    expect(done.out).toBe('')
  })

  it('is written for builds and for viewers of traces', async () => {
    const vcd = await run('rehearse', plan, program, '--script', steps, '--as', 'vcd')
    expect(vcd.out).toMatch(/^\$timescale/m)
    expect(vcd.out).toContain('$enddefinitions $end')
    const floating = file('float.ino', sketch.replace('INPUT_PULLUP', 'INPUT'))
    const sarif = await run('rehearse', plan, floating, '--as', 'sarif')
    expect(sarif.status).toBe(1)
    const [run0] = (JSON.parse(sarif.out) as { runs: { results: { ruleId: string; locations: unknown }[] }[] }).runs
    expect(run0?.results.map(({ ruleId }) => ruleId)).toEqual(['read-floating'])
    expect(JSON.stringify(run0?.results[0]?.locations)).toContain('"startLine":2')
    const junit = await run('rehearse', plan, program, '--as', 'junit')
    expect(junit.status).toBe(0)
    expect(junit.out).toContain('failures="0"')
    const json = JSON.parse((await run('rehearse', plan, program, '--seconds', '0.5', '--json')).out) as {
      seconds: number
      printed: { text: string }[]
    }
    expect(json.seconds).toBeCloseTo(0.5)
    expect(json.printed.every(({ text }) => text === '0')).toBe(true)
  })

  it('lets all boards that keep a program run together', async () => {
    const rain = readFileSync(new URL('../demo/4-two-post-rain-gauge.markpost.yaml', import.meta.url), 'utf8')
    const own = file('rain.yaml', rain)
    const done = await run(
      'rehearse',
      own,
      file('gauge.ino', 'void setup() { Serial.begin(9600); }\nvoid loop() { Serial.println(1); delay(500); }\n'),
      '--board',
      'GAUGE',
      '--seconds',
      '2',
    )
    expect(done.status).toBe(0)
    expect(done.out).toContain('2.00 s')
  })
})
