import type { PlanPart } from '../plan/planSchema.ts'
import { testRule } from '../testing/rules.ts'
import { ohms } from '../testing/short.ts'
import { diodeAcross } from './diodeAcross.ts'

const pack = { PACK: { volts: 12, limitMilliamps: 3000 } }
const motor = (milliamps: number, stall: number, mode?: string): PlanPart => ({
  part: 'dc-motor',
  options: { milliamps, stall },
  ...(mode ? { mode } : {}),
})

const bridge = 'U.12V PACK.+, PACK.- MCU.GND, U.GND MCU.GND'

testRule(diodeAcross, {
  valid: [
    {
      title: 'across a motor that a transistor switches',
      mcu: 'uno-r3',
      supplies: pack,
      parts: {
        M: motor(200, 600, 'switched'),
        T: 'nmos',
        R: ohms(10_000),
        D: { part: 'diode', options: { model: '1n5819' } },
      },
      wires: 'M.M1 PACK.+, M.M2 T.D, T.S MCU.GND, PACK.- MCU.GND, T.G MCU.D5, R.1 T.G, R.2 T.S, D.A T.D, D.K PACK.+',
    },
    {
      title: 'from an output of a bridge to its supply',
      mcu: 'uno-r3',
      supplies: pack,
      parts: { U: 'l298n', M: 'dc-motor', D: 'diode' },
      wires: `${bridge}, M.M1 U.OUT1, M.M2 U.OUT2, D.A U.OUT1, D.K PACK.+`,
    },
  ],
  invalid: [
    {
      title: 'across a motor on a bridge',
      mcu: 'mega-2560-r3',
      supplies: pack,
      parts: { U: 'l298n', M: 'dc-motor', D: 'diode' },
      wires: `${bridge}, M.M1 U.OUT1, M.M2 U.OUT2, D.A U.OUT1, D.K U.OUT2`,
      says: ['fault: D lies across M, which a bridge drives both ways: one way it is a short circuit.'],
      fix: 'Take D out',
      changes: ['part D removed', 'wire D.A to U.OUT1 removed', 'wire D.K to U.OUT2 removed'],
    },
  ],
})
