import { testRule } from '../testing/rules.ts'
import { flyback } from './flyback.ts'

testRule(flyback, {
  valid: [
    {
      title: 'a motor with its diode',
      supplies: { PACK: { volts: 5, limitMilliamps: 3000 } },
      parts: { M: { part: 'dc-motor', mode: 'switched' }, T: 'nmos', D: 'diode' },
      wires: 'T.G MCU.27, T.S MCU.GND, PACK.- MCU.GND, M.M1 PACK.+, M.M2 T.D, D.A M.M2, D.K M.M1',
    },
    {
      title: 'a stepper on a driver whose diodes lie on its supply',
      supplies: { PACK: { volts: 5, limitMilliamps: 3000 } },
      parts: { M: 'stepper-28byj48', D: 'uln2003' },
      wires:
        'D.E MCU.GND, PACK.- MCU.GND, D.COM PACK.+, M.RED PACK.+, M.BLU D.1C, M.PNK D.2C, M.YEL D.3C, M.ORG D.4C, D.1B MCU.25, D.2B MCU.26, D.3B MCU.27, D.4B MCU.14',
    },
    {
      title: 'a fan: no winding to be seen from outside',
      supplies: { PACK: { volts: 5, limitMilliamps: 3000 } },
      parts: { F: 'fan', T: 'nmos' },
      wires: 'T.G MCU.27, T.S MCU.GND, PACK.- MCU.GND, F.+ PACK.+, F.- T.D',
    },
  ],
  invalid: [
    {
      title: 'a motor without a diode',
      supplies: { PACK: { volts: 5, limitMilliamps: 3000 } },
      parts: { M: { part: 'dc-motor', mode: 'switched' }, T: 'nmos' },
      wires: 'T.G MCU.27, T.S MCU.GND, PACK.- MCU.GND, M.M1 PACK.+, M.M2 T.D',
      says: ['fault: M is switched by T.D without a diode across its winding.'],
      fix: 'Add diode 1N5819 to M',
      changes: ['part D1 added (diode)', 'wire D1.A to M.M2 added', 'wire D1.K to M.M1 added'],
    },
    {
      title: 'a solenoid on a bipolar transistor',
      supplies: { PACK: { volts: 12 } },
      mcu: 'uno-r3',
      parts: { V: 'solenoid', T: 'npn', R: { part: 'resistor', options: { ohms: 1000 } } },
      wires: 'T.B R.1, R.2 MCU.7, T.E MCU.GND, PACK.- MCU.GND, V.+ PACK.+, V.- T.C',
      says: ['fault: V is switched by T.C without a diode across its winding.'],
      fix: 'Add diode 1N4007 to V',
      changes: ['part D1 added (diode)', 'wire D1.A to V.- added', 'wire D1.K to V.+ added'],
    },
    {
      title: 'a driver whose diodes hang in the air',
      supplies: { PACK: { volts: 5, limitMilliamps: 3000 } },
      mcu: 'pico',
      parts: { M: { part: 'dc-motor', mode: 'switched' }, D: 'uln2003' },
      wires: 'D.E MCU.GND, PACK.- MCU.GND, M.M1 PACK.+, M.M2 D.1C, D.1B MCU.GP2',
      says: ['fault: M is switched by D.1C, whose diodes need D.COM on the supply of the load.'],
      fix: 'Join D.COM to M.M1',
      changes: ['wire D.COM to M.M1 added'],
    },
  ],
})
