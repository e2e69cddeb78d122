import { describe, expect, it } from 'vitest'
import { catalog, type Short, wiringOf } from '../testing/plans.ts'
import { samplePlans } from '../testing/samples.ts'
import { resolve } from '../wiring/resolve.ts'
import { Diagnoser } from './diagnose.ts'
import { buildWith } from './fault.ts'
import { faultsOf } from './faults.ts'
import { conditions, conditionsOf, noticesOf } from './notices.ts'

const short: Short = {
  mcu: 'uno-r3',
  supplies: { PACK: { volts: 5 } },
  parts: {
    LAMP: 'led',
    R1: { part: 'resistor', options: { ohms: 330 } },
    GATE: 'button',
    POT: 'potentiometer',
    A: { part: 'bme280', options: { address: 0x76 } },
    SHOW: 'ssd1306',
    FLAP: 'servo-sg90',
  },
  wires:
    'LAMP.A R1.1, R1.2 MCU.D4, LAMP.K MCU.GND, GATE.1 MCU.D2, GATE.2 MCU.GND, POT.W MCU.A0, POT.1 MCU.GND, POT.3 MCU.5V, A.SDA MCU.A4, A.SCL MCU.A5, A.VCC MCU.3V3, A.GND MCU.GND, A.SDO MCU.GND, A.CSB MCU.3V3, SHOW.SDA MCU.A4, SHOW.SCL MCU.A5, SHOW.VCC MCU.5V, SHOW.GND MCU.GND, FLAP.VCC PACK.+, FLAP.GND PACK.-, PACK.- MCU.GND, FLAP.SIG MCU.D9',
}
const wiring = wiringOf(short)
const after = (...ids: string[]): Map<string, string> => {
  const faults = ids.map((id) => {
    const found = faultsOf(wiring).find((one) => one.id === id)
    if (!found)
      throw new Error(
        `no fault ${id}; ${faultsOf(wiring)
          .map((one) => one.id)
          .join(', ')}`,
      )
    return found
  })
  return conditionsOf(wiring, buildWith(wiring, faults)!.live)
}

describe('how things do on a build', () => {
  it('as planned, everything is right; on the sample plans too', () => {
    for (const one of [wiring, ...samplePlans.map(({ plan }) => resolve(plan, catalog))])
      for (const [id, condition] of conditionsOf(one, resolve(one.plan, catalog))) expect(condition, id).toBe('right')
  })

  it.each<[string, Record<string, string>]>([
    ['missing:R1.2-MCU.D4', { LAMP: 'dead', SHOW: 'right', MCU: 'right' }],
    ['turned:LAMP', { LAMP: 'dead' }],
    ['decade:R1-100', { LAMP: 'dead' }],
    ['decade:R1-0.1', { LAMP: 'odd' }],
    ['missing:SHOW.VCC-MCU.5V', { SHOW: 'dead', A: 'right' }],
    ['missing:SHOW.GND-MCU.GND', { SHOW: 'dead' }],
    ['exchanged:SHOW.SDA-SHOW.SCL', { SHOW: 'deaf', A: 'right' }],
    ['missing:SHOW.SDA-MCU.A4', { SHOW: 'deaf', A: 'right' }],
    ['strap:A-0x77', { A: 'deaf', SHOW: 'right' }],
    ['missing:GATE.2-MCU.GND', { GATE: 'deaf' }],
    ['missing:POT.W-MCU.A0', { POT: 'deaf' }],
    ['missing:FLAP.VCC-PACK.+', { FLAP: 'dead' }],
    ['missing:FLAP.SIG-MCU.D9', { FLAP: 'deaf' }],
  ])('%s', (id, wanted) => {
    const seen = after(id)
    for (const [ref, condition] of Object.entries(wanted)) expect(seen.get(`works:${ref}`), ref).toBe(condition)
  })

  it('a supply that lies on ground takes the board and all that it moves with it', () => {
    const plan = { ...wiring.plan, wires: [...wiring.plan.wires, ['MCU.5V', 'MCU.GND'] as const] }
    const seen = conditionsOf(wiring, resolve(plan as typeof wiring.plan, catalog))
    expect(seen.get('works:MCU')).toBe('dead')
    expect(seen.get('works:LAMP')).toBe('dead')
  })

  it('parts behind a bus switch are heard through it, and are deaf when one of its lines lies on ground', () => {
    const behind = wiringOf({
      mcu: 'uno-r3',
      parts: { HUB: 'tca9548a', SHOW: 'ssd1306' },
      wires:
        'HUB.SDA MCU.A4, HUB.SCL MCU.A5, HUB.VIN MCU.5V, HUB.GND MCU.GND, SHOW.SDA HUB.SD0, SHOW.SCL HUB.SC0, SHOW.VCC MCU.5V, SHOW.GND MCU.GND',
    })
    const seen = (wires: typeof behind.plan.wires): unknown =>
      conditionsOf(behind, resolve({ ...behind.plan, wires }, catalog)).get('works:SHOW')
    expect(seen(behind.plan.wires)).toBe('right')
    expect(seen([...behind.plan.wires, ['HUB.SC0', 'MCU.GND']])).toBe('deaf')
  })

  it('a line on the supply lights a lamp whatever the program does', () => {
    const wires = wiring.plan.wires.map((wire) =>
      wire.includes('R1.2') ? (['R1.2', 'MCU.5V'] as const) : wire,
    ) as typeof wiring.plan.wires
    expect(conditionsOf(wiring, resolve({ ...wiring.plan, wires }, catalog)).get('works:LAMP')).toBe('always')
  })
})

describe('what may be noticed', () => {
  it('a display that is lit and blank has another cause than one that stays dark', () => {
    const notices = noticesOf(wiring)
    const first = (words: string): string[] => {
      const notice = notices.find((one) => one.words === words)!
      return new Diagnoser(wiring)
        .diagnose([{ step: notice.id, saw: notice.saw }])
        .causes.slice(0, 3)
        .flatMap(({ faults }) => faults.map(({ id }) => id))
    }
    for (const id of first('SHOW stays dark')) expect(id).toMatch(/VCC|GND|supply/)
    for (const id of first('SHOW has power, but shows nothing or rubbish'))
      expect(id).toMatch(/S(DA|CL)|strap:SHOW|counted:SHOW/)
  })

  it('nobody is asked of a resistor; each notice is about something that the diagnosis knows', () => {
    const notices = noticesOf(wiring)
    expect(notices.some(({ ref }) => ref === 'R1')).toBe(false)
    const diagnoser = new Diagnoser(wiring)
    for (const { id, saw } of notices) {
      expect(diagnoser.planned(id), id).toBe('right')
      if (saw !== 'wrong') expect(conditions).toContain(saw.outcome)
    }
  })

  it('narrows the faults that are looked at: the cause needs fewer measurements than without', () => {
    const diagnoser = new Diagnoser(wiring)
    const entropy = (of: readonly { odds: number }[]): number =>
      of.reduce((sum, { odds }) => sum - odds * Math.log2(odds), 0)
    const open = diagnoser.diagnose([])
    const told = diagnoser.diagnose([{ step: 'works:LAMP', saw: { outcome: 'dead' } }])
    expect(entropy(told.causes)).toBeLessThan(entropy(open.causes) - 1.2)
  })
})
