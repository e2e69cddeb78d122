import { fed, type Short } from './plans.ts'

/**
 * Wirings as people build them, by hand from datasheets and common practice: sound ones must stay free of faults, and
 * each mistake must be found by the rule that is there for it, and by no other.
 */
const pack = { PACK: { volts: 5, limitMilliamps: 3000 } }
const i2c = (sda: string, scl: string, ...refs: string[]): string =>
  refs.map((ref) => `${ref}.SDA MCU.${sda}, ${ref}.SCL MCU.${scl}`).join(', ')
const fiveVolts = (...refs: string[]): string => refs.map((ref) => `${ref}.VCC MCU.5V, ${ref}.GND MCU.GND`).join(', ')
/** Pull-ups P1 and P2 of an I2C bus to 3.3 V. */
const pulls = (sda: string, scl: string): string => `P1.1 MCU.${sda}, P1.2 MCU.3V3, P2.1 MCU.${scl}, P2.2 MCU.3V3`
const ohms = (value: number) => ({ part: 'resistor', options: { ohms: value } })

export const sound: readonly (Short & { title: string })[] = [
  {
    title: 'climate and clock on one bus of an ESP32',
    parts: { A: 'bme280', C: 'ds3231' },
    wires: `${fed('A', 'C')}, ${i2c('21', '22', 'A', 'C')}, A.CSB MCU.3V3, A.SDO MCU.GND`,
  },
  {
    title: 'two clocks on the two buses of an ESP32',
    parts: { A: 'ds3231', B: 'ds3231' },
    wires: `${fed('A', 'B')}, ${i2c('21', '22', 'A')}, ${i2c('32', '33', 'B')}`,
  },
  {
    title: 'a display at 5 V on an Uno',
    mcu: 'uno-r3',
    parts: { O: 'ssd1306' },
    wires: `${fiveVolts('O')}, ${i2c('A4', 'A5', 'O')}`,
  },
  {
    title: 'a light meter at 5 V on a Mega',
    mcu: 'mega-2560-r3',
    parts: { L: 'bh1750' },
    wires: `${fiveVolts('L')}, ${i2c('20', '21', 'L')}`,
  },
  {
    title: 'a rangefinder at 5 V on an Uno',
    mcu: 'uno-r3',
    parts: { E: 'hc-sr04' },
    wires: `${fiveVolts('E')}, E.TRIG MCU.7, E.ECHO MCU.2`,
  },
  {
    title: 'a rangefinder at 5 V on an ESP32, its echo divided',
    parts: { E: 'hc-sr04', R: ohms(1000), T: ohms(2000) },
    wires: 'E.VCC MCU.VIN, E.GND MCU.GND, E.TRIG MCU.27, E.ECHO R.1, R.2 MCU.26, T.1 R.2, T.2 MCU.GND',
  },
  {
    title: 'a motion detector at 5 V on a Pico: its output is 3.3 V',
    mcu: 'pico',
    parts: { P: 'hc-sr501' },
    wires: 'P.VCC MCU.VBUS, P.GND MCU.GND, P.OUT MCU.GP15',
  },
  {
    title: 'a thermometer and its pull-up on a single-board computer',
    mcu: 'pi-40',
    parts: { T: 'ds18b20-probe', R: ohms(4700) },
    wires: 'T.VDD MCU.3V3, T.GND MCU.GND, T.DQ MCU.GPIO4, R.1 T.DQ, R.2 T.VDD',
  },
  {
    title: 'three thermometers on one line',
    parts: { A: 'ds18b20-probe', B: 'ds18b20-probe', C: 'ds18b20-probe', R: ohms(4700) },
    wires:
      'A.VDD MCU.3V3, A.GND MCU.GND, B.VDD MCU.3V3, B.GND MCU.GND, C.VDD MCU.3V3, C.GND MCU.GND, A.DQ MCU.27, B.DQ MCU.27, C.DQ MCU.27, R.1 A.DQ, R.2 MCU.3V3',
  },
  {
    title: 'radio, paper and card reader share SPI',
    parts: { R: 'sx1276', P: 'epaper-2in9', C: 'rc522' },
    wires: `${fed('R', 'P', 'C')}, R.SCK MCU.18, P.CLK MCU.18, C.SCK MCU.18, R.MOSI MCU.23, P.DIN MCU.23, C.MOSI MCU.23, R.MISO MCU.19, C.MISO MCU.19, R.NSS MCU.16, P.CS MCU.17, C.SDA MCU.4, R.DIO0 MCU.34, P.DC MCU.25, P.RST MCU.26, P.BUSY MCU.35, C.RST MCU.27`,
  },
  {
    title: 'a digit display at 5 V on an Uno',
    mcu: 'uno-r3',
    parts: { D: 'max7219' },
    wires: `${fiveVolts('D')}, D.DIN MCU.11, D.CLK MCU.13, D.CS MCU.10`,
  },
  {
    title: 'a 2.4 GHz radio on an Uno: its inputs bear 5 V',
    mcu: 'uno-r3',
    parts: { R: 'nrf24l01' },
    wires: 'R.VCC MCU.3V3, R.GND MCU.GND, R.SCK MCU.13, R.MOSI MCU.11, R.MISO MCU.12, R.CSN MCU.10, R.CE MCU.9',
  },
  {
    title: 'a GPS receiver on the second UART of an ESP32',
    parts: { G: 'gps-uart' },
    wires: 'G.VCC MCU.VIN, G.GND MCU.GND, G.TX MCU.16, G.RX MCU.17',
  },
  {
    title: 'a GPS receiver heard by a Mega, its own input left open',
    mcu: 'mega-2560-r3',
    parts: { G: 'gps-uart' },
    wires: `${fiveVolts('G')}, G.TX MCU.RX1`,
    unused: ['G.RX'],
  },
  {
    title: 'two serial sensors on two UARTs of a Pico',
    mcu: 'pico',
    parts: { G: 'gps-uart', D: 'pms5003' },
    wires: 'G.VCC MCU.VBUS, G.GND MCU.GND, D.VCC MCU.VBUS, D.GND MCU.GND, G.TX MCU.GP1, D.TX MCU.GP5',
  },
  {
    title: 'a servo on its own supply with a common ground',
    mcu: 'uno-r3',
    supplies: pack,
    parts: { S: 'servo-sg90' },
    wires: 'S.VCC PACK.+, S.GND PACK.-, PACK.- MCU.GND, S.SIG MCU.9',
  },
  {
    title: 'a fan behind a transistor, held off at the start',
    supplies: pack,
    parts: { Q: 'nmos', F: 'fan', R: ohms(10000) },
    wires: 'PACK.- MCU.GND, F.+ PACK.+, F.- Q.D, Q.S MCU.GND, Q.G MCU.4, R.1 Q.G, R.2 Q.S',
  },
  {
    title: 'eight lamps on a shift register',
    mcu: 'uno-r3',
    parts: { X: '74hc595', L: 'led', R: ohms(470) },
    wires:
      'X.VCC MCU.5V, X.GND MCU.GND, X.OE MCU.GND, X.SRCLR MCU.5V, X.SER MCU.11, X.SRCLK MCU.13, X.RCLK MCU.10, L.A R.1, R.2 X.QA, L.K MCU.GND',
  },
  {
    title: 'a knob read through a converter by a board without analog pins',
    mcu: 'pi-40',
    parts: { A: 'ads1115', K: 'potentiometer' },
    wires: `A.VDD MCU.3V3, A.GND MCU.GND, A.ADDR MCU.GND, ${i2c('GPIO2', 'GPIO3', 'A')}, K.3 MCU.3V3, K.1 MCU.GND, K.W A.A0`,
  },
  {
    title: 'buttons on an expander',
    parts: { X: 'mcp23008', A: 'button', B: 'button', P1: ohms(4700), P2: ohms(4700) },
    wires: `X.VDD MCU.3V3, X.VSS MCU.GND, X.RESET MCU.3V3, X.A0 MCU.GND, X.A1 MCU.GND, X.A2 MCU.GND, ${i2c('21', '22', 'X')}, ${pulls('21', '22')}, A.1 X.GP0, A.2 MCU.GND, B.1 X.GP1, B.2 MCU.GND`,
  },
  {
    title: 'a small board fed at RAW from a pack',
    mcu: 'pro-mini-3v3',
    supplies: pack,
    parts: { B: 'button' },
    wires: 'PACK.+ MCU.RAW, PACK.- MCU.GND, B.1 MCU.2, B.2 MCU.GND',
  },
  {
    title: 'an ESP32 fed at its 5 V pin',
    supplies: pack,
    parts: { B: 'button' },
    wires: 'PACK.+ MCU.VIN, PACK.- MCU.GND, B.1 MCU.4, B.2 MCU.GND',
  },
  {
    title: 'one board feeds the other and they talk',
    boards: { A: { board: 'uno-r3' }, B: { board: 'nano-v3' } },
    wires: 'A.5V B.5V, A.GND B.GND, A.D8 B.D8',
  },
  {
    title: 'interrupts where the chip has them: ATmega32U4',
    mcu: 'micro-32u4',
    parts: { H: 'hall-a3144', J: 'hall-a3144' },
    wires: `${fiveVolts('H', 'J')}, H.OUT MCU.7, J.OUT MCU.0`,
  },
  {
    title: 'a carbon dioxide sensor on a Pico W',
    mcu: 'pico-w',
    parts: { C: 'scd40' },
    wires: `${fed('C')}, ${i2c('GP4', 'GP5', 'C')}`,
  },
  {
    title: 'a joystick on the first converter of an ESP32 with WiFi',
    uses: ['wifi'],
    parts: { J: 'joystick' },
    wires: `${fed('J')}, J.VRX MCU.34, J.VRY MCU.35, J.SW MCU.27`,
  },
]

export const mistaken: readonly (Short & { title: string; rule: string })[] = [
  {
    title: 'a 5 V echo straight into an ESP32',
    rule: 'level-damage',
    parts: { E: 'hc-sr04' },
    wires: 'E.VCC MCU.VIN, E.GND MCU.GND, E.TRIG MCU.27, E.ECHO MCU.26',
  },
  {
    title: 'a 5 V echo straight into a Pico',
    rule: 'level-damage',
    mcu: 'pico',
    parts: { E: 'hc-sr04' },
    wires: 'E.VCC MCU.VBUS, E.GND MCU.GND, E.TRIG MCU.GP2, E.ECHO MCU.GP3',
  },
  {
    title: 'a 3.3 V card reader driven by an Uno',
    rule: 'level-damage',
    mcu: 'uno-r3',
    parts: { C: 'rc522' },
    wires: 'C.VCC MCU.3V3, C.GND MCU.GND, C.SDA MCU.10',
  },
  {
    title: 'a serial input of 3.3 V driven by a Mega',
    rule: 'level-damage',
    mcu: 'mega-2560-r3',
    parts: { G: 'gps-uart' },
    wires: `${fiveVolts('G')}, G.TX MCU.19, G.RX MCU.18`,
  },
  {
    title: 'a gas sensor’s 5 V into the converter of an ESP32',
    rule: 'level-damage',
    parts: { G: 'gas-analog' },
    wires: 'G.VCC MCU.VIN, G.GND MCU.GND, G.AO MCU.34',
  },
  {
    title: 'a display module fed with 12 V',
    rule: 'supply-range',
    supplies: { P: { volts: 12 } },
    parts: { O: 'ssd1306' },
    wires: 'O.VCC P.+, O.GND P.-',
  },
  {
    title: 'a light sensor for 3.6 V fed with 5 V',
    rule: 'supply-range',
    mcu: 'uno-r3',
    parts: { L: 'veml7700' },
    wires: fiveVolts('L'),
  },
  {
    title: 'a rangefinder for 5 V fed with 3.3 V',
    rule: 'supply-range',
    mcu: 'pico',
    parts: { E: 'hc-sr04' },
    wires: 'E.VCC MCU.3V3, E.GND MCU.GND',
  },
  {
    title: 'a small board fed with 5 V at its 3.3 V pin',
    rule: 'supply-range',
    mcu: 'pro-mini-3v3',
    supplies: pack,
    wires: 'PACK.+ MCU.VCC, PACK.- MCU.GND',
  },
  {
    title: 'a small board that nothing feeds',
    rule: 'supply-missing',
    mcu: 'pro-mini-3v3',
    parts: { B: 'button' },
    wires: 'B.1 MCU.2, B.2 MCU.GND',
  },
  {
    title: 'a motion sensor without ground',
    rule: 'supply-missing',
    parts: { M: 'mpu6050' },
    wires: `M.VCC MCU.3V3, ${i2c('21', '22', 'M')}`,
  },
  {
    title: 'two motion sensors as delivered',
    rule: 'i2c-address',
    parts: { M: 'mpu6050', N: 'mpu6050' },
    wires: `${fed('M', 'N')}, ${i2c('21', '22', 'M', 'N')}`,
  },
  {
    title: 'a clock and a motion sensor both at 0x68',
    rule: 'i2c-address',
    parts: { M: 'mpu6050', C: 'ds3231' },
    wires: `${fed('M', 'C')}, ${i2c('21', '22', 'M', 'C')}`,
  },
  {
    title: 'a colour and a distance sensor both at 0x29',
    rule: 'i2c-address',
    parts: { C: 'tcs34725', V: 'vl53l0x' },
    wires: `${fed('C', 'V')}, ${i2c('21', '22', 'C', 'V')}`,
  },
  {
    title: 'two kinds of expander both at 0x20',
    rule: 'i2c-address',
    parts: { X: 'mcp23017', P: 'pcf8574', P1: ohms(4700), P2: ohms(4700) },
    wires: `X.VDD MCU.3V3, X.VSS MCU.GND, X.RESET MCU.3V3, X.A0 MCU.GND, X.A1 MCU.GND, X.A2 MCU.GND, P.VDD MCU.3V3, P.VSS MCU.GND, P.A0 MCU.GND, P.A1 MCU.GND, P.A2 MCU.GND, ${i2c('21', '22', 'X', 'P')}, ${pulls('21', '22')}`,
  },
  {
    title: 'data and clock swapped on a Mega',
    rule: 'bus-pins',
    mcu: 'mega-2560-r3',
    parts: { C: 'ds3231' },
    wires: `${fiveVolts('C')}, C.SDA MCU.21, C.SCL MCU.20`,
  },
  {
    title: 'I2C on the old pins of an ATmega32U4',
    rule: 'bus-pins',
    mcu: 'micro-32u4',
    parts: { C: 'ds3231' },
    wires: `${fiveVolts('C')}, C.SDA MCU.A4, C.SCL MCU.A5`,
  },
  {
    title: 'I2C lines of two controllers of a Pico',
    rule: 'bus-pins',
    mcu: 'pico',
    parts: { C: 'ds3231' },
    wires: `${fed('C')}, C.SDA MCU.GP4, C.SCL MCU.GP7`,
  },
  {
    title: 'SPI on pins of a Pico that are the wrong way round',
    rule: 'bus-pins',
    mcu: 'pico',
    parts: { R: 'sx1276' },
    wires: `${fed('R')}, R.SCK MCU.GP18, R.MOSI MCU.GP16, R.MISO MCU.GP19, R.NSS MCU.GP17`,
  },
  {
    title: 'transmit wired to transmit on a Mega',
    rule: 'bus-pins',
    mcu: 'mega-2560-r3',
    parts: { G: 'hc-05' },
    wires: `${fiveVolts('G')}, G.TXD MCU.TX1`,
  },
  {
    title: 'a serial sensor on the USB pair',
    rule: 'serial-console',
    mcu: 'uno-r3',
    parts: { D: 'pms5003' },
    wires: `${fiveVolts('D')}, D.TX MCU.0`,
  },
  {
    title: 'a knob on a digital pin of a Pico',
    rule: 'pin-function',
    mcu: 'pico',
    parts: { K: 'potentiometer' },
    wires: 'K.3 MCU.3V3, K.1 MCU.GND, K.W MCU.GP22',
  },
  {
    title: 'a button on an analog-only pin of a Nano',
    rule: 'pin-function',
    mcu: 'nano-v3',
    parts: { B: 'button' },
    wires: 'B.1 MCU.A7, B.2 MCU.GND',
  },
  {
    title: 'a counter on a pin without interrupt of a Mega',
    rule: 'pin-function',
    mcu: 'mega-2560-r3',
    parts: { H: 'hall-a3144' },
    wires: `${fiveVolts('H')}, H.OUT MCU.22`,
  },
  {
    title: 'a lamp on a pin of the flash',
    rule: 'pin-onboard',
    mcu: 'esp32-devkit-38',
    parts: { L: 'led', R: ohms(330) },
    wires: 'L.A R.1, R.2 MCU.GPIO9, L.K MCU.GND',
  },
  {
    title: 'a relay on an input-only pin',
    rule: 'pin-direction',
    parts: { R: 'relay-1' },
    wires: 'R.VCC MCU.VIN, R.GND MCU.GND, R.IN MCU.35',
  },
  {
    title: 'a button on an output of a shift register',
    rule: 'pin-direction',
    mcu: 'uno-r3',
    parts: { X: '74hc595', B: 'button' },
    wires: 'X.VCC MCU.5V, X.GND MCU.GND, X.OE MCU.GND, X.SRCLR MCU.5V, B.1 X.QC, B.2 MCU.GND',
  },
  {
    title: 'two sensors’ outputs on one pin',
    rule: 'pin-shared',
    mcu: 'uno-r3',
    parts: { P: 'hc-sr501', V: 'vibration-sw420' },
    wires: `${fiveVolts('P', 'V')}, P.OUT MCU.2, V.DO MCU.2`,
  },
  {
    title: 'one select line for two thermocouples',
    rule: 'spi-select',
    parts: { A: 'max31855', B: 'max31855' },
    wires: `${fed('A', 'B')}, A.CLK MCU.18, B.CLK MCU.18, A.DO MCU.19, B.DO MCU.19, A.CS MCU.16, B.CS MCU.16`,
  },
  {
    title: 'a boot button pin pulled down by a part',
    rule: 'boot-strap',
    mcu: 'esp32-devkit-38',
    parts: { B: 'button', R: ohms(1000) },
    wires: 'B.1 MCU.GPIO0, B.2 MCU.GND, R.1 MCU.GPIO0, R.2 MCU.GND',
  },
  {
    title: 'a servo’s supply that shares no ground',
    rule: 'common-ground',
    mcu: 'pico',
    supplies: pack,
    parts: { S: 'servo-sg90' },
    wires: 'S.VCC PACK.+, S.GND PACK.-, S.SIG MCU.GP2',
  },
]
