import { testRule } from '../testing/rules.ts'
import { supplyBudget } from './supplyBudget.ts'

testRule(supplyBudget, {
  valid: [
    {
      title: 'a few sensors on the board',
      parts: { A: 'bme280', O: 'ssd1306' },
      wires:
        'A.VCC MCU.3V3, A.GND MCU.GND, A.SDA MCU.21, A.SCL MCU.22, O.VCC MCU.3V3, O.GND MCU.GND, O.SDA MCU.21, O.SCL MCU.22',
    },
    {
      title: 'a servo on a pack that is large enough',
      supplies: { PACK: { volts: 5, limitMilliamps: 3000 } },
      parts: { S: 'servo-sg90' },
      wires: 'S.VCC PACK.+, S.GND PACK.-, PACK.- MCU.GND, S.SIG MCU.27',
    },
  ],
  invalid: [
    {
      title: 'a strip of a hundred pixels on a small pack',
      supplies: { PACK: { volts: 5, limitMilliamps: 1000 } },
      parts: { P: { part: 'ws2812-strip', options: { pixels: 100 } } },
      wires: 'P.5V PACK.+, P.GND PACK.-, PACK.- MCU.GND, P.DIN MCU.27',
      says: ['fault: PACK.+ has to give 2000 mA as a rule, and gives 1000 mA at most.'],
    },
    {
      title: 'two servos on USB beside a pack',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 5, limitMilliamps: 3000 } },
      parts: { A: 'servo-sg90', B: 'servo-sg90' },
      wires: 'A.VCC MCU.5V, A.GND MCU.GND, B.VCC MCU.5V, B.GND MCU.GND, PACK.- MCU.GND, A.SIG MCU.9, B.SIG MCU.10',
      says: ['fault: MCU.5V has to give 440 mA as a rule, and gives 400 mA at most.'],
      fix: 'Feed A from PACK.+ and B from PACK.+',
      changes: [
        'wire A.VCC to MCU.5V removed',
        'wire B.VCC to MCU.5V removed',
        'wire A.VCC to PACK.+ added',
        'wire B.VCC to PACK.+ added',
      ],
    },
    {
      title: 'a motor behind a converter counts at the pack',
      supplies: { PACK: { volts: 12, limitMilliamps: 300 } },
      parts: { K: 'buck', P: { part: 'ws2812-strip', options: { pixels: 40 } } },
      wires: 'K.IN+ PACK.+, K.IN- PACK.-, K.OUT- MCU.GND, P.5V K.OUT+, P.GND K.OUT-, P.DIN MCU.27',
      says: [
        'fault: PACK.+ has to give 422 mA as a rule, and gives 300 mA at most.',
        'caution: K.OUT+ has to give 2400 mA at peaks, and gives 2000 mA at most.',
      ],
    },
  ],
})
