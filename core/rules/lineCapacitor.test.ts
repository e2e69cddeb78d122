import { testRule } from '../testing/rules.ts'
import { ohms } from '../testing/short.ts'
import { lineCapacitor } from './lineCapacitor.ts'

const cap = (farads: number) => ({ part: 'capacitor', options: { farads } })
const echo = 'E.VCC MCU.5V, E.GND MCU.GND, E.TRIG MCU.D6, E.ECHO MCU.D7'
const climate = 'B.VCC MCU.3V3, B.GND MCU.GND, B.SDA MCU.A4, B.SCL MCU.A5'
const damp = 'D.VCC MCU.5V, D.GND MCU.GND, D.DATA MCU.D6, R.1 D.DATA, R.2 MCU.5V'
const relay = 'K.VCC MCU.5V, K.GND MCU.GND, K.IN MCU.D6'

testRule(lineCapacitor, {
  valid: [
    {
      title: 'across the supply of a radio, where it belongs',
      mcu: 'uno-r3',
      parts: { N: 'nrf24l01', C: cap(1e-5) },
      wires: 'N.VCC MCU.3V3, N.GND MCU.GND, N.CE MCU.D9, N.CSN MCU.D10, N.SCK MCU.D13, C.1 N.VCC, C.2 N.GND',
    },
    {
      title: 'one that makes a button quiet, with its resistor',
      mcu: 'uno-r3',
      parts: { B: 'button', R: ohms(10_000), C: cap(1e-6) },
      wires: 'B.1 MCU.D2, B.2 MCU.GND, R.1 MCU.D2, R.2 MCU.5V, C.1 MCU.D2, C.2 MCU.GND',
    },
    {
      title: 'two at the contacts of an encoder',
      mcu: 'uno-r3',
      parts: { E: 'rotary-encoder', C: cap(1e-7), D: cap(1e-7) },
      wires: 'E.CLK MCU.D2, E.DT MCU.D3, E.VCC MCU.5V, E.GND MCU.GND, C.1 E.CLK, C.2 MCU.GND, D.1 E.DT, D.2 MCU.GND',
    },
    {
      title: 'one that makes a reading calm',
      mcu: 'uno-r3',
      parts: { P: 'potentiometer', C: cap(1e-5) },
      wires: 'P.1 MCU.GND, P.3 MCU.5V, P.W MCU.A0, C.1 MCU.A0, C.2 MCU.GND',
    },
    {
      title: 'in the way of sound',
      parts: { A: 'pam8403', C: cap(1e-6) },
      wires: 'A.VCC MCU.VIN, A.GND MCU.GND, C.1 MCU.D25, C.2 A.L',
    },
    {
      title: 'a serial line at 9600 baud bears a little',
      mcu: 'mega-2560-r3',
      parts: { G: 'gps-uart', C: cap(1e-7) },
      wires: 'G.VCC MCU.5V, G.GND MCU.GND, G.TX MCU.D19, C.1 G.TX, C.2 MCU.GND',
    },
    {
      title: 'a gate that opens slowly, through a resistor',
      mcu: 'uno-r3',
      supplies: { PACK: { volts: 12 } },
      parts: { Q: 'nmos', F: { part: 'fan', options: { volts: 12 } }, R: ohms(1000), C: cap(1e-5) },
      wires: 'PACK.- MCU.GND, F.+ PACK.+, F.- Q.D, Q.S MCU.GND, Q.G R.1, R.2 MCU.D5, C.1 Q.G, C.2 MCU.GND',
    },
    {
      title: 'a leg on the line and the other in the air',
      mcu: 'uno-r3',
      parts: { B: 'bme280', C: cap(1e-7) },
      wires: `${climate}, C.1 B.SDA`,
    },
    {
      title: 'a few picofarads on a clock',
      mcu: 'uno-r3',
      parts: { M: 'max7219', C: cap(1e-10) },
      wires: 'M.VCC MCU.5V, M.GND MCU.GND, M.DIN MCU.D11, M.CLK MCU.D13, M.CS MCU.D10, C.1 M.CLK, C.2 MCU.GND',
    },
    {
      title: 'one that a relay input bears: its contacts need milliseconds',
      mcu: 'uno-r3',
      parts: { K: 'relay-1', C: cap(1e-7) },
      wires: `${relay}, C.1 K.IN, C.2 MCU.GND`,
    },
  ],
  invalid: [
    {
      title: 'a row beside: at the data input of a strip',
      mcu: 'uno-r3',
      parts: { S: { part: 'ws2812-strip', options: { pixels: 8 } }, R: ohms(330), C: cap(0.001) },
      wires: 'S.5V MCU.5V, S.GND MCU.GND, S.DIN R.1, R.2 MCU.D6, C.1 S.DIN, C.2 MCU.GND',
      says: ['fault: With C of 1000 µF on it the line of S.DIN takes 430 ms to rise, and has 400 ns.'],
      fix: 'Move C.1 to S.5V',
      changes: ['wire C.1 to S.DIN removed', 'wire C.1 to S.5V added'],
    },
    {
      title: 'from the supply to the data input',
      mcu: 'uno-r3',
      parts: { S: { part: 'ws2812-strip', options: { pixels: 8 } }, C: cap(0.001) },
      wires: 'S.5V MCU.5V, S.GND MCU.GND, S.DIN MCU.D6, C.1 MCU.5V, C.2 S.DIN',
      says: ['fault: With C of 1000 µF on it the line of S.DIN takes 30 ms to rise, and has 400 ns.'],
      fix: 'Take C out',
      changes: ['part C removed', 'wire C.1 to MCU.5V removed', 'wire C.2 to S.DIN removed'],
    },
    {
      title: 'on a bus, which its pull-up charges',
      mcu: 'uno-r3',
      parts: { B: 'bme280', C: cap(1e-7) },
      wires: `${climate}, C.1 B.SDA, C.2 MCU.GND`,
      says: ['fault: With C of 100 nF on it the line of B.SDA takes 1.6 ms to rise, and has 1 µs.'],
      fix: 'Move C.1 to B.VCC',
      changes: ['wire C.1 to B.SDA removed', 'wire C.1 to B.VCC added'],
    },
    {
      title: 'from line to line of a bus',
      mcu: 'uno-r3',
      parts: { B: 'bme280', C: cap(1e-7) },
      wires: `${climate}, C.1 B.SDA, C.2 B.SCL`,
      says: ['fault: With C of 100 nF on it the line of B.SCL takes 1.6 ms to rise, and has 1 µs.'],
      fix: 'Take C out',
      changes: ['part C removed', 'wire C.1 to B.SDA removed', 'wire C.2 to B.SCL removed'],
    },
    {
      title: 'on a line of one wire',
      mcu: 'uno-r3',
      parts: { D: 'dht22', R: ohms(10_000), C: cap(1e-7) },
      wires: `${damp}, C.1 MCU.D6, C.2 MCU.GND`,
      says: ['fault: With C of 100 nF on it the line of D.DATA takes 920 µs to rise, and has 10 µs.'],
      fix: 'Take C out',
      changes: ['part C removed', 'wire C.1 to MCU.D6 removed', 'wire C.2 to MCU.GND removed'],
    },
    {
      title: 'a leg that leads on: what hung together over it still does',
      mcu: 'uno-r3',
      parts: { M: 'max7219', C: cap(1e-7) },
      wires: 'M.VCC MCU.5V, M.GND MCU.GND, M.DIN MCU.D11, M.CLK C.1, C.1 MCU.D13, M.CS MCU.D10, C.2 MCU.GND',
      says: ['caution: With C of 100 nF on it the line of M.CLK takes 3 µs to rise, and has 500 ns.'],
      fix: 'Take C out',
      changes: [
        'part C removed',
        'wire M.CLK to C.1 removed',
        'wire C.1 to MCU.D13 removed',
        'wire C.2 to MCU.GND removed',
        'wire M.CLK to MCU.D13 added',
      ],
    },
    {
      title: 'on a serial line, large',
      mcu: 'mega-2560-r3',
      parts: { G: 'gps-uart', C: cap(1e-4) },
      wires: 'G.VCC MCU.5V, G.GND MCU.GND, G.TX MCU.D19, C.1 G.TX, C.2 MCU.GND',
      says: ['fault: With C of 100 µF on it the line of G.TX takes 6 ms to rise, and has 100 µs.'],
      fix: 'Move C.1 to G.VCC',
      changes: ['wire C.1 to G.TX removed', 'wire C.1 to G.VCC added'],
    },
    {
      title: 'on what a scale answers with',
      mcu: 'uno-r3',
      parts: { H: 'hx711', C: cap(1e-4) },
      wires: 'H.VCC MCU.5V, H.GND MCU.GND, H.SCK MCU.D6, H.DT MCU.D7, C.1 H.DT, C.2 MCU.GND',
      says: ['fault: With C of 100 µF on it the line of H.DT takes 2.3 ms to rise, and has 10 µs.'],
      fix: 'Move C.1 to H.VCC',
      changes: ['wire C.1 to H.DT removed', 'wire C.1 to H.VCC added'],
    },
    {
      title: 'on a pin that moves a relay, with nothing between',
      mcu: 'uno-r3',
      parts: { K: 'relay-1', C: cap(1e-5) },
      wires: `${relay}, C.1 K.IN, C.2 MCU.GND`,
      says: ['caution: MCU.D6 has to charge C of 10 µF at each change, and is rated for 40 mA.'],
      fix: 'Take C out',
      changes: ['part C removed', 'wire C.1 to K.IN removed', 'wire C.2 to MCU.GND removed'],
    },
    {
      title: 'behind the divider of an echo',
      parts: { E: 'hc-sr04', R: ohms(1000), S: ohms(2000), C: cap(1e-7) },
      wires:
        'E.VCC MCU.VIN, E.GND MCU.GND, E.TRIG MCU.D26, E.ECHO R.1, R.2 MCU.D27, S.1 MCU.D27, S.2 MCU.GND, C.1 MCU.D27, C.2 MCU.GND',
      says: ['caution: With C of 100 nF on it the line of E.ECHO takes 94 µs to rise, and has 10 µs.'],
      fix: 'Take C out',
      changes: ['part C removed', 'wire C.1 to MCU.GPIO27 removed', 'wire C.2 to MCU.GND removed'],
    },
  ],
  edges: [
    {
      says: 'slows',
      because: 'an echo has 10 µs, and 25 Ω charge to 3 V of 5 V: 25 · C · ln(5 / 2) is 10 µs at 437 nF',
      at: (nanofarads) => ({
        mcu: 'uno-r3',
        parts: { E: 'hc-sr04', C: cap(nanofarads * 1e-9) },
        wires: `${echo}, C.1 E.ECHO, C.2 MCU.GND`,
      }),
      said: 440,
      quiet: 434,
    },
    {
      says: 'slows',
      severity: 'fault',
      because: 'ten times as much',
      at: (nanofarads) => ({
        mcu: 'uno-r3',
        parts: { E: 'hc-sr04', C: cap(nanofarads * 1e-9) },
        wires: `${echo}, C.1 E.ECHO, C.2 MCU.GND`,
      }),
      said: 4400,
      quiet: 4340,
    },
    {
      says: 'charged',
      because: 'below 1 µF nothing is charged that a pin would mind',
      at: (nanofarads) => ({
        mcu: 'uno-r3',
        parts: { K: 'relay-1', C: cap(nanofarads * 1e-9) },
        wires: `${relay}, C.1 K.IN, C.2 MCU.GND`,
      }),
      said: 1000,
      quiet: 999,
    },
  ],
})
