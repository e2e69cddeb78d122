import { fed, type Short } from './plans.ts'

/** Wirings of drivers, registers, converters and links between boards, right and with one mistake. */

const pack = (v: number, ma = 5000) => ({ PACK: { volts: v, limitMilliamps: ma } })
const led = (colour = 'red') => ({ part: 'led', options: { colour } })
const ohms = (v: number) => ({ part: 'resistor', options: { ohms: v } })
const cap = (farads: number, kind = 'electrolytic', volts = 25) => ({
  part: 'capacitor',
  options: { farads, kind, volts },
})
const motor = (ma = 200, stall = 800) => ({ part: 'dc-motor', options: { milliamps: ma, stall } })
const five = (...r: string[]) => r.map((x) => `${x}.VCC MCU.5V, ${x}.GND MCU.GND`).join(', ')
const i2c = (a: string, b: string, ...r: string[]) => r.map((x) => `${x}.SDA MCU.${a}, ${x}.SCL MCU.${b}`).join(', ')
const gnd = 'PACK.- MCU.GND'
const l293 = (x = '') =>
  `${gnd}, D.VSS MCU.5V, D.VS PACK.+, D.GND MCU.GND, D.GND.2 MCU.GND, D.GND.3 MCU.GND, D.GND.4 MCU.GND${x}`
const x595 = (r: string, x = '') => `${r}.VCC MCU.5V, ${r}.GND MCU.GND, ${r}.OE MCU.GND, ${r}.SRCLR MCU.5V${x}`

export const soundSystems: readonly (Short & { title: string })[] = [
  {
    title: 'l293d as two solenoids with diodes',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: { D: 'l293d', M: { part: 'solenoid', options: { milliamps: 300 } }, X: 'diode' },
    wires: l293(', D.EN12 MCU.5V, D.1A MCU.6, D.2A MCU.GND, D.1Y M.+, M.- PACK.-, X.K M.+, X.A M.-').replace(
      ', D.2A MCU.GND',
      '',
    ),
  },
  {
    title: 'ws2812 10 px, resistor, capacitor',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { S: { part: 'ws2812-strip', options: { pixels: 30 } }, R: ohms(330), C: cap(1e-3, 'electrolytic', 10) },
    wires: `${gnd}, S.5V PACK.+, S.GND PACK.-, R.1 MCU.6, R.2 S.DIN, C.1 PACK.+, C.2 PACK.-`,
  },
  {
    title: '595 with 8 leds',
    mcu: 'uno-r3',
    parts: {
      X: '74hc595',
      ...Object.fromEntries(
        [...'ABCDEFGH'].flatMap((c) => [
          [`L${c}`, led()],
          [`R${c}`, ohms(1000)],
        ]),
      ),
      C: cap(1e-7, 'ceramic', 50),
    },
    wires: x595(
      'X',
      ', X.SER MCU.11, X.SRCLK MCU.13, X.RCLK MCU.10, C.1 X.VCC, C.2 X.GND, ' +
        [...'ABCDEFGH'].map((c) => `X.Q${c} R${c}.1, R${c}.2 L${c}.A, L${c}.K MCU.GND`).join(', '),
    ),
    unused: ['X.QHS'],
  },
  {
    title: '165 with four buttons and pull-ups on pico',
    mcu: 'pico',
    parts: {
      X: '74hc165',
      ...Object.fromEntries(
        [...'ABCDEFGH'].flatMap((c) => [
          [`B${c}`, 'button'],
          [`R${c}`, ohms(10000)],
        ]),
      ),
      C: cap(1e-7, 'ceramic', 50),
    },
    wires:
      'X.VCC MCU.3V3, X.GND MCU.GND, C.1 X.VCC, C.2 X.GND, X.PL MCU.GP2, X.CLK MCU.GP3, X.QH MCU.GP4, X.INH MCU.GND, X.SER MCU.GND, ' +
      [...'ABCDEFGH'].map((c) => `X.${c} R${c}.1, R${c}.2 MCU.3V3, B${c}.1 X.${c}, B${c}.2 MCU.GND`).join(', '),
    unused: ['X.QHN'],
  },
  {
    title: 'pcf8574 with led sunk and button',
    mcu: 'uno-r3',
    parts: {
      X: 'pcf8574',
      L: led(),
      R: ohms(470),
      B: 'button',
      P: ohms(4700),
      Q: ohms(4700),
      C: cap(1e-7, 'ceramic', 50),
    },
    wires: `X.VDD MCU.5V, X.VSS MCU.GND, C.1 X.VDD, C.2 X.VSS, ${i2c('A4', 'A5', 'X')}, X.A0 MCU.GND, X.A1 MCU.GND, X.A2 MCU.GND, P.1 X.SDA, P.2 MCU.5V, Q.1 X.SCL, Q.2 MCU.5V, L.A MCU.5V, L.K R.1, R.2 X.P0, B.1 X.P1, B.2 MCU.GND`,
  },
  {
    title: 'lora uart on pico',
    mcu: 'pico',
    parts: { X: 'lora-uart' },
    wires: 'X.VCC MCU.3V3, X.GND MCU.GND, X.RXD MCU.GP0, X.TXD MCU.GP1, X.M0 MCU.GND, X.M1 MCU.GND',
    unused: ['X.AUX'],
  },
  {
    title: 'two esp boards by uart',
    boards: { MCU: { board: 'esp32-devkit-30' }, B: { board: 'esp32-devkit-30' } },
    wires: 'MCU.16 B.17, MCU.17 B.16, MCU.GND B.GND',
  },
  {
    title: 'hc05 EN and STATE open',
    mcu: 'mega-2560-r3',
    parts: { H: 'hc-05', R: ohms(1000), S: ohms(2000) },
    wires: `${five('H')}, H.TXD MCU.RX1, MCU.TX1 R.1, R.2 H.RXD, S.1 H.RXD, S.2 MCU.GND`,
    unused: ['H.EN', 'H.STATE'],
  },
  {
    title: 'relay on D1',
    mcu: 'esp8266-d1-mini',
    parts: { K: 'relay-1' },
    wires: `K.VCC MCU.5V, K.GND MCU.GND, K.IN MCU.D1`,
  },
  { title: 'ssr on uno', mcu: 'uno-r3', parts: { K: 'ssr' }, wires: 'K.+ MCU.7, K.- MCU.GND' },
  {
    title: 'mcp23017 leds and buttons on esp',
    parts: {
      X: 'mcp23017',
      L: led(),
      R: ohms(330),
      B: 'button',
      P: ohms(4700),
      Q: ohms(4700),
      C: cap(1e-7, 'ceramic', 50),
    },
    wires: `X.VDD MCU.3V3, X.VSS MCU.GND, C.1 X.VDD, C.2 X.VSS, ${i2c('21', '22', 'X')}, X.RESET MCU.3V3, X.A0 MCU.GND, X.A1 MCU.GND, X.A2 MCU.GND, P.1 X.SDA, P.2 MCU.3V3, Q.1 X.SCL, Q.2 MCU.3V3, X.GPA0 R.1, R.2 L.A, L.K MCU.GND, X.GPB0 B.1, B.2 MCU.GND`,
  },
  {
    title: 'joystick 3V3 esp',
    parts: { J: 'joystick' },
    wires: 'J.VCC MCU.3V3, J.GND MCU.GND, J.VRX MCU.32, J.VRY MCU.33, J.SW MCU.27',
  },
  {
    title: 'keypad on pico',
    mcu: 'pico',
    parts: { K: 'keypad-4x4' },
    wires:
      'K.R1 MCU.GP2, K.R2 MCU.GP3, K.R3 MCU.GP4, K.R4 MCU.GP5, K.C1 MCU.GP6, K.C2 MCU.GP7, K.C3 MCU.GP8, K.C4 MCU.GP9',
  },
]

export const mistakenSystems: readonly (Short & { title: string; rule: string })[] = [
  {
    title: 'tp4056 B and OUT swapped: cell on OUT, load on IN',
    rule: 'supply-range',
    mcu: 'uno-r3',
    supplies: { CELL: { volts: 3.7, limitMilliamps: 2000 } },
    parts: { C: 'charger-tp4056', B: { part: 'boost', options: { volts: 5 } } },
    wires: 'CELL.+ C.IN+, CELL.- C.IN-, C.OUT+ B.IN+, C.OUT- B.IN-, B.OUT+ MCU.5V, B.OUT- MCU.GND',
  },
  {
    title: 'boost input turned',
    rule: 'supply-joined',
    mcu: 'uno-r3',
    supplies: pack(3.7),
    parts: { B: { part: 'boost', options: { volts: 5 } } },
    wires: 'B.IN+ PACK.-, B.IN- PACK.+, B.OUT+ MCU.5V, B.OUT- MCU.GND',
  },
  {
    title: 'boost set to 9 into 5V pin',
    rule: 'supply-range',
    mcu: 'uno-r3',
    supplies: pack(3.7),
    parts: { B: { part: 'boost', options: { volts: 9 } } },
    wires: 'B.IN+ PACK.+, B.IN- PACK.-, B.OUT+ MCU.5V, B.OUT- MCU.GND',
  },
  {
    title: 'buck at 5 into esp 3V3',
    rule: 'supply-range',
    supplies: pack(12),
    parts: { B: { part: 'buck', options: { volts: 5 } } },
    wires: 'B.IN+ PACK.+, B.IN- PACK.-, B.OUT+ MCU.3V3, B.OUT- MCU.GND',
  },
  {
    title: 'buck feeds servo, board on USB, no joined ground',
    rule: 'common-ground',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: { B: { part: 'buck', options: { volts: 5 } }, S: 'servo-sg90' },
    wires: 'B.IN+ PACK.+, B.IN- PACK.-, B.OUT+ S.VCC, B.OUT- S.GND, S.SIG MCU.9',
  },
  {
    title: 'buck output 12 to servo',
    rule: 'supply-range',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: { B: { part: 'buck', options: { volts: 9 } }, S: 'servo-sg90' },
    wires: `B.IN+ PACK.+, B.IN- PACK.-, B.OUT+ S.VCC, B.OUT- S.GND, B.OUT- MCU.GND, S.SIG MCU.9`,
  },
  {
    title: 'rs485 A and B crossed',
    rule: 'polarity',
    boards: { MCU: { board: 'uno-r3' }, U2: { board: 'mega-2560-r3' } },
    parts: { X: 'max485', Y: 'max485' },
    wires:
      'X.VCC MCU.5V, X.GND MCU.GND, X.RO MCU.10, X.DI MCU.11, X.DE MCU.2, X.RE MCU.2, X.A Y.B, X.B Y.A, Y.VCC U2.5V, Y.GND U2.GND, Y.RO U2.RX1, Y.DI U2.TX1, Y.DE U2.22, Y.RE U2.22, MCU.GND U2.GND',
  },
  {
    title: 'max485 RE tied high, DE tied high: never hears',
    rule: 'pin-on-rail',
    mcu: 'mega-2560-r3',
    parts: { X: 'max485' },
    wires: `${five('X')}, X.RO MCU.RX1, X.DI MCU.TX1, X.DE MCU.5V, X.RE MCU.5V`,
  },
  {
    title: 'max485 RO into pico',
    rule: 'level-damage',
    mcu: 'pico',
    parts: { X: 'max485' },
    wires: `X.VCC MCU.VBUS, X.GND MCU.GND, X.RO MCU.GP1, X.DI MCU.GP0, X.DE MCU.GP2, X.RE MCU.GP2`,
  },
  {
    title: 'max485 RO and DI crossed',
    rule: 'uart-cross',
    mcu: 'mega-2560-r3',
    parts: { X: 'max485' },
    wires: `${five('X')}, X.RO MCU.TX1, X.DI MCU.RX1, X.DE MCU.22, X.RE MCU.22`,
  },
  {
    title: 'l293d: enable of second channel open',
    rule: 'driver-idle',
    mcu: 'uno-r3',
    supplies: pack(9),
    parts: { D: 'l293d', M: motor(), N: motor() },
    wires: l293(
      ', D.EN12 MCU.5, D.1A MCU.6, D.2A MCU.7, D.1Y M.M1, D.2Y M.M2, D.3A MCU.8, D.4A MCU.4, D.3Y N.M1, D.4Y N.M2',
    ),
  },
  {
    title: 'l293d inputs joined: both halves the same',
    rule: 'driver-idle',
    mcu: 'uno-r3',
    supplies: pack(9),
    parts: { D: 'l293d', M: motor() },
    wires: l293(', D.EN12 MCU.5, D.1A MCU.6, D.2A MCU.6, D.1Y M.M1, D.2Y M.M2'),
  },
  {
    title: 'l293d motor of 1 A',
    rule: 'driver-rating',
    mcu: 'uno-r3',
    supplies: pack(9),
    parts: { D: 'l293d', M: motor(1000, 3000) },
    wires: l293(', D.EN12 MCU.5, D.1A MCU.6, D.2A MCU.7, D.1Y M.M1, D.2Y M.M2'),
  },
  {
    title: 'l293d motor supply from uno 5V',
    rule: 'supply-budget',
    mcu: 'uno-r3',
    parts: { D: 'l293d', M: motor() },
    wires:
      'D.VSS MCU.5V, D.VS MCU.5V, D.GND MCU.GND, D.GND.2 MCU.GND, D.GND.3 MCU.GND, D.GND.4 MCU.GND, D.EN12 MCU.5, D.1A MCU.6, D.2A MCU.7, D.1Y M.M1, D.2Y M.M2',
  },
  {
    title: 'l293d motor with a diode',
    rule: 'diode-across',
    mcu: 'uno-r3',
    supplies: pack(9),
    parts: { D: 'l293d', M: motor(), X: 'diode' },
    wires: l293(', D.EN12 MCU.5, D.1A MCU.6, D.2A MCU.7, D.1Y M.M1, D.2Y M.M2, X.A M.M1, X.K M.M2'),
  },
  {
    title: 'drv8833 at 12V',
    rule: 'supply-range',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: { D: 'drv8833', M: motor() },
    wires: `${gnd}, D.VCC PACK.+, D.GND PACK.-, D.IN1 MCU.5, D.IN2 MCU.6, D.AOUT1 M.M1, D.AOUT2 M.M2, D.EEP MCU.5V`,
  },
  {
    title: 'a4988: coils mixed',
    rule: 'load-return',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: {
      D: 'a4988',
      M: { part: 'stepper-bipolar', options: { milliamps: 800 } },
      C: cap(1e-4, 'electrolytic', 35),
    },
    wires: `${gnd}, D.VMOT PACK.+, D.GND PACK.-, D.GND.2 MCU.GND, D.VDD MCU.5V, D.STEP MCU.3, D.DIR MCU.4, D.RST D.SLP, D.1A M.A+, D.1B M.B+, D.2A M.A-, D.2B M.B-, C.1 D.VMOT, C.2 D.GND`,
  },
  {
    title: 'a4988: stepper of 2.5 A',
    rule: 'driver-rating',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: {
      D: 'a4988',
      M: { part: 'stepper-bipolar', options: { milliamps: 2500 } },
      C: cap(1e-4, 'electrolytic', 35),
    },
    wires: `${gnd}, D.VMOT PACK.+, D.GND PACK.-, D.GND.2 MCU.GND, D.VDD MCU.5V, D.STEP MCU.3, D.DIR MCU.4, D.RST D.SLP, D.1A M.A+, D.1B M.A-, D.2A M.B+, D.2B M.B-, C.1 D.VMOT, C.2 D.GND`,
  },
  {
    title: 'a4988: EN tied to 5V',
    rule: 'driver-idle',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: {
      D: 'a4988',
      M: { part: 'stepper-bipolar', options: { milliamps: 800 } },
      C: cap(1e-4, 'electrolytic', 35),
    },
    wires: `${gnd}, D.VMOT PACK.+, D.GND PACK.-, D.GND.2 MCU.GND, D.VDD MCU.5V, D.EN MCU.5V, D.STEP MCU.3, D.DIR MCU.4, D.RST D.SLP, D.1A M.A+, D.1B M.A-, D.2A M.B+, D.2B M.B-, C.1 D.VMOT, C.2 D.GND`,
  },
  {
    title: 'a4988: capacitor of 10 V on 12',
    rule: 'capacitor',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: {
      D: 'a4988',
      M: { part: 'stepper-bipolar', options: { milliamps: 800 } },
      C: cap(1e-4, 'electrolytic', 10),
    },
    wires: `${gnd}, D.VMOT PACK.+, D.GND PACK.-, D.GND.2 MCU.GND, D.VDD MCU.5V, D.STEP MCU.3, D.DIR MCU.4, D.RST D.SLP, D.1A M.A+, D.1B M.A-, D.2A M.B+, D.2B M.B-, C.1 D.VMOT, C.2 D.GND`,
  },
  {
    title: '28byj on uln: two coils crossed on one output',
    rule: 'load-return',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { D: 'uln2003', M: 'stepper-28byj48' },
    wires: `${gnd}, D.E MCU.GND, D.COM PACK.+, D.1B MCU.8, D.2B MCU.9, D.3B MCU.10, D.4B MCU.11, D.1C M.BLU, D.1C M.PNK, D.3C M.YEL, D.4C M.ORG, M.RED PACK.+`,
  },
  {
    title: '28byj on uln: red open',
    rule: 'supply-missing',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { D: 'uln2003', M: 'stepper-28byj48' },
    wires: `${gnd}, D.E MCU.GND, D.COM PACK.+, D.1B MCU.8, D.2B MCU.9, D.3B MCU.10, D.4B MCU.11, D.1C M.BLU, D.2C M.PNK, D.3C M.YEL, D.4C M.ORG`,
  },
  {
    title: '28byj red on ground',
    rule: 'supply-missing',
    mcu: 'uno-r3',
    supplies: pack(5),
    parts: { D: 'uln2003', M: 'stepper-28byj48' },
    wires: `${gnd}, D.E MCU.GND, D.COM PACK.+, D.1B MCU.8, D.2B MCU.9, D.3B MCU.10, D.4B MCU.11, D.1C M.BLU, D.2C M.PNK, D.3C M.YEL, D.4C M.ORG, M.RED MCU.GND`,
  },
  {
    title: 'uln2003 carries a 24 W lamp',
    rule: 'driver-rating',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: { D: 'uln2003', L: { part: 'lamp', options: { milliamps: 2000 } } },
    wires: `${gnd}, D.E MCU.GND, D.COM PACK.+, D.1B MCU.8, D.1C L.-, L.+ PACK.+`,
  },
  {
    title: 'uln2003 lamp on the input side',
    rule: 'load-return',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: { D: 'uln2003', L: 'lamp' },
    wires: `${gnd}, D.E MCU.GND, D.COM PACK.+, D.1C MCU.8, D.1B L.-, L.+ PACK.+`,
  },
  {
    title: 'ws2812 60 px through nmos small',
    rule: 'supply-budget',
    mcu: 'uno-r3',
    supplies: pack(5, 500),
    parts: { S: { part: 'ws2812-strip', options: { pixels: 60 } }, R: ohms(330) },
    wires: `${gnd}, S.5V PACK.+, S.GND PACK.-, R.1 MCU.6, R.2 S.DIN`,
  },
  {
    title: 'ws2812 from pico at 5V without buffer',
    rule: 'level-logic',
    mcu: 'pico',
    supplies: pack(5),
    parts: { S: { part: 'ws2812-strip', options: { pixels: 30 } }, R: ohms(330) },
    wires: `${gnd}, S.5V PACK.+, S.GND PACK.-, R.1 MCU.GP6, R.2 S.DIN`,
  },
  {
    title: 'ws2812 fed 12V',
    rule: 'supply-range',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: { S: { part: 'ws2812-strip', options: { pixels: 30 } }, R: ohms(330) },
    wires: `${gnd}, S.5V PACK.+, S.GND PACK.-, R.1 MCU.6, R.2 S.DIN`,
  },
  {
    title: '595 with 8 leds of 15 mA each',
    rule: 'pin-current',
    mcu: 'uno-r3',
    parts: {
      X: '74hc595',
      ...Object.fromEntries(
        [...'ABCDEFGH'].flatMap((c) => [
          [`L${c}`, led()],
          [`R${c}`, ohms(180)],
        ]),
      ),
    },
    wires: x595(
      'X',
      ', X.SER MCU.11, X.SRCLK MCU.13, X.RCLK MCU.10, ' +
        [...'ABCDEFGH'].map((c) => `X.Q${c} R${c}.1, R${c}.2 L${c}.A, L${c}.K MCU.GND`).join(', '),
    ),
  },
  {
    title: '595 outputs of two chips joined',
    rule: 'pin-shared',
    mcu: 'uno-r3',
    parts: { X: '74hc595', Y: '74hc595', L: led(), R: ohms(1000) },
    wires: `${x595('X')}, ${x595('Y')}, X.SER MCU.11, X.SRCLK MCU.13, X.RCLK MCU.10, Y.SER X.QHS, Y.SRCLK MCU.13, Y.RCLK MCU.10, X.QA Y.QA, X.QA R.1, R.2 L.A, L.K MCU.GND`,
  },
  {
    title: '595 SER to own QHS',
    rule: 'pin-unplaced',
    mcu: 'uno-r3',
    parts: { X: '74hc595' },
    wires: x595('X', ', X.SER X.QHS, X.SRCLK MCU.13, X.RCLK MCU.10'),
  },
  {
    title: '595 SRCLK open',
    rule: 'pin-unplaced',
    mcu: 'uno-r3',
    parts: { X: '74hc595', L: led(), R: ohms(1000) },
    wires: x595('X', ', X.SER MCU.11, X.RCLK MCU.10, X.QA R.1, R.2 L.A, L.K MCU.GND'),
  },
  {
    title: '165 at 5V into esp',
    rule: 'level-damage',
    parts: { X: '74hc165' },
    wires: 'X.VCC MCU.VIN, X.GND MCU.GND, X.PL MCU.25, X.CLK MCU.26, X.QH MCU.34, X.INH MCU.GND',
    unused: ['X.A', 'X.B', 'X.C', 'X.D', 'X.E', 'X.F', 'X.G', 'X.H', 'X.SER', 'X.QHN'],
  },
  {
    title: '165 with buttons without pull-ups',
    rule: 'pin-pull',
    mcu: 'pico',
    parts: { X: '74hc165', B: 'button', C: cap(1e-7, 'ceramic', 50) },
    wires:
      'X.VCC MCU.3V3, X.GND MCU.GND, C.1 X.VCC, C.2 X.GND, X.PL MCU.GP2, X.CLK MCU.GP3, X.QH MCU.GP4, X.INH MCU.GND, X.SER MCU.GND, X.A B.1, B.2 MCU.GND, X.B MCU.GND, X.C MCU.GND, X.D MCU.GND, X.E MCU.GND, X.F MCU.GND, X.G MCU.GND, X.H MCU.GND',
    unused: ['X.QHN'],
  },
  {
    title: 'pcf8574 sources an led to ground',
    rule: 'pin-current',
    mcu: 'uno-r3',
    parts: { X: 'pcf8574', L: led(), R: ohms(470), P: ohms(4700), Q: ohms(4700) },
    wires: `X.VDD MCU.5V, X.VSS MCU.GND, ${i2c('A4', 'A5', 'X')}, X.A0 MCU.GND, X.A1 MCU.GND, X.A2 MCU.GND, P.1 X.SDA, P.2 MCU.5V, Q.1 X.SCL, Q.2 MCU.5V, L.K MCU.GND, L.A R.1, R.2 X.P0`,
  },
  {
    title: 'lora uart M0 at 5V',
    rule: 'level-damage',
    mcu: 'uno-r3',
    parts: { X: 'lora-uart' },
    wires: 'X.VCC MCU.3V3, X.GND MCU.GND, X.RXD MCU.11, X.TXD MCU.10, X.M0 MCU.5V, X.M1 MCU.GND',
    unused: ['X.AUX'],
  },
  {
    title: 'two esp boards 3V3 joined and both on usb',
    rule: 'back-feed',
    boards: { MCU: { board: 'esp32-devkit-30' }, B: { board: 'esp32-devkit-30' } },
    wires: 'MCU.16 B.17, MCU.17 B.16, MCU.GND B.GND, MCU.3V3 B.3V3',
  },
  {
    title: 'two relays modules on esp8266 D3 and D8',
    rule: 'boot-strap',
    mcu: 'esp8266-d1-mini',
    parts: { K: 'relay-1', L: 'relay-1' },
    wires: `K.VCC MCU.5V, K.GND MCU.GND, K.IN MCU.D3, L.VCC MCU.5V, L.GND MCU.GND, L.IN MCU.D8`,
  },
  {
    title: 'vl53 at both XSHUT missing',
    rule: 'i2c-address',
    parts: { A: 'vl53l0x', B: 'vl53l0x' },
    wires: `${fed('A', 'B')}, ${i2c('21', '22', 'A', 'B')}`,
  },
  {
    title: 'mcp23017 at 5V with pull-ups to 5V on esp',
    rule: 'level-damage',
    parts: { X: 'mcp23017', P: ohms(4700), Q: ohms(4700) },
    wires: `X.VDD MCU.VIN, X.VSS MCU.GND, ${i2c('21', '22', 'X')}, X.RESET MCU.VIN, X.A0 MCU.GND, X.A1 MCU.GND, X.A2 MCU.GND, P.1 X.SDA, P.2 MCU.VIN, Q.1 X.SCL, Q.2 MCU.VIN`,
  },
  {
    title: 'speaker straight on esp pin',
    rule: 'driver-needed',
    parts: { S: { part: 'speaker', options: { ohms: 8 } } },
    wires: 'S.+ MCU.25, S.- MCU.GND',
  },
  {
    title: 'ntc without divider',
    rule: 'analog-range',
    mcu: 'uno-r3',
    parts: { T: 'ntc' },
    wires: 'T.1 MCU.5V, T.2 MCU.A0',
  },
  {
    title: 'ldr divider at 5V into esp',
    rule: 'level-damage',
    parts: { T: 'ldr', R: ohms(10000) },
    wires: 'T.1 MCU.VIN, T.2 MCU.34, R.1 MCU.34, R.2 MCU.GND',
  },
  {
    title: 'joystick 5V esp',
    rule: 'level-damage',
    parts: { J: 'joystick' },
    wires: 'J.VCC MCU.VIN, J.GND MCU.GND, J.VRX MCU.32, J.VRY MCU.33, J.SW MCU.27',
  },
  {
    title: 'joystick supply swapped',
    rule: 'polarity',
    mcu: 'uno-r3',
    parts: { J: 'joystick' },
    wires: 'J.VCC MCU.GND, J.GND MCU.5V, J.VRX MCU.A0, J.VRY MCU.A1, J.SW MCU.2',
  },
  {
    title: 'nmos source on pack +, load to ground',
    rule: 'driver-idle',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: { Q: 'nmos', L: 'lamp', R: ohms(10000) },
    wires: `${gnd}, Q.D PACK.+, Q.S L.+, L.- MCU.GND, Q.G MCU.9, R.1 Q.G, R.2 MCU.GND`,
  },
  {
    title: 'nmos drain source swapped',
    rule: 'polarity',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: { Q: 'nmos', L: 'lamp', R: ohms(10000) },
    wires: `${gnd}, L.+ PACK.+, L.- Q.S, Q.D MCU.GND, Q.G MCU.9, R.1 Q.G, R.2 MCU.GND`,
  },
  {
    title: 'npn base straight on the pin',
    rule: 'pin-current',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: { Q: 'npn', L: { part: 'lamp', options: { milliamps: 100 } } },
    wires: `${gnd}, L.+ PACK.+, L.- Q.C, Q.E MCU.GND, Q.B MCU.9`,
  },
  {
    title: 'lamp on nmos, grounds apart',
    rule: 'common-ground',
    mcu: 'uno-r3',
    supplies: pack(12),
    parts: { Q: 'nmos', L: 'lamp', R: ohms(10000) },
    wires: `L.+ PACK.+, L.- Q.D, Q.S PACK.-, Q.G MCU.9, R.1 Q.G, R.2 PACK.-`,
  },
  {
    title: 'three servos from uno 5V',
    rule: 'supply-budget',
    mcu: 'uno-r3',
    parts: { A: 'servo-sg90', B: 'servo-sg90', C: 'servo-sg90' },
    wires: `${five('A', 'B', 'C')}, A.SIG MCU.9, B.SIG MCU.10, C.SIG MCU.11`,
  },
  {
    title: 'max3232 with the logic side crossed',
    rule: 'uart-cross',
    mcu: 'mega-2560-r3',
    supplies: pack(12),
    parts: { X: 'max3232', R: 'rfid-rs232' },
    wires:
      'X.VCC MCU.5V, X.GND MCU.GND, X.R1OUT MCU.TX1, X.T1IN MCU.RX1, R.VCC PACK.+, R.GND MCU.GND, PACK.- MCU.GND, R.TX X.R1IN, R.RX X.T1OUT',
  },
  {
    title: 'usb cable TXD 5V to esp?',
    rule: 'supply-range',
    parts: { C: { part: 'usb-ttl-cable' } },
    wires: 'C.GND MCU.GND, C.RXD MCU.17, C.TXD MCU.16, C.5V MCU.3V3',
  },
]
