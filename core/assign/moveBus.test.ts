import { describe, expect, it } from 'vitest'
import { applyEdits } from '../plan/edit.ts'
import { check } from '../rules/index.ts'
import { catalog, fed, planOf, wiringOf } from '../testing/plans.ts'
import { resolve } from '../wiring/resolve.ts'
import { assign } from './assign.ts'
import { busWays } from './moveBus.ts'

describe('a whole bus moved', () => {
  it('takes all its lines to the other controller, selects and other wires staying', () => {
    const bare = planOf({ mcu: 'pico', parts: { AIR: 'bme280', SHOW: 'ssd1306', LORA: 'sx1276' } })
    const plan = applyEdits(bare, assign(resolve(bare, catalog)).edits)
    const wiring = resolve(plan, catalog)
    for (const bus of wiring.buses) {
      for (const way of busWays(wiring, bus)) {
        const moved = resolve(applyEdits(plan, way.edits), catalog)
        const now = moved.buses.find((one) => one.kind === bus.kind && one.parts[0]!.ref === bus.parts[0]!.ref)!
        expect(now.controller, `${bus.kind} to ${way.controller}`).toBe(way.controller)
        expect(now.parts.map(({ ref }) => ref).sort()).toEqual(bus.parts.map(({ ref }) => ref).sort())
        expect(check(moved).filter((one) => one.severity === 'fault')).toEqual([])
      }
    }
    expect(wiring.buses.flatMap((bus) => busWays(wiring, bus)).length).toBeGreaterThan(1)
  })
  it('keeps to the pin groups of a controller that has them', () => {
    const wiring = wiringOf({
      mcu: 'stm32f103-bluepill',
      parts: { B: 'bme280' },
      wires: `${fed('B')}, B.SDA MCU.PB7, B.SCL MCU.PB6`,
    })
    const ways = busWays(wiring, wiring.buses[0]!)
    expect(ways.map(({ controller }) => controller)).toHaveLength(1)
    const moved = resolve(applyEdits(wiring.plan, ways[0]!.edits), catalog)
    expect(moved.buses[0]!.controller).toBe(ways[0]!.controller)
  })
  it('stays where a locked wire holds a line', () => {
    const wiring = wiringOf({ parts: { B: 'bme280' }, wires: `${fed('B')}, !B.SDA MCU.21, B.SCL MCU.22` })
    expect(busWays(wiring, wiring.buses[0]!)).toEqual([])
  })
})
