import { testRule } from '../testing/rules.ts'
import { spiRelease } from './spiRelease.ts'

testRule(spiRelease, {
  valid: [
    {
      title: 'a card that has the bus to itself',
      parts: { C: 'microsd' },
      wires: 'C.SCK MCU.18, C.MOSI MCU.23, C.MISO MCU.19, C.CS MCU.5',
    },
    {
      title: 'a card beside a display that only listens',
      parts: { C: 'microsd', T: 'st7735' },
      wires:
        'C.SCK MCU.18, C.MOSI MCU.23, C.MISO MCU.19, C.CS MCU.5, T.SCK MCU.18, T.SDA MCU.23, T.CS MCU.16, T.A0 MCU.17, T.RESET MCU.25',
    },
  ],
  invalid: [
    {
      title: 'a card and a radio on one bus',
      parts: { C: 'microsd', R: 'sx1276' },
      wires:
        'C.VCC MCU.VIN, C.GND MCU.GND, R.VCC MCU.3V3, R.GND MCU.GND, C.SCK MCU.18, C.MOSI MCU.23, C.MISO MCU.19, C.CS MCU.5, R.SCK MCU.18, R.MOSI MCU.23, R.MISO MCU.19, R.NSS MCU.16',
      says: ['fault: C.MISO never lets go of MISO, which it shares with R.MISO.'],
      fix: 'Place the SPI lines of C anew',
      changes: [
        'wire C.SCK to MCU.GPIO18 removed',
        'wire C.MOSI to MCU.GPIO23 removed',
        'wire C.MISO to MCU.GPIO19 removed',
        'wire C.SCK to MCU.GPIO17 added',
        'wire C.MOSI to MCU.GPIO13 added',
        'wire C.MISO to MCU.GPIO22 added',
      ],
    },
  ],
})
