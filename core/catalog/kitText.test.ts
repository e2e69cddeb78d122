import { describe, expect, it } from 'vitest'
import { catalog } from '../testing/plans.ts'
import { kitReader } from './kitText.ts'

const read = kitReader([...catalog.boards.values()], [...catalog.parts.values()])
/** `2 bme280, uno-r3, ?fluxcap`: what was understood in short. */
const said = (typed: string): string =>
  read(typed)
    .map(({ count, found, options, text }) => {
      const given = Object.values(options).join(' ')
      if (found?.kind === 'bench' || found?.kind === 'mains') return `(${text})`
      if (found?.kind === 'outside') return `(${text} on ${found.on.id})`
      return found === undefined
        ? `?${text}`
        : `${count > 1 ? `${count} ` : ''}${found.entry.id}${given === '' ? '' : ` ${given}`}`
    })
    .join(', ')

describe('what people write for the things in front of them', () => {
  it.each([
    ['2 bme280, oled ; 3x led, button x2, fluxcap', '2 bme280, ssd1306, 3 led, 2 button, ?fluxcap'],
    ['two leds', '2 led'],
    ['relay, 230v lamp, 220 V bulb, mains heater', 'relay-1, (230v lamp), (220 V bulb), (mains heater)'],
    ['120v ac motor, 24v ac pump', '(120v ac motor), (24v ac pump)'],
    ['250v relay, 100nf 250v capacitor, 24v lamp, 12v fan', 'relay-1, capacitor 1e-7 250, lamp 24, fan 12'],
    ['220v to 5v power supply, 48v 120w supply', 'dc-socket 5, dc-socket 48 2500'],
    ['3 w led, 5 watt 8 ohm speaker, 2 white leds', 'led, speaker 8, 2 led white'],
    ['12 V, 60 W power supply', 'dc-socket 12, dc-socket'],
    ['12v/60w power supply, 12v 5a supply, 5v power supply', 'dc-socket 12 5000, dc-socket 12 5000, dc-socket 5'],
    ['2 soil sensors, two distance sensors', '2 soil-capacitive, 2 hc-sr04'],
    ['3 led + button', '3 led, button'],
    ['330 ohm resistor', 'resistor 330'],
    ['4 330 ohm resistors', '4 resistor 330'],
    ['9v battery, 12 v battery', 'battery-box 9, battery-box 12'],
    ['4xAA battery', 'battery-box 6'],
    ['3 x AA batteries', 'battery-box 4.5'],
    ['2x 18650 battery', 'battery-box 8.4'],
    ['2 18650', 'battery-box 8.4'],
    ['three 18650 cells', 'battery-box 12.6'],
    ['18650 x2', 'battery-box 8.4'],
    ['18650 battery × 4', 'battery-box 16.8'],
    ['18650', 'battery-box 4.2'],
    ['6 18650', '6 battery-box 4.2'],
    ['3s lipo', 'battery-box 12.6'],
    ['3.7v lipo', 'battery-box 4.2'],
    ['5v 3a power supply', 'dc-socket 5 3000'],
    ['12 v 500 ma adapter', 'dc-socket 12 500'],
    ['yellow toy motors', 'dc-motor'],
    ['555 timer', '?555 timer'],
    ['100 leds', '40 led'],
    ['144 leds', '40 led'],
    ['99 leds', '40 led'],
    ['st7920 128x64', '?st7920 128x64'],
    ['128x64 oled', 'ssd1306'],
    ['toy ab1234', '?toy ab1234'],
    ['12v pump', 'pump 12'],
    ['7v pump', 'pump'],
    ['12 v 2 a fan', 'fan 12 2000'],
    ['3v motor', 'dc-motor 6'],
    ['4k7', 'resistor 4700'],
    ['3 10k resistors', '3 resistor 10000'],
    ['1M resistor', 'resistor 1000000'],
    ['100 nF capacitor', 'capacitor 1e-7'],
    ['five green leds', '5 led green'],
    ['2 x relay', '2 relay-1'],
    ['bme280 x 2', '2 bme280'],
    ['irlz44n', 'nmos irlz44n'],
    ['2 bc547', '2 npn bc547'],
    ['tip120', 'npn tip120'],
    ['2 tip122', '2 npn tip122'],
    ['2 mg90s', '2 servo-sg90'],
    ['3 mg996r', '3 servo-mg996r'],
    ['irfz44n mosfet', 'nmos irfz44n'],
    ['irf520', 'nmos irf520n'],
    ['ch340 usb to ttl', 'cp2102'],
    ['2n3904', 'npn 2n3904'],
    ['bc557', '?bc557'],
    ['2, bme280', '2 bme280'],
    ['4, 2 servos, oled', '?4, 2 servo-sg90, ssd1306'],
    ['a pair of motors and a servo', '2 dc-motor, servo-sg90'],
    ['servo (x2)', '2 servo-sg90'],
    ['servo (2 pcs)', '2 servo-sg90'],
    ['LED: 5', '5 led'],
    ['button - 4', '4 button'],
    ['3pcs button', '3 button'],
    ['button 3 pcs', '3 button'],
    ['3 relay module', '3 relay-1'],
    ['I have a pico, 2 oled', 'pico, 2 ssd1306'],
    ['breadboard, jumper wires, 2 leds', '(breadboard), (jumper wires), 2 led'],
    ['half breadboard; breadboard supply', '(half breadboard), breadboard-supply'],
    ['90 leds', '40 led'],
    ['3 line sensors, two line sensors, line sensor x3', '3 line-tcrt5000, 2 line-tcrt5000, 3 line-tcrt5000'],
    ['2s lipo, lipo 2s, 18650 3s', 'battery-box 8.4, battery-box 8.4, battery-box 12.6'],
    ['7.4v lipo, lipo 3s 11.1v', 'battery-box 8.4, battery-box 12.6'],
    ['5v 2a, 12 volt 2 amp, 500mA 9v', 'dc-socket 5 2000, dc-socket 12 2000, dc-socket 500 9'],
    ['12v, 5v, 24 v dc, 7.4v, 9v', 'dc-socket 12, dc-socket 5, dc-socket 24, battery-box 8.4, battery-box 9'],
    ['stepper nema17, 2 nema17 steppers, nema17 driver', 'stepper-bipolar, 2 stepper-bipolar, a4988'],
    ['5v supply, 12v power, 5v 3a psu', 'dc-socket 5, dc-socket 12, dc-socket 5 3000'],
    ['220, 2 x 10k, 220 ohm x 3, 3 * 220', 'resistor 220, 2 resistor 10000, 3 resistor 220, 3 resistor 220'],
    ['8 resistors 220, resistors 8 x 220', '8 resistor 220, 8 resistor 220'],
    ['220 resistors, resistor 1000, 10 resistors', 'resistor 220, resistor 1000, 10 resistor'],
    ['3 x 1k resistors, 4 x 100nF', '3 resistor 1000, 4 capacitor 1e-7'],
    ['2n2222, 3 pn2222', 'npn pn2222a, 3 npn pn2222a'],
    ['123 ohm resistor', 'resistor 123'],
    ['led, 220', 'led, resistor 220'],
    ['led, 5', '5 led'],
    ['28byj-48 stepper motor with uln2003 driver board', 'stepper-28byj48, uln2003-board'],
    ['hx711 with 5kg load cell, lcd 16x2 with i2c module', 'hx711, lcd-i2c'],
    ['4-channel relay module, 8-channel relay', 'relay-4, relay-8'],
    ['ws2812b led strip 1m 60 leds, flex sensor 2.2', 'ws2812-strip 60, flex-sensor'],
    ['9v battery clip, resistor kit', 'battery-box 9, resistor'],
    [
      'breadboard 830, dupont cables, 2 wheel robot chassis, caster wheel, usb a to b cable',
      '(breadboard 830), (dupont cables), (2 wheel robot chassis), (caster wheel), (usb a to b cable)',
    ],
    ['Weather station: esp32, bme280', 'esp32-devkit-30, bme280'],
    ['button: 3, led: 2', '3 button, 2 led'],
    ['2 x 74hc595, 2x 28byj48, 3 x 18650', '2 74hc595, 2 stepper-28byj48, battery-box 12.6'],
    ['motor shield, motor with encoder, relay shield', '?motor shield, dc-motor, ?relay shield'],
    ['capacitive soil moisture sensor v1.2, 360 servo', 'soil-capacitive, servo-sg90'],
    ['4 digit, 4 in 1 matrix, 32x8 led matrix', 'tm1637, max7219, max7219 4'],
    ['100n, 10u, 2 x 22p', 'capacitor 1e-7, capacitor 0.00001, 2 capacitor 2.2e-11'],
    ['10 kilo ohm, 1 megaohm, 4x 330R', 'resistor 10000, resistor 1000000, 4 resistor 330'],
    ['3mm green leds x 4, 2 ir leds, ir transmitter', '4 led green, 2 led infrared, led infrared'],
    ['4 AA batteries, 3 AAA, 18650 cell', 'battery-box 6, battery-box 4.5, battery-box 4.2'],
    ['1n4001, 1n5819 x2', 'diode 1n4001, 2 diode 1n5819'],
    ['433mhz transmitter and receiver', 'ask-433-tx, ask-433-rx'],
    ['usb cable, usb c cable', '(usb cable), (usb c cable)'],
    ['solar panel', '?solar panel'],
    ['330 ohm, 470 ohm, 470Ω', 'resistor 330, resistor 470, resistor 470'],
    ['external 5v supply, separate 6 v power supply', 'dc-socket 5, dc-socket 6'],
    ['external supply 12v, external battery', 'dc-socket 12, battery-box'],
    ['123', '?123'],
  ])('%s', (typed, meant) => {
    expect(said(typed)).toBe(meant)
  })
})

describe('a number that belongs to a name is no amount', () => {
  it.each([
    ['7 segment display', 'seven-segment'],
    ['433 receiver', 'ask-433-rx'],
    ['433 transmitter', 'ask-433-tx'],
    ['595 shift register', '74hc595'],
    ['2812 strip', 'ws2812-strip'],
    ['hx711', 'hx711'],
    ['seven segment display', 'seven-segment'],
    ['4 digit display', 'tm1637'],
    ['4 digit 7 segment', 'tm1637'],
    ['2 line display', 'lcd-parallel'],
    ['16 pin expander', 'mcp23017-module'],
    ['16x2 lcd', 'lcd-i2c'],
    ['4x4 keypad', 'keypad-4x4'],
    ['28byj48', 'stepper-28byj48'],
    ['4 channel relay', 'relay-4'],
    ['8 channel relay', 'relay-8'],
    ['3 axis accelerometer', 'adxl345'],
    ['4 relay module', 'relay-4'],
    ['12 led ring', 'ws2812-strip'],
    ['6 dof imu', 'mpu6050'],
    ['5v relay', 'relay-1'],
  ])('%s', (typed, id) => {
    expect(read(typed)).toHaveLength(1)
    expect(read(typed)[0]).toMatchObject({ count: 1, found: { entry: { id } } })
  })
  it('and with an amount in front of it there is one', () => {
    expect(said('2 7 segment display')).toBe('2 seven-segment')
    expect(said('2x 4 digit display')).toBe('2 tm1637')
    expect(said('three 4 channel relay')).toBe('3 relay-4')
  })
})

describe('lights in a row are counted as rows or as lights', () => {
  it.each([
    ['ws2812 x 8, 8 neopixels, neopixel 8', 'ws2812-strip 8, ws2812-strip 8, ws2812-strip 8'],
    ['neopixel ring 12, ws2812 strip 60', 'ws2812-strip 12, ws2812-strip 60'],
    ['12 led ring, 16 bit neopixel ring', 'ws2812-strip 12, ws2812-strip 16'],
    ['neopixel strip 30 leds, led strip 5m', 'ws2812-strip 30, ws2812-strip'],
    ['2 neopixel rings, 2 led strips, 2 ws2812-strip', '2 ws2812-strip, 2 ws2812-strip, 2 ws2812-strip'],
    ['2 x led ring 24, ws2812 strip x 2', '2 ws2812-strip 24, 2 ws2812-strip'],
    ['WS2812B 8x8 matrix, ws2812b 4 x 8 panel', 'ws2812-strip 64, ws2812-strip 32'],
    ['rgb strip, rgb strip 12v, 12v led strip', 'ws2812-strip, strip-rgb-12v 12, strip-12v 12'],
    ['12 leds', '12 led'],
  ])('%s', (typed, meant) => {
    expect(said(typed)).toBe(meant)
  })
})

describe('boards are typed with the parts', () => {
  it.each([
    ['esp32, 2 bme280', 'esp32-devkit-30, 2 bme280'],
    ['uno, servo', 'uno-r3, servo-sg90'],
    ['2 pico', 'pico'],
    ['raspberry pi and a button', 'pi-40, button'],
    ['nano', 'nano-v3'],
    ['raspberry pi 3b+, button', 'pi-40, button'],
    ['pro micro, button', '?pro micro, button'],
    // Of these a part is meant, though boards have them too.
    ['bluetooth', 'hc-05'],
    ['led', 'led'],
  ])('%s', (typed, meant) => {
    expect(said(typed)).toBe(meant)
  })
})

describe('a list is pasted whole', () => {
  it.each([
    ['- 2x BME280\n- HC-SR04\n\n* servo (x3)', '2 bme280, hc-sr04, 3 servo-sg90'],
    ['1. HC-SR04\n2. 2 buttons\n3) oled', 'hc-sr04, 2 button, ssd1306'],
    ['[ ] button\n[x] oled\n☐ 2 servo', 'button, ssd1306, 2 servo-sg90'],
    ['HC-SR04 €3.50\nBME280 https://shop.example/bme280?ref=1\nservo 2.90 EUR', 'hc-sr04, bme280, servo-sg90'],
    ['Qty,Part,Price\n2,BME280,4.50\n1,HC-SR04,2', '2 bme280, hc-sr04'],
    ['Part\tQty\nbutton\t4\noled\t1', '4 button, ssd1306'],
    ['Part;Amount\nred led;3\n10k resistor;2', '3 led red, 2 resistor 10000'],
    ['| Item | Qty |\n|------|:---:|\n| servo | 2 |\n| uno | 1 |', '2 servo-sg90, uno-r3'],
    ['board: uno\nparts: oled, button', 'uno-r3, ssd1306, button'],
  ])('%j', (typed, meant) => {
    expect(said(typed)).toBe(meant)
  })
})

it('every entry is understood by its id, and no name of one is taken for an amount', () => {
  for (const entry of [...catalog.boards.values(), ...catalog.parts.values()]) {
    expect(read(entry.id), entry.id).toMatchObject([{ count: 1, found: { entry: { id: entry.id } } }])
    expect(said(`2 ${entry.id}`), entry.id).toMatch(catalog.boards.has(entry.id) ? entry.id : `2 ${entry.id}`)
    for (const word of entry.keywords)
      expect(
        read(word).map(({ count }) => count),
        `${entry.id}: ${word}`,
      ).toEqual(word.split(/ and | & |, /).map(() => 1))
  }
})

it('says where each piece stands, so that another one can be put there', () => {
  for (const typed of ['2 bme280, oled', '  - 2x servo\n- fluxcap 3.50 €', 'a;b\n| x | 2 |', 'Qty,Part\n2, red led'])
    for (const { text, start, end } of read(typed)) expect(typed.slice(start, end)).toBe(text)
})

it('names others that the words may mean, and what comes near where nothing answers', () => {
  expect(read('oled')[0]?.others.map(({ id }) => id)).toContain('sh1106')
  expect(read('max31856')[0]).toMatchObject({ found: undefined })
  expect(read('max31856')[0]?.others.map(({ id }) => id)).toContain('max31855')
})
