import { expect, it } from 'vitest'
import { catalog } from '../testing/plans.ts'
import { searchCatalog } from './search.ts'

it.each([
  ['bme', 'bme280'],
  ['oled', 'ssd1306'],
  ['lora', 'sx1276'],
  ['lroa', 'sx1276'],
  ['rtc', 'ds3231'],
  ['servo', 'servo-sg90'],
  ['pot', 'potentiometer'],
  ['knob', 'potentiometer'],
  ['load cell', 'hx711'],
  ['expander', 'mcp23017'],
  ['mcp', 'mcp23017'],
  ['led', 'led'],
  ['eink', 'epaper-2in9'],
  ['hall', 'hall-a3144'],
  ['mosfet', 'nmos'],
  ['buton', 'button'],
  ['resistor', 'resistor'],
  ['ultrasonic', 'hc-sr04'],
  ['neopixel', 'ws2812-strip'],
  ['16x2', 'lcd-i2c'],
  ['lcd paralel', 'lcd-parallel'],
  ['level shifter', 'shifter-bss138'],
  ['motor driver', 'tb6612'],
  ['gps', 'gps-uart'],
  ['bluetooth', 'hc-05'],
  ['rfid', 'rc522'],
  ['keypad', 'keypad-4x4'],
  ['4 channel relay', 'relay-4'],
  ['soil', 'soil-capacitive'],
  ['microphone', 'inmp441'],
  ['3.3v regulator', 'regulator-3v3'],
  ['sd card', 'microsd'],
  ['co2', 'mh-z19'],
  ['pir', 'hc-sr501'],
  ['gyro', 'mpu6050'],
  ['rs485', 'max485'],
  ['h bridge', 'tb6612'],
  ['dht', 'dht22'],
  ['mpu 6050', 'mpu6050'],
  ['oled spi', 'ssd1306-spi'],
  ['7 segment', 'seven-segment'],
  ['ws2812b', 'ws2812-strip'],
  ['i2c multiplexer', 'tca9548a'],
])('part: %s means %s', (typed, id) => {
  expect(searchCatalog(catalog.parts.values(), typed)[0]?.id).toBe(id)
})

it.each([
  ['uno', 'uno-r3'],
  ['esp32', 'esp32-devkit-30'],
  ['arduino', 'uno-r3'],
  ['raspberry pi', 'pi-40'],
  ['raspbery', 'pi-40'],
  ['bluepill', 'stm32f103-bluepill'],
  ['esp32 s3', 'esp32-s3-devkitc-1'],
  ['microbit', 'microbit-v2'],
  ['wemos', 'esp8266-d1-mini'],
  ['teensy', 'teensy-4-1'],
  ['jetson', 'jetson-nano-40'],
])('board: %s means %s', (typed, id) => {
  expect(searchCatalog(catalog.boards.values(), typed)[0]?.id).toBe(id)
})

it('finds every entry by its id and by each of its keywords', () => {
  const all = [...catalog.parts.values(), ...catalog.boards.values()]
  const missed = all.flatMap((entry) =>
    [entry.id, ...entry.keywords].filter((word) => !searchCatalog(all, word).includes(entry)),
  )
  expect(missed).toEqual([])
})
