import { execFileSync, spawnSync } from 'node:child_process'
import {
  chmodSync,
  existsSync,
  lstatSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { planOf } from '../core/testing/plans.ts'
import { runHere } from './testing/runHere.ts'

const root = new URL('..', import.meta.url).pathname
const folder = mkdtempSync(join(tmpdir(), 'markpost-cli-'))
afterAll(() => rmSync(folder, { recursive: true }))

interface Done {
  readonly status: number | null
  readonly out: string
  readonly said: string
}

/** A command line in this process: most tests need no process of their own. */
const run = (...args: string[]): Promise<Done> => runHere(...args)

/** The same as it is started from a shell. */
const spawned = (...args: string[]): Done => {
  const done = spawnSync(process.execPath, ['bin/markpost.mjs', ...args], { cwd: root, encoding: 'utf8' })
  return { status: done.status, out: done.stdout, said: done.stderr.trim() }
}
const file = (name: string, text: string | Buffer): string => {
  const path = join(folder, name)
  writeFileSync(path, text)
  return path
}
const fifo = (name: string): string => {
  execFileSync('mkfifo', [join(folder, name)])
  return join(folder, name)
}
const orchard = 'demo/1-orchard-hive-watch.markpost.yaml'
const mended = 'demo/5-mended-by-monday.markpost.yaml'

describe('catalogue', () => {
  it('lists boards and parts', async () => {
    const boards = JSON.parse((await run('boards', '--json')).out)
    expect(boards.map((one: { id: string }) => one.id)).toEqual(
      expect.arrayContaining(['uno-r3', 'esp32-devkit-30', 'pi-40']),
    )
    const uno = boards.find((one: { id: string }) => one.id === 'uno-r3')
    expect(Object.keys(uno)).toEqual([
      'id',
      'title',
      'mcu',
      'logicVolts',
      'keywords',
      'headers',
      'pins',
      'variants',
      'features',
    ])
    expect(uno.pins.find((one: { id: string }) => one.id === 'D11')).toMatchObject({
      header: 'HIGH',
      position: 7,
      kind: 'io',
      functions: expect.arrayContaining(['digital-out', 'pwm', 'spi0.mosi']),
    })
    const part = JSON.parse((await run('part', 'bme280', '--json')).out)
    expect(part).toMatchObject({
      addresses: [0x76, 0x77],
      supply: { least: 1.71, most: 3.6 },
      modes: [{ id: 'i2c' }, { id: 'spi' }],
    })
    expect((await run('board', 'pi-40')).out).toContain('row 4, left column')
    expect((await run('parts')).status).toBe(0)
  })
  it.each([['board'], ['part']])('%s of no entry: one message, status 2', async (command) => {
    const { status, out, said } = await run(command, 'zzz')
    expect([status, out]).toEqual([2, ''])
    expect(said).toMatch(/the catalogue has no \w+ "zzz"; expected one of/)
  })
})

describe('check: explanations and reports', () => {
  it('explains pins in words, one after the other, and as JSON', async () => {
    const { status, out } = await run('check', orchard, '--explain', 'MCU.3V3', '--explain', 'MCU.GND')
    expect(status).toBe(0)
    expect(out).toMatch(/^MCU\.3V3\n[\s\S]*holds it at 3\.3 V\.[\s\S]*\n\nMCU\.GND\n/)
    const { files } = JSON.parse((await run('check', orchard, '--explain', 'MCU.3V3', '--json')).out)
    expect(files[0].explanations[0]).toMatchObject({ end: 'MCU.3V3', states: [{ when: 'always', volts: 3.3 }] })
  })
  it('an end that the plan does not have: one message, status 2', async () => {
    const { status, out, said } = await run('check', orchard, '--explain', 'MCU.NOSUCH')
    expect([status, out.trim()]).toEqual([2, ''])
    expect(said).toMatch(/--explain MCU\.NOSUCH: .*expected a pin as REF\.PIN/)
  })
  it('writes SARIF and JUnit with the same status as without', async () => {
    const plain = await run('check', mended)
    const sarif = await run('check', mended, '--as', 'sarif')
    expect(sarif.status).toBe(plain.status)
    const [log] = JSON.parse(sarif.out).runs
    expect(log.results.length).toBeGreaterThan(10)
    expect(log.results[0].locations[0].physicalLocation.region.startLine).toBeGreaterThan(1)
    const junit = await run('check', mended, file('no-plan.yaml', 'a: 1'), '--as', 'junit')
    expect(junit.status).toBe(2)
    expect(junit.out).toMatch(/^<\?xml version="1\.0"/)
    expect(junit.out).toContain('errors="1"')
  })
  it('gives each finding its line and column in JSON', async () => {
    const [one] = JSON.parse((await run('check', mended, '--json')).out).files
    for (const finding of one.findings)
      expect(finding).toMatchObject({ line: expect.any(Number), column: expect.any(Number) })
  })
})

describe('fit', () => {
  it('ranks every board, and refuses a plan of two', async () => {
    const { out, status } = await run('fit', orchard, '--json')
    const ranked = JSON.parse(out)
    expect(status).toBe(0)
    expect(ranked).toHaveLength(26)
    expect(ranked[0].left).toEqual([])
    expect((await run('fit', orchard)).out.split('\n')[0]).toContain('carries everything')
    const two = await run('fit', 'demo/4-two-post-rain-gauge.markpost.yaml')
    expect([two.status, two.said.trim()]).toEqual([
      2,
      'demo/4-two-post-rain-gauge.markpost.yaml: has 2 boards; expected a plan of one board',
    ])
  })
})

describe('check', () => {
  it('prints a table for several plans, and only that when asked', async () => {
    const { out, status } = await run('check', '--summary', orchard, mended, 'package.json')
    const lines = out.trim().split('\n')
    expect(status).toBe(2)
    expect(lines).toHaveLength(6)
    expect(lines[2]).toMatch(/mended-by-monday\S+\s+12\s+6\s+0\s+0\s+pin-shared pin-function/)
    expect(lines[3]).toMatch(/package.json .* not a plan/)
    expect(lines[5]).toBe('1 of 3 plans without a fault')
  })

  it('answers 0 for sound plans and 1 for faults, with a summary line a file', async () => {
    const both = await run('check', orchard, mended)
    expect(both.status).toBe(1)
    expect(both.out).toContain(`${orchard}: 0 faults, 0 cautions, 2 tips`)
    expect(both.out).toContain(`${mended}: 12 faults, 6 cautions, 0 tips`)
    expect((await run('check', orchard)).status).toBe(0)
  })
  it('gives findings and fixes as JSON', async () => {
    const { files } = JSON.parse((await run('check', mended, '--json')).out)
    expect(files[0]).toMatchObject({ file: mended, counts: { fault: 12, caution: 6, tip: 0 } })
    // How acceptances named places earlier is nobody's matter outside.
    const kiln = JSON.parse((await run('check', 'demo/3-kiln-logger.markpost.yaml', '--json')).out).files[0]
    expect(kiln.findings.map((one: { rule: string }) => one.rule)).toContain('i2c-pullup')
    expect(kiln.findings.filter((one: object) => 'formerly' in one)).toEqual([])
    for (const finding of files[0].findings) {
      expect(Object.keys(finding)).toEqual(
        expect.arrayContaining(['rule', 'severity', 'at', 'message', 'why', 'numbers', 'fixes', 'accepted']),
      )
      expect(finding.fixes.length).toBeGreaterThan(0)
    }
  })
  it.each([
    ['a missing file', () => join(folder, 'none.yaml'), /there is no such file/],
    ['a folder', () => folder, /not a file/],
    [
      'truncated YAML',
      () => file('cut.yaml', readFileSync(join(root, orchard), 'utf8').slice(0, 900)),
      /cut\.yaml:\d+:\d+: /,
    ],
    ['a binary file', () => file('bin.yaml', Buffer.from([0, 159, 146, 150, 0, 255])), /bytes that are not text/],
    ['a pipe', () => fifo('pipe.yaml'), /pipe\.yaml: not a file/],
    [
      'a name of 200,000 letters',
      () => file('long.yaml', `markpost: 1\ntitle: T\nparts: { A: { part: ${'x'.repeat(200_000)} } }\n`),
      /parts\.A\.part: expected at most 80 characters/,
    ],
    [
      '40,000 keys',
      () =>
        file(
          'keys.yaml',
          `markpost: 1\ntitle: T\nboards: { MCU: { board: uno-r3 } }\n${Array.from({ length: 40_000 }, (_, n) => `k${n}: 1`).join('\n')}`,
        ),
      /commas, colons and other marks; expected at most 40,000/,
    ],
    [
      'a number without end',
      () => file('inf.yaml', 'markpost: 1\ntitle: T\nsupplies: { P: { volts: .inf } }\n'),
      /inf\.yaml:3:25: supplies\.P\.volts: expected a finite number, found Infinity/,
    ],
    [
      'a map where a text is expected',
      () => file('map.yaml', 'markpost: { toString: 1 }\ntitle: T\n'),
      /format version a map is not known/,
    ],
    ['20 MB', () => file('big.yaml', Buffer.alloc(20_000_000, 'x')), /20,000,000 bytes; expected at most/],
    [
      'an unknown part',
      () => file('part.yaml', 'markpost: 1\ntitle: T\nparts:\n  A: { part: bme208 }\n'),
      /part\.yaml:4:14: parts\.A\.part: the catalogue has no part "bme208"; did you mean bme280\?/,
    ],
  ])('%s: one clear message, status 2', async (_, make, message) => {
    const { status, out, said } = await run('check', make(), '--json')
    expect(status).toBe(2)
    expect(JSON.parse(out)).toEqual({ files: [] })
    expect(said.split('\n').length).toBeLessThanOrEqual(51)
    expect(said.split('\n')[0]).toMatch(message)
    expect(said).not.toMatch(/\n\s+at /)
  })
})

describe('assign', () => {
  const kit = () => file('kit.json', JSON.stringify(planOf({ parts: { A: 'bme280', B: 'button' } })))
  it('--why says for every pin why, or why not, and changes nothing', async () => {
    const { status, out } = await run('assign', kit(), '--why', 'A.sda', '--json')
    expect(status).toBe(0)
    const { end, pins } = JSON.parse(out)
    expect(end).toBe('A.SDA')
    expect(
      pins.some((one: { state: string; blocked: { kind: string } }) => one.state === 'blocked' && one.blocked.kind),
    ).toBe(true)
    expect((await run('assign', kit(), '--why', 'A.SDA')).out).toMatch(/^A\.SDA needs I2C SDA and /)
    expect((await run('assign', kit(), '--why', 'A.NONE')).status).toBe(2)
    expect((await run('assign', kit(), '--why', 'A.VCC')).said).toMatch(/A\.VCC is no signal of a part/)
  })
  it('writes the plan and answers 0, and what it writes checks clean', async () => {
    const out = join(folder, 'out.yaml')
    const { status, out: printed } = await run('assign', kit(), '--out', out, '--json')
    expect(status).toBe(0)
    expect(JSON.parse(printed)).toMatchObject({ status: 'placed', unplaced: [], conflict: null, remedies: [] })
    expect((await run('check', out)).out).toContain('0 faults, 0 cautions')
  })
  it('answers 1 and says why when not all can be placed', async () => {
    const { status, said } = await run(
      'assign',
      file('full.json', JSON.stringify(planOf({ mcu: 'pi-40', parts: { K: 'potentiometer' } }))),
    )
    expect(status).toBe(1)
    expect(said).toMatch(/^K\.W needs an analog input: /)
  })
  it.each([['0'], ['soon']])('refuses --seconds %s', async (seconds) => {
    expect(await run('assign', kit(), '--seconds', seconds)).toMatchObject({
      status: 2,
      said: expect.stringMatching(/expected a number above 0/),
    })
  })
  it('writes whole, keeps mode and link, and touches no neighbour', async () => {
    const target = file('target.yaml', 'before')
    chmodSync(target, 0o640)
    symlinkSync(target, join(folder, 'link.yaml'))
    const neighbours = ['link.yaml.part', 'target.yaml.part', 'target.yaml~'].map((name) => file(name, 'not ours'))
    expect((await run('assign', kit(), '--out', join(folder, 'link.yaml'), '--json')).status).toBe(0)
    expect(lstatSync(join(folder, 'link.yaml')).isSymbolicLink()).toBe(true)
    expect([statSync(target).mode & 0o777, readFileSync(target, 'utf8')]).toEqual([
      0o640,
      expect.stringContaining('MCU.GPIO22'),
    ])
    for (const one of neighbours) expect(readFileSync(one, 'utf8')).toBe('not ours')
    const before = readdirSync(folder).length
    for (const out of [folder, '/dev/null', join(folder, 'none/x.yaml')]) {
      const { status, said } = await run('assign', kit(), '--out', out, '--json')
      expect([status, said.split('\n').length, said]).toEqual([2, 1, expect.stringContaining('cannot be written')])
    }
    expect(readdirSync(folder).length).toBe(before)
  })
  it('leaves no part of a file where it cannot write', async () => {
    const out = join(folder, 'no-folder/out.yaml')
    expect((await run('assign', kit(), '--out', out)).status).toBe(2)
    expect(existsSync(out)).toBe(false)
  })
})

describe('sheet', () => {
  it.each(['csv', 'markdown', 'html', 'svg', 'json'])('writes %s', async (as) => {
    const { status, out } = await run('sheet', orchard, '--as', as)
    expect(status).toBe(0)
    expect(out.length).toBeGreaterThan(500)
  })
  it('writes one table', async () => {
    expect(Object.keys(JSON.parse((await run('sheet', orchard, '--as', 'json', '--only', 'wiring')).out))).toEqual([
      'wiring',
    ])
    expect((await run('sheet', orchard, '--as', 'csv', '--only', 'jumpers')).out.split('\r\n')[0]).toBe(
      'Ends,Colour,Length mm,Count',
    )
  })
  it('writes drawings and single pages, and says what a format cannot hold', async () => {
    const drawing = await run('sheet', orchard, '--as', 'svg', '--only', 'drawing')
    expect(drawing.out).toMatch(/^<svg [\s\S]*BB2[\s\S]*<\/svg>\s*$/)
    const { legs } = JSON.parse((await run('sheet', orchard, '--as', 'json', '--only', 'legs')).out)
    expect(legs[0]).toMatchObject({ ref: 'MCU', hole: expect.stringMatching(/^BB\d\.[a-j]\d+$/) })
    expect((await run('sheet', orchard, '--as', 'html', '--only', 'strips', '--paper', 'Letter')).out).toContain(
      'size: Letter',
    )
    const two = (await run('sheet', orchard, '--as', 'html', '--only', 'cover,labels')).out
    expect(two.match(/<section class="mp-page /g)).toHaveLength(2)
    expect((await run('sheet', orchard, '--as', 'csv', '--only', 'wiring,legs')).said).toContain(
      'several pages go together',
    )
    expect((await run('sheet', orchard, '--as', 'html', '--only', 'nonsense')).said).toContain(
      '"nonsense" is no page; expected',
    )
    expect((await run('sheet', orchard, '--as', 'csv', '--only', 'cover')).said).toContain('"cover" is a drawn page')
    expect(
      (await run('sheet', 'demo/5-mended-by-monday.markpost.yaml', '--as', 'svg', '--only', 'drawing')).status,
    ).toBe(2)
  })
  it('refuses an unknown format or command', async () => {
    expect((await run('sheet', orchard, '--as', 'doc')).status).toBe(2)
    expect((await run('sheet', orchard)).status).toBe(2)
    expect((await run('nonsense')).status).toBe(2)
  })
})

describe('as a process', () => {
  it('ends with the status of its command, and says on which stream what is printed', async () => {
    const there = spawned('check', mended, '--summary')
    expect(there).toEqual(await run('check', mended, '--summary'))
    expect(there.status).toBe(1)
    expect(spawned('check', 'nowhere.yaml')).toEqual({
      status: 2,
      out: '',
      said: expect.stringContaining('nowhere.yaml') as unknown,
    })
    expect(spawned('boards').status).toBe(0)
  })
  it('is quiet when nobody reads on', () => {
    const done = spawnSync(
      'sh',
      ['-c', 'node bin/markpost.mjs sheet "$0" --as html | head -c 10 >/dev/null', orchard],
      {
        cwd: root,
        encoding: 'utf8',
      },
    )
    expect([done.status, done.stderr]).toEqual([0, ''])
  })
})
