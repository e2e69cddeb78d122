import { testRule } from '../testing/rules.ts'
import { pinsShort } from './pinsShort.ts'

const buttons = (count: number): Record<string, string> =>
  Object.fromEntries(Array.from({ length: count }, (_, index) => [`B${index}`, 'button']))

const several = (count: number, stem: string, part: string): Record<string, string> =>
  Object.fromEntries(Array.from({ length: count }, (_, index) => [`${stem}${index + 1}`, part]))

testRule(pinsShort, {
  valid: [
    {
      title: 'four digits with a transistor each, which share their lines',
      mcu: 'nano-v3',
      parts: { ...several(4, 'D', 'seven-segment'), ...several(4, 'Q', 'npn') },
    },
    {
      title: 'fourteen buttons on an Uno',
      mcu: 'uno-r3',
      parts: buttons(14),
    },
    {
      title: 'thirty buttons with an expander',
      mcu: 'uno-r3',
      parts: { ...buttons(30), X: 'mcp23017' },
    },
    {
      title: 'sound on the only pin that can send it, which the USB serial also uses',
      mcu: 'esp8266-nodemcu-v2',
      parts: { A: 'max98357a' },
      wires: 'A.BCLK MCU.GPIO15, A.LRC MCU.GPIO2, A.DIN MCU.GPIO3',
    },
  ],
  invalid: [
    {
      title: 'four digits and a transistor too few',
      mcu: 'nano-v3',
      parts: { ...several(4, 'D', 'seven-segment'), ...several(3, 'Q', 'npn') },
      says: ['fault: MCU has too few pins: D3.E, D3.F, D3.G and D4.A and 9 more find none.'],
    },
    {
      title: 'two buttons too many on a board whose USB serial takes two pins',
      uses: ['usb-serial'],
      parts: buttons(25),
      says: ['fault: MCU has too few pins: B23.1 and B24.1 find none.'],
      fix: 'Do without: USB serial',
      changes: ['MCU: uses usb-serial becomes none'],
    },
    {
      title: 'thirty buttons on an Uno',
      mcu: 'uno-r3',
      parts: buttons(30),
      says: ['fault: MCU has too few pins: B18.1, B19.1, B20.1 and B21.1 and 8 more find none.'],
    },
    {
      title: 'sound that is not wired yet, where the USB serial uses that pin',
      mcu: 'esp8266-nodemcu-v2',
      parts: { A: 'max98357a' },
      says: ['fault: MCU has too few pins: A.DIN finds none.'],
      fix: 'Do without: USB serial',
      changes: ['MCU: uses unset becomes none'],
    },
    {
      title: 'four knobs on a Pico',
      mcu: 'pico',
      parts: { B0: 'potentiometer', B1: 'potentiometer', B2: 'potentiometer', B3: 'potentiometer' },
      says: ['fault: MCU has too few pins: B3.W finds none.'],
    },
    {
      title: 'a knob on a board without a converter',
      mcu: 'pi-40',
      parts: { K: 'potentiometer' },
      says: ['fault: MCU has too few pins: K.W finds none.'],
    },
  ],
})
