import { testRule } from '../testing/rules.ts'
import { timingSensitive } from './timingSensitive.ts'

testRule(timingSensitive, {
  valid: [
    { title: 'a strip on a small board', parts: { P: 'ws2812-strip' }, wires: 'P.DIN MCU.27' },
    {
      title: 'a strip on a pin whose hardware sends its bits, of a single-board computer',
      mcu: 'pi-40',
      parts: { P: 'ws2812-strip' },
      wires: 'P.DIN MCU.GPIO18',
    },
    {
      title: 'the same over the data line of its SPI',
      mcu: 'pi-40',
      parts: { P: 'ws2812-strip' },
      wires: 'P.DIN MCU.GPIO10',
    },
    { title: 'a probe read by the kernel', mcu: 'pi-40', parts: { T: 'ds18b20-probe' }, wires: 'T.DQ MCU.GPIO4' },
    {
      title: 'edges on a pin that dips, and nothing analog',
      parts: { E: 'ds3231' },
      wires: 'E.VCC MCU.3V3, E.GND MCU.GND, E.SDA MCU.GPIO21, E.SCL MCU.GPIO22, E.SQW MCU.GPIO39',
    },
    {
      title: 'edges on its neighbour',
      parts: { E: 'ds3231', L: 'tmp36' },
      wires:
        'E.VCC MCU.3V3, E.GND MCU.GND, E.SDA MCU.GPIO21, E.SCL MCU.GPIO22, E.SQW MCU.GPIO35, L.VS MCU.3V3, L.GND MCU.GND, L.OUT MCU.GPIO34',
    },
  ],
  invalid: [
    {
      title: 'edges on a pin that dips, beside an analog input',
      parts: { E: 'ds3231', L: 'tmp36' },
      wires:
        'E.VCC MCU.3V3, E.GND MCU.GND, E.SDA MCU.GPIO21, E.SCL MCU.GPIO22, E.SQW MCU.GPIO39, L.VS MCU.3V3, L.GND MCU.GND, L.OUT MCU.GPIO34',
      says: [
        'caution: E.SQW is waited for on MCU.GPIO39, which drops for a moment whenever the board reads an analog pin.',
      ],
      fix: 'Move E.SQW to MCU.GPIO35',
      changes: ['wire E.SQW to MCU.GPIO39 removed', 'wire E.SQW to MCU.GPIO35 added'],
    },
    {
      title: 'a humidity sensor on a single-board computer',
      mcu: 'pi-40',
      parts: { T: 'dht22', R: { part: 'resistor', options: { ohms: 4700 } } },
      wires: 'T.VCC MCU.3V3, T.GND MCU.GND, T.DATA MCU.GPIO4, R.1 T.DATA, R.2 MCU.3V3',
      says: ['caution: T.DATA needs pulses timed to microseconds, and programs on MCU are interrupted.'],
    },
    {
      title: 'a strip on a plain pin of a single-board computer',
      mcu: 'pi-40',
      parts: { P: 'ws2812-strip' },
      wires: 'P.DIN MCU.GPIO27',
      says: ['caution: P.DIN needs pulses timed to microseconds, and programs on MCU are interrupted.'],
    },
    {
      title: 'a strip on a module',
      mcu: 'jetson-nano-40',
      parts: { P: 'ws2812-strip' },
      wires: 'P.DIN MCU.GPIO12',
      says: ['caution: P.DIN needs pulses timed to microseconds, and programs on MCU are interrupted.'],
    },
  ],
})
