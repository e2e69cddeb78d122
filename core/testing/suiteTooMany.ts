import type { Short } from './plans.ts'
import { cap, gnd, i2c, led, ohms, pack } from './short.ts'

/** A wire too many, or one that ends a row too far: what meets there, and what may meet. */

const register =
  'D.VCC MCU.5V, D.GND MCU.GND, D.OE MCU.GND, D.SRCLR MCU.5V, D.SER MCU.11, D.SRCLK MCU.13, D.RCLK MCU.10'
const converter = `D.VCC MCU.5V, D.GND MCU.GND, ${i2c('A4', 'A5', 'D')}`
const stepper = { D: 'a4988', M: 'stepper-bipolar', C: cap(1e-4) }
const stepping = `${gnd}, D.VMOT PACK.+, D.GND PACK.-, C.1 D.VMOT, C.2 D.GND, D.VDD MCU.5V, D.GND.2 MCU.GND, D.RST D.SLP, D.STEP MCU.6, D.DIR MCU.7, D.1A M.A+, D.1B M.A-, D.2A M.B+, D.2B M.B-`
const climate = `S.VCC MCU.3V3, S.GND MCU.GND, ${i2c('GPIO21', 'GPIO22', 'S')}`
const strip = { S: { part: 'ws2812-strip', options: { pixels: 8 } }, R: ohms(330) }
const lit = `${gnd}, S.5V PACK.+, S.GND PACK.-, S.DIN R.1, R.2 MCU.4`
const oven = 'M.VCC MCU.3V3, M.GND MCU.GND, M.SCK MCU.GPIO18, M.SO MCU.GPIO19, M.CS MCU.GPIO5'
const lamps = { L: led(), K: led(), R: ohms(330), T: ohms(330) }
const two = 'R.1 MCU.4, T.1 MCU.5, R.2 L.A, T.2 K.A, L.K MCU.GND, K.K MCU.GND'
const charger = {
  C: 'charger-tp4056',
  B: { part: 'battery-box', options: { volts: 3.7 } },
  U: 'boost',
}
const charged = 'C.B+ B.+, C.B- B.-, U.IN+ C.OUT+, U.IN- C.OUT-, U.OUT+ MCU.VIN, U.OUT- MCU.GND'

export const soundTooMany: readonly (Short & { title: string })[] = [
  {
    title: 'an output of a register selects a chip',
    mcu: 'uno-r3',
    parts: { D: '74hc595', M: 'max6675', C: cap(1e-7, 'ceramic') },
    wires:
      'D.VCC MCU.5V, D.GND MCU.GND, D.OE MCU.GND, D.SRCLR MCU.5V, D.SER MCU.4, D.SRCLK MCU.5, D.RCLK MCU.6, C.1 D.VCC, C.2 D.GND, D.QE M.CS, M.VCC MCU.5V, M.GND MCU.GND, M.SCK MCU.13, M.SO MCU.12',
  },
  {
    title: 'a sender and a receiver switched by one pin',
    mcu: 'mega-2560-r3',
    parts: { X: 'max485' },
    wires: 'X.VCC MCU.5V, X.GND MCU.GND, X.RO MCU.19, X.DI MCU.18, X.DE MCU.7, X.RE MCU.7',
  },
  {
    title: 'two distance sensors that start together',
    mcu: 'uno-r3',
    parts: { E: 'hc-sr04', F: 'hc-sr04' },
    wires:
      'E.VCC MCU.5V, E.GND MCU.GND, E.ECHO MCU.3, E.TRIG MCU.4, F.VCC MCU.5V, F.GND MCU.GND, F.ECHO MCU.2, F.TRIG MCU.4',
  },
  {
    title: 'an expander and a display that are reset together, and an address by a pin',
    parts: { X: 'mcp23017', D: 'st7789', S: 'bh1750', P: ohms(4700), Q: ohms(4700) },
    wires: `X.VDD MCU.3V3, X.VSS MCU.GND, X.A0 MCU.GND, X.A1 MCU.GND, X.A2 MCU.GND, ${i2c('GPIO21', 'GPIO22', 'X', 'S')}, P.1 X.SDA, P.2 MCU.3V3, Q.1 X.SCL, Q.2 MCU.3V3, S.VCC MCU.3V3, S.GND MCU.GND, S.ADDR MCU.GPIO32, D.VCC MCU.3V3, D.GND MCU.GND, D.SCL MCU.GPIO18, D.SDA MCU.GPIO23, D.RES MCU.GPIO4, D.DC MCU.GPIO16, D.CS MCU.GPIO5, D.BLK MCU.3V3, X.RESET MCU.GPIO4`,
  },
  {
    title: 'two lamps the opposite way between two pins',
    mcu: 'uno-r3',
    parts: { L: led(), K: led(), R: ohms(330) },
    wires: 'R.1 MCU.4, R.2 L.A, K.K L.A, L.K MCU.5, K.A MCU.5',
  },
  {
    title: 'an output that only pulls low, beside a button',
    mcu: 'uno-r3',
    parts: { H: 'hall-a3144', B: 'button', R: ohms(10_000) },
    wires: 'H.VCC MCU.5V, H.GND MCU.GND, H.OUT MCU.2, R.1 MCU.2, R.2 MCU.5V, B.1 MCU.2, B.2 MCU.GND',
  },
  {
    title: 'the way of a lamp over a change-over contact, its rest at a pin that reads it',
    mcu: 'uno-r3',
    parts: { K: 'limit-switch', L: led(), R: ohms(330) },
    wires: 'K.NO MCU.5V, K.C R.1, R.2 L.A, L.K MCU.GND, K.NC MCU.2',
  },
]

export const mistakenTooMany: readonly (Short & { title: string; rule: string })[] = [
  {
    rule: 'pin-shared',
    title: 'an output of a register on the line that feeds it',
    mcu: 'uno-r3',
    parts: { D: '74hc595', C: cap(1e-7, 'ceramic') },
    wires: `${register}, C.1 D.VCC, C.2 D.GND, D.QE D.SER`,
  },
  {
    rule: 'pin-shared',
    title: 'an output of a register on the one that leads to the next',
    mcu: 'uno-r3',
    parts: { D: '74hc595', C: cap(1e-7, 'ceramic') },
    wires: `${register}, C.1 D.VCC, C.2 D.GND, D.QE D.QHS`,
  },
  {
    rule: 'pin-shared',
    title: 'the output of a converter on the line of its bus',
    mcu: 'uno-r3',
    parts: { D: 'mcp4725' },
    wires: `${converter}, D.OUT D.SDA`,
  },
  {
    rule: 'pin-shared',
    title: 'an output of a chip for pulses on the clock of its bus',
    mcu: 'uno-r3',
    parts: { D: 'pca9685' },
    wires: `${converter}, D.PWM3 D.SCL`,
  },
  {
    rule: 'level-damage',
    title: 'a winding of a stepper on the enable of its driver',
    mcu: 'uno-r3',
    parts: stepper,
    supplies: pack(12),
    wires: `${stepping}, D.EN D.1A`,
  },
  {
    rule: 'pin-shared',
    title: 'the enable of a stepper driver on its step',
    mcu: 'uno-r3',
    parts: stepper,
    supplies: pack(12),
    wires: `${stepping}, D.EN D.STEP`,
  },
  {
    rule: 'strap-needed',
    title: 'the reset of a stepper driver on its step',
    mcu: 'uno-r3',
    parts: stepper,
    supplies: pack(12),
    wires: `${stepping}, D.SLP D.STEP`,
  },
  {
    rule: 'strap-needed',
    title: 'the strap of a sensor on the clock of its bus',
    parts: { S: 'bme280' },
    wires: `${climate}, S.CSB S.SCL`,
  },
  {
    rule: 'strap-needed',
    title: 'the strap of a sensor on the select of another part',
    parts: { S: 'bme280', M: 'max6675' },
    wires: `${climate}, ${oven}, S.CSB M.CS`,
  },
  {
    rule: 'pin-on-rail',
    title: 'a button on the output of a detector',
    mcu: 'uno-r3',
    parts: { A: 'hc-sr501', B: 'button' },
    wires: 'A.VCC MCU.5V, A.GND MCU.GND, A.OUT MCU.2, B.1 MCU.2, B.2 MCU.GND',
  },
  {
    rule: 'pin-not-signal',
    title: 'the two supplies of a load cell joined',
    mcu: 'uno-r3',
    parts: { H: 'hx711' },
    wires: 'H.VCC MCU.5V, H.GND MCU.GND, H.DT MCU.2, H.SCK MCU.3, H.E+ H.E-',
  },
  {
    rule: 'pin-not-signal',
    title: 'the two lines to other transceivers joined',
    mcu: 'mega-2560-r3',
    parts: { X: 'max485' },
    wires: 'X.VCC MCU.5V, X.GND MCU.GND, X.RO MCU.19, X.DI MCU.18, X.DE MCU.7, X.RE MCU.7, X.A X.B',
  },
  {
    rule: 'pin-not-signal',
    title: 'a receiver for positions on the line to other transceivers',
    mcu: 'mega-2560-r3',
    parts: { X: 'max485', G: 'gps-uart' },
    wires:
      'X.VCC MCU.5V, X.GND MCU.GND, X.RO MCU.19, X.DI MCU.18, X.DE MCU.7, X.RE MCU.7, G.VCC MCU.5V, G.GND MCU.GND, X.A G.TX, X.B G.RX',
  },
  {
    rule: 'pin-shared',
    title: 'both ends of a strip on one line, over its resistor',
    mcu: 'uno-r3',
    parts: strip,
    supplies: pack(5),
    wires: `${lit}, S.DOUT S.DIN`,
  },
  {
    rule: 'pin-shared',
    title: 'two lamps that meet behind their resistors',
    mcu: 'uno-r3',
    parts: lamps,
    wires: `${two}, L.A K.A`,
  },
  {
    rule: 'supply-missing',
    title: 'the minus of a charger on the supply of the board',
    parts: charger,
    wires: `${charged}, C.IN- MCU.VIN`,
  },
  {
    rule: 'supply-joined',
    title: 'the ground behind a charger on its cell',
    parts: charger,
    wires: 'C.B+ B.+, C.B- B.-, U.IN+ C.OUT+, U.IN- MCU.GND, U.OUT+ MCU.VIN, U.OUT- MCU.GND, C.OUT- B.+',
  },
  {
    rule: 'pin-shared',
    title: 'the two ends of the side of an amplifier that is not used, joined',
    mcu: 'mega-2560-r3',
    parts: { T: 'pam8403', S: 'speaker' },
    supplies: pack(5),
    wires: `${gnd}, T.VCC PACK.+, T.GND PACK.-, T.L MCU.9, T.LOUT+ S.+, T.LOUT- S.-, T.ROUT+ T.ROUT-`,
  },
  {
    rule: 'pin-shared',
    title: 'the trigger of a distance sensor on the enable of a motor',
    mcu: 'uno-r3',
    parts: { D: 'l298n', M: 'dc-motor', E: 'hc-sr04' },
    supplies: pack(9),
    wires: `${gnd}, D.12V PACK.+, D.GND PACK.-, D.IN1 MCU.5, D.IN2 MCU.6, D.OUT1 M.M1, D.OUT2 M.M2, E.VCC MCU.5V, E.GND MCU.GND, E.ECHO MCU.3, E.TRIG MCU.4, D.ENA E.TRIG`,
  },
  {
    rule: 'strap-needed',
    title: 'the strap of a sensor on a lamp',
    mcu: 'uno-r3',
    parts: { S: 'bh1750', L: led(), R: ohms(330) },
    wires: `S.VCC MCU.5V, S.GND MCU.GND, ${i2c('A4', 'A5', 'S')}, R.1 MCU.5, R.2 L.A, L.K MCU.GND, S.ADDR R.1`,
  },
  {
    rule: 'pin-unplaced',
    title: 'an adapter at the pads of a charger, where its cell belongs',
    mcu: 'uno-r3',
    parts: { C: 'charger-tp4056', F: 'ft232' },
    wires: 'C.B+ F.VCC, C.B- F.GND',
  },
]
