import type { Short } from '../testing/plans.ts'
import { testRule } from '../testing/rules.ts'
import { pinNotSignal } from './pinNotSignal.ts'

/** Two transceivers whose line is closed with so many resistors of so many ohms. */
const closedWith =
  (part: string, count = 1) =>
  (ohms: number): Short => {
    const [plus, minus] = part === 'max485' ? ['A', 'B'] : ['CANH', 'CANL']
    const refs = ['R', 'S'].slice(0, count)
    return {
      mcu: 'uno-r3',
      parts: {
        M: part,
        N: part,
        ...Object.fromEntries(refs.map((ref) => [ref, { part: 'resistor', options: { ohms } }])),
      },
      wires: [
        `M.${plus} N.${plus}, M.${minus} N.${minus}`,
        ...refs.map((ref) => `${ref}.1 M.${plus}, ${ref}.2 M.${minus}`),
      ].join(', '),
    }
  }

testRule(pinNotSignal, {
  valid: [
    {
      title: 'the reset of a part on that of the board',
      mcu: 'uno-r3',
      parts: { T: 'rc522' },
      wires: 'T.VCC MCU.3V3, T.GND MCU.GND, T.RST MCU.RESET',
    },
    {
      title: 'a line of two wires, closed at both ends',
      mcu: 'uno-r3',
      parts: {
        M: 'max485',
        N: 'max3485',
        R: { part: 'resistor', options: { ohms: 120 } },
        S: { part: 'resistor', options: { ohms: 120 } },
      },
      wires: 'M.A N.A, M.B N.B, R.1 M.A, R.2 M.B, S.1 N.A, S.2 N.B',
    },
    {
      title: 'one transceiver, whose line leads out of the plan',
      mcu: 'uno-r3',
      parts: { M: 'max485', T: 'terminal' },
      wires: 'M.A T.1',
    },
    {
      title: 'a bias at one wire of a line, strong as it may be',
      mcu: 'uno-r3',
      parts: { M: 'max485', R: { part: 'resistor', options: { ohms: 22 } }, T: 'terminal' },
      wires: 'M.A T.1, M.B T.2, R.1 M.A',
    },
  ],
  invalid: [
    {
      title: 'one wire of a line of two',
      mcu: 'uno-r3',
      parts: { M: 'max485', N: 'max485' },
      wires: 'M.A N.A',
      says: ['fault: M.A is joined with N.A, and M.B with nothing: the line has two wires.'],
      fix: 'Join M.B to N.B',
      changes: ['wire M.B to N.B added'],
    },
    {
      title: 'the other wire alone, of which one side leads on',
      mcu: 'uno-r3',
      parts: { M: 'sn65hvd230', N: 'mcp2515', T: 'terminal' },
      wires: 'M.CANL N.CANL, N.CANH T.1',
      says: ['fault: M.CANL is joined with N.CANL, and M.CANH with nothing: the line has two wires.'],
    },
    {
      title: 'terminators of the wrong decade',
      mcu: 'uno-r3',
      parts: { M: 'max485', N: 'max485', R: { part: 'resistor', options: { ohms: 12 } } },
      wires: 'M.A N.A, M.B N.B, R.1 M.A, R.2 M.B',
      says: ['fault: R loads M.A and M.B with 12 Ω, and the line bears 54 Ω at least.'],
    },
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
  edges: [
    { says: 'loaded', because: 'RS-485 is tested into 54 Ω', at: closedWith('max485'), said: 53, quiet: 55 },
    {
      says: 'loaded',
      because: 'CAN bears 45 Ω, here of two resistors',
      at: closedWith('mcp2515', 2),
      said: 89,
      quiet: 91,
    },
  ],
})
