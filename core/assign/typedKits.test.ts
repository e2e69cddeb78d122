import { describe, expect, it } from 'vitest'
import { seeded } from '../base/random.ts'
import { applyEdits } from '../plan/edit.ts'
import type { Plan } from '../plan/planSchema.ts'
import { allRules, check } from '../rules/index.ts'
import { once } from '../testing/once.ts'
import { catalog } from '../testing/plans.ts'
import { recordOf } from '../testing/record.ts'
import { typedKits } from '../testing/typedKits.ts'
import { answered, answerLines, planTyped, roundsIn, wiredUp } from '../testing/wiredKits.ts'
import { resolve } from '../wiring/resolve.ts'
import { assignChoosing } from './choosing.ts'

const record = recordOf('answersTyped.txt')

describe.each(typedKits)('$typed', ({ typed, why, wired, open, set, faults = [], adds = [] }) => {
  const all = once(() => answered(planTyped(typed)))
  it('is wired from what is typed', () => {
    const { plan, after, ended, found } = all()
    for (const net of wired.split(', ')) {
      const ends = net.split(' ').map((end) => new RegExp(`^(?:${end.replace(/[.+]/g, '\\$&')})$`))
      const isThere = ended.nets.some((one) => ends.every((end) => one.ends.some((name) => end.test(name))))
      expect(isThere, `${net}: ${why}`).toBe(true)
    }
    for (const end of open?.split(' ') ?? []) expect(ended.netOf(end).wired, `${end}: ${why}`).toBe(false)
    if (set !== undefined) {
      const [end = '', value = ''] = set.split(' ')
      const [ref = '', option = ''] = end.split('.')
      expect(String(after.parts[ref]?.options?.[option]), why).toBe(value)
    }
    const added = Object.entries(after.parts).flatMap(([ref, { part }]) => (ref in plan.parts ? [] : [part]))
    expect(added, why).toEqual(adds)
    const cried = found.filter(({ severity, rule }) => severity === 'fault' && !faults.includes(rule))
    expect(cried.map(({ message }) => message)).toEqual([])
    expect(roundsIn(after)).toEqual([])
  })
  it('is as on record', () => record(typed, answerLines(all())))
})

/** Boards and things as they lie together on a table. */
const usualBoards =
  'uno, nano, mega, esp32, pico, raspberry pi, d1 mini, bluepill, esp32 c3, microbit, xiao, feather'.split(', ')
const tables =
  `oled; lcd i2c; lcd 16x2, potentiometer, 220 ohm; bme280; dht22; 2 ds18b20, 4.7k; hc-sr04, 1k, 2k; pir; 3 buttons
  8 buttons; 3 leds; 8 leds; rgb led; servo, 5v supply; 2 servos, 6v battery; 4 relay board; mcp23017; pcf8574; 74hc595
  74hc165; ads1115; mcp3008; 2 potentiometers; ldr, 10k; soil sensor; gas sensor; joystick; rotary encoder; keypad 4x4
  passive buzzer; neopixel 30, 5v supply, 330 ohm; neopixel 8, level shifter; l298n, 2 dc motors, 12v supply
  tb6612, 2 dc motors, 6v battery; l293d, dc motor, 9v battery; a4988, nema 17, 12v supply, 100uf capacitor
  uln2003 board, 28byj-48; mosfet, 12v fan, 12v supply, 10k; relay, pump, 12v supply, 1n4007; gps; hc-05, 1k, 2k
  nrf24l01, 10uf capacitor; lora sx1276; rc522; dfplayer, speaker, 1k; max7219; tm1637; 7 segment display; 2 vl53l0x
  ds3231; ina219; pca9685, 4 servos, 5v supply; max485; hx711; flow sensor; 2 limit switches; ir receiver; epaper
  fingerprint; vibration motor, npn, 1k, diode; lipo, tp4056, boost; 12v supply, buck; tca9548a; ssr; txs0108e; 74ahct125; fuse`
    .split(/[;\n]/)
    .map((thing) => thing.trim())

describe('from what is typed to the wires', () => {
  it.each([
    'bme280, oled, rotary encoder, 3 buttons',
    'hc-sr501, 3 buttons, 2 reed switches',
    '2 rotary encoders, oled, ir receiver',
    'hall sensor, joystick, 2 limit switches',
  ])('brings nothing onto a pin that the checks would take off it, on any board: %s', (typed) => {
    // What a board lacks as a whole is said: pins, and volts that nobody brings.
    const lacking = ['pins-short', 'supply-missing', 'supply-budget']
    for (const board of catalog.boards.keys()) {
      const done = wiredUp(planTyped(`${board}, ${typed}, 5v 2a`))
      const cried = check(resolve(done, catalog), allRules).filter(
        ({ severity, rule }) => severity === 'fault' && !lacking.includes(rule),
      )
      expect(cried.map(({ message }) => `${board}: ${message}`)).toEqual([])
    }
  })

  it('leaves resistors to buy alone where their lamps have pins', () => {
    const done = wiredUp(planTyped('uno, 2 leds, 74hc595'))
    const smaller = applyEdits(done, [{ do: 'change-part', ref: 'R1', entry: { options: { ohms: 330 } } }])
    expect(assignChoosing(resolve(smaller, catalog)).edits).toEqual([])
  })

  it('brings no fault of its own making, whatever lies together', () => {
    const random = seeded(4)
    const drawn = <T>(from: readonly T[]): T => from[Math.floor(random() * from.length)] as T
    // What the kit or the board lacks as a whole is said, and what hangs on a signal that found no pin.
    const lacking = ['pins-short', 'supply-missing', 'supply-budget', 'uart-count']
    for (let kit = 0; kit < 50; kit += 1) {
      const things = new Set(Array.from({ length: 2 + Math.floor(random() * 4) }, () => drawn(tables)))
      const typed = [drawn(usualBoards), ...things].join(', ')
      const { result, found } = answered(planTyped(typed))
      const open = new Set(result.unplaced.map(({ end }) => end.split('.')[0]))
      const cried = found.filter(
        ({ severity, rule, at }) =>
          severity === 'fault' && !lacking.includes(rule) && !at.some((end) => open.has(end.split('.')[0])),
      )
      expect(cried.map(({ message }) => `${typed}: ${message}`)).toEqual([])
    }
  })

  it('is as good in whatever order things lie on the table', () => {
    const random = seeded(20)
    /** How many find no place, are added, and what is said how often. */
    const goodOf = (plan: Plan): string => {
      const { edits, unplaced } = assignChoosing(resolve(plan, catalog))
      const done = applyEdits(plan, edits)
      const said = check(resolve(done, catalog), allRules).map(({ severity, rule }) => `${severity} ${rule}`)
      return [unplaced.length, Object.keys(done.parts).length, ...said.sort()].join(', ')
    }
    for (const { typed } of typedKits) {
      const plan = planTyped(typed)
      const parts = Object.entries(plan.parts)
        .map((one) => ({ one, at: random() }))
        .sort((a, b) => a.at - b.at)
        .map(({ one }) => one)
      expect(goodOf({ ...plan, parts: Object.fromEntries(parts) }), `${typed}: ${parts.map(([ref]) => ref)}`).toBe(
        goodOf(plan),
      )
    }
  })
})
