import type { Short } from './plans.ts'
import { five, gnd, i2c, led, motor, ohms, pack } from './short.ts'

/** Wirings of the other suites with one wire taken out, moved to the next leg, or changed for another. */

const half = `${gnd}, D.VSS MCU.5V, D.VS PACK.+, D.GND MCU.GND, D.GND.2 MCU.GND, D.GND.4 MCU.GND, D.EN12 MCU.5V, D.1A MCU.6`
const coil = { D: 'l293d', M: 'solenoid', X: 'diode' }
const cell = { B: { part: 'battery-box', options: { volts: 3.7 } }, C: 'charger-tp4056', U: 'boost', G: 'max17048' }
const charged = `B.- C.B-, C.OUT- MCU.GND, U.IN+ C.OUT+, U.IN- C.OUT-, U.OUT- C.OUT-, U.OUT+ MCU.VIN, G.BAT B.+, G.VIN MCU.3V3, G.GND MCU.GND, ${i2c('21', '22', 'G')}`
const touched = { T: 'ttp223', Q: 'npn', R: ohms(1000), Z: 'buzzer-active' }
const strip = { Q: 'nmos', P: 'strip-12v', R: ohms(10_000) }
const pump = { Q: 'nmos', R: ohms(10_000), M: 'pump', X: 'diode' }
const metered = { W: 'ina219', B: { part: 'battery-box', options: { volts: 6 } }, S: 'servo-sg90' }
const colours = { D: { part: 'rgb-led', options: { common: 'anode' } }, R: ohms(220), G: ohms(220), B: ohms(220) }

export const soundChanged: readonly (Short & { title: string })[] = [
  {
    title: 'a battery that shares a board with a second supply over a P-channel transistor',
    supplies: { USB: { volts: 6 } },
    parts: { Q: 'pmos', R: ohms(10_000), B: { part: 'battery-box', options: { volts: 6 } }, D: 'diode' },
    wires: 'USB.- MCU.GND, B.- MCU.GND, Q.D B.+, Q.G USB.+, R.1 Q.G, R.2 MCU.GND, D.A USB.+, D.K Q.S, Q.S MCU.VIN',
  },
  {
    title: 'two P-channel transistors that meet with their sources, so that nothing flows either way',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: {
      P: 'pmos',
      Q: 'pmos',
      R: ohms(10_000),
      F: { part: 'fan', options: { volts: 5 } },
      T: 'npn',
      S: ohms(1000),
    },
    wires:
      'PACK.- MCU.GND, P.D PACK.+, P.S Q.S, Q.D F.+, F.- MCU.GND, P.G Q.G, R.1 Q.G, R.2 Q.S, T.C Q.G, T.E MCU.GND, S.1 T.B, S.2 MCU.7',
  },
  {
    title: 'a Zener diode above what it lies across',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: { Z: { part: 'zener', options: { volts: 15 } } },
    wires: 'PACK.- MCU.GND, Z.K PACK.+, Z.A MCU.GND',
  },
  {
    title: 'a line of 5 V held down by a resistor and a Zener diode',
    parts: { E: 'hc-sr04', Z: 'zener', R: ohms(1000) },
    wires: 'E.VCC MCU.VIN, E.GND MCU.GND, E.TRIG MCU.25, E.ECHO R.1, R.2 MCU.34, Z.K MCU.34, Z.A MCU.GND',
  },
  {
    title: 'four buttons as a matrix',
    mcu: 'uno-r3',
    parts: { A: 'button', B: 'button', C: 'button', D: 'button' },
    wires: 'A.1 MCU.D2, A.2 MCU.D4, B.1 MCU.D2, B.2 MCU.D5, C.1 MCU.D3, C.2 MCU.D4, D.1 MCU.D3, D.2 MCU.D5',
  },
  {
    title: 'two buttons in a row, of which both must be held',
    mcu: 'uno-r3',
    parts: { B: 'button', C: 'button' },
    wires: 'B.1 MCU.D4, B.2 C.1, C.2 MCU.GND',
  },
  {
    title: 'a switch between the pins of two boards, one of which may drive',
    boards: { A: { board: 'uno-r3' }, B: { board: 'nano-v3' } },
    parts: { L: 'slide-switch' },
    wires: 'A.GND B.GND, L.C A.D4, L.1 B.D5',
  },
  {
    title: 'a switch with one throw at a pin that says which way it lies',
    mcu: 'uno-r3',
    parts: { L: 'slide-switch' },
    wires: 'L.C MCU.GND, L.1 MCU.D4, L.3 MCU.D5',
  },
  {
    title: 'a strip behind a converter and a relay, whose cell has no ground in common with the board',
    parts: {
      T: 'strip-12v',
      K: 'relay-1',
      B: { part: 'boost', options: { volts: 12 } },
      A: { part: 'battery-box', options: { volts: 4.2 } },
    },
    wires:
      'B.IN+ A.+, B.IN- A.-, B.OUT- A.-, K.COM B.OUT+, K.NO T.+, T.- A.-, K.VCC MCU.VIN, K.GND MCU.GND, K.IN MCU.D26',
  },
  {
    title: 'a board at a pack whose switch lies in the way back',
    mcu: 'uno-r3',
    parts: { A: { part: 'battery-box', options: { volts: 9 } }, W: 'slide-switch', L: led('red'), R: ohms(330) },
    wires: 'A.+ MCU.VIN, A.- W.C, W.1 MCU.GND, L.A R.1, R.2 MCU.D5, L.K MCU.GND',
  },
  {
    title: 'a door switch that a capacitor keeps quiet, and one at a reading',
    mcu: 'nano-v3',
    parts: {
      D: 'reed-switch',
      R: ohms(10_000),
      C: { part: 'capacitor', options: { farads: 1e-7 } },
      P: 'potentiometer',
      E: { part: 'capacitor', options: { farads: 1e-7 } },
    },
    wires:
      'D.1 MCU.D2, D.2 MCU.GND, R.1 MCU.D2, R.2 MCU.5V, C.1 MCU.D2, C.2 MCU.GND, P.1 MCU.GND, P.3 MCU.5V, P.W MCU.A0, E.1 MCU.A0, E.2 MCU.GND',
  },
  {
    title: 'a fan above whose transistor the pull of the gate lies at the supply',
    parts: { Q: 'pmos', R: ohms(10_000), F: { part: 'fan', options: { volts: 5 } }, T: 'npn', S: ohms(1000) },
    wires: 'Q.S MCU.VIN, Q.D F.+, F.- MCU.GND, R.1 Q.G, R.2 Q.S, Q.G T.C, T.E MCU.GND.2, T.B S.1, S.2 MCU.GPIO32',
  },
  {
    title: 'a coil between an output and ground, its diode the right way round',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: { ...coil, M: { part: 'solenoid', options: { milliamps: 300 } } },
    wires: `${half}, D.GND.3 MCU.GND, D.1Y M.+, M.- PACK.-, X.K M.+, X.A M.-`,
  },
  {
    title: 'diodes that clamp both outputs of a bridge',
    mcu: 'uno-r3',
    supplies: pack(9),
    parts: { D: 'l293d', M: motor(), X: 'diode', Y: 'diode' },
    wires: `${half}, D.GND.3 MCU.GND, D.2A MCU.7, D.1Y M.M1, D.2Y M.M2, X.A MCU.GND, X.K D.1Y, Y.A D.1Y, Y.K PACK.+`,
  },
  {
    title: 'a transistor that turns a level round, read by a pin',
    mcu: 'pico',
    parts: { Q: 'nmos', R: ohms(10_000), D: ohms(10_000) },
    wires: 'Q.S MCU.GND, Q.G MCU.GP15, D.1 Q.G, D.2 MCU.GND, R.1 Q.D, R.2 MCU.3V3, Q.D MCU.GP14',
  },
  {
    title: 'a resistor as a heater behind a transistor',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { Q: 'nmos', H: { part: 'resistor', options: { ohms: 47, watts: 2 } }, R: ohms(10_000) },
    wires: `${gnd}, H.1 PACK.+, H.2 Q.D, Q.S MCU.GND, Q.G MCU.5, R.1 Q.G, R.2 MCU.GND`,
  },
  {
    title: 'a button that resets the board over a resistor, a display that resets with it',
    mcu: 'pico',
    parts: { B: 'button', R: ohms(470), D: 'ssd1306-spi' },
    wires:
      'R.1 MCU.RUN, R.2 B.1, B.2 MCU.GND, D.VCC MCU.3V3, D.GND MCU.GND, D.RES MCU.RUN, D.D0 MCU.GP18, D.D1 MCU.GP19, D.CS MCU.GP17, D.DC MCU.GP20',
  },
  {
    title: 'a program that resets its board by a pin',
    mcu: 'uno-r3',
    parts: { R: ohms(1000) },
    wires: 'R.1 MCU.RESET, R.2 MCU.7',
  },
  {
    title: 'a pump fed through a P-channel transistor, and beside it from a second pack over a diode',
    mcu: 'uno-r3',
    supplies: { ...pack(5), SPARE: { volts: 5, limitMilliamps: 2000 } },
    parts: { Q: 'pmos', R: ohms(10_000), M: 'pump', X: 'diode', Y: 'diode' },
    wires: `${gnd}, SPARE.- MCU.GND, Q.S PACK.+, Q.D M.+, M.- PACK.-, Q.G MCU.8, R.1 Q.G, R.2 Q.S, X.A SPARE.+, X.K M.+, Y.K M.+, Y.A M.-`,
  },
  {
    title: 'two colours of three, the third marked as left open',
    mcu: 'uno-r3',
    parts: colours,
    wires: 'D.COM MCU.5V, D.R R.1, D.G G.1, D.B B.1, G.2 MCU.10, B.2 MCU.11',
    unused: ['R.2'],
  },
]

export const mistakenChanged: readonly (Short & { title: string; rule: string })[] = [
  {
    title: 'drain and source of a P-channel transistor exchanged',
    rule: 'polarity',
    mcu: 'uno-r3',
    parts: { Q: 'pmos', R: ohms(10_000), F: { part: 'fan', options: { volts: 5 } } },
    wires: 'Q.D MCU.5V, Q.S F.+, F.- MCU.GND, Q.G MCU.7, R.1 Q.G, R.2 MCU.5V',
  },
  {
    title: 'the same before a sensor, moved over a second transistor',
    rule: 'polarity',
    parts: { Q: 'pmos', R: ohms(10_000), C: 'bme280', T: 'npn', S: ohms(1000) },
    wires:
      'Q.D MCU.3V3, Q.S C.VCC, C.GND MCU.GND, C.SDA MCU.21, C.SCL MCU.22, R.1 Q.G, R.2 MCU.3V3, T.C Q.G, T.E MCU.GND, S.1 T.B, S.2 MCU.25',
  },
  {
    title: 'a Zener diode across a supply, with nothing before it',
    rule: 'driver-rating',
    mcu: 'uno-r3',
    parts: { Z: 'zener' },
    wires: 'Z.K MCU.5V, Z.A MCU.GND',
  },
  {
    title: 'a Zener diode across what a P-channel transistor leads',
    rule: 'driver-rating',
    mcu: 'uno-r3',
    parts: { Q: 'pmos', R: ohms(10_000), F: { part: 'fan', options: { volts: 5 } }, Z: 'zener' },
    wires: 'Q.S MCU.5V, Q.D F.+, F.- MCU.GND, Q.G MCU.7, R.1 Q.G, R.2 MCU.5V, Z.K F.+, Z.A MCU.GND',
  },
  {
    title: 'a knob of two legs from a supply to ground, its third leg in the air',
    rule: 'supply-joined',
    mcu: 'uno-r3',
    parts: { K: 'potentiometer' },
    wires: 'K.1 MCU.5V, K.W MCU.GND',
  },
  {
    rule: 'load-return',
    title: 'a coil of a stepper motor at the fault output beside its own',
    mcu: 'mega-2560-r3',
    supplies: pack(12),
    parts: {
      D: 'drv8825',
      M: 'stepper-bipolar',
      C: { part: 'capacitor', options: { farads: 0.0001, kind: 'electrolytic', volts: 50 } },
    },
    wires:
      'D.VMOT PACK.+, D.GND.2 PACK.-, PACK.- MCU.GND, D.GND MCU.GND, D.STEP MCU.D3, D.DIR MCU.D4, D.RST MCU.5V, D.SLP MCU.5V, C.1 D.VMOT, C.2 D.GND.2, D.1A M.A+, M.A- D.FLT, D.2A M.B+, D.2B M.B-',
  },
  {
    rule: 'supply-missing',
    title: 'a transistor whose emitter lies a post beside ground',
    mcu: 'pi-40',
    supplies: pack(12),
    parts: { Q: 'npn', L: { part: 'lamp', options: { volts: 12 } }, R: ohms(330) },
    wires: 'PACK.- MCU.GND, L.+ PACK.+, L.- Q.C, Q.B R.1, R.2 MCU.GPIO17, Q.E MCU.GPIO27',
  },
  {
    rule: 'supply-joined',
    title: 'the switch of an encoder on a supply, which it shorts when it is pushed',
    mcu: 'micro-32u4',
    parts: { E: 'rotary-encoder' },
    wires: 'E.VCC MCU.5V, E.GND MCU.GND, E.CLK MCU.D2, E.DT MCU.D3, E.SW MCU.3V3',
  },
  {
    rule: 'supply-missing',
    title: 'a knob between two supplies',
    mcu: 'uno-r3',
    parts: { K: 'potentiometer' },
    wires: 'K.1 MCU.3V3, K.3 MCU.5V, K.W MCU.A0',
  },
  {
    rule: 'level-logic',
    title: 'a button that leads to the pin of another one',
    mcu: 'uno-r3',
    parts: { B: 'button', C: 'button' },
    wires: 'B.1 MCU.D4, B.2 MCU.D5, C.1 MCU.D5, C.2 MCU.GND',
  },
  {
    rule: 'level-logic',
    title: 'a limit switch between a pin and the one that resets the board',
    mcu: 'nano-v3',
    parts: { L: 'limit-switch' },
    wires: 'L.C MCU.D4, L.NC MCU.RESET',
  },
  {
    rule: 'level-logic',
    title: 'a limit switch a post beside ground',
    parts: { L: 'limit-switch' },
    wires: 'L.C MCU.GPIO14, L.NO MCU.GPIO13',
  },
  {
    rule: 'common-ground',
    title: 'a strip behind a converter whose cell has no ground in common with the gate',
    parts: {
      T: 'strip-12v',
      Q: 'nmos',
      B: { part: 'boost', options: { volts: 12 } },
      A: { part: 'battery-box', options: { volts: 4.2 } },
      R: ohms(10_000),
    },
    wires: 'B.IN+ A.+, B.IN- A.-, B.OUT- A.-, T.+ B.OUT+, T.- Q.D, Q.S MCU.GND, Q.G MCU.GPIO32, R.1 Q.G, R.2 Q.S',
  },
  {
    rule: 'common-ground',
    title: 'a board fed by a converter, without the way back',
    parts: { P: 'bme280', B: 'buck', A: { part: 'battery-box', options: { volts: 12 } } },
    wires:
      'B.IN+ A.+, B.IN- A.-, B.OUT- A.-, B.OUT+ MCU.VIN, P.VCC MCU.3V3, P.GND MCU.GND, P.SDA MCU.D21, P.SCL MCU.D22',
  },
  {
    rule: 'common-ground',
    title: 'a board fed by another one, without the way back',
    boards: { A: { board: 'uno-r3' }, B: { board: 'nano-v3' } },
    parts: { L: led('red'), R: ohms(220) },
    wires: 'A.5V B.5V, L.A R.1, R.2 B.D5, L.K B.GND',
  },
  {
    rule: 'level-damage',
    title: 'both channels of a shifter turned round before a computer',
    mcu: 'pi-40',
    parts: { L: 'lcd-i2c', S: 'shifter-bss138' },
    wires:
      'L.VCC MCU.5V, L.GND MCU.GND, S.HV MCU.5V, S.LV MCU.3V3, S.GND MCU.GND, L.SCL S.LV1, S.HV1 MCU.GPIO3, L.SDA S.LV2, S.HV2 MCU.GPIO2',
  },
  {
    rule: 'line-capacitor',
    title: 'the capacitor of a strip a row beside, at its data input',
    mcu: 'nano-v3',
    supplies: pack(5),
    parts: {
      S: { part: 'ws2812-strip', options: { pixels: 16 } },
      R: ohms(470),
      C: { part: 'capacitor', options: { farads: 0.00047, kind: 'electrolytic', volts: 10 } },
    },
    wires: 'PACK.- MCU.GND, S.5V PACK.+, S.GND PACK.-, S.DIN R.1, R.2 MCU.D6, C.1 S.DIN, C.2 S.GND',
  },
  {
    rule: 'line-capacitor',
    title: 'the capacitor of a radio at its clock',
    parts: { N: 'nrf24l01', C: { part: 'capacitor', options: { farads: 1e-5 } } },
    wires:
      'N.VCC MCU.3V3, N.GND MCU.GND, N.CE MCU.D4, N.CSN MCU.D5, N.SCK MCU.D18, N.MOSI MCU.D23, N.MISO MCU.D19, C.1 N.SCK, C.2 N.GND',
  },
  {
    rule: 'polarity',
    title: 'a diode that shorts an output of a bridge to ground',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: coil,
    wires: `${half}, D.GND.3 MCU.GND, D.1Y M.+, M.- PACK.-, X.A M.+, X.K M.-`,
  },
  {
    rule: 'polarity',
    title: 'a diode that shorts a P-channel transistor to ground',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { Q: 'pmos', R: ohms(10_000), M: 'pump', X: 'diode' },
    wires: `${gnd}, Q.S PACK.+, Q.D M.+, M.- PACK.-, Q.G MCU.8, R.1 Q.G, R.2 Q.S, X.A M.+, X.K M.-`,
  },
  {
    rule: 'polarity',
    title: 'a diode from the supply into an output of a bridge',
    mcu: 'uno-r3',
    supplies: pack(9),
    parts: { D: 'l293d', M: motor(), Y: 'diode' },
    wires: `${half}, D.GND.3 MCU.GND, D.2A MCU.7, D.1Y M.M1, D.2Y M.M2, Y.K D.1Y, Y.A PACK.+`,
  },
  {
    rule: 'supply-joined',
    title: 'a ground wire one leg too far, on an output that nobody uses',
    mcu: 'uno-r3',
    supplies: pack(9),
    parts: { D: 'l293d', M: motor() },
    wires: `${half}, D.3Y MCU.GND, D.2A MCU.7, D.1Y M.M1, D.2Y M.M2`,
  },
  {
    rule: 'supply-joined',
    title: 'minus of a charger where the board is fed',
    mcu: 'pico',
    parts: { B: cell.B, C: cell.C },
    wires: 'B.+ C.B+, B.- C.B-, C.OUT- MCU.GND, C.OUT- MCU.VSYS',
  },
  {
    rule: 'supply-joined',
    title: 'the input of the regulator on ground',
    mcu: 'nano-v3',
    parts: { S: 'button' },
    wires: 'MCU.VIN MCU.GND, S.1 MCU.4, S.2 MCU.GND',
  },
  {
    rule: 'supply-joined',
    title: 'a knob with its tap on its lower end, between the rails',
    mcu: 'uno-r3',
    parts: { K: 'potentiometer' },
    wires: 'K.1 MCU.GND, K.3 MCU.5V, K.W MCU.GND',
  },
  {
    rule: 'supply-range',
    title: 'two cells in a row behind a switch, on a charger for one',
    mcu: 'pico',
    supplies: pack(8.1),
    parts: { C: cell.C, S: 'slide-switch' },
    wires: 'PACK.+ S.1, S.C C.B+, PACK.- C.B-, C.OUT- MCU.GND, C.OUT+ MCU.VSYS',
    unused: ['S.3'],
  },
  {
    rule: 'pin-current',
    title: 'one ohm from a gate to ground, where ten thousand were meant',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: { Q: 'nmos', L: 'lamp', R: ohms(1) },
    wires: `${gnd}, L.+ PACK.+, L.- Q.D, Q.S MCU.GND, Q.G MCU.5, R.1 Q.G, R.2 MCU.GND`,
  },
  { rule: 'common-ground', title: 'a cell with its plus at the gauge alone', parts: cell, wires: charged },
  {
    rule: 'common-ground',
    title: 'both poles of a charger on the minus of the cell',
    parts: cell,
    wires: `${charged}, B.- C.B+`,
  },
  {
    rule: 'common-ground',
    title: 'the minus of a servo pack on the data line of a meter',
    mcu: 'uno-r3',
    parts: metered,
    wires: `${five('W')}, W.SDA MCU.A4, W.SCL MCU.A5, B.- W.SDA, W.VIN+ MCU.GND, S.VCC B.+, S.GND MCU.GND, S.SIG MCU.9`,
  },
  {
    rule: 'driver-idle',
    title: 'supply and lamp on one side of a meter',
    supplies: pack(12),
    parts: { A: 'ina219', L: 'lamp' },
    wires: `${gnd}, A.VCC MCU.3V3, A.GND MCU.GND, ${i2c('21', '22', 'A')}, PACK.+ A.VIN-, A.VIN- L.+, L.- PACK.-`,
  },
  {
    rule: 'driver-idle',
    title: 'base and collector exchanged behind a touch pad',
    mcu: 'uno-r3',
    parts: touched,
    wires: `${five('T')}, T.IO R.1, R.2 Q.C, Q.B Z.-, Z.+ MCU.5V, Q.E MCU.GND`,
  },
  {
    rule: 'driver-idle',
    title: 'a fan above whose transistor the pull of the gate lies at the drain',
    parts: { Q: 'pmos', R: ohms(10_000), F: { part: 'fan', options: { volts: 5 } }, T: 'npn', S: ohms(1000) },
    wires: 'Q.S MCU.VIN, Q.D F.+, F.- MCU.GND, R.1 Q.G, R.2 Q.D, Q.G T.C, T.E MCU.GND.2, T.B S.1, S.2 MCU.GPIO32',
  },
  {
    rule: 'driver-idle',
    title: 'a strip past its transistor, the pull of the gate at the drain',
    mcu: 'pico',
    supplies: pack(12),
    parts: strip,
    wires: `${gnd}, P.+ PACK.+, P.- Q.S, Q.S MCU.GND, Q.G MCU.GP15, R.1 Q.G, R.2 Q.D`,
  },
  {
    rule: 'driver-idle',
    title: 'a pump past its transistor, on whose drain the diode is left',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: pump,
    wires: `${gnd}, M.+ PACK.+, M.- Q.S, Q.S MCU.GND, Q.G MCU.8, R.1 Q.G, R.2 MCU.GND, X.K M.+, X.A Q.D`,
  },
  {
    rule: 'pin-not-signal',
    title: 'a magnet switch on the post that resets the board',
    mcu: 'nano-v3',
    parts: { H: 'hall-a3144', R: ohms(10_000) },
    wires: `${five('H')}, H.OUT MCU.RESET, R.1 H.OUT, R.2 MCU.5V`,
  },
  {
    rule: 'pin-not-signal',
    title: 'a servo on the post that resets the board',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { S: 'servo-sg90' },
    wires: `${gnd}, S.VCC PACK.+, S.GND PACK.-, S.SIG MCU.RESET`,
  },
  {
    rule: 'control-post',
    title: 'a lamp from the post that resets the board to ground',
    mcu: 'uno-r3',
    parts: { L: led(), R: ohms(330) },
    wires: 'R.1 MCU.RESET, R.2 L.A, L.K MCU.GND',
  },
  {
    rule: 'control-post',
    title: 'the pull-up of a button on the post beside the supply',
    mcu: 'nano-v3',
    parts: { B: 'button', R: ohms(10_000) },
    wires: 'B.1 MCU.4, B.2 MCU.GND, R.1 MCU.RESET, R.2 MCU.4',
  },
  {
    rule: 'polarity',
    title: 'a diode behind a switch, its cathode on ground',
    mcu: 'uno-r3',
    supplies: pack(9),
    parts: { S: 'slide-switch', D: 'diode' },
    wires: `${gnd}, PACK.+ S.1, S.C D.A, D.K MCU.GND`,
    unused: ['S.3'],
  },
  {
    rule: 'pin-unplaced',
    title: 'two lamps behind one resistor whose other leg hangs in the air',
    mcu: 'uno-r3',
    parts: { L: led(), K: led(), R: ohms(220) },
    wires: 'R.2 L.A, R.2 K.A, L.K MCU.GND, K.K MCU.GND',
  },
  {
    rule: 'pin-unplaced',
    title: 'the resistor of one colour of three hangs in the air',
    mcu: 'uno-r3',
    parts: colours,
    wires: 'D.COM MCU.5V, D.R R.1, D.G G.1, D.B B.1, G.2 MCU.10, B.2 MCU.11',
  },
]
