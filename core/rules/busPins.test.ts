import { fed } from '../testing/plans.ts'
import { testRule } from '../testing/rules.ts'
import { busPinsRule } from './busPins.ts'

const fiveVolts = 'D.VCC MCU.5V, D.GND MCU.GND'

testRule(busPinsRule, {
  valid: [
    { title: 'fixed pins', mcu: 'uno-r3', parts: { D: 'ds3231' }, wires: 'D.SDA MCU.A4, D.SCL MCU.A5' },
    {
      title: 'the same pins at the other holes',
      mcu: 'uno-r3',
      parts: { D: 'ds3231' },
      wires: 'D.SDA MCU.SDA, D.SCL MCU.SCL',
    },
    { title: 'any pins through the matrix', parts: { D: 'ds3231' }, wires: 'D.SDA MCU.D32, D.SCL MCU.D33' },
    {
      title: 'two buses on two controllers',
      parts: { C: 'ds3231', D: 'ds3231' },
      wires: 'C.SDA MCU.D21, C.SCL MCU.D22, D.SDA MCU.D32, D.SCL MCU.D33',
    },
    {
      title: 'the second SPI of the header',
      mcu: 'pi-40',
      parts: { S: { part: 'bme280', mode: 'spi' } },
      wires: 'S.SCL MCU.GPIO21, S.SDA MCU.GPIO20, S.SDO MCU.GPIO19, S.CSB MCU.GPIO5',
    },
    { title: 'a bus that is only begun', mcu: 'uno-r3', parts: { D: 'ds3231' }, wires: 'D.SDA MCU.A4' },
  ],
  invalid: [
    {
      title: 'I2C on plain pins of a fixed controller',
      mcu: 'uno-r3',
      parts: { D: 'ds3231' },
      wires: `${fiveVolts}, D.SDA MCU.2, D.SCL MCU.3`,
      says: ['fault: No I2C controller of MCU reaches SCL on D3 and SDA on D2 (D).'],
      fix: 'Place the I2C lines of D anew',
      changes: [
        'wire D.SDA to MCU.D2 removed',
        'wire D.SCL to MCU.D3 removed',
        'wire D.SCL to MCU.A5 added',
        'wire D.SDA to MCU.A4 added',
      ],
    },
    {
      title: 'SDA and SCL swapped',
      mcu: 'uno-r3',
      parts: { D: 'ds3231' },
      wires: `${fiveVolts}, D.SDA MCU.A5, D.SCL MCU.A4`,
      says: ['fault: SDA and SCL of D are swapped.'],
      fix: 'Place the I2C lines of D anew',
      changes: [
        'wire D.SDA to MCU.A5 removed',
        'wire D.SCL to MCU.A4 removed',
        'wire D.SCL to MCU.A5 added',
        'wire D.SDA to MCU.A4 added',
      ],
    },
    {
      title: 'MISO and MOSI swapped',
      mcu: 'pi-40',
      parts: { R: 'sx1276' },
      wires: 'R.SCK MCU.GPIO11, R.MOSI MCU.GPIO9, R.MISO MCU.GPIO10',
      says: ['fault: MOSI and MISO of R are swapped.'],
    },
    {
      title: 'lines of two controllers mixed',
      mcu: 'pi-40',
      parts: { R: 'sx1276' },
      wires: 'R.SCK MCU.GPIO11, R.MOSI MCU.GPIO20, R.MISO MCU.GPIO9',
      says: ['fault: No SPI controller of MCU reaches SCK on GPIO11, MISO on GPIO9 and MOSI on GPIO20 (R).'],
    },
    {
      title: 'an input-only pin',
      parts: { D: 'ds3231' },
      wires: `${fed('D')}, D.SDA MCU.D34, D.SCL MCU.D22`,
      says: ['fault: No I2C controller of MCU reaches SCL on GPIO22 and SDA on GPIO34 (D).'],
    },
    {
      title: 'more buses than controllers',
      parts: { A: 'ds3231', B: 'ds3231', C: 'ds3231' },
      wires: 'A.SDA MCU.21, A.SCL MCU.22, B.SDA MCU.32, B.SCL MCU.33, C.SDA MCU.25, C.SCL MCU.26',
      says: ['fault: MCU has no I2C controller left for C.'],
    },
    {
      title: 'a bus line on an expander',
      parts: { X: 'mcp23017', D: 'ds3231' },
      wires: 'D.SDA X.GPA0',
      says: ['fault: D.SDA needs I2C SDA, and X.GPA0 is an expander pin.'],
    },
  ],
})
