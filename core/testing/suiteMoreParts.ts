import type { PlanPart } from '../plan/planSchema.ts'
import type { Short } from './plans.ts'

const ohms = (value: number): PlanPart => ({ part: 'resistor', options: { ohms: value } })

/** One sound wiring of each further part that is not in another of these suites. */
export const soundMoreParts: readonly (Short & { title: string })[] = [
  {
    title: 'sgp30 on pico',
    mcu: 'pico',
    parts: { P: 'sgp30' },
    wires: 'P.VIN MCU.3V3, P.GND MCU.GND, P.SCL MCU.GP1, P.SDA MCU.GP0',
  },
  {
    title: 'ens160 on esp32-devkit-30',
    mcu: 'esp32-devkit-30',
    parts: { P: 'ens160' },
    wires: 'P.VIN MCU.3V3, P.GND MCU.GND, P.SCL MCU.GPIO22, P.SDA MCU.GPIO21',
  },
  {
    title: 'max30102 on pico',
    mcu: 'pico',
    parts: { P: 'max30102' },
    wires: 'P.VIN MCU.3V3, P.GND MCU.GND, P.SCL MCU.GP1, P.SDA MCU.GP0, P.INT MCU.GP15',
  },
  {
    title: 'mpu9250 on esp32-devkit-30',
    mcu: 'esp32-devkit-30',
    parts: { P: 'mpu9250' },
    wires: 'P.VCC MCU.VIN, P.GND MCU.GND, P.SCL MCU.GPIO22, P.SDA MCU.GPIO21',
  },
  {
    title: 'as5600 on pico',
    mcu: 'pico',
    parts: { P: 'as5600' },
    wires: 'P.VCC MCU.3V3, P.GND MCU.GND, P.SCL MCU.GP1, P.SDA MCU.GP0, P.DIR MCU.GND',
  },
  {
    title: 'tsl2561 on esp8266-nodemcu-v2',
    mcu: 'esp8266-nodemcu-v2',
    parts: { P: 'tsl2561' },
    wires: 'P.VCC MCU.3V3, P.GND MCU.GND, P.SCL MCU.GPIO5, P.SDA MCU.GPIO4',
  },
  {
    title: 'tsl2591 on nano-v3',
    mcu: 'nano-v3',
    parts: { P: 'tsl2591' },
    wires: 'P.VIN MCU.5V, P.GND MCU.GND, P.SCL MCU.A5, P.SDA MCU.A4',
  },
  {
    title: 'htu21d on uno-r3',
    mcu: 'uno-r3',
    parts: { P: 'htu21d' },
    wires: 'P.VIN MCU.5V, P.GND MCU.GND, P.SCL MCU.A5, P.SDA MCU.A4',
  },
  {
    title: 'si7021 on pico',
    mcu: 'pico',
    parts: { P: { part: 'si7021', options: { kind: 'plain' } } },
    wires: 'P.VIN MCU.3V3, P.GND MCU.GND, P.SCL MCU.GP1, P.SDA MCU.GP0',
  },
  {
    title: 'lm75 on nano-v3',
    mcu: 'nano-v3',
    parts: { P: 'lm75' },
    wires: 'P.VCC MCU.5V, P.GND MCU.GND, P.SCL MCU.A5, P.SDA MCU.A4',
  },
  {
    title: 'scd30 on pico',
    mcu: 'pico',
    parts: { P: 'scd30', R1: ohms(10000), R2: ohms(10000) },
    wires:
      'P.VIN MCU.3V3, P.GND MCU.GND, P.SCL MCU.GP1, P.SDA MCU.GP0, R1.1 P.SDA, R1.2 MCU.3V3, R2.1 P.SCL, R2.2 MCU.3V3',
  },
  {
    title: 'sps30 on pico',
    mcu: 'pico',
    parts: { P: 'sps30', R1: ohms(10000), R2: ohms(10000) },
    wires:
      'P.VDD MCU.VBUS, P.GND MCU.GND, P.SCL MCU.GP1, P.SDA MCU.GP0, P.SEL MCU.GND, R1.1 P.SDA, R1.2 MCU.3V3, R2.1 P.SCL, R2.2 MCU.3V3',
  },
  {
    title: 'dps310 on pico',
    mcu: 'pico',
    parts: { P: 'dps310' },
    wires: 'P.VIN MCU.3V3, P.GND MCU.GND, P.SCL MCU.GP1, P.SDA MCU.GP0',
  },
  {
    title: 'ms5611 on uno-r3',
    mcu: 'uno-r3',
    parts: { P: 'ms5611' },
    wires: 'P.VCC MCU.5V, P.GND MCU.GND, P.SCL MCU.A5, P.SDA MCU.A4',
  },
  {
    title: 'lsm6ds3 on esp32-devkit-30',
    mcu: 'esp32-devkit-30',
    parts: { P: 'lsm6ds3' },
    wires: 'P.VIN MCU.3V3, P.GND MCU.GND, P.SCL MCU.GPIO22, P.SDA MCU.GPIO21',
  },
  {
    title: 'ina3221 on pico',
    mcu: 'pico',
    parts: { P: 'ina3221' },
    wires: 'P.VCC MCU.3V3, P.GND MCU.GND, P.SCL MCU.GP1, P.SDA MCU.GP0',
  },
  {
    title: 'max17048 on pico',
    mcu: 'pico',
    parts: { P: 'max17048' },
    wires: 'P.VIN MCU.3V3, P.GND MCU.GND, P.SCL MCU.GP1, P.SDA MCU.GP0',
  },
  {
    title: 'pcf8523 on nano-v3',
    mcu: 'nano-v3',
    parts: { P: 'pcf8523' },
    wires: 'P.VCC MCU.5V, P.GND MCU.GND, P.SCL MCU.A5, P.SDA MCU.A4',
  },
  {
    title: 'ads1015 on esp32-devkit-30',
    mcu: 'esp32-devkit-30',
    parts: { P: { part: 'ads1015', options: { address: 0x4a } } },
    wires: 'P.VDD MCU.3V3, P.GND MCU.GND, P.SCL MCU.GPIO22, P.SDA MCU.GPIO21, P.ADDR P.SDA',
  },
  {
    title: 'pcf8574-module on pico',
    mcu: 'pico',
    parts: { P: 'pcf8574-module' },
    wires: 'P.VCC MCU.3V3, P.GND MCU.GND, P.SCL MCU.GP1, P.SDA MCU.GP0',
  },
  {
    title: 'at24c256 on nano-v3',
    mcu: 'nano-v3',
    parts: { P: 'at24c256', R1: ohms(4700), R2: ohms(4700) },
    wires:
      'P.VCC MCU.5V, P.GND MCU.GND, P.SCL MCU.A5, P.SDA MCU.A4, P.A0 MCU.GND, P.A1 MCU.GND, P.A2 MCU.GND, P.WP MCU.GND, R1.1 P.SDA, R1.2 MCU.5V, R2.1 P.SCL, R2.2 MCU.5V',
  },
  {
    title: 'max31865 on pico',
    mcu: 'pico',
    parts: { P: 'max31865' },
    wires: 'P.VIN MCU.3V3, P.GND MCU.GND, P.CLK MCU.GP18, P.SDI MCU.GP19, P.SDO MCU.GP16, P.CS MCU.GP17',
  },
  {
    title: 'w25q-flash on esp32-devkit-30',
    mcu: 'esp32-devkit-30',
    parts: { P: 'w25q-flash' },
    wires: 'P.VCC MCU.3V3, P.GND MCU.GND, P.CLK MCU.GPIO18, P.DI MCU.GPIO23, P.DO MCU.GPIO19, P.CS MCU.GPIO5',
  },
  {
    title: 'mcp2515 on uno-r3',
    mcu: 'uno-r3',
    parts: { P: 'mcp2515' },
    wires: 'P.VCC MCU.5V, P.GND MCU.GND, P.SCK MCU.D13, P.SI MCU.D11, P.SO MCU.D12, P.CS MCU.D10, P.INT MCU.D2',
  },
  {
    title: 'sn65hvd230 on esp32-devkit-30',
    mcu: 'esp32-devkit-30',
    parts: { P: 'sn65hvd230' },
    wires: 'P.3V3 MCU.3V3, P.GND MCU.GND, P.CTX MCU.GPIO17, P.CRX MCU.GPIO16',
  },
  {
    title: 'w5500 on pico',
    mcu: 'pico',
    parts: { P: 'w5500' },
    wires:
      'P.3V3 MCU.3V3, P.GND MCU.GND, P.SCLK MCU.GP18, P.MOSI MCU.GP19, P.MISO MCU.GP16, P.SCSN MCU.GP17, P.RST MCU.GP20',
  },
  {
    title: 'enc28j60 on esp32-devkit-30',
    mcu: 'esp32-devkit-30',
    parts: { P: 'enc28j60' },
    wires:
      'P.VCC MCU.3V3, P.GND MCU.GND, P.SCK MCU.GPIO18, P.SI MCU.GPIO23, P.SO MCU.GPIO19, P.CS MCU.GPIO5, P.INT MCU.GPIO27',
  },
  {
    title: 'max3485 on esp32-devkit-30',
    mcu: 'esp32-devkit-30',
    parts: { P: 'max3485' },
    wires: 'P.VCC MCU.3V3, P.GND MCU.GND, P.RO MCU.GPIO16, P.DI MCU.GPIO17, P.DE MCU.GPIO27, P.RE MCU.GPIO27',
  },
  {
    title: 'ft232 on pro-mini-3v3',
    mcu: 'pro-mini-3v3',
    parts: { P: 'ft232' },
    wires: 'P.GND MCU.GND, P.TX MCU.D0, P.RX MCU.D1, P.VCC MCU.VCC',
  },
  {
    title: 'pcd8544 on pico',
    mcu: 'pico',
    parts: { P: 'pcd8544' },
    wires: 'P.VCC MCU.3V3, P.GND MCU.GND, P.CLK MCU.GP18, P.DIN MCU.GP19, P.CE MCU.GP17, P.DC MCU.GP20, P.RST MCU.GP21',
  },
  {
    title: 'gc9a01 on esp32-devkit-30',
    mcu: 'esp32-devkit-30',
    parts: { P: 'gc9a01' },
    wires:
      'P.VCC MCU.3V3, P.GND MCU.GND, P.SCL MCU.GPIO18, P.SDA MCU.GPIO23, P.CS MCU.GPIO5, P.DC MCU.GPIO27, P.RST MCU.GPIO26',
  },
  {
    title: 'apa102-strip on uno-r3',
    mcu: 'uno-r3',
    supplies: { PACK: { volts: 5, limitMilliamps: 5000 } },
    parts: { P: 'apa102-strip', C: { part: 'capacitor', options: { farads: 0.001, kind: 'electrolytic', volts: 16 } } },
    wires: 'P.5V PACK.+, P.GND PACK.-, PACK.- MCU.GND, P.CI MCU.D13, P.DI MCU.D11, C.1 PACK.+, C.2 PACK.-',
  },
  {
    title: 'strip-12v on pico',
    mcu: 'pico',
    supplies: { PACK: { volts: 12, limitMilliamps: 5000 } },
    parts: { P: 'strip-12v', Q: { part: 'nmos', options: { model: 'ao3400a' } }, R: ohms(10000) },
    wires: 'P.+ PACK.+, P.- Q.D, Q.S MCU.GND, Q.G MCU.GP15, R.1 Q.G, R.2 Q.S, PACK.- MCU.GND',
  },
  {
    title: '74hc4051 on pico',
    mcu: 'pico',
    parts: { P: '74hc4051', T: 'tmp36' },
    wires:
      'P.VCC MCU.3V3, P.GND MCU.GND, P.VEE MCU.GND, P.E MCU.GND, P.Z MCU.GP26, P.S0 MCU.GP10, P.S1 MCU.GP11, P.S2 MCU.GP12, T.VS MCU.3V3, T.GND MCU.GND, T.OUT P.Y0',
  },
  {
    title: '74hc138 on uno-r3',
    mcu: 'uno-r3',
    parts: { P: '74hc138' },
    wires: 'P.VCC MCU.5V, P.GND MCU.GND, P.G2A MCU.GND, P.G2B MCU.GND, P.G1 MCU.5V, P.A MCU.D4, P.B MCU.D5, P.C MCU.D6',
  },
  {
    title: 'uln2003-board on uno-r3',
    mcu: 'uno-r3',
    supplies: { PACK: { volts: 5, limitMilliamps: 5000 } },
    parts: { P: 'uln2003-board', M: 'stepper-28byj48' },
    wires:
      'P.+ PACK.+, P.- PACK.-, PACK.- MCU.GND, P.IN1 MCU.D8, P.IN2 MCU.D9, P.IN3 MCU.D10, P.IN4 MCU.D11, M.BLU P.A, M.PNK P.B, M.YEL P.C, M.ORG P.D, M.RED P.PLUS',
  },
  {
    title: 'bts7960 on uno-r3',
    mcu: 'uno-r3',
    supplies: { PACK: { volts: 12, limitMilliamps: 5000 } },
    parts: { P: 'bts7960', M: 'dc-motor' },
    wires:
      'P.VCC MCU.5V, P.GND MCU.GND, P.B+ PACK.+, P.B- PACK.-, P.RPWM MCU.D5, P.LPWM MCU.D6, P.R_EN MCU.D7, P.L_EN MCU.D8, M.M1 P.M+, M.M2 P.M-',
  },
  {
    title: 'flow-yf-s201 on nano-v3',
    mcu: 'nano-v3',
    parts: { P: 'flow-yf-s201' },
    wires: 'P.VCC MCU.5V, P.GND MCU.GND, P.OUT MCU.D2',
  },
  {
    title: 'tds-analog on esp32-devkit-30',
    mcu: 'esp32-devkit-30',
    parts: { P: 'tds-analog' },
    wires: 'P.VCC MCU.3V3, P.GND MCU.GND, P.A MCU.GPIO34',
  },
  {
    title: 'turbidity-analog on uno-r3',
    mcu: 'uno-r3',
    parts: { P: 'turbidity-analog' },
    wires: 'P.VCC MCU.5V, P.GND MCU.GND, P.OUT MCU.A0',
  },
  {
    title: 'us-100 on pico',
    mcu: 'pico',
    parts: { P: 'us-100' },
    wires: 'P.VCC MCU.3V3, P.GND MCU.GND, P.TRIG MCU.GP14, P.ECHO MCU.GP15',
  },
  {
    title: 'ld2410 on esp32-devkit-30',
    mcu: 'esp32-devkit-30',
    parts: { P: 'ld2410' },
    wires: 'P.VCC MCU.VIN, P.GND MCU.GND, P.OUT MCU.GPIO27',
  },
  {
    title: 'tfmini on pico',
    mcu: 'pico',
    supplies: { PACK: { volts: 5, limitMilliamps: 5000 } },
    parts: { P: 'tfmini' },
    wires: 'P.5V PACK.+, P.GND PACK.-, PACK.- MCU.GND, P.TX MCU.GP1, P.RX MCU.GP0',
  },
  {
    title: 'tcs3200 on uno-r3',
    mcu: 'uno-r3',
    parts: { P: 'tcs3200' },
    wires: 'P.VCC MCU.5V, P.GND MCU.GND, P.S0 MCU.D4, P.S1 MCU.D5, P.S2 MCU.D6, P.S3 MCU.D7, P.OUT MCU.D2',
  },
  {
    title: 'sds011 on pico',
    mcu: 'pico',
    parts: { P: 'sds011' },
    wires: 'P.5V MCU.VBUS, P.GND MCU.GND, P.T MCU.GP1, P.R MCU.GP0',
  },
  {
    title: 'fingerprint on esp32-devkit-30',
    mcu: 'esp32-devkit-30',
    parts: { P: 'fingerprint' },
    wires: 'P.VCC MCU.VIN, P.GND MCU.GND, P.TX MCU.GPIO16, P.RX MCU.GPIO17, P.UA MCU.3V3',
  },
  {
    title: 'dip-switch on uno-r3',
    mcu: 'uno-r3',
    parts: { P: 'dip-switch' },
    wires: 'P.1 MCU.D4, P.1.2 MCU.GND, P.2 MCU.D5, P.2.2 MCU.GND',
  },
  {
    title: 'dc-socket on uno-r3',
    mcu: 'uno-r3',
    parts: { P: 'dc-socket' },
    wires: 'P.+ MCU.VIN, P.- MCU.GND',
  },
  {
    title: 'pam8403 on esp32-devkit-30',
    mcu: 'esp32-devkit-30',
    supplies: { PACK: { volts: 5, limitMilliamps: 5000 } },
    parts: { P: 'pam8403', S: 'speaker' },
    wires: 'P.VCC PACK.+, P.GND PACK.-, PACK.- MCU.GND, P.L MCU.GPIO25, S.+ P.LOUT+, S.- P.LOUT-',
  },
  {
    title: 'bmp390 on nano-v3',
    mcu: 'nano-v3',
    parts: { P: 'bmp390' },
    wires: 'P.VIN MCU.5V, P.GND MCU.GND, P.SCL MCU.A5, P.SDA MCU.A4',
  },
  {
    title: 'bmi160 on pico',
    mcu: 'pico',
    parts: { P: 'bmi160' },
    wires: 'P.VIN MCU.3V3, P.GND MCU.GND, P.SCL MCU.GP1, P.SDA MCU.GP0',
  },
  {
    title: 'vl6180x on uno-r3',
    mcu: 'uno-r3',
    parts: { P: 'vl6180x' },
    wires: 'P.VIN MCU.5V, P.GND MCU.GND, P.SCL MCU.A5, P.SDA MCU.A4',
  },
  {
    title: 'as7341 on pico',
    mcu: 'pico',
    parts: { P: 'as7341' },
    wires: 'P.VIN MCU.3V3, P.GND MCU.GND, P.SCL MCU.GP1, P.SDA MCU.GP0',
  },
  {
    title: 'icm20948 on esp32-devkit-30',
    mcu: 'esp32-devkit-30',
    parts: { P: 'icm20948' },
    wires: 'P.VIN MCU.3V3, P.GND MCU.GND, P.SCL MCU.GPIO22, P.SDA MCU.GPIO21',
  },
  {
    title: 'mcp4728 on pico',
    mcu: 'pico',
    parts: { P: 'mcp4728' },
    wires: 'P.VCC MCU.3V3, P.GND MCU.GND, P.SCL MCU.GP1, P.SDA MCU.GP0',
  },
  {
    title: 'max44009 on esp32-devkit-30',
    mcu: 'esp32-devkit-30',
    parts: { P: 'max44009' },
    wires: 'P.VCC MCU.3V3, P.GND MCU.GND, P.SCL MCU.GPIO22, P.SDA MCU.GPIO21',
  },
  {
    title: 'mcp23017-module on nano-v3',
    mcu: 'nano-v3',
    parts: { P: 'mcp23017-module' },
    wires: 'P.VCC MCU.5V, P.GND MCU.GND, P.SCL MCU.A5, P.SDA MCU.A4',
  },
  {
    title: 'pmos on uno-r3',
    mcu: 'uno-r3',
    supplies: { PACK: { volts: 5, limitMilliamps: 5000 } },
    parts: { P: 'pmos', M: 'pump', R: ohms(10000), D: { part: 'diode', options: { model: '1n4007' } } },
    wires: 'P.S PACK.+, P.G MCU.D7, P.D M.+, M.- PACK.-, PACK.- MCU.GND, R.1 P.G, R.2 P.S, D.K M.+, D.A M.-',
  },
  {
    title: 'db9-breakout on uno-r3',
    mcu: 'uno-r3',
    parts: { P: 'db9-breakout', X: 'max3232' },
    wires: 'X.VCC MCU.5V, X.GND MCU.GND, X.T1IN MCU.D1, X.R1OUT MCU.D0, X.T1OUT P.2, X.R1IN P.3, P.5 MCU.GND',
  },
  {
    title: 'cd4017 on nano-v3',
    mcu: 'nano-v3',
    parts: { P: 'cd4017', C: 'capacitor' },
    wires: 'P.VDD MCU.5V, P.VSS MCU.GND, P.INH MCU.GND, P.CLK MCU.D4, P.RST MCU.D5, C.1 P.VDD, C.2 P.VSS',
  },
  {
    title: 'sx1262 on pico',
    mcu: 'pico',
    parts: { P: 'sx1262' },
    wires:
      'P.VCC MCU.3V3, P.GND MCU.GND, P.SCK MCU.GP18, P.MOSI MCU.GP19, P.MISO MCU.GP16, P.NSS MCU.GP17, P.RST MCU.GP20, P.BUSY MCU.GP21, P.DIO1 MCU.GP22',
  },
  {
    title: 'tip120 on nano-v3',
    mcu: 'nano-v3',
    supplies: { PACK: { volts: 5, limitMilliamps: 5000 } },
    parts: {
      P: { part: 'npn', options: { model: 'tip120' } },
      R: ohms(1000),
      M: { part: 'pump', options: { milliamps: 800 } },
      D: { part: 'diode', options: { model: '1n4007' } },
    },
    wires: 'P.E MCU.GND, P.B R.1, R.2 MCU.D5, P.C M.-, M.+ PACK.+, PACK.- MCU.GND, D.A M.-, D.K M.+',
  },
]
