import { testRule } from '../testing/rules.ts'
import { i2cSpeed } from './i2cSpeed.ts'

testRule(i2cSpeed, {
  valid: [
    {
      title: 'no clock asked',
      parts: { A: 'ds1307' },
      mcu: 'uno-r3',
      wires: 'A.SDA MCU.A4, A.SCL MCU.A5, A.VCC MCU.5V, A.GND MCU.GND',
    },
    {
      title: 'a clock that all bear',
      boards: { MCU: { board: 'esp32-devkit-30', clocks: { i2c0: 400000 } } },
      parts: { A: 'ds3231' },
      wires: 'A.VCC MCU.3V3, A.GND MCU.GND, A.SDA MCU.21, A.SCL MCU.22',
    },
  ],
  invalid: [
    {
      title: 'a slow clock chip at 400 kHz',
      boards: { MCU: { board: 'uno-r3', clocks: { i2c0: 400000 } } },
      parts: { A: 'ds1307' },
      wires: 'A.SDA MCU.A4, A.SCL MCU.A5, A.VCC MCU.5V, A.GND MCU.GND',
      says: ['caution: 400 kHz are asked of TWI on MCU, and A bears 100 kHz.'],
      fix: 'Run TWI at 100 kHz',
      changes: ['MCU: clocks i2c0 400000 becomes i2c0 100000'],
    },
    {
      title: 'more than the controller makes',
      boards: { MCU: { board: 'uno-r3', clocks: { i2c0: 1000000 } } },
      parts: { A: 'sht31' },
      wires: 'A.SDA MCU.A4, A.SCL MCU.A5, A.VCC MCU.5V, A.GND MCU.GND',
      says: ['caution: 1 MHz are asked of TWI on MCU, and TWI of MCU bears 400 kHz.'],
      fix: 'Run TWI at 400 kHz',
      changes: ['MCU: clocks i2c0 1000000 becomes i2c0 400000'],
    },
  ],
})
