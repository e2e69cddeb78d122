import { fed } from '../testing/plans.ts'
import { testRule } from '../testing/rules.ts'
import { i2cAddress } from './i2cAddress.ts'

const bus = (...refs: string[]): string => refs.map((ref) => `${ref}.SDA MCU.D21, ${ref}.SCL MCU.D22`).join(', ')
const climate = (address: number) => ({ part: 'bme280', options: { address } })

testRule(i2cAddress, {
  valid: [
    { title: 'two addresses', parts: { A: climate(0x76), B: climate(0x77) }, wires: bus('A', 'B') },
    {
      title: 'one address on two buses',
      parts: { A: climate(0x76), B: climate(0x76) },
      wires: `${bus('A')}, B.SDA MCU.D32, B.SCL MCU.D33`,
    },
    {
      title: 'one address on two boards',
      boards: { MCU: { board: 'esp32-devkit-30' }, TWO: { board: 'esp32-devkit-30' } },
      parts: { A: climate(0x76), B: climate(0x76) },
      wires: `${bus('A')}, B.SDA TWO.D21, B.SCL TWO.D22`,
    },
    {
      title: 'a part in its SPI mode',
      parts: { A: climate(0x76), B: { part: 'bme280', mode: 'spi', options: { address: 0x76 } } },
      wires: bus('A'),
    },
  ],
  invalid: [
    {
      title: 'two of the same',
      parts: { A: climate(0x76), B: climate(0x76) },
      wires: `${fed('A', 'B')}, ${bus('A', 'B')}, A.SDO MCU.GND, B.SDO MCU.GND`,
      says: ['fault: A and B both answer to 0x76 on one bus.'],
      fix: 'Move B to 0x77 (SDO high)',
      changes: [
        'B: options address 0x76 becomes address 0x77',
        'wire B.SDO to MCU.GND removed',
        'wire B.SDO to MCU.3V3 added',
      ],
    },
    {
      title: 'three of the same',
      parts: { A: climate(0x76), B: climate(0x76), C: climate(0x76) },
      wires: bus('A', 'B', 'C'),
      says: ['fault: A, B and C all answer to 0x76 on one bus.'],
    },
    {
      title: 'a clock and its double: two addresses each',
      parts: { A: 'ds3231', B: 'ds3231' },
      wires: bus('A', 'B'),
      says: ['fault: A and B both answer to 0x68 on one bus.', 'fault: A and B both answer to 0x57 on one bus.'],
    },
    {
      title: 'a locked strap leaves only the other part to move',
      parts: { A: climate(0x77), B: climate(0x77) },
      wires: `${fed('A', 'B')}, ${bus('A', 'B')}, ! B.SDO MCU.3V3, A.SDO MCU.3V3`,
      says: ['fault: A and B both answer to 0x77 on one bus.'],
      fix: 'Move A to 0x76 (SDO low)',
      changes: [
        'A: options address 0x77 becomes address 0x76',
        'wire A.SDO to MCU.3V3 removed',
        'wire A.SDO to MCU.GND added',
      ],
    },
  ],
})
