import { describe, expect, it } from 'vitest'
import { applyEdits } from '../plan/edit.ts'
import { catalog, planOf, wiringOf } from '../testing/plans.ts'
import { resolve } from '../wiring/resolve.ts'
import { assign } from './assign.ts'

describe('what an expander is in the kit for', () => {
  it('a pin that gives pulses alone is taken for a servo first, and ports for contacts and lamps', () => {
    const result = assign(
      wiringOf({
        mcu: 'uno-r3',
        parts: { P: 'pca9685', S: 'servo-sg90', B: 'button' },
        supplies: { PACK: { volts: 5 } },
      }),
    )
    const on = (end: string): string | undefined => result.placed.find(({ from }) => from === end)?.to
    expect(on('S.SIG')).toMatch(/^P\./)
    expect(on('B.1')).toMatch(/^MCU\./)
    // A contact goes to the ports that lie there for it, unless the maker wants them kept; a level is no pulse.
    const placed = (parts: Record<string, string>, end: string): string | undefined =>
      assign(wiringOf({ mcu: 'uno-r3', parts })).placed.find(({ from }) => from === end)?.to
    expect(placed({ X: 'mcp23017', B: 'button' }, 'B.1')).toMatch(/^X\./)
    expect(placed({ X: '74hc4051', L: 'led' }, 'R1.2')).toMatch(/^MCU\./)
    const kept = applyEdits(planOf({ mcu: 'uno-r3', parts: { X: 'mcp23017', B: 'button' } }), [
      { do: 'prefer', what: 'expanders', weight: 'more' },
    ])
    const there = assign(resolve(kept, catalog)).placed.find(({ from }) => from === 'B.1')
    expect(there?.to).toMatch(/^MCU\./)
    expect(placed({ P: 'pca9685', B: 'buzzer-active' }, 'B.+')).toMatch(/^MCU\./)
  })

  describe('an expander that would be idle', () => {
    const cases: readonly (readonly [string, Record<string, string>, string, RegExp])[] = [
      ['takes what says slow levels', { X: 'mcp23017', B: 'ttp223' }, 'B.IO', /^X\./],
      [
        'leaves that to the board where it has a contact',
        { X: 'mcp23017', B: 'ttp223', K: 'button' },
        'B.IO',
        /^MCU\./,
      ],
      ['takes relays, which it leaves alone at first', { X: 'mcp23017', K: 'relay-2' }, 'K.IN1', /^X\./],
      ['or holds off', { X: 'pcf8574-module', K: 'relay-2' }, 'K.IN1', /^X\./],
      ['takes no relay that it might move', { X: '74hc595', K: 'relay-2' }, 'K.IN1', /^MCU\./],
      ['takes no switch that it would close', { X: 'pcf8574-module', S: 'nmos', L: 'solenoid' }, 'S.G', /^MCU\./],
      ['takes a switch', { X: 'mcp23017-module', S: 'nmos', L: 'solenoid' }, 'S.G', /^X\./],
      ['not where its load wants to be dimmed', { X: 'mcp23017-module', S: 'nmos', L: 'lamp' }, 'S.G', /^MCU\./],
      ['hears no high below its threshold', { X: 'mcp23017', S: 'hc-sr501' }, 'S.OUT', /^MCU\./],
      ['times no pulse', { X: 'mcp23017', S: 'hc-sr04' }, 'S.ECHO', /^MCU\./],
      ['counts no turns', { X: 'mcp23017', S: 'rotary-encoder' }, 'S.CLK', /^MCU\./],
    ]
    it.each(cases)('%s', (_, parts, end, where) => {
      const result = assign(wiringOf({ mcu: 'uno-r3', parts, supplies: { PACK: { volts: 12 } } }))
      expect(result.placed.find(({ from }) => from === end)?.to).toMatch(where)
    })
  })
})
