import { testRule } from '../testing/rules.ts'
import { flyback } from './flyback.ts'

testRule(flyback, {
  edges: [
    {
      says: 'neverOff',
      because: 'the diodes on 5 V conduct from a volt above it',
      said: 6.05,
      quiet: 5.95,
      at: (volts) => ({
        mcu: 'uno-r3',
        supplies: { PACK: { volts } },
        parts: { F: { part: 'fan', options: { volts: 5 } }, D: 'uln2803' },
        wires: 'D.GND MCU.GND, PACK.- MCU.GND, D.COM MCU.5V, F.+ PACK.+, F.- D.1C, D.1B MCU.9',
      }),
    },
  ],
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
      title: 'the diodes of an array on the higher one of two supplies',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 12 }, FIVE: { volts: 5 } },
      parts: {
        F: { part: 'fan', options: { volts: 12 } },
        L: { part: 'fan', options: { volts: 5 } },
        D: 'uln2003-board',
      },
      wires:
        'D.- MCU.GND, PACK.- MCU.GND, FIVE.- MCU.GND, D.+ PACK.+, F.+ PACK.+, F.- D.A, L.+ FIVE.+, L.- D.B, D.IN1 MCU.9, D.IN2 MCU.10',
    },
    {
      title: 'the diodes of an array a diode below the supply of the load',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 6 } },
      parts: { F: { part: 'fan', options: { volts: 5 } }, D: 'uln2803' },
      wires: 'D.GND MCU.GND, PACK.- MCU.GND, D.COM MCU.5V, F.+ PACK.+, F.- D.1C, D.1B MCU.9',
    },
    {
      title: 'a fan on an array whose diodes hang in the air',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 12 } },
      parts: { F: { part: 'fan', options: { volts: 12 } }, D: 'uln2803' },
      wires: 'D.GND MCU.GND, PACK.- MCU.GND, F.+ PACK.+, F.- D.1C, D.1B MCU.9',
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
      title: 'the diodes of an array on less than the load gets',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 12 } },
      parts: { S: 'strip-12v', D: 'uln2803' },
      wires: 'D.GND MCU.GND, PACK.- MCU.GND, D.COM MCU.5V, S.+ PACK.+, S.- D.1C, S.- D.2C, D.1B MCU.9, D.2B D.1B',
      says: [
        'fault: S never goes off: past D.1C and D.2C its current goes through the diodes to D.COM at 5.0 V, below its 12.0 V.',
      ],
      fix: 'Move D.COM to PACK.+',
      changes: ['wire D.COM to MCU.5V removed', 'wire D.COM to PACK.+ added'],
    },
    {
      title: 'the supply of a driver board below that of its motor',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 12 } },
      parts: { M: { part: 'dc-motor', mode: 'switched', options: { volts: 12 } }, D: 'uln2003-board' },
      wires: 'D.- MCU.GND, PACK.- MCU.GND, D.+ MCU.5V, M.M1 PACK.+, M.M2 D.A, D.IN1 MCU.9',
      says: [
        'fault: M never goes off: past D.A its current goes through the diodes to D.+ at 5.0 V, below its 12.0 V.',
      ],
      fix: 'Move D.+ to PACK.+',
      changes: ['wire D.+ to MCU.5V removed', 'wire D.+ to PACK.+ added'],
    },
    {
      title: 'a fan on half a bridge that runs on less',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 12 } },
      parts: { F: { part: 'fan', options: { volts: 12 } }, B: 'l293d' },
      wires:
        'B.VSS MCU.5V, B.VS MCU.5V, B.GND MCU.GND, B.GND.2 MCU.GND, B.GND.3 MCU.GND, B.GND.4 MCU.GND, PACK.- MCU.GND, F.+ PACK.+, F.- B.1Y, B.1A MCU.9, B.EN12 MCU.5V',
      says: [
        'fault: F never goes off: past B.1Y its current goes through the diodes to B.VS at 5.0 V, below its 12.0 V.',
      ],
      fix: 'Move B.VS to PACK.+',
      changes: ['wire B.VS to MCU.5V removed', 'wire B.VS to PACK.+ added'],
    },
    {
      title: 'the common of the diodes on ground, taken for the one of the chip',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 5 } },
      parts: { M: 'stepper-28byj48', D: 'uln2003' },
      wires:
        'D.E MCU.GND, PACK.- MCU.GND, D.COM MCU.GND, M.RED PACK.+, M.BLU D.1C, M.PNK D.2C, M.YEL D.3C, M.ORG D.4C, D.1B MCU.4, D.2B MCU.5, D.3B MCU.6, D.4B MCU.7',
      says: [
        'fault: M never goes off: past D.1C, D.2C, D.3C and D.4C its current goes through the diodes to D.COM at 0.0 V, below its 5.0 V.',
      ],
      fix: 'Move D.COM to PACK.+',
      changes: ['wire D.COM to MCU.GND removed', 'wire D.COM to PACK.+ added'],
    },
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
