import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { runHere as run } from './testing/runHere.ts'

const root = new URL('..', import.meta.url).pathname
const folder = mkdtempSync(join(tmpdir(), 'markpost-firmware-'))
afterAll(() => rmSync(folder, { recursive: true }))
const demo = (name: string): string => join(root, 'demo', name)
const crossing = demo('2-branch-line-crossing.markpost.yaml')
const kiln = demo('3-kiln-logger.markpost.yaml')
const gauges = demo('4-two-post-rain-gauge.markpost.yaml')
const hive = demo('1-orchard-hive-watch.markpost.yaml')
const file = (name: string, text: string): string => {
  const path = join(folder, name)
  writeFileSync(path, text)
  return path
}

describe('constants', () => {
  it('go to standard output, or into a file', async () => {
    const printed = await run('constants', crossing, '--as', 'cpp')
    expect(printed.status).toBe(0)
    expect(printed.out).toMatch(/constexpr uint8_t BARRIER1_SIG = 9; /)
    const out = join(folder, 'pins.h')
    expect(await run('constants', crossing, '--as', 'cpp', '--out', out)).toEqual({ status: 0, out: '', said: '' })
    expect(readFileSync(out, 'utf8')).toBe(printed.out)
  })

  it.each<[string, string[], RegExp]>([
    [
      'a language that the board does not speak',
      ['constants', crossing, '--as', 'python'],
      /MCU has no programs in python; expected --as cpp/,
    ],
    [
      'several boards',
      ['constants', gauges, '--as', 'cpp'],
      /several boards; expected --board with one of GAUGE, HOUSE/,
    ],
    [
      'a board that is not there',
      ['constants', gauges, '--as', 'cpp', '--board', 'ROOF'],
      /--board ROOF: .* has no such board; expected one of GAUGE, HOUSE/,
    ],
    [
      'a folder that is not there',
      ['constants', crossing, '--as', 'cpp', '--out', '/nowhere/pins.h'],
      /\/nowhere\/pins\.h: cannot be written/,
    ],
    ['no language at all', ['constants', crossing], /--as/],
  ])('%s is one message and status 2', async (_, args, message) => {
    const { status, out, said } = await run(...args)
    expect([status, out]).toEqual([2, ''])
    expect(said).toMatch(message)
  })
})

describe('settings', () => {
  it('are told in words, as lines, and as overlays alone', async () => {
    expect((await run('settings', kiln)).out).toContain('Interface settings: SPI on.')
    expect((await run('settings', kiln, '--as', 'lines')).out.split('\n').slice(1, 4)).toEqual([
      'dtparam=spi=on',
      'dtparam=i2c_arm=on',
      'dtoverlay=i2c-rtc,ds3231',
    ])
    expect((await run('settings', kiln, '--as', 'overlay')).out).not.toContain('dtparam')
    expect(JSON.parse((await run('settings', kiln, '--json')).out)).toMatchObject({ ref: 'PI' })
  })

  it('of a board without a system are none, and no mistake', async () => {
    const { status, out } = await run('settings', crossing)
    expect(status).toBe(0)
    expect(out).toMatch(/^MCU: Uno R3 runs the program alone/)
  })
})

const sketch = `const int north = 2, south = 3, release = 5;
const int redLeft = 8, redRight = 7, white = 4;
Servo roadSide, fieldSide;
void setup() {
  pinMode(north, INPUT_PULLUP); pinMode(south, INPUT_PULLUP); pinMode(release, INPUT_PULLUP);
  pinMode(redLeft, OUTPUT); pinMode(redRight, OUTPUT); pinMode(white, OUTPUT);
  roadSide.attach(9); fieldSide.attach(6);
  Wire.begin();
}
void loop() {}
`

describe('compare-source', () => {
  it('agrees: 0', async () => {
    const { status, out } = await run('compare-source', crossing, file('good.ino', sketch))
    expect(out.trim()).toMatch(/nothing else; program and plan agree$/)
    expect(status).toBe(0)
  })

  it('differs: 1, with file, line and the line itself', async () => {
    const bad = file('bad.ino', sketch.replace('attach(9); fieldSide.attach(6)', 'attach(6); fieldSide.attach(9)'))
    const { status, out } = await run('compare-source', crossing, bad)
    expect(status).toBe(1)
    expect(out).toMatch(/exchanged +bad\.ino:3:7: roadSide and fieldSide are exchanged/)
    expect(out).toContain('\n      Servo roadSide, fieldSide;\n')
    const json = JSON.parse((await run('compare-source', crossing, bad, '--json')).out)
    expect(json).toMatchObject({ agrees: false, board: 'MCU', language: 'cpp' })
    expect(json.differences.find((one: { kind: string }) => one.kind === 'exchanged')).toMatchObject({
      ends: ['BARRIER1.SIG', 'BARRIER2.SIG'],
      place: { file: bad, line: 3 },
    })
    const sarif = JSON.parse((await run('compare-source', crossing, bad, '--as', 'sarif')).out)
    expect(sarif.runs[0].results[0]).toMatchObject({ ruleId: 'exchanged', level: 'error' })
    expect(sarif.runs[0].results[0].locations[0].physicalLocation.region.startLine).toBe(3)
    const junit = (await run('compare-source', crossing, bad, '--as', 'junit')).out
    expect(junit).toMatch(/<testsuite name="[^"]*bad\.ino" tests="13" failures="1"/)
  })

  it.each<[string, () => string[], RegExp]>([
    [
      'a program that is not there',
      () => ['compare-source', crossing, '/nowhere/x.ino'],
      /there is no such file; expected a program/,
    ],
    [
      'files of no language',
      () => ['compare-source', crossing, file('x.txt', 'hello')],
      /no program that is known; expected files ending in/,
    ],
    [
      'two languages at once',
      () => ['compare-source', crossing, file('x.ino', ''), file('x.py', '')],
      /of one language/,
    ],
    [
      'a language that the board does not speak',
      () => ['compare-source', crossing, file('y.py', 'x = 1')],
      /MCU has no programs in python; expected --language with one of cpp/,
    ],
  ])('%s: 2', async (_, args, message) => {
    const { status, out, said } = await run(...args())
    expect([status, out]).toEqual([2, ''])
    expect(said).toMatch(message)
  })

  it('takes the constants that it wrote itself for what they are', async () => {
    for (const [plan, as, board] of [
      [crossing, 'cpp', 'MCU'],
      [hive, 'cpp', 'MCU'],
      [hive, 'micropython', 'MCU'],
      [kiln, 'python', 'PI'],
      [gauges, 'circuitpython', 'HOUSE'],
    ] as const) {
      const out = join(folder, as === 'cpp' ? `c-${board}.h` : `c_${as}.py`)
      await run('constants', plan, '--as', as, '--board', board, '--out', out)
      const compared = await run('compare-source', plan, out, '--board', board, '--language', as)
      expect(compared.out.trim(), `${plan} ${as}`).toMatch(/nothing else; program and plan agree$/)
    }
  })
})

describe('scan', () => {
  const good = '0x20 0x57 0x68 0x76 0x77'
  it('agrees 0, differs 1, and reads standard input', async () => {
    expect((await run('scan', hive, file('good.txt', good))).status).toBe(0)
    const { status, out } = await run('scan', hive, file('bad.txt', good.replace('0x77', '0x48')))
    expect(status).toBe(1)
    expect(out).toMatch(/missing {3}0x77 ATTIC/)
    expect(out).toMatch(/stranger {2}0x48, where /)
    expect(JSON.parse((await run('scan', hive, file('good.txt', good), '--json')).out)).toMatchObject({ agrees: true })
    const piped = spawnSync(process.execPath, ['bin/markpost.mjs', 'scan', hive], {
      cwd: root,
      input: good,
      encoding: 'utf8',
    })
    expect(piped.status).toBe(0)
  })

  it('what is no scan is one message: 2', async () => {
    const { status, out, said } = await run('scan', hive, file('no.txt', 'boot\nready\n'))
    expect([status, out]).toEqual([2, ''])
    expect(said).toMatch(/no bus scan that is known; expected what a scan program prints/)
  })
})

describe('bringup', () => {
  it('steps as Markdown and JSON, test programs by language', async () => {
    const { status, out } = await run('bringup', crossing, '--as', 'markdown')
    expect(status).toBe(0)
    expect(out).toMatch(/^# Bring-up of Branch-line crossing\n\n## Look before you measure\n/)
    expect(out).toContain('- [ ] **RED1.A at MCU.D8**')
    const json = JSON.parse((await run('bringup', crossing, '--as', 'json')).out)
    expect(json.steps.map((one: { id: string }) => one.id)).toContain('in:RELEASE.1')
    expect((await run('bringup', crossing, '--as', 'cpp')).out).toContain('#include <Arduino.h>')
    expect((await run('bringup', gauges, '--as', 'micropython', '--board', 'house')).out).toContain(
      'from machine import',
    )
    expect(await run('bringup', crossing, '--as', 'python')).toMatchObject({ status: 2, out: '' })
  })
})

describe('diagnose', () => {
  it('nothing wrong 0, causes 1 with the likeliest first and the next measurement', async () => {
    const right = file('right.json', '[{"step":"in:RELEASE.1","value":1}]')
    expect(await run('diagnose', crossing, right)).toMatchObject({
      status: 0,
      out: 'Nothing that was seen is wrong.\n',
    })
    const wrong = file(
      'wrong.json',
      '{"results":[{"step":"out:WHITE.A","wrong":true},{"step":"wire:WHITE.K-MCU.GND","saw":"silent"}]}',
    )
    const { status, out } = await run('diagnose', crossing, wrong)
    expect(status).toBe(1)
    expect(out.split('\n')[0]).toMatch(/^ *\d+% {2}.*WHITE/)
    expect(out).toMatch(/\nNext: .+ \(.+\)\n/)
    const json = JSON.parse((await run('diagnose', crossing, wrong, '--json')).out)
    expect(json.causes[0]).toMatchObject({ odds: expect.any(Number), faults: [expect.any(String)] })
  })

  it.each<[string, string, RegExp]>([
    ['no results', '[]', /no results; expected a list/],
    ['of another plan', '[{"step":"out:NOBODY.A","wrong":true}]', /none of its results is a measurement of this plan/],
  ])('%s: 2', async (_, text, message) => {
    const { status, out, said } = await run('diagnose', crossing, file('odd.json', text))
    expect([status, out]).toEqual([2, ''])
    expect(said).toMatch(message)
  })
})

describe('practice', () => {
  const practise = (input: string, ...args: string[]) =>
    spawnSync(process.execPath, ['bin/markpost.mjs', 'practice', ...args], { cwd: root, input, encoding: 'utf8' })

  it('answers line by line, with a fault planted or none', () => {
    const asked = '{"do":"out:WHITE.A","level":"high"}\n{"do":"read:RELEASE.1"}\n'
    const sound = practise(asked, crossing)
    expect(sound.status).toBe(0)
    expect(sound.stdout.trim().split('\n').slice(1)).toEqual([
      '{"step":"out:WHITE.A","state":"high"}',
      '# WHITE lights',
      '{"step":"in:RELEASE.1","value":1}',
    ])
    expect(practise(asked, crossing, '--fault', 'turned:WHITE').stdout).toContain('# nothing is seen')
    const one = practise('{"do":"all"}\n', crossing, '--random', '3').stdout
    expect(practise('{"do":"all"}\n', crossing, '--random', '3').stdout).toBe(one)
  })

  it('a fault that the plan cannot have is one message', async () => {
    expect(await run('practice', crossing, '--fault', 'turned:MOON')).toMatchObject({
      status: 2,
      said: expect.stringMatching(/no fault of this plan; expected one such as missing:/),
    })
    expect((await run('practice', crossing, '--random', 'x')).status).toBe(2)
  })
})

describe('a plan from a program', () => {
  const program = file(
    'gate.ino',
    'Servo flap;\nconst int lamp = 4; // go\nvoid setup() {\n  flap.attach(9);\n  pinMode(7, OUTPUT);\n  pinMode(lamp, OUTPUT);\n}\n',
  )
  it('takes what is told, and asks for the rest', async () => {
    const out = join(folder, 'gate.markpost.yaml')
    const done = await run('plan-from', program, '--out', out)
    expect(done.status).toBe(0)
    expect(done.said).toMatch(/^board: Uno R3.*; --board names another\nwhat is on 7\? \(pinMode\) could be led, /)
    const plan = readFileSync(out, 'utf8')
    expect(plan).toContain('title: gate')
    expect(plan).toContain('LAMP: { part: led }')
    expect(plan).not.toContain('MCU.D7')
    // The program agrees with what was made of it but for the pin that was asked for.
    expect((await run('compare-source', out, program)).out).toContain('7')
    expect((await run('check', out)).status).not.toBe(2)
  })
  it('takes the likeliest when it may, on the board that is named, under a title', async () => {
    const done = await run('plan-from', program, '--likeliest', '--board', 'mega-2560-r3', '--title', 'Cat flap')
    expect(done.said).toBe('')
    expect(done.out).toContain('title: Cat flap')
    expect(done.out).toContain('mega-2560-r3')
    expect(done.out).toContain('MCU.D7')
  })
  it('gives its reasons as JSON', async () => {
    const { out } = await run('plan-from', program, '--json')
    expect(JSON.parse(out)).toMatchObject({
      board: { id: 'uno-r3' },
      guesses: [
        { called: 'flap', pins: ['D9'], sure: true, because: ['class Servo'] },
        { called: 'lamp', pins: ['D4'], sure: true },
        { called: '7', sure: false },
      ],
    })
  })
  it.each<[string, string[], RegExp]>([
    [
      'a board that does not speak the language',
      ['--board', 'pi-40'],
      /--board pi-40: no board of the catalogue with programs in cpp; expected one of /,
    ],
    ['no program', ['--language', 'rust'], /rust/],
  ])('says what is wrong: %s', async (_, args, said) => {
    const done = await run('plan-from', program, ...args)
    expect(done.status).toBe(2)
    expect(done.said).toMatch(said)
  })
})
