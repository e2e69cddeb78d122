import { testRule } from '../testing/rules.ts'
import { pinNotSignal } from './pinNotSignal.ts'

testRule(pinNotSignal, {
  valid: [
    {
      title: 'the reset of a part on that of the board',
      mcu: 'uno-r3',
      parts: { T: 'rc522' },
      wires: 'T.VCC MCU.3V3, T.GND MCU.GND, T.RST MCU.RESET',
    },
  ],
  invalid: [
    {
      title: 'a magnet switch on reset',
      mcu: 'nano-v3',
      parts: { H: 'hall-a3144' },
      wires: 'H.VCC MCU.5V, H.GND MCU.GND, H.OUT MCU.RESET',
      says: ['fault: H.OUT needs an edge interrupt and hangs on MCU.RESET, which resets the board.'],
    },
    {
      title: 'a knob on a hole that leads nowhere',
      mcu: 'uno-r3',
      parts: { P: 'potentiometer' },
      wires: 'P.1 MCU.GND, P.3 MCU.5V, P.W MCU.NC',
      says: ['fault: P.W needs an analog input and hangs on MCU.NC, which is not connected.'],
      fix: 'Move P.W to MCU.A0',
      changes: ['wire P.W to MCU.NC removed', 'wire P.W to MCU.A0 added'],
    },
    {
      title: 'a knob on the reference',
      mcu: 'mega-2560-r3',
      parts: { P: 'potentiometer' },
      wires: 'P.1 MCU.GND, P.3 MCU.5V, P.W MCU.AREF',
      says: ['fault: P.W needs an analog input and hangs on MCU.AREF, which is the reference of its converter.'],
    },
    {
      title: 'a ground lead on reset',
      mcu: 'pico',
      parts: { C: 'usb-ttl-cable' },
      wires: 'C.GND MCU.RUN, C.RXD MCU.GP0, C.TXD MCU.GP1',
      says: ['fault: C.GND is ground and hangs on MCU.RUN, which resets the board.'],
      fix: 'Move C.GND to MCU.GND',
      changes: ['wire C.GND to MCU.RUN removed', 'wire C.GND to MCU.GND added'],
    },
  ],
})
