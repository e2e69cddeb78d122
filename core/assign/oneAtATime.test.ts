import { describe, expect, it } from 'vitest'
import { wiringOf } from '../testing/plans.ts'
import { blockWords } from './block.ts'
import { candidates } from './candidates.ts'

/** Why a signal may not go to a pin; `fits` where it may. */
function why(parts: Record<string, string>, end: string, pin: string, wires = ''): string {
  const wiring = wiringOf({
    mcu: 'uno-r3',
    parts,
    wires: `C.V${'D' in parts ? 'CC' : 'DD'} MCU.5V, C.${'D' in parts ? 'GND' : 'VSS'} MCU.GND${wires}`,
  })
  const use = wiring.signal(end)!
  const { blocked } = candidates(wiring, use).find(({ host }) => host.end === pin)!
  return blocked ? blockWords(blocked) : 'fits'
}

describe('outputs of which one at a time is picked', () => {
  const decoder = { C: '74hc138', D: 'mcp3008', L: 'led', K: 'relay-1' }
  const counter = { C: 'cd4017', L: 'led', K: 'relay-1', N: 'cd4017', M: 'mcp3008' }
  it.each([
    ['a select line to an output that falls', decoder, 'D.CS', 'C.Y0', 'fits'],
    ['no select line to one that rises', counter, 'M.CS', 'C.Q0', 'one at a time'],
    ['a lamp to one that rises', counter, 'L.A', 'C.Q0', 'fits'],
    ['no lamp that lights while high to one that falls', decoder, 'L.A', 'C.Y0', 'one at a time'],
    ['no relay to either', counter, 'K.IN', 'C.Q3', 'one at a time'],
    ['nor to the other', decoder, 'K.IN', 'C.Y3', 'one at a time'],
    ['no lamp to the carry', counter, 'L.A', 'C.CO', 'one at a time'],
    ['the clock of the next counter to the carry', counter, 'N.CLK', 'C.CO', 'fits'],
    ['not its reset', counter, 'N.RST', 'C.CO', 'one at a time'],
    ['and no clock to an output', counter, 'N.CLK', 'C.Q9', 'one at a time'],
  ])('%s', (_, parts, end, pin, says) => {
    expect(why(parts, end, pin)).toBe(says)
  })
  it('a lamp on the supply to one that falls', () => {
    expect(why(decoder, 'L.K', 'C.Y0', ', L.A MCU.5V')).toBe('fits')
    expect(why(counter, 'L.K', 'C.Q0', ', L.A MCU.5V')).toBe('one at a time')
  })
})

describe('bits one after the other', () => {
  it.each(['S.DI', 'S.CI', 'W.DT', 'T.DAT', 'R.SER', 'R.SRCLK'])('%s not behind the bus of an expander', (end) => {
    const parts = { X: 'mcp23017', S: 'apa102-strip', W: 'hx711', T: 'ds1302', R: '74hc595' }
    const wiring = wiringOf({ mcu: 'uno-r3', parts, wires: 'X.VDD MCU.5V, X.VSS MCU.GND' })
    const { blocked } = candidates(wiring, wiring.signal(end)!).find(({ host }) => host.end === 'X.GPA0')!
    expect(blocked?.kind).toBe('slow')
  })
})
