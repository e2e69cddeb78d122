import type { Board } from '../../catalog/boardSchema.ts'
import type { ReadFile } from './follow.ts'
import type { SourceFile, SourceLanguage } from './ir.ts'
import { readCpp } from './readCpp.ts'
import { readPython } from './readPython.ts'

/** Names that platforms define for the preprocessor, and families for which they do. */
const families: Readonly<Record<string, readonly string[]>> = {
  ESP32: ['esp32', 'esp32c3', 'esp32s3'],
  ARDUINO_ARCH_ESP32: ['esp32', 'esp32c3', 'esp32s3'],
  CONFIG_IDF_TARGET_ESP32: ['esp32'],
  CONFIG_IDF_TARGET_ESP32C3: ['esp32c3'],
  CONFIG_IDF_TARGET_ESP32S3: ['esp32s3'],
  ESP8266: ['esp8266'],
  ARDUINO_ARCH_ESP8266: ['esp8266'],
  __AVR__: ['avr'],
  ARDUINO_ARCH_AVR: ['avr'],
  ARDUINO_ARCH_RP2040: ['rp2040', 'rp2350'],
  PICO_RP2040: ['rp2040'],
  PICO_RP2350: ['rp2350'],
  ARDUINO_ARCH_SAMD: ['samd21'],
  ARDUINO_ARCH_STM32: ['stm32f1', 'stm32f4'],
  ARDUINO_ARCH_NRF52: ['nrf52'],
  CORE_TEENSY: ['imxrt'],
  __IMXRT1062__: ['imxrt'],
}
const chips: Readonly<Record<string, string>> = {
  __AVR_ATmega328P__: 'ATmega328P',
  __AVR_ATmega2560__: 'ATmega2560',
  __AVR_ATmega32U4__: 'ATmega32U4',
}

/** Reads the files of a program for a board: headers first, since the others build on them. */
export function readProgram(
  files: readonly SourceFile[],
  language: SourceLanguage,
  board: Board | undefined,
): ReadFile[] {
  const known = (name: string): boolean | undefined => {
    if (name === 'ARDUINO') return true
    if (!board) return undefined
    const family = families[name]
    if (family) return family.includes(board.family)
    const chip = chips[name]
    return chip === undefined ? undefined : board.mcu.includes(chip)
  }
  const order = files.map((_, index) => index)
  if (language === 'cpp') order.sort((a, b) => Number(isHeader(files[b])) - Number(isHeader(files[a])))
  return order.map((index) => {
    const { name, text } = files[index] as SourceFile
    const module = (name.split(/[\\/]/).at(-1) ?? name).replace(/\.[^.]*$/, '')
    return { module, body: language === 'cpp' ? readCpp(text, index, { known }) : readPython(text, index) }
  })
}

const isHeader = (file: SourceFile | undefined): boolean => /\.(h|hpp|hh)$/i.test(file?.name ?? '')
