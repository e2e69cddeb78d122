import { fed, type Short } from './plans.ts'

/** Wirings in which everything is as it should be, and which a careless check would accuse. */

const pack = (volts: number, limitMilliamps = 5000) => ({ PACK: { volts, limitMilliamps } })
const ohms = (value: number) => ({ part: 'resistor', options: { ohms: value } })
const five = (...refs: string[]): string => refs.map((ref) => `${ref}.VCC MCU.5V, ${ref}.GND MCU.GND`).join(', ')
const i2c = (sda: string, scl: string, ...refs: string[]): string =>
  refs.map((ref) => `${ref}.SDA MCU.${sda}, ${ref}.SCL MCU.${scl}`).join(', ')
const gnd = 'PACK.- MCU.GND'
const led = (colour = 'red') => ({ part: 'led', options: { colour } })
const cap = (farads: number, kind = 'electrolytic', volts = 25) => ({
  part: 'capacitor',
  options: { farads, kind, volts },
})
const motor = (milliamps = 200, stall = 800) => ({ part: 'dc-motor', options: { milliamps, stall } })
const stepper = { part: 'stepper-bipolar', options: { milliamps: 800 } }
const bulk = cap(1e-4, 'electrolytic', 35)

export const soundMore: readonly (Short & { title: string })[] = [
  {
    title: 'servo on pca9685',
    parts: { P: 'pca9685', S: 'servo-sg90' },
    supplies: pack(5),
    wires: `${gnd}, P.VCC MCU.3V3, P.GND MCU.GND, P.V+ PACK.+, P.SDA MCU.21, P.SCL MCU.22, S.VCC PACK.+, S.GND PACK.-, S.SIG P.PWM0`,
  },
  {
    title: 'led on pca9685',
    parts: { P: 'pca9685', L: led(), R: ohms(220) },
    wires: `P.VCC MCU.3V3, P.GND MCU.GND, P.SDA MCU.21, P.SCL MCU.22, R.1 P.PWM3, R.2 L.A, L.K MCU.GND`,
  },
  {
    title: 'drv8825 with faults open',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: { D: 'drv8825', M: stepper, C: bulk },
    wires: `${gnd}, D.VMOT PACK.+, D.GND PACK.-, D.GND.2 MCU.GND, D.STEP MCU.3, D.DIR MCU.4, D.RST MCU.5V, D.SLP MCU.5V, D.1A M.A+, D.1B M.A-, D.2A M.B+, D.2B M.B-, C.1 D.VMOT, C.2 D.GND`,
  },
  {
    title: 'tmc2209',
    mcu: 'pico',
    supplies: pack(12),
    parts: { D: 'tmc2209', M: stepper, C: bulk },
    wires: `${gnd}, D.VM PACK.+, D.GND PACK.-, D.VIO MCU.3V3, D.GND.2 MCU.GND, D.STEP MCU.GP3, D.DIR MCU.GP4, D.EN MCU.GND, D.1A M.A+, D.1B M.A-, D.2A M.B+, D.2B M.B-, C.1 D.VM, C.2 D.GND`,
  },
  {
    title: 'l293d one motor',
    mcu: 'uno-r3',
    supplies: pack(9),
    parts: { D: 'l293d', M: motor() },
    wires: `${gnd}, D.VSS MCU.5V, D.VS PACK.+, D.GND MCU.GND, D.GND.2 MCU.GND, D.GND.3 MCU.GND, D.GND.4 MCU.GND, D.EN12 MCU.5, D.1A MCU.6, D.2A MCU.7, D.1Y M.M1, D.2Y M.M2`,
  },
  {
    title: 'l293d enable tied high',
    mcu: 'uno-r3',
    supplies: pack(9),
    parts: { D: 'l293d', M: motor() },
    wires: `${gnd}, D.VSS MCU.5V, D.VS PACK.+, D.GND MCU.GND, D.GND.2 MCU.GND, D.GND.3 MCU.GND, D.GND.4 MCU.GND, D.EN12 MCU.5V, D.1A MCU.6, D.2A MCU.5, D.1Y M.M1, D.2Y M.M2`,
  },
  {
    title: 'tb6612 standby tied',
    mcu: 'uno-r3',
    supplies: pack(6),
    parts: { D: 'tb6612', M: motor() },
    wires: `${gnd}, D.VM PACK.+, D.VCC MCU.5V, D.GND MCU.GND, D.AO1 M.M1, D.AO2 M.M2, D.PWMA MCU.3, D.AIN1 MCU.4, D.AIN2 MCU.5, D.STBY MCU.5V`,
  },
  {
    title: 'tb6612 standby through 10k',
    mcu: 'uno-r3',
    supplies: pack(6),
    parts: { D: 'tb6612', M: motor(), R: ohms(10000) },
    wires: `${gnd}, D.VM PACK.+, D.VCC MCU.5V, D.GND MCU.GND, D.AO1 M.M1, D.AO2 M.M2, D.PWMA MCU.3, D.AIN1 MCU.4, D.AIN2 MCU.5, D.STBY R.1, R.2 MCU.5V`,
  },
  {
    title: 'stepper 28byj on uln',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { D: 'uln2003', M: 'stepper-28byj48' },
    wires: `${gnd}, D.E MCU.GND, D.COM PACK.+, D.1B MCU.8, D.2B MCU.9, D.3B MCU.10, D.4B MCU.11, D.1C M.BLU, D.2C M.PNK, D.3C M.YEL, D.4C M.ORG, M.RED PACK.+`,
  },
  {
    title: 'pump with nmos and diode',
    parts: { Q: 'nmos', P: 'pump', D: 'diode', R: ohms(10000) },
    supplies: pack(5),
    wires: `${gnd}, P.+ PACK.+, P.- Q.D, Q.S MCU.GND, Q.G MCU.26, R.1 Q.G, R.2 MCU.GND, D.K PACK.+, D.A Q.D`,
  },
  {
    title: 'motor switched with nmos and diode',
    mcu: 'uno-r3',
    supplies: pack(6),
    parts: {
      Q: { part: 'nmos', options: { model: 'irlz44n' } },
      M: { ...motor(), mode: 'switched' },
      D: 'diode',
      R: ohms(10000),
    },
    wires: `${gnd}, M.M1 PACK.+, M.M2 Q.D, Q.S MCU.GND, Q.G MCU.3, R.1 Q.G, R.2 MCU.GND, D.K PACK.+, D.A Q.D`,
  },
  {
    title: 'relay board of four',
    mcu: 'uno-r3',
    parts: { K: 'relay-4' },
    wires: 'K.VCC MCU.5V, K.GND MCU.GND, K.IN1 MCU.4, K.IN2 MCU.5, K.IN3 MCU.6, K.IN4 MCU.7',
  },
  {
    title: 'relay from its own pack',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { K: 'relay-4' },
    wires: `${gnd}, K.VCC PACK.+, K.GND PACK.-, K.IN1 MCU.4, K.IN2 MCU.5, K.IN3 MCU.6, K.IN4 MCU.7`,
  },
  {
    title: 'buck from 12 to 5 feeding board and servo',
    mcu: 'uno-r3',
    supplies: pack(12),
    uses: ['servo-library'],
    parts: { B: { part: 'buck', options: { volts: 5 } }, S: 'servo-sg90' },
    wires: `${gnd}, B.IN+ PACK.+, B.IN- PACK.-, B.OUT+ S.VCC, B.OUT- S.GND, S.SIG MCU.9`,
  },
  {
    title: 'cell and boost to 5V',
    parts: { B: { part: 'boost', options: { volts: 5 } }, O: 'hc-sr501' },
    supplies: pack(3.7),
    wires: `${gnd}, B.IN+ PACK.+, B.IN- PACK.-, B.OUT+ O.VCC, B.OUT- O.GND, O.OUT MCU.26`,
  },
  {
    title: 'regulator with its capacitor',
    parts: { G: 'regulator-3v3', O: 'ssd1306', C: cap(1e-5, 'electrolytic', 16) },
    wires: `G.IN MCU.VIN, G.GND MCU.GND, G.OUT O.VCC, O.GND MCU.GND, C.1 G.OUT, C.2 G.GND, ${i2c('21', '22', 'O')}`,
  },
  {
    title: 'switch chooses one of two supplies',
    mcu: 'uno-r3',
    supplies: { A: { volts: 9 }, B: { volts: 12 } },
    parts: { S: 'slide-switch' },
    wires: 'A.- MCU.GND, B.- MCU.GND, S.1 A.+, S.3 B.+, S.C MCU.VIN',
  },
  {
    title: 'slide switch between 5V and ground on a pin',
    mcu: 'uno-r3',
    parts: { S: 'slide-switch' },
    wires: 'S.1 MCU.GND, S.3 MCU.5V, S.C MCU.4',
  },
  {
    title: 'slide switch other throw',
    mcu: 'uno-r3',
    parts: { S: 'slide-switch' },
    wires: 'S.3 MCU.GND, S.C MCU.4',
    unused: ['S.1'],
  },
  {
    title: 'reed with series and pull-up',
    mcu: 'pico',
    parts: { B: 'reed-switch', R: ohms(10000), S: ohms(330) },
    wires: 'R.1 MCU.3V3, R.2 MCU.GP3, B.1 MCU.GP3, B.2 S.1, S.2 MCU.GND',
  },
  {
    title: 'debounced button',
    mcu: 'pico',
    parts: { B: 'button', R: ohms(10000), C: cap(1e-7, 'ceramic', 50) },
    wires: 'R.1 MCU.3V3, R.2 MCU.GP3, B.1 MCU.GP3, B.2 MCU.GND, C.1 MCU.GP3, C.2 MCU.GND',
  },
  {
    title: 'button and led on one pin',
    mcu: 'uno-r3',
    parts: { B: 'button', L: led(), R: ohms(470), S: ohms(10000) },
    wires: 'B.1 MCU.2, B.2 MCU.GND, S.1 MCU.2, S.2 MCU.5V, L.A R.1, R.2 MCU.7, L.K MCU.GND',
  },
  {
    title: 'button lights a lamp without the board',
    mcu: 'uno-r3',
    parts: { B: 'button', L: led(), R: ohms(470) },
    wires: 'B.1 MCU.5V, B.2 R.1, R.2 L.A, L.K MCU.GND',
  },
  {
    title: 'two lamps against each other between two pins',
    mcu: 'uno-r3',
    parts: { L: led(), M: led('green'), R: ohms(330) },
    wires: 'R.1 MCU.4, R.2 L.A, R.2 M.K, L.K MCU.5, M.A MCU.5',
  },
  {
    title: 'led bar of ten',
    mcu: 'uno-r3',
    parts: { D: 'led-bar', R1: ohms(470), R2: ohms(470), R3: ohms(470) },
    wires:
      'D.A1 MCU.2, D.A2 MCU.3, D.A3 MCU.4, D.K1 R1.1, D.K2 R2.1, D.K3 R3.1, R1.2 MCU.GND, R2.2 MCU.GND, R3.2 MCU.GND',
    unused: [
      'D.A4',
      'D.A5',
      'D.A6',
      'D.A7',
      'D.A8',
      'D.A9',
      'D.A10',
      'D.K4',
      'D.K5',
      'D.K6',
      'D.K7',
      'D.K8',
      'D.K9',
      'D.K10',
    ],
  },
  {
    title: 'seven segment common anode',
    mcu: 'uno-r3',
    parts: { D: { part: 'seven-segment', options: { common: 'anode' } }, R1: ohms(330), R2: ohms(330) },
    wires: 'D.COM MCU.5V, D.A R1.1, D.B R2.1, R1.2 MCU.2, R2.2 MCU.3',
    unused: ['D.C', 'D.D', 'D.E', 'D.F', 'D.G', 'D.DP'],
  },
  {
    title: 'seven segment digit by npn',
    mcu: 'uno-r3',
    parts: { D: 'seven-segment', Q: 'npn', B: ohms(1000), R1: ohms(330), R2: ohms(330) },
    wires: 'D.COM Q.C, Q.E MCU.GND, Q.B B.1, B.2 MCU.9, D.A R1.1, D.B R2.1, R1.2 MCU.2, R2.2 MCU.3',
    unused: ['D.C', 'D.D', 'D.E', 'D.F', 'D.G', 'D.DP'],
  },
  {
    title: '595 chain',
    mcu: 'uno-r3',
    parts: { X: '74hc595', Y: '74hc595' },
    wires:
      'X.VCC MCU.5V, X.GND MCU.GND, X.OE MCU.GND, X.SRCLR MCU.5V, X.SER MCU.11, X.SRCLK MCU.13, X.RCLK MCU.10, Y.VCC MCU.5V, Y.GND MCU.GND, Y.OE MCU.GND, Y.SRCLR MCU.5V, Y.SER X.QHS, Y.SRCLK MCU.13, Y.RCLK MCU.10',
  },
  {
    title: 'uln driven by 595',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: { X: '74hc595', D: 'uln2803', L: 'lamp' },
    wires: `${gnd}, X.VCC MCU.5V, X.GND MCU.GND, X.OE MCU.GND, X.SRCLR MCU.5V, X.SER MCU.11, X.SRCLK MCU.13, X.RCLK MCU.10, D.1B X.QA, D.GND MCU.GND, D.COM PACK.+, D.1C L.-, L.+ PACK.+`,
  },
  {
    title: 'ina219 on the high side',
    supplies: pack(12),
    parts: { A: 'ina219', L: 'lamp' },
    wires: `${gnd}, ${fed('A')}, ${i2c('21', '22', 'A')}, A.VIN+ PACK.+, A.VIN- L.+, L.- PACK.-`,
  },
  { title: 'acs712 to uno', mcu: 'uno-r3', parts: { A: 'current-acs712' }, wires: `${five('A')}, A.OUT MCU.A0` },
  {
    title: 'acs712 divided for pico',
    mcu: 'pico',
    parts: { A: 'current-acs712', R: ohms(10000), S: ohms(18000) },
    wires: 'A.VCC MCU.VBUS, A.GND MCU.GND, A.OUT R.1, R.2 MCU.GP26, S.1 MCU.GP26, S.2 MCU.GND',
  },
  {
    title: 'usb cable as console of an esp32 second uart',
    parts: { C: 'usb-ttl-cable' },
    wires: 'C.GND MCU.GND, C.RXD MCU.17, C.TXD MCU.16',
    unused: ['C.5V'],
  },
  {
    title: 'usb cable feeds pico at VSYS',
    mcu: 'pico',
    parts: { C: 'usb-ttl-cable' },
    wires: 'C.GND MCU.GND, C.RXD MCU.GP0, C.TXD MCU.GP1, C.5V MCU.VSYS',
  },
  {
    title: 'pico and uno through bss138',
    boards: { MCU: { board: 'pico' }, UNO: { board: 'mega-2560-r3' } },
    parts: { B: 'shifter-bss138' },
    wires:
      'MCU.GND UNO.GND, B.LV MCU.3V3, B.HV UNO.5V, B.GND MCU.GND, B.GND.2 UNO.GND, B.LV1 MCU.GP0, B.HV1 UNO.RX1, B.LV2 MCU.GP1, B.HV2 UNO.TX1',
  },
  {
    title: 'txs between esp and 5V display',
    parts: { X: 'txs0108e', D: 'tm1637', R: ohms(10000) },
    wires:
      'X.VA MCU.3V3, X.VB MCU.VIN, X.GND MCU.GND, X.OE R.1, R.2 MCU.3V3, X.A1 MCU.26, X.A2 MCU.27, X.B1 D.CLK, X.B2 D.DIO, D.VCC MCU.VIN, D.GND MCU.GND',
  },
  {
    title: 'max485 on mega',
    mcu: 'mega-2560-r3',
    parts: { X: 'max485' },
    wires: `${five('X')}, X.RO MCU.RX1, X.DI MCU.TX1, X.DE MCU.22, X.RE MCU.22`,
  },
  {
    title: 'sd card module on mega',
    mcu: 'mega-2560-r3',
    parts: { A: 'microsd' },
    wires: `${five('A')}, A.SCK MCU.52, A.MISO MCU.50, A.MOSI MCU.51, A.CS MCU.53`,
  },
  {
    title: 'microphone on esp32',
    parts: { M: 'inmp441' },
    wires: 'M.VDD MCU.3V3, M.GND MCU.GND, M.SCK MCU.26, M.WS MCU.25, M.SD MCU.33, M.L/R MCU.GND',
  },
  {
    title: 'dht22 with resistor on pi',
    mcu: 'pi-40',
    parts: { T: 'dht22', R: ohms(10000) },
    wires: 'T.VCC MCU.3V3, T.GND MCU.GND, T.DATA MCU.GPIO17, R.1 T.DATA, R.2 MCU.3V3',
  },
  {
    title: 'ir receiver',
    mcu: 'uno-r3',
    parts: { V: 'ir-receiver' },
    wires: 'V.VS MCU.5V, V.GND MCU.GND, V.OUT MCU.2',
  },
  {
    title: 'gas sensor divided on esp32',
    parts: { G: 'gas-analog', R: ohms(10000), S: ohms(18000) },
    wires: 'G.VCC MCU.VIN, G.GND MCU.GND, G.AO R.1, R.2 MCU.34, S.1 MCU.34, S.2 MCU.GND',
    unused: ['G.DO'],
  },
  {
    title: 'water level on uno fed from a pin',
    mcu: 'uno-r3',
    parts: { W: 'water-level' },
    wires: 'W.+ MCU.7, W.- MCU.GND, W.S MCU.A0',
  },
  {
    title: 'potentiometer with both ends at 3V3 and ground on microbit',
    mcu: 'microbit-v2',
    parts: { K: 'potentiometer' },
    wires: 'K.1 MCU.GND, K.3 MCU.3V, K.W MCU.P0',
  },
  {
    title: 'a lamp through the shunt of a meter',
    supplies: pack(12),
    parts: { A: 'ina226', L: 'lamp' },
    wires: `${gnd}, ${fed('A')}, ${i2c('21', '22', 'A')}, A.IN+ PACK.+, A.IN- L.+, L.- PACK.-`,
  },
  {
    title: 'a cell on its charger',
    supplies: { CELL: { volts: 3.7 } },
    parts: { C: 'charger-tp4056' },
    wires: 'C.B+ CELL.+, C.B- CELL.-',
  },
]
