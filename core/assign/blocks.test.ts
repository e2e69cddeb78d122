import { describe, expect, it } from 'vitest'
import { wiringOf } from '../testing/plans.ts'
import { blockWords } from './block.ts'
import { candidates } from './candidates.ts'

describe('why a load may not go to an output', () => {
  const wiring = wiringOf({
    mcu: 'uno-r3',
    supplies: { PACK: { volts: 12 }, FIVE: { volts: 5 }, SIX: { volts: 6 } },
    parts: {
      U: 'uln2003-board',
      F: { part: 'fan', options: { volts: 12 } },
      L: { part: 'fan', options: { volts: 5 } },
      V: { part: 'fan', options: { volts: 5 } },
      S: 'solenoid',
    },
    wires:
      'U.+ FIVE.+, U.- MCU.GND, PACK.- MCU.GND, FIVE.- MCU.GND, SIX.- MCU.GND, F.+ PACK.+, L.+ FIVE.+, V.+ SIX.+, S.+ PACK.+, L.- U.B',
  })
  const why = (end: string, pin: string): string => {
    const { blocked } = candidates(wiring, wiring.signal(end)!).find(({ host }) => host.end === pin)!
    return blocked ? blockWords(blocked) : 'fits'
  }
  it.each([
    ['on more than its diodes lie on', 'F.-', 'U.A', 'its diodes lie on 5.0 V, the load on 12.0 V'],
    ['no more than a diode above', 'V.-', 'U.A', 'fits'],
    ['taken by another', 'V.-', 'U.B', 'L.-'],
    [
      'what giving up would not change comes before who has it',
      'F.-',
      'U.B',
      'its diodes lie on 5.0 V, the load on 12.0 V',
    ],
    ['and the current before both', 'S.-', 'U.B', '1000 mA, 500 mA at most'],
  ])('%s', (_, end, pin, says) => {
    expect(why(end, pin)).toBe(says)
  })
})
