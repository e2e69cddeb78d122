import { describe, expect, it } from 'vitest'
import { catalog } from '../testing/plans.ts'
import { readQuickEntry, searchCatalog, suggestCatalog } from './search.ts'

/** What people type for a part, and the entry that has to come first. */
const parts: Readonly<Record<string, readonly string[]>> = {
  'hc-sr501': ['pir sensor', 'motion sensor', 'pir motion', 'hcsr501', 'presence'],
  'hc-sr04': ['ultrasonic', 'ultrasonic sensor', 'distance sensor', 'hc sr04', 'hcsr04', 'sonar'],
  'hc-sr04p': ['hc-sr04p', 'sr04p'],
  led: ['led', 'leds', 'red led', 'green led', 'light emitting diode'],
  'rgb-led': ['rgb led', 'rgb leds'],
  'ws2812-strip': ['ws2812', 'ws2812b', 'led strip', 'neopixels', 'addressable leds'],
  button: ['button', 'buttons', 'push button', 'pushbutton', 'tact switch'],
  resistor: ['resistor', 'resistors', '330 ohm resistor', '10k resistor', '4k7', '10k', '220 Ω'],
  capacitor: ['capacitor', '100nF', '100 nF capacitor', 'capacitors', 'electrolytic'],
  diode: ['diode', '1n4007', '1n4148', 'flyback diode'],
  zener: ['zener', 'zener diode'],
  npn: ['npn', 'bc337', '2n2222', 'bc547', '2n3904', 'transistor'],
  nmos: ['mosfet', 'mosfets', 'irlz44n', 'ao3400', '2n7000', 'n channel'],
  potentiometer: ['potentiometer', 'pot', 'knob', 'trimmer', 'potentiometers'],
  ldr: ['ldr', 'light dependent resistor', 'photoresistor'],
  ntc: ['thermistor', 'ntc'],
  'servo-sg90': ['servo', 'servos', 'sg90', 'micro servo'],
  'servo-mg996r': ['mg996r', 'big servo'],
  'dc-motor': ['dc motor', 'motor', 'motors'],
  'stepper-28byj48': ['28byj48', '28byj-48', 'stepper', 'stepper motor'],
  'stepper-bipolar': ['nema17', 'bipolar stepper', 'nema 17'],
  a4988: ['a4988', 'stepper driver'],
  drv8825: ['drv8825'],
  tmc2209: ['tmc2209'],
  uln2003: ['uln2003', 'darlington'],
  uln2803: ['uln2803'],
  l298n: ['l298n', 'l298'],
  l293d: ['l293d', 'l293'],
  tb6612: ['tb6612', 'tb6612fng', 'motor driver', 'h bridge'],
  drv8833: ['drv8833'],
  'relay-1': ['relay', 'relays', '5v relay', 'relay module'],
  'relay-4': ['4 channel relay', '4 relay module'],
  'relay-8': ['8 channel relay'],
  ssr: ['ssr', 'solid state relay'],
  solenoid: ['solenoid', 'door lock'],
  pump: ['pump', 'water pump'],
  fan: ['fan'],
  'buzzer-active': ['active buzzer', 'buzzer'],
  'buzzer-passive': ['passive buzzer', 'piezo'],
  speaker: ['speaker', 'loudspeaker'],
  max98357a: ['max98357', 'max98357a', 'i2s amplifier', 'amplifier'],
  inmp441: ['microphone', 'inmp441', 'i2s microphone'],
  bme280: ['bme280', 'bme', 'humidity pressure temperature'],
  bmp280: ['bmp280', 'barometer'],
  dht22: ['dht22', 'am2302'],
  'ds18b20-probe': ['ds18b20 probe', 'waterproof temperature', 'one wire thermometer'],
  ds18b20: ['ds18b20'],
  dht11: ['dht11'],
  bmp180: ['bmp180'],
  bme680: ['bme680', 'air quality sensor'],
  hmc5883l: ['hmc5883l', 'compass'],
  qmc5883l: ['qmc5883l'],
  adxl345: ['adxl345'],
  lm35: ['lm35'],
  tmp36: ['tmp36'],
  pcf8591: ['pcf8591'],
  l9110s: ['l9110s'],
  drv8871: ['drv8871'],
  'regulator-5v': ['7805', '5v regulator'],
  dfplayer: ['dfplayer', 'mp3 player'],
  'relay-2': ['2 channel relay'],
  'battery-box': ['battery', '9v block'],
  'limit-switch': ['limit switch', 'end stop'],
  'sound-analog': ['sound sensor'],
  'flame-ir': ['flame sensor'],
  'rain-analog': ['rain sensor'],
  'soil-resistive': ['fc-28'],
  ttp223: ['touch sensor', 'ttp223'],
  'keypad-4x3': ['3x4 keypad'],
  'hm-10': ['hm-10', 'ble'],
  'jsn-sr04t': ['waterproof ultrasonic'],
  sht31: ['sht31'],
  aht20: ['aht20'],
  mpu6050: ['mpu6050', 'mpu 6050', 'gy-521', 'gyroscope', 'accelerometer'],
  bno055: ['bno055'],
  vl53l0x: ['vl53l0x', 'tof sensor', 'time of flight'],
  tcs34725: ['colour sensor', 'color sensor', 'tcs34725'],
  apds9960: ['gesture sensor', 'apds9960'],
  bh1750: ['bh1750', 'light sensor'],
  ccs811: ['ccs811'],
  scd40: ['scd40'],
  'mh-z19': ['mh-z19', 'mhz19', 'co2 sensor'],
  pms5003: ['pms5003', 'dust sensor', 'particle sensor'],
  'gas-analog': ['gas sensor', 'mq-2', 'mq2'],
  'soil-capacitive': ['soil moisture', 'soil moisture sensor'],
  'water-level': ['water level', 'water level sensor'],
  hx711: ['hx711', 'load cell', 'scale'],
  'current-acs712': ['acs712', 'current sensor'],
  ina219: ['ina219', 'power meter'],
  'hall-a3144': ['hall sensor', 'a3144'],
  'reed-switch': ['reed switch', 'door contact'],
  'ir-receiver': ['ir receiver', 'remote control receiver', 'vs1838b'],
  'rotary-encoder': ['rotary encoder', 'encoder', 'ky-040'],
  joystick: ['joystick', 'thumbstick'],
  'keypad-4x4': ['keypad', '4x4 keypad', 'keypad 4x4'],
  'slide-switch': ['slide switch', 'toggle switch'],
  ssd1306: ['oled', 'oled display', 'ssd1306', '0.96 oled'],
  sh1106: ['sh1106'],
  'lcd-i2c': ['16x2', '1602 i2c', 'lcd i2c', 'lcd1602 i2c'],
  'lcd-parallel': ['hd44780', 'parallel lcd'],
  tm1637: ['4 digit display', 'tm1637', 'clock display'],
  max7219: ['max7219', 'led matrix', '8x8 matrix'],
  'seven-segment': ['7 segment', 'seven segment', 'single digit'],
  st7735: ['st7735'],
  ili9341: ['ili9341', 'touch display'],
  'epaper-2in9': ['e-paper', 'epaper', 'eink'],
  nrf24l01: ['nrf24l01', 'nrf24'],
  sx1276: ['lora', 'rfm95'],
  'hc-05': ['hc-05', 'hc05', 'bluetooth'],
  'gps-uart': ['gps', 'neo-6m', 'gps module'],
  rc522: ['rfid', 'rc522', 'mfrc522', 'rfid reader'],
  pn532: ['nfc', 'pn532'],
  microsd: ['sd card', 'micro sd', 'microsd module'],
  ds3231: ['rtc', 'ds3231', 'real time clock'],
  mcp23017: ['mcp23017', 'io expander', 'port expander'],
  pcf8574: ['pcf8574'],
  pca9685: ['pca9685', 'servo driver', '16 channel servo driver'],
  ads1115: ['ads1115', 'analog to digital converter', 'adc'],
  mcp4725: ['mcp4725', 'dac'],
  '74hc595': ['74hc595', 'shift register', '595'],
  'mux-4067': ['4067', 'cd74hc4067', 'multiplexer'],
  tca9548a: ['tca9548a', 'i2c multiplexer'],
  'shifter-bss138': ['level shifter', 'logic level converter', '3.3v to 5v'],
  max485: ['rs485', 'max485'],
  max3232: ['max3232', 'rs232'],
  buck: ['buck converter', 'step down', 'lm2596'],
  boost: ['boost converter', 'step up', 'mt3608'],
  'regulator-3v3': ['3.3v regulator', 'ams1117'],
  'charger-tp4056': ['tp4056', 'lithium charger', 'battery charger'],
}

const boards: Readonly<Record<string, readonly string[]>> = {
  'uno-r3': ['uno', 'arduino uno', 'uno r3'],
  'nano-v3': ['nano', 'arduino nano'],
  'mega-2560-r3': ['mega', 'arduino mega 2560'],
  'esp32-devkit-30': ['esp32', 'esp32 devkit', 'esp32 dev board'],
  'esp8266-d1-mini': ['d1 mini', 'wemos d1 mini'],
  'esp8266-nodemcu-v2': ['nodemcu'],
  pico: ['pico', 'raspberry pi pico', 'rp2040'],
  'pico-w': ['pico w'],
  'pi-40': ['raspberry pi', 'raspberry pi 4'],
  'stm32f103-bluepill': ['blue pill', 'bluepill'],
  'stm32f411-blackpill': ['black pill'],
  'microbit-v2': ['microbit', 'micro:bit'],
  'teensy-4-1': ['teensy'],
}

/** Types that the catalogue does not have: near ones may be suggested, none may be taken for them. */
const absent = [
  'bc557',
  '2n3906',
  'ao3401',
  'max31865',
  'pcd8544',
  'mpu9250',
  'max30102',
  'sgp30',
  'ens160',
  'as5600',
  'tsl2561',
  'tsl2591',
  'w5500',
  'enc28j60',
  'mcp2515',
  'lm358',
  'lm393',
  'ne555',
  'cd4017',
  'ili9488',
  'gc9a01',
  'ssd1351',
  'st7920',
  'tip120',
  'irf520',
  'xl6009',
  'sim7600',
  'ld2410',
  'tcs3200',
  'sds011',
  'max3485',
  'mcp3424',
  'ft232',
  'si7021',
]

const rows = (table: Readonly<Record<string, readonly string[]>>): [string, string][] =>
  Object.entries(table).flatMap(([id, typed]) => typed.map((text): [string, string] => [text, id]))

describe('what people type', () => {
  it('is a table of some size', () => {
    expect(rows(parts).length + rows(boards).length).toBeGreaterThan(150)
    expect(absent.length).toBeGreaterThanOrEqual(30)
  })
  it.each(rows(parts))('part: %s', (typed, id) => {
    expect(searchCatalog(catalog.parts.values(), typed)[0]?.id).toBe(id)
  })
  it.each(rows(boards))('board: %s', (typed, id) => {
    expect(searchCatalog(catalog.boards.values(), typed)[0]?.id).toBe(id)
  })
  it.each(absent)('nothing answers to %s', (typed) => {
    const all = [...catalog.parts.values()]
    expect(searchCatalog(all, typed).map(({ id }) => id)).toEqual([])
    expect(readQuickEntry(all, typed)[0]?.entry).toBeUndefined()
  })
  it('suggests what comes near to a type that is not there', () => {
    const near = (typed: string): string[] => suggestCatalog(catalog.parts.values(), typed).map(({ id }) => id)
    expect(near('max31865')).toContain('max31855')
    expect(near('max30102')).not.toContain('led')
    expect(near('ssd1351')).toContain('ssd1306')
  })
})

describe('quick entry', () => {
  const read = (typed: string) =>
    readQuickEntry([...catalog.parts.values()], typed).map(({ count, entry, options }) => [count, entry?.id, options])
  it.each([
    ['two leds', [[2, 'led', {}]]],
    [
      '3 led + button',
      [
        [3, 'led', {}],
        [1, 'button', {}],
      ],
    ],
    ['330 ohm resistor', [[1, 'resistor', { ohms: 330 }]]],
    ['4 330 ohm resistors', [[4, 'resistor', { ohms: 330 }]]],
    ['4k7', [[1, 'resistor', { ohms: 4700 }]]],
    ['3 10k resistors', [[3, 'resistor', { ohms: 10000 }]]],
    ['1M resistor', [[1, 'resistor', { ohms: 1_000_000 }]]],
    ['100 nF capacitor', [[1, 'capacitor', { farads: 1e-7 }]]],
    ['five green leds', [[5, 'led', { colour: 'green' }]]],
    ['4 digit display', [[1, 'tm1637', {}]]],
    ['2 x relay', [[2, 'relay-1', {}]]],
    ['bme280 x 2', [[2, 'bme280', {}]]],
    ['irlz44n', [[1, 'nmos', { model: 'irlz44n' }]]],
    ['2 bc547', [[2, 'npn', { model: 'bc547' }]]],
    ['bc557', [[1, undefined, {}]]],
  ])('%s', (typed, said) => {
    expect(read(typed)).toEqual(said)
  })
})
