import { testRule } from '../testing/rules.ts'
import { backFeed } from './backFeed.ts'

/** A strip on a supply of its own, with a resistor in its data line. */
const strip = (ohms: number) => ({
  mcu: 'uno-r3',
  supplies: { PACK: { volts: 5 } },
  parts: { S: 'ws2812-strip', R: { part: 'resistor', options: { ohms } } },
  wires: 'S.5V PACK.+, S.GND PACK.-, PACK.- MCU.GND, S.DIN R.1, R.2 MCU.6',
})
const pack = (volts: number) => ({ PACK: { volts } })

testRule(backFeed, {
  valid: [
    { title: 'fed by its socket alone', mcu: 'uno-r3', uses: ['usb-serial'] },
    {
      title: 'fed at a pin behind its regulator',
      mcu: 'uno-r3',
      uses: ['usb-serial'],
      supplies: pack(9),
      wires: 'PACK.+ MCU.VIN, PACK.- MCU.GND',
    },
    {
      title: 'fed past the socket, which nothing uses',
      mcu: 'uno-r3',
      uses: ['servo-library'],
      supplies: pack(5),
      wires: 'PACK.+ MCU.5V, PACK.- MCU.GND',
    },
    {
      title: 'fed outside the range of the pin, of which supply-range speaks',
      mcu: 'uno-r3',
      uses: ['usb-serial'],
      supplies: pack(9),
      wires: 'PACK.+ MCU.5V, PACK.- MCU.GND',
    },
    {
      title: 'a strip on the supply that feeds the board as well',
      mcu: 'uno-r3',
      supplies: pack(7.5),
      parts: { K: 'buck', S: 'ws2812-strip' },
      wires:
        'PACK.+ MCU.VIN, PACK.- MCU.GND, K.IN+ PACK.+, K.IN- PACK.-, S.5V K.OUT+, S.GND K.OUT-, K.OUT- MCU.GND, S.DIN MCU.6',
    },
    {
      title: 'a driver on a pack whose inputs bear their volts without it',
      mcu: 'uno-r3',
      supplies: pack(12),
      parts: { U: 'uln2003' },
      wires: 'U.COM PACK.+, U.GND PACK.-, PACK.- MCU.GND, U.1B MCU.6',
    },
    {
      title: 'a relay module with opto-couplers on a pack',
      mcu: 'uno-r3',
      supplies: pack(5),
      parts: { K: 'relay-4' },
      wires: 'K.VCC PACK.+, K.GND PACK.-, PACK.- MCU.GND, K.IN1 MCU.6',
    },
    {
      title: 'a bus that only ever pulls low',
      supplies: pack(3.3),
      parts: { E: 'mcp23017' },
      wires: 'E.VDD PACK.+, E.VSS PACK.-, PACK.- MCU.GND, E.SDA MCU.21, E.SCL MCU.22',
    },
  ],
  invalid: [
    ...[
      ['leonardo-32u4', '5V'],
      ['pico', 'VBUS'],
    ].map(([mcu, post]) => ({
      title: `a pack at ${post} of a board whose chip has USB of its own`,
      mcu,
      supplies: pack(5),
      wires: `PACK.+ MCU.${post}, PACK.- MCU.GND`,
      says: [
        `caution: PACK.+ feeds MCU at ${post}, which nothing parts from its USB socket: never plug USB in while it is on.`,
      ],
    })),
    {
      title: 'a strip on a pack, its data straight from a board on USB',
      mcu: 'uno-r3',
      supplies: pack(5),
      parts: { S: 'ws2812-strip' },
      wires: 'S.5V PACK.+, S.GND PACK.-, PACK.- MCU.GND, S.DIN MCU.6',
      says: ['tip: While PACK is off, MCU.D6 feeds S through S.DIN.'],
    },
    {
      title: 'a sensor on a pack into a board on its socket',
      mcu: 'pico',
      supplies: pack(3.3),
      parts: { S: 'hx711' },
      wires: 'S.VCC PACK.+, S.GND PACK.-, PACK.- MCU.GND, S.SCK MCU.GP2, S.DT MCU.GP3',
      says: ['tip: While PACK is off, MCU.GP2 feeds S through S.SCK.'],
    },
    {
      title: 'fed at the 5 V pin of a board that talks over USB',
      mcu: 'uno-r3',
      uses: ['usb-serial'],
      supplies: pack(5),
      wires: 'PACK.+ MCU.5V, PACK.- MCU.GND',
      says: [
        'caution: PACK.+ feeds MCU at 5V, which nothing parts from its USB socket: never plug USB in while it is on.',
      ],
    },
    {
      title: 'fed at the 3.3 V pin, with a pin for that voltage beside it',
      mcu: 'esp32-devkit-30',
      uses: ['usb-serial'],
      supplies: pack(3.3),
      wires: 'PACK.+ MCU.3V3, PACK.- MCU.GND',
      says: [
        'caution: PACK.+ feeds MCU at 3V3, which nothing parts from its USB socket: never plug USB in while it is on.',
      ],
    },
  ],
  edges: [{ says: 'whileOff', because: '(5 V − 0.6 V) / 20 mA = 220 Ω', at: strip, said: 218, quiet: 222 }],
})
