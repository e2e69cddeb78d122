import { testRule } from '../testing/rules.ts'
import { analogRange } from './analogRange.ts'

testRule(analogRange, {
  valid: [
    {
      title: 'a sensor within the range',
      mcu: 'uno-r3',
      parts: { G: 'gas-analog' },
      wires: 'G.VCC MCU.5V, G.GND MCU.GND, G.AO MCU.A0',
    },
    {
      title: 'a knob over the whole range',
      mcu: 'pico',
      parts: { K: 'potentiometer' },
      wires: 'K.3 MCU.3V3, K.1 MCU.GND, K.W MCU.GP26',
    },
  ],
  invalid: [
    {
      title: '5 V on a pin that bears it and reads 3.3 V',
      mcu: 'stm32f411-blackpill',
      parts: { S: 'current-acs712' },
      wires: 'S.VCC MCU.5V, S.GND MCU.GND, S.OUT MCU.PA1',
      says: [],
    },
    {
      title: 'a knob over more than the converter reads well',
      parts: { K: 'potentiometer' },
      wires: 'K.3 MCU.3V3, K.1 MCU.GND, K.W MCU.34',
      says: ['tip: K.W reaches 3.3 V, and MCU.GPIO34 reads well up to 2.45 V.'],
    },
  ],
})
