import { testRule } from '../testing/rules.ts'
import { controllerTakes } from './controllerTakes.ts'

const chain = 'X.VCC MCU.5V, X.GND MCU.GND, X.CLK MCU.D13, X.DIN MCU.D11, X.CS MCU.D10'
const relay = 'K.VCC MCU.5V, K.GND MCU.GND'

testRule(controllerTakes, {
  valid: [
    {
      title: 'a button, which is only read, on the data input of a bus that reads nothing',
      mcu: 'uno-r3',
      parts: { X: 'max7219', B: 'button' },
      wires: `${chain}, B.1 MCU.D12, B.2 MCU.GND`,
    },
    {
      title: 'a relay on the data input while no bus is there',
      mcu: 'uno-r3',
      parts: { K: 'relay-1' },
      wires: `${relay}, K.IN MCU.D12`,
    },
    {
      title: 'a relay on the pin of select, which stays an output',
      mcu: 'uno-r3',
      parts: { X: 'max7219', K: 'relay-1' },
      wires: `X.VCC MCU.5V, X.GND MCU.GND, X.CLK MCU.D13, X.DIN MCU.D11, X.CS MCU.D9, ${relay}, K.IN MCU.D10`,
    },
    {
      title: 'a bus made by hand on other pins',
      mcu: 'uno-r3',
      parts: { X: 'max7219', K: 'relay-1' },
      wires: `X.VCC MCU.5V, X.GND MCU.GND, X.CLK MCU.D7, X.DIN MCU.D6, X.CS MCU.D5, ${relay}, K.IN MCU.D12`,
    },
    {
      title: 'a chip that routes the data input where it is wanted',
      mcu: 'esp32-devkit-30',
      parts: { X: 'max7219', K: 'relay-1' },
      wires:
        'X.VCC MCU.VIN, X.GND MCU.GND, X.CLK MCU.GPIO18, X.DIN MCU.GPIO23, X.CS MCU.GPIO5, K.VCC MCU.VIN, K.GND MCU.GND, K.IN MCU.GPIO19',
    },
    {
      title: 'a bus that uses all its lines itself',
      mcu: 'uno-r3',
      parts: { X: 'microsd' },
      wires: 'X.SCK MCU.D13, X.MOSI MCU.D11, X.MISO MCU.D12, X.CS MCU.D10',
    },
  ],
  invalid: [
    {
      title: 'a relay on the data input',
      mcu: 'uno-r3',
      parts: { X: 'max7219', K: 'relay-1' },
      wires: `${chain}, ${relay}, K.IN MCU.D12`,
      says: ['caution: K.IN is on MCU.D12, which SPI makes an input while X is in use.'],
      fix: 'Move K.IN to MCU.D7',
      changes: ['wire K.IN to MCU.D12 removed', 'wire K.IN to MCU.D7 added'],
    },
    {
      title: 'a second select on the data input, on a board with other numbers',
      mcu: 'mega-2560-r3',
      parts: { X: 'max7219', Y: 'max7219' },
      wires:
        'X.CLK MCU.D52, X.DIN MCU.D51, X.CS MCU.D53, Y.CLK MCU.D52, Y.DIN MCU.D51, Y.CS MCU.D50, X.VCC MCU.5V, X.GND MCU.GND',
      says: ['caution: Y.CS is on MCU.D50, which SPI makes an input while X, Y is in use.'],
    },
    {
      title: 'a button on the pin of select',
      mcu: 'uno-r3',
      parts: { X: 'max7219', B: 'button' },
      wires: 'X.VCC MCU.5V, X.GND MCU.GND, X.CLK MCU.D13, X.DIN MCU.D11, X.CS MCU.D9, B.1 MCU.D10, B.2 MCU.GND',
      says: ['caution: B.1 is on MCU.D10, which SPI needs as an output while X is in use.'],
    },
    {
      title: 'a button on the transmit pin of a port that only listens',
      mcu: 'mega-2560-r3',
      parts: { G: 'gps-uart', B: 'button' },
      wires: 'G.VCC MCU.5V, G.GND MCU.GND, G.TX MCU.D19, B.1 MCU.D18, B.2 MCU.GND',
      says: ['caution: B.1 is on MCU.D18, which USART1 drives itself while G is in use.'],
    },
  ],
})
