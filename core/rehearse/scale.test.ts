import { expect, it } from 'vitest'
import { wiringOf } from '../testing/plans.ts'
import { scaleFindings } from './scale.ts'

const found = (mcu: string, text: string, language: 'cpp' | 'micropython' | 'circuitpython', bits: number): number[] =>
  scaleFindings([{ name: 'a', text }], language, bits, wiringOf({ mcu }).boards[0]!).map(({ line }) => line)

/** Readings that are reckoned rightly and wrongly: the line that is found, or none. */
const cases: readonly (readonly [string, 'cpp' | 'micropython', number, string, number[]])[] = [
  ['uno-r3', 'cpp', 10, 'float v = analogRead(A0) * 5.0 / 1024;', []],
  ['uno-r3', 'cpp', 10, 'float v = analogRead(A0) * 3.3 / 1024;', [1]],
  ['pro-mini-3v3', 'cpp', 10, 'float v = analogRead(A0) * 3.3 / 1023.0f;', []],
  ['pro-mini-3v3', 'cpp', 10, 'float v = analogRead(A0) * 5000L / 1023;', [1]],
  ['esp32-devkit-30', 'cpp', 12, 'int a = analogRead(34);\nint b = a;\nint c = map(b, 0, 1023, 0, 255);', [3]],
  ['esp32-devkit-30', 'cpp', 12, 'int a = analogRead(34);\nint c = map(a, 0, 4095, 0, 255);', []],
  ['esp32-devkit-30', 'cpp', 12, 'int a = analogRead(34) / 16;\nfloat c = a / 1023.0;', []],
  ['esp32-devkit-30', 'cpp', 12, 'float v = analogRead(34) / 4095.0 * 3.3 * 5 / 3;', []],
  ['esp32-devkit-30', 'cpp', 12, 'int a = millis();\nint b = a / 1023;', []],
  ['esp32-devkit-30', 'cpp', 12, 'analogReadResolution(bits);\nint b = analogRead(34) / 1023;', []],
  ['uno-r3', 'cpp', 10, '// analogRead(A0) / 4095\nint b = analogRead(A0) / 4;', []],
  ['uno-r3', 'cpp', 10, 'const char *t = "open', []],
  ['pico', 'micropython', 16, 'v = adc.read_u16() * 3.3 / 65535', []],
  ['pico', 'micropython', 16, 'v = adc.read_u16()\nx = v * 3.3 / 4095', [2]],
  ['pico', 'micropython', 16, 'v = adc.read_u16() * 5 / 65536', [1]],
]
it.each(cases)('%s %s %i bits: %s', (mcu, language, bits, text, lines) => {
  expect(found(mcu, text, language, bits)).toEqual(lines)
})
