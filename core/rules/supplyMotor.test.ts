import { testRule } from '../testing/rules.ts'
import { supplyMotor } from './supplyMotor.ts'

testRule(supplyMotor, {
  valid: [
    {
      title: 'a servo on a pack of its own',
      supplies: { PACK: { volts: 5, limitMilliamps: 3000 } },
      parts: { S: 'servo-sg90' },
      wires: 'S.VCC PACK.+, S.GND PACK.-, PACK.- MCU.GND, S.SIG MCU.27',
    },
    {
      title: 'a display on the logic supply',
      mcu: 'uno-r3',
      parts: { O: 'ssd1306' },
      wires: 'O.VCC MCU.5V, O.GND MCU.GND, O.SDA MCU.A4, O.SCL MCU.A5',
    },
  ],
  invalid: [
    {
      title: 'a servo on the 5 V of an Uno',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 5, limitMilliamps: 3000 } },
      parts: { S: 'servo-sg90' },
      wires: 'S.VCC MCU.5V, S.GND MCU.GND, PACK.- MCU.GND, S.SIG MCU.9',
      says: ['caution: S takes its current from MCU.5V, from which MCU runs its logic.'],
      fix: 'Feed S from PACK.+ (5.0 V)',
      changes: ['wire S.VCC to MCU.5V removed', 'wire S.VCC to PACK.+ added'],
    },
    {
      title: 'a stepper on the 5 V of a Mega',
      mcu: 'mega-2560-r3',
      parts: { M: 'stepper-28byj48', D: 'uln2003' },
      wires:
        'D.E MCU.GND, D.COM MCU.5V, M.RED MCU.5V, M.BLU D.1C, M.PNK D.2C, M.YEL D.3C, M.ORG D.4C, D.1B MCU.22, D.2B MCU.23, D.3B MCU.24, D.4B MCU.25',
      says: ['caution: M takes its current from MCU.5V, from which MCU runs its logic.'],
    },
  ],
})
