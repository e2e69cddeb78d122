import type { Short } from './plans.ts'
import { cap, five, gnd, ohms, pack } from './short.ts'

/** Select, enable and mode pins that are held, channels that are mixed up, timers that a library takes. */

const radio = (m0: string, m1: string) => ({
  parts: { L: 'lora-uart' },
  wires: `L.VCC MCU.3V3, L.GND MCU.GND, L.M0 MCU.${m0}, L.M1 MCU.${m1}, L.RXD MCU.GPIO17, L.TXD MCU.GPIO16`,
})
const colours = (s0: string, s1: string) => ({
  mcu: 'uno-r3',
  parts: { T: 'tcs3200' },
  wires: `${five('T')}, T.S0 MCU.${s0}, T.S1 MCU.${s1}, T.S2 MCU.D6, T.S3 MCU.D7, T.OUT MCU.D8`,
})
const display = (light: string) => ({
  mcu: 'pico',
  parts: { D: 'st7735' },
  wires: `D.VCC MCU.3V3, D.GND MCU.GND, D.LED MCU.${light}, D.CS MCU.GP17, D.RESET MCU.GP20, D.A0 MCU.GP21, D.SDA MCU.GP19, D.SCK MCU.GP18`,
})
const servo = 'S.VCC PACK.+, S.GND PACK.-, PACK.- MCU.GND'
const wheel = (speed: string, pulse: string) => ({
  mcu: 'uno-r3',
  supplies: pack(6, 3000),
  parts: { S: 'servo-sg90', T: 'tb6612', M: 'dc-motor' },
  wires: `${servo}, S.SIG MCU.${pulse}, T.VM PACK.+, T.GND PACK.-, T.VCC MCU.5V, T.STBY MCU.5V, T.PWMA MCU.${speed}, T.AIN1 MCU.D4, T.AIN2 MCU.D2, M.M1 T.AO1, M.M2 T.AO2`,
})

/** A reader of RS-232 on a Pi, over a converter that is fed from a rail of the board. */
const reader = (rail: string) => ({
  mcu: 'pi-40',
  supplies: pack(12, 2000),
  parts: { X: 'max3232', R: 'rfid-rs232' },
  wires: `${gnd}, X.VCC MCU.${rail}, X.GND MCU.GND, R.VCC PACK.+, R.GND PACK.-, R.TX X.R1IN, X.R1OUT MCU.GPIO15, R.RX X.T1OUT, X.T1IN MCU.GPIO14`,
})

const boards = (wires: string) => ({
  boards: { A: { board: 'uno-r3' }, B: { board: 'mega-2560-r3' } },
  wires: `A.GND B.GND, ${wires}`,
})

export const soundModes: readonly (Short & { title: string })[] = [
  { title: 'a radio in its ordinary mode for good', ...radio('GND', 'GND') },
  { title: 'a colour sensor at full speed for good', ...colours('5V', '5V') },
  { title: 'a colour sensor at a fiftieth of its speed for good', ...colours('GND', '5V') },
  { title: 'a back light that is always on', ...display('3V3') },
  {
    title: 'an angle read as a voltage, and no bus',
    mcu: 'uno-r3',
    parts: { A: 'as5600' },
    wires: 'A.VCC MCU.3V3, A.GND MCU.GND, A.OUT MCU.A0, A.DIR MCU.GND',
  },
  {
    title: 'a receiver of positions by software, at a pin of a Mega that reports changes',
    mcu: 'mega-2560-r3',
    parts: { G: 'gps-uart' },
    wires: 'G.VCC MCU.5V, G.GND MCU.GND, G.TX MCU.A8',
  },
  {
    title: 'a button to the supply of a Pico 2, held low by 4.7 kΩ',
    mcu: 'pico-2',
    parts: { B: 'button', R: ohms(4700) },
    wires: 'B.1 MCU.GP15, B.2 MCU.3V3, R.1 MCU.GP15, R.2 MCU.GND',
  },
  { title: 'a reader of RS-232 on a Pi, its converter at 3.3 V', ...reader('3V3') },
  {
    title: 'a button that restarts a Pico',
    mcu: 'pico',
    parts: { B: 'button' },
    wires: 'B.1 MCU.RUN, B.2 MCU.GND',
  },
  { title: 'I2C to a board that has the resistors on it', ...boards('A.SDA B.D20, A.SCL B.D21') },
  { title: 'SPI between two boards', ...boards('A.D13 B.D52, A.D11 B.D51, A.D12 B.D50, A.D10 B.D53') },
  { title: 'a serial line by software on pins of SPI', ...boards('A.D11 B.D50, A.D12 B.D51') },
  {
    title: 'a meter behind insulation in a circuit that shares no ground with the board',
    mcu: 'uno-r3',
    supplies: pack(12, 2000),
    parts: { A: 'current-acs712', K: 'relay-1', L: 'strip-12v' },
    wires: `${five('A')}, A.OUT MCU.A0, ${five('K')}, K.IN MCU.D7, PACK.+ A.IP+, A.IP- K.COM, K.NO L.+, L.- PACK.-`,
  },
  {
    title: 'a distance sensor on one pin, its answer through a resistor',
    mcu: 'uno-r3',
    parts: { E: 'hc-sr04', R: ohms(2200) },
    wires: `${five('E')}, E.TRIG MCU.D9, R.1 MCU.D9, R.2 E.ECHO`,
  },
  {
    title: 'a servo and a buzzer on pins of one timer, each with a library of its own',
    mcu: 'uno-r3',
    supplies: pack(5, 3000),
    parts: { S: 'servo-sg90', B: 'buzzer-passive' },
    wires: `${servo}, S.SIG MCU.D9, B.+ MCU.D10, B.- MCU.GND`,
  },
  {
    title: 'a cell over one resistor at the analog input of a D1 mini, whose board has the other',
    mcu: 'esp8266-d1-mini',
    supplies: { CELL: { volts: 4.2, limitMilliamps: 2000 } },
    parts: { R: ohms(100_000) },
    wires: 'CELL.- MCU.GND, R.1 CELL.+, R.2 MCU.A0',
  },
  {
    title: 'a cell measured over two megohms and a capacitor',
    parts: { R: ohms(1e6), S: ohms(1e6), C: cap(1e-7, 'ceramic', 50) },
    supplies: { CELL: { volts: 4.2, limitMilliamps: 2000 } },
    wires: 'CELL.- MCU.GND, R.1 CELL.+, R.2 MCU.GPIO34, S.1 MCU.GPIO34, S.2 MCU.GND, C.1 MCU.GPIO34, C.2 MCU.GND',
  },
  { title: 'a motor beside a servo, on a timer that the servo leaves alone', ...wheel('D5', 'D9') },
]

export const mistakenModes: readonly (Short & { title: string; rule: string })[] = [
  { title: 'a radio that both mode lines send to sleep', rule: 'pin-on-rail', ...radio('3V3', '3V3') },
  { title: 'a colour sensor that both select lines send to sleep', rule: 'pin-on-rail', ...colours('GND', 'GND') },
  { title: 'a back light on ground', rule: 'pin-on-rail', ...display('GND') },
  {
    title: 'a motion sensor on I2C whose select line asks for SPI',
    rule: 'pin-on-rail',
    parts: { M: 'lsm6ds3' },
    wires: 'M.VIN MCU.3V3, M.GND MCU.GND, M.SDA MCU.GPIO21, M.SCL MCU.GPIO22, M.CS MCU.GND',
  },
  {
    title: 'a radio that waits for settings for good',
    rule: 'pin-on-rail',
    parts: { H: 'hc-12' },
    wires: 'H.VCC MCU.3V3, H.GND MCU.GND, H.SET MCU.GND, H.RXD MCU.GPIO17, H.TXD MCU.GPIO16',
  },
  {
    title: 'a gas sensor that is told to set its zero for good',
    rule: 'pin-on-rail',
    parts: { M: 'mh-z19' },
    wires: 'M.VIN MCU.VIN, M.GND MCU.GND, M.HD MCU.GND, M.RX MCU.GPIO17, M.TX MCU.GPIO16',
  },
  {
    title: 'a phone module that is held in reset by a resistor',
    rule: 'pin-on-rail',
    supplies: pack(4, 3000),
    parts: { G: 'gsm-uart', R: ohms(1000), C: cap(1e-3, 'electrolytic', 16) },
    wires: `${gnd}, G.VCC PACK.+, G.GND PACK.-, C.1 G.VCC, C.2 G.GND, R.1 G.RST, R.2 MCU.GND, G.TXD MCU.GPIO16`,
  },
  {
    title: 'sensors behind a bus switch, data of each with the clock of the other',
    rule: 'bus-pins',
    parts: { X: 'tca9548a', A: 'bme280', B: 'bme280' },
    wires:
      'X.VIN MCU.3V3, X.GND MCU.GND, X.SDA MCU.GPIO21, X.SCL MCU.GPIO22, X.A0 MCU.GND, X.A1 MCU.GND, X.A2 MCU.GND, A.VCC MCU.3V3, A.GND MCU.GND, A.SDA X.SD0, A.SCL X.SC1, B.VCC MCU.3V3, B.GND MCU.GND, B.SDA X.SD1, B.SCL X.SC0',
  },
  { title: 'the speed of a motor on the timer that a servo takes', rule: 'feature-conflict', ...wheel('D10', 'D7') },
  {
    title: 'twelve volts over the resistor that is meant for a cell, at a D1 mini',
    rule: 'level-damage',
    mcu: 'esp8266-d1-mini',
    supplies: pack(12, 2000),
    parts: { R: ohms(100_000) },
    wires: `${gnd}, R.1 PACK.+, R.2 MCU.A0`,
  },
  {
    title: 'a cell measured over two megohms and nothing beside',
    rule: 'analog-range',
    supplies: { CELL: { volts: 4.2, limitMilliamps: 2000 } },
    parts: { R: ohms(1e6), S: ohms(1e6) },
    wires: 'CELL.- MCU.GND, R.1 CELL.+, R.2 MCU.GPIO34, S.1 MCU.GPIO34, S.2 MCU.GND',
  },
  {
    title: 'SPI between two boards, what each sends joined with what the other sends',
    rule: 'polarity',
    ...boards('A.D13 B.D52, A.D11 B.D50, A.D12 B.D51, A.D10 B.D53'),
  },
  {
    title: 'a receiver of positions by software, at a pin of a Mega that reports nothing',
    rule: 'bus-pins',
    mcu: 'mega-2560-r3',
    parts: { G: 'gps-uart' },
    wires: 'G.VCC MCU.5V, G.GND MCU.GND, G.TX MCU.D5',
  },
  {
    title: 'a button to the supply of a Pico 2, held low by 47 kΩ',
    rule: 'input-floating',
    mcu: 'pico-2',
    parts: { B: 'button', R: ohms(47_000) },
    wires: 'B.1 MCU.GP15, B.2 MCU.3V3, R.1 MCU.GP15, R.2 MCU.GND',
  },
  { title: 'a reader of RS-232 on a Pi, its converter at 5 V', rule: 'level-damage', ...reader('5V') },
  {
    title: 'a buffer at 5 V that repeats one pin of an ESP32 to another',
    rule: 'level-damage',
    parts: { X: '74ahct125', C: cap(1e-7, 'ceramic', 50) },
    wires: 'X.VCC MCU.VIN, X.GND MCU.GND, C.1 X.VCC, C.2 X.GND, X.1OE MCU.GND, X.1A MCU.GPIO25, X.1Y MCU.GPIO26',
  },
  {
    title: 'a button from the restart of a Pico to 5 V',
    rule: 'control-post',
    mcu: 'pico',
    parts: { B: 'button' },
    wires: 'B.1 MCU.RUN, B.2 MCU.VBUS',
  },
  {
    title: 'lamps from the 3.3 V of an Uno, nearly all that it gives',
    rule: 'supply-budget',
    mcu: 'uno-r3',
    parts: { A: 'led', B: 'led', C: 'led', R: ohms(68), S: ohms(68), T: ohms(68) },
    wires: 'R.1 MCU.3V3, R.2 A.A, A.K MCU.D2, S.1 MCU.3V3, S.2 B.A, B.K MCU.D3, T.1 MCU.3V3, T.2 C.A, C.K MCU.D4',
  },
  {
    title: 'I2C between two boards that nothing pulls up',
    rule: 'i2c-pullup',
    boards: { A: { board: 'uno-r3' }, B: { board: 'leonardo-32u4' } },
    wires: 'A.GND B.GND, A.SDA B.D2, A.SCL B.D3',
  },
  {
    title: 'an infrared lamp with a resistor for visible ones, at twelve volts',
    rule: 'led-resistor',
    supplies: pack(12, 2000),
    parts: { L: { part: 'led', options: { colour: 'infrared' } }, R: ohms(150) },
    wires: `${gnd}, R.1 PACK.+, R.2 L.A, L.K PACK.-`,
  },
]
