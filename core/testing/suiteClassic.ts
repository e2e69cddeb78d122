import type { Short } from './plans.ts'
import { cap, five, gnd, led, ohms, pack } from './short.ts'

/** Small circuits that makers have built for decades, most of them without a module. */

const ldr = { L: 'ldr', C: cap(1e-7, 'ceramic', 50) }
const ladder = {
  A: ohms(20_000),
  B: ohms(20_000),
  C: ohms(20_000),
  D: ohms(20_000),
  E: ohms(20_000),
  S: ohms(10_000),
  T: ohms(10_000),
  U: ohms(10_000),
}
const bulk = (volts = 16) => cap(1e-5, 'electrolytic', volts)

export const soundClassic: readonly (Short & { title: string })[] = [
  {
    title: 'a light sensor that is read by how long it takes to fill a capacitor',
    mcu: 'pi-40',
    parts: ldr,
    wires: 'L.1 MCU.3V3, L.2 MCU.GPIO17, C.1 MCU.GPIO17, C.2 MCU.GND',
  },
  {
    title: 'the same with sensor and capacitor exchanged',
    mcu: 'pi-40',
    parts: ldr,
    wires: 'L.1 MCU.GND, L.2 MCU.GPIO17, C.1 MCU.GPIO17, C.2 MCU.3V3',
  },
  {
    title: 'a thermistor that one pin fills a capacitor through, and another one empties',
    mcu: 'pi-40',
    parts: { T: 'ntc', C: cap(1e-6, 'ceramic', 50), R: ohms(1000), S: ohms(1000) },
    wires: 'R.1 MCU.GPIO18, R.2 T.1, T.2 C.1, C.2 MCU.GND, S.1 MCU.GPIO23, S.2 C.1',
  },
  {
    title: 'levels out of a ladder of resistors on four pins',
    mcu: 'uno-r3',
    parts: ladder,
    wires:
      'A.1 MCU.D4, B.1 MCU.D5, C.1 MCU.D6, D.1 MCU.D7, E.1 MCU.GND, E.2 A.2, S.1 A.2, S.2 B.2, T.1 B.2, T.2 C.2, U.1 C.2, U.2 D.2, D.2 MCU.A0',
  },
  {
    title: 'a finger that loads a line of a megohm between two pins',
    mcu: 'uno-r3',
    parts: { R: ohms(1e6) },
    wires: 'R.1 MCU.D4, R.2 MCU.D2',
  },
  {
    title: 'two lamps the one against the other between two pins',
    mcu: 'uno-r3',
    parts: { L: led(), M: led('green'), R: ohms(330) },
    wires: 'MCU.D5 R.1, R.2 L.A, L.K MCU.D6, M.K L.A, M.A MCU.D6',
  },
  {
    title: 'six lamps on three pins',
    mcu: 'uno-r3',
    parts: {
      ...Object.fromEntries(['A', 'B', 'C', 'D', 'E', 'F'].map((ref) => [ref, led()])),
      R: ohms(150),
      S: ohms(150),
      T: ohms(150),
    },
    wires:
      'MCU.D5 R.1, MCU.D6 S.1, MCU.D7 T.1, R.2 A.A, A.K S.2, B.A S.2, B.K R.2, C.A S.2, C.K T.2, D.A T.2, D.K S.2, E.A R.2, E.K T.2, F.A T.2, F.K R.2',
  },
  {
    title: 'a probe of two leads that lives on its data line',
    mcu: 'uno-r3',
    parts: { T: 'ds18b20', R: ohms(4700) },
    wires: 'T.VDD MCU.GND, T.GND MCU.GND, T.DQ MCU.D4, R.1 MCU.D4, R.2 MCU.5V',
  },
  {
    title: 'a receiver of remote controls behind its filter',
    mcu: 'uno-r3',
    parts: { I: 'ir-receiver', R: ohms(100), C: cap(4.7e-6, 'electrolytic', 16) },
    wires: 'R.1 MCU.5V, R.2 I.VS, C.1 I.VS, C.2 MCU.GND, I.GND MCU.GND, I.OUT MCU.D11',
  },
  {
    title: 'a button whose bounces a capacitor takes',
    mcu: 'uno-r3',
    parts: { B: 'button', R: ohms(10_000), S: ohms(10_000), C: cap(1e-7, 'ceramic', 50) },
    wires: 'R.1 MCU.5V, R.2 B.1, B.2 MCU.GND, S.1 B.1, S.2 MCU.D2, C.1 MCU.D2, C.2 MCU.GND',
  },
  {
    title: 'a large capacitor that keeps the reset from uploads',
    mcu: 'uno-r3',
    parts: { C: bulk(), B: 'bh1750' },
    wires: `C.1 MCU.RESET, C.2 MCU.GND, ${five('B')}, B.SDA MCU.SDA, B.SCL MCU.SCL`,
  },
  {
    title: 'a loudspeaker behind a resistor and a capacitor with its plus to the pin',
    mcu: 'uno-r3',
    parts: { S: 'speaker', R: ohms(100), C: cap(1e-4, 'electrolytic', 16) },
    wires: 'MCU.D9 R.1, R.2 C.1, C.2 S.+, S.- MCU.GND',
  },
  {
    title: 'a fan over a P-channel transistor that an NPN moves',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: {
      F: { part: 'fan', options: { volts: 12 } },
      P: 'pmos',
      Q: 'npn',
      R: ohms(10_000),
      S: ohms(1000),
      D: 'diode',
    },
    wires: `${gnd}, P.S PACK.+, P.D F.+, F.- MCU.GND, R.1 P.G, R.2 PACK.+, Q.C P.G, Q.E MCU.GND, Q.B S.1, S.2 MCU.D9, D.K F.+, D.A F.-`,
  },
  {
    title: 'the volts of a cell in half, calmed by a capacitor',
    mcu: 'esp32-devkit-38',
    supplies: pack(3.7),
    parts: { R: ohms(100_000), S: ohms(100_000), C: cap(1e-7, 'ceramic', 50) },
    wires: `${gnd}, R.1 PACK.+, R.2 MCU.GPIO34, S.1 MCU.GPIO34, S.2 MCU.GND, C.1 MCU.GPIO34, C.2 MCU.GND`,
  },
  {
    title: 'the reference of the converter on 3.3 V, and a sensor there',
    mcu: 'uno-r3',
    parts: { T: 'tmp36' },
    wires: 'MCU.AREF MCU.3V3, T.VS MCU.3V3, T.GND MCU.GND, T.OUT MCU.A0',
  },
  {
    title: 'a board that programs another one',
    boards: { A: { board: 'uno-r3' }, B: { board: 'nano-v3' } },
    wires: 'A.D10 B.RST, A.D11 B.D11, A.D12 B.D12, A.D13 B.D13, A.5V B.5V, A.GND B.GND',
  },
  {
    title: 'two boards on one I2C bus',
    boards: { A: { board: 'uno-r3' }, B: { board: 'nano-v3' } },
    parts: { R: ohms(4700), S: ohms(4700) },
    wires: 'A.SDA B.A4, A.SCL B.A5, A.GND B.GND, R.1 A.SDA, R.2 A.5V, S.1 A.SCL, S.2 A.5V',
  },
  {
    title: 'a receiver of satellites that a computer reads, fed by the board',
    mcu: 'pico',
    parts: { G: 'gps-uart', C: 'usb-ttl-cable' },
    wires: 'G.VCC MCU.3V3, G.GND MCU.GND, G.TX C.RXD, G.RX C.TXD, C.GND MCU.GND',
    unused: ['C.5V'],
  },
  {
    title: 'a player of sounds that its own keys work, without a line to the board',
    mcu: 'uno-r3',
    parts: { P: { part: 'dfplayer', mode: 'keys' }, S: 'speaker', B: 'button', D: 'button' },
    wires: `${five('P')}, S.+ P.SPK1, S.- P.SPK2, B.1 P.IO_1, B.2 P.GND.2, D.1 P.IO_2, D.2 P.GND.2`,
  },
  {
    title: 'a strip of lamps over a buffer whose other three lie still',
    supplies: pack(5),
    parts: {
      S: { part: 'ws2812-strip', options: { pixels: 30 } },
      B: '74ahct125',
      R: ohms(330),
      C: cap(1e-7, 'ceramic', 50),
    },
    wires: `${gnd}, S.5V PACK.+, S.GND PACK.-, B.VCC PACK.+, B.GND PACK.-, C.1 B.VCC, C.2 B.GND, B.1OE MCU.GND, B.1A MCU.GPIO16, B.1Y R.1, R.2 S.DIN, B.2OE PACK.+, B.2A PACK.-, B.3OE PACK.+, B.3A PACK.-, B.4OE PACK.+, B.4A PACK.-`,
  },
  {
    title: 'a driver of steppers and a program that talk over one line',
    supplies: pack(12),
    parts: {
      D: 'tmc2209',
      M: { part: 'stepper-bipolar', options: { milliamps: 600 } },
      R: ohms(1000),
      C: cap(1e-4, 'electrolytic', 35),
    },
    wires: `${gnd}, D.VM PACK.+, D.GND PACK.-, D.GND.2 MCU.GND, C.1 D.VM, C.2 D.GND, D.VIO MCU.3V3, D.EN MCU.GPIO13, D.STEP MCU.GPIO25, D.DIR MCU.GPIO14, D.UART MCU.GPIO16, R.1 MCU.GPIO17, R.2 MCU.GPIO16, M.A+ D.1A, M.A- D.1B, M.B+ D.2A, M.B- D.2B`,
  },
]

const crossed = { A: { board: 'uno-r3' }, B: { board: 'nano-v3' } }

export const mistakenClassic: readonly (Short & { title: string; rule: string })[] = [
  {
    title: 'a capacitor at reset turned round',
    rule: 'capacitor',
    mcu: 'uno-r3',
    parts: { C: bulk() },
    wires: 'C.2 MCU.RESET, C.1 MCU.GND',
  },
  {
    title: 'a capacitor at a button turned round',
    rule: 'capacitor',
    parts: { B: 'button', C: bulk() },
    wires: 'B.1 MCU.GPIO32, B.2 MCU.GND, C.2 MCU.GPIO32, C.1 MCU.GND',
  },
  {
    title: 'a capacitor before a loudspeaker turned round',
    rule: 'capacitor',
    mcu: 'uno-r3',
    parts: { S: 'speaker', R: ohms(100), C: cap(1e-4, 'electrolytic', 16) },
    wires: 'MCU.D9 R.1, R.2 C.2, C.1 S.+, S.- MCU.GND',
  },
  {
    title: 'data and clock of two boards crossed',
    rule: 'polarity',
    boards: crossed,
    wires: 'A.SDA B.A5, A.SCL B.A4, A.GND B.GND',
  },
  {
    title: 'a receiver of satellites on a cable without a way back',
    rule: 'supply-missing',
    mcu: 'pico',
    parts: { G: 'gps-uart', C: 'usb-ttl-cable' },
    wires: 'G.VCC MCU.3V3, G.GND MCU.GND, G.TX C.RXD, G.RX C.TXD',
    unused: ['C.5V'],
  },
  {
    title: 'a motion sensor that moves a relay on another battery',
    rule: 'common-ground',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { M: 'hc-sr501', K: 'relay-1' },
    wires: `K.VCC PACK.+, K.GND PACK.-, ${five('M')}, M.OUT K.IN`,
  },
  {
    title: 'a radio on the 3.3 V of a board whose 3.3 V come from USB alone, on a battery',
    rule: 'supply-missing',
    mcu: 'nano-v3',
    supplies: pack(9),
    parts: { N: 'nrf24l01' },
    wires: `${gnd}, PACK.+ MCU.VIN, N.VCC MCU.3V3, N.GND MCU.GND, N.SCK MCU.D13, N.MOSI MCU.D11, N.MISO MCU.D12, N.CSN MCU.D10, N.CE MCU.D9`,
  },
  {
    title: 'a display that takes a little more from a pin than that is good for',
    rule: 'driver-needed',
    parts: { D: 'ssd1306' },
    wires: `D.VCC MCU.GPIO13, D.GND MCU.GND, D.SDA MCU.GPIO21, D.SCL MCU.GPIO22`,
  },
]
