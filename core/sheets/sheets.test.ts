import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { parse } from 'yaml'
import { layoutOf } from '../breadboard/layout.ts'
import { stepsOf } from '../bringup/steps.ts'
import { applyEdits } from '../plan/edit.ts'
import { catalog, planOf, wiringOf } from '../testing/plans.ts'
import { plainWiring } from '../testing/randomPlans.ts'
import { sample, samplePlans } from '../testing/samples.ts'
import { times } from '../testing/times.ts'
import { resolve } from '../wiring/resolve.ts'
import { writeCsv } from './csv.ts'
import { sheetBody, writeHtml } from './html.ts'
import { writeMarkdown } from './markdown.ts'
import { writeSheet } from './output.ts'
import { pageNames } from './pages.ts'
import { writePinChart } from './pinChart.ts'
import { makeSheet } from './sheet.ts'
import { writeStrips } from './strips.ts'
import { tableOf } from './tables.ts'

const small = wiringOf({
  supplies: { PACK: { volts: 5 } },
  parts: { S: 'servo-sg90', B: 'bme280', L: 'led', R: 'resistor' },
  wires:
    'S.SIG MCU.D27, S.VCC PACK.+, S.GND PACK.-, PACK.- MCU.GND, MCU.GND B.GND, B.VCC MCU.3V3, B.CSB MCU.3V3, B.SDA MCU.21, B.SCL MCU.22, L.A R.1, R.2 MCU.D4, L.K MCU.GND',
})

describe('the sheet', () => {
  it('says in the list of parts what is still to be bought', () => {
    const wiring = wiringOf({ parts: { L: 'led', R: { part: 'resistor', buy: true } } })
    expect(
      writeCsv(makeSheet(wiring), 'parts')
        .trim()
        .split('\r\n')
        .map((line) => line.split(',').at(-1)),
    ).toEqual(['To buy', '', 'to buy'])
  })
  it('lists the legs once, in the step in which they go into their holes', () => {
    const wiring = resolve(sample('Orchard hive watch'), catalog)
    const layout = layoutOf(wiring)
    const sheet = makeSheet(wiring, layout)
    const bare = sheet.steps.filter(({ wires }) => wires.length === 0).map(({ title }) => title)
    expect(bare).toEqual(expect.arrayContaining(['Look at these first', 'Everything in its holes']))
    expect(sheetBody({ sheet, wiring, layout }, { only: ['wiring'] }).match(/class="mp-placing"/g)).toHaveLength(1)
  })
  it('counts in the list of parts what a part built by hand holds', () => {
    const value = (diodes: string): string | undefined =>
      makeSheet(wiringOf({ parts: { K: { part: 'key-matrix', options: { rows: 4, columns: 3, diodes } } } })).parts[0]
        ?.value
    expect(value('with')).toContain('with 12 × Push button and 12 × ')
    expect(value('without')).toMatch(/with 12 × Push button$/)
    expect(makeSheet(wiringOf({ parts: { B: 'button' } })).parts[0]?.value).not.toContain('×')
  })
  it('groups wires by build step and reads from part to board', () => {
    const sheet = makeSheet(small)
    expect(sheet.steps.map((step) => [step.title, step.wires.length])).toEqual([
      ['Grounds', 4],
      ['Supply 3.3 V from MCU.3V3', 1],
      ['Supply 5.0 V from PACK.+', 1],
      ['Straps', 1],
      ['I2C on I2C0: B', 2],
      ['Single signals', 3],
    ])
    const row = (end: string) => sheet.wiring.find((one) => `${one.from.ref}.${one.from.pin}` === end)!
    expect(row('B.GND')).toMatchObject({ to: { ref: 'MCU', pin: 'GND' }, colour: 'black', net: 'ground' })
    expect(row('S.SIG')).toMatchObject({
      from: { lead: 'orange or yellow or white' },
      to: { pin: 'GPIO27', names: ['D27', '27', 'ADC2_CH7', 'TOUCH7', 'RTC_GPIO17', 'L#10'] },
      ends: 'plug-plug',
      colour: 'brown',
      note: 'left row, 6th from the USB end',
    })
    expect(row('B.SDA').colour).toBe('green')
    expect(row('S.VCC').colour).not.toBe(row('B.VCC').colour)
    expect(sheet.parts.find((one) => one.ref === 'R')?.for).toBe('L')
  })

  it('holds every wire of any plan exactly once, numbered in order', () => {
    fc.assert(
      fc.property(plainWiring, (plan) => {
        const sheet = makeSheet(resolve(plan, catalog))
        expect(sheet.wiring.map((row) => row.number)).toEqual(plan.wires.map((_, index) => index + 1))
        const key = (a: string, b: string): string => [a, b].sort().join(' ')
        expect(
          sheet.wiring.map((row) => key(`${row.from.ref}.${row.from.pin}`, `${row.to.ref}.${row.to.pin}`)).sort(),
        ).toEqual(plan.wires.map((wire) => key(wire[0], wire[1])).sort())
        expect(sheet.steps.flatMap((step) => step.wires)).toEqual(sheet.wiring.map((row) => row.number))
        expect(sheet.jumpers.reduce((sum, one) => sum + one.count, 0)).toBe(plan.wires.length)
      }),
      { numRuns: times(80) },
    )
  })

  it('takes sockets for bare posts and plugs for socket rows', () => {
    const pi = makeSheet(wiringOf({ mcu: 'pi-40', parts: { B: 'button', F: 'fan' }, wires: 'B.1 MCU.17, F.+ MCU.5V' }))
    expect(pi.wiring.map((row) => row.ends).sort()).toEqual(['lead', 'plug-socket'])
  })
})

describe('writers', () => {
  const nasty = resolve(
    {
      ...small.plan,
      title: '=HYPERLINK("x") <script>|',
      parts: { ...small.plan.parts, S: { part: 'servo-sg90', title: '@SUM(A1) | <img src=x onerror=1>' } },
    },
    catalog,
  )
  it('CSV is safe against formulas and has a row for each wire', () => {
    const lines = writeCsv(makeSheet(nasty), 'parts').trim().split('\r\n')
    expect(lines[1]).toContain("'@SUM(A1)")
    expect(writeCsv(makeSheet(small)).trim().split('\r\n')).toHaveLength(small.plan.wires.length + 1)
  })
  it('Markdown cells cannot be broken out of', () => {
    const text = writeMarkdown(makeSheet(nasty), ['wiring', 'parts'])
    expect(text).toContain('@SUM(A1) \\| \\<img')
    const widths = text
      .split('\n')
      .filter((line) => line.startsWith('| 1 |'))
      .map((line) => line.split(/(?<!\\)\|/).length)
    expect(new Set(widths).size).toBeLessThanOrEqual(2)
  })
  it('HTML and SVG escape whatever the plan says', () => {
    const sheet = makeSheet(nasty)
    const onBench = resolve(
      {
        ...nasty.plan,
        bench: { breadboards: { BB1: { kind: 'full' }, BB2: { kind: 'full', joined: true } }, places: {}, done: [] },
      },
      catalog,
    )
    const layout = layoutOf(onBench)
    const laid = { sheet: makeSheet(onBench, layout), wiring: onBench, layout }
    for (const text of [
      writeHtml({ sheet, wiring: nasty, layout: undefined }),
      sheetBody(
        { sheet, wiring: nasty, layout: undefined },
        { only: pageNames, accepted: [{ rule: 'x', at: ['<b>'], because: '<i>' }] },
      ),
      sheetBody(laid, { only: pageNames, open: [{ rule: 'x', severity: 'fault', at: ['<b>'], message: '<b>' }] }),
      writePinChart(nasty).text,
      writeStrips(nasty).text,
    ]) {
      expect(text).not.toMatch(/<script|<img|<i>|<b>&|onerror=1>/)
    }
  })
  it.each(samplePlans.map(({ plan }) => [plan.title, plan] as const))('%s prints', (_, plan) => {
    const wiring = resolve(plan, catalog)
    const layout = layoutOf(wiring)
    const sheet = makeSheet(wiring, layout)
    const html = writeHtml({ sheet, wiring, layout }, { only: ['wiring'], revision: 3, paper: 'Letter' })
    expect(html.match(/<td class="mp-no">/g)).toHaveLength(layout?.wires.length ?? plan.wires.length)
    expect(html).toContain('counter(page) " of "')
    expect(parse(JSON.stringify(sheet))).toEqual(sheet)
    expect(writePinChart(wiring).text).toContain(`<title>${plan.title}</title>`)
  })
})

describe('settings of the system', () => {
  it('have a row for each line that is written into the file', () => {
    const { rows } = tableOf(
      {
        ...makeSheet(resolve(sample('Kiln logger'), catalog)),
        settings: [
          {
            board: 'PI',
            title: 'Buses',
            steps: ['On.', 'Restart.'],
            lines: ['a=on', 'b=on'],
            device: '/dev/x',
            needed: true,
          },
          { board: 'PI', title: 'Console', steps: ['Off.'], lines: [], device: null, needed: false },
        ],
      },
      'settings',
    )
    expect(rows).toEqual([
      ['PI', 'Buses', 'On. Restart.', 'a=on', '/dev/x', 'needed'],
      ['', '', '', 'b=on', '', ''],
      ['PI', 'Console', 'Off.', '', '', 'if wanted'],
    ])
  })
})

describe('the rehearsal on paper', () => {
  const plan = applyEdits(
    planOf({ mcu: 'uno-r3', parts: { KEY: 'button', LAMP: 'led' }, wires: 'KEY.1 MCU.D2, LAMP.A MCU.D5' }),
    [
      {
        do: 'set-script',
        script: {
          steps: [
            { at: 0.5, set: { KEY: 'pressed' }, type: 'go' },
            { at: 1, expect: { LAMP: 'on', 'MCU.D5': 'high' }, within: 0.2, why: 'it <must> light' },
          ],
        },
      },
    ],
  )
  it('says at each step what to do and what must come of it, with room for what was seen', () => {
    const sheet = makeSheet(resolve(plan, catalog), undefined)
    expect(tableOf(sheet, 'rehearsal').rows).toEqual([
      ['0.5 s', 'KEY pressed, type "go"', '', '', ''],
      ['1 s', '', 'LAMP must be on, MCU.D5 must be high within 0.2 s', 'it <must> light', ''],
    ])
    expect(
      tableOf(makeSheet(resolve({ ...plan, rehearsal: undefined }, catalog), undefined), 'rehearsal').rows,
    ).toEqual([])
  })
  it('prints as a page of its own', () => {
    const page = writeSheet(resolve(plan, catalog), 'html', { only: ['rehearsal'] })
    expect(page).toContain('it &#60;must&#62; light')
    expect(page).toContain('Rehearsal, to be tried on the build')
  })
})

describe('the record of bring-up', () => {
  it('has every step with a box, and what was seen where it is done', () => {
    const plan = sample('Branch-line crossing')
    const [first, second] = stepsOf(resolve(plan, catalog))
    const on = resolve(
      {
        ...plan,
        bringup: {
          done: {
            [first!.id]: { at: '2026-11-27T18:40:12Z', value: '1.9 V' },
            [second!.id]: { at: '2026-11-27T18:41:00Z', wrong: true, remark: 'turned' },
          },
        },
      },
      catalog,
    )
    const sheet = makeSheet(on, layoutOf(on))
    expect(sheet.record).toHaveLength(stepsOf(on).length)
    expect(sheet.record.slice(0, 3).map(({ seen, value, remark }) => [seen, value, remark])).toEqual([
      ['right', '1.9 V', null],
      ['wrong', null, 'turned'],
      [null, null, null],
    ])
    const [done, wrong, open] = tableOf(sheet, 'record').rows
    expect(done?.slice(0, 1).concat(done.slice(4))).toEqual(['right', '1.9 V', '2026-11-27 18:40'])
    expect(wrong?.slice(4)).toEqual(['turned', '2026-11-27 18:41'])
    expect(open?.slice(4)).toEqual(['', ''])
    const page = writeSheet(on, 'html', { only: ['record'] })
    expect(page.match(/tick when done/g)).toHaveLength(sheet.record.length - 2)
    expect(page).toContain('aria-label="as expected"')
    expect(page).toContain('aria-label="otherwise"')
  })
})

it('what lies behind a relay is a step of its own, which waits for no wire to its supply', () => {
  const wiring = wiringOf({
    mcu: 'uno-r3',
    supplies: { PACK: { volts: 5 } },
    parts: { M: 'pump', K: 'relay-1' },
    wires: 'K.VCC MCU.5V, K.GND MCU.GND, K.IN MCU.7, PACK.+ K.COM, K.NO M.+, M.- PACK.-',
  })
  const text = writeMarkdown(makeSheet(wiring))
  const steps = text.split(/^#+ /m)
  const behind = steps.find((one) => one.includes('From PACK.+ through a part'))
  expect(behind).toMatch(/K.*NO.*M.*\+|M.*\+.*K.*NO/)
  expect(steps.find((one) => one.includes('Supply 5.0 V from MCU.5V'))).not.toContain('NO')
})
