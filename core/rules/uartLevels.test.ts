import { testRule } from '../testing/rules.ts'
import { uartLevels } from './uartLevels.ts'

testRule(uartLevels, {
  valid: [
    {
      title: 'a card reader behind its converter',
      parts: { C: 'max3232', F: 'rfid-rs232' },
      wires: 'C.VCC MCU.3V3, C.GND MCU.GND, F.TX C.R1IN, C.R1OUT MCU.16',
    },
    { title: 'logic to logic', parts: { G: 'gps-uart' }, wires: 'G.TX MCU.16' },
  ],
  invalid: [
    {
      title: 'a card reader straight on a pin',
      parts: { F: 'rfid-rs232' },
      wires: 'F.TX MCU.16',
      says: ['fault: F.TX speaks RS-232 levels and is wired to the logic pin MCU.GPIO16 without a converter.'],
      fix: 'Take F.TX off MCU.GPIO16 until a converter is there',
      changes: ['wire F.TX to MCU.GPIO16 removed'],
    },
    {
      title: 'a logic part behind a converter',
      parts: { C: 'max3232', G: 'gps-uart' },
      wires: 'C.VCC MCU.3V3, C.GND MCU.GND, G.TX C.R1IN, C.R1OUT MCU.16',
      says: ['fault: G.TX speaks logic levels and meets RS-232 levels on its way to MCU.GPIO16.'],
    },
  ],
})
