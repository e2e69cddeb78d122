import { expect, it } from 'vitest'
import { wiringOf } from '../../testing/plans.ts'
import { rehearse } from '../run.ts'

const wiring = wiringOf({
  mcu: 'nano-v3',
  parts: { LOAD: 'hx711' },
  wires: 'LOAD.VCC MCU.5V, LOAD.GND MCU.GND, LOAD.DT MCU.D4, LOAD.SCK MCU.D5',
})

/** What a program prints that moves the clock by itself, with a load on the cell. */
function printed(weight: number, setup: string): string[] {
  const text = `
const int DT = 4, SCK_PIN = 5;
bool pulse() { digitalWrite(SCK_PIN, HIGH); digitalWrite(SCK_PIN, LOW); return digitalRead(DT); }
long bits(int count) { long value = 0; for (int at = 0; at < count; at++) value = value << 1 | pulse(); return value; }
long whole() { long value = bits(24); return value & 0x800000 ? value - 0x1000000 : value; }
void setup() { Serial.begin(115200); pinMode(SCK_PIN, OUTPUT); pinMode(DT, INPUT); ${setup} }
void loop() {}`
  const board = wiring.boards[0]!
  const result = rehearse(wiring, board, [{ name: 'load.ino', text }], {
    script: { rehearsal: 1, seconds: 2, steps: [{ at: 0, set: { LOAD: weight } }] },
  })
  expect(result.findings.map(({ message }) => message)).toEqual([])
  return result.printed.map((line) => line.text)
}
const wait = 'while (digitalRead(DT)) delay(1);'
const print = (what: string): string => `Serial.println(${what});`

it.each([0, 1, 23_400, 999_999, -1, -1234, -1_000_000])('a load of %i counts is read bit by bit', (weight) => {
  expect(printed(weight, wait + print('whole()'))).toEqual([String(weight)])
})
it('has something new every tenth of a second, and says so by its data line', () => {
  const first = `${print('digitalRead(DT)')} ${wait} ${print('millis() / 10')}`
  expect(printed(5, first)).toEqual(['1', '10'])
  // The clock after the last bit lets the line rise, and it measures again.
  const again = `${wait} whole(); ${print('digitalRead(DT)')} pulse(); ${print('digitalRead(DT)')} delay(99); ${print('digitalRead(DT)')} delay(2); ${print('digitalRead(DT)')}`
  expect(printed(4, again)).toEqual(['0', '1', '1', '0'])
})
it('gives ones to a program that does not wait, and what it measured last to one that comes late', () => {
  expect(printed(77, print('whole()'))).toEqual(['-1'])
  expect(printed(77, `delay(550); ${print('whole()')} pulse(); delay(550); ${print('whole()')}`)).toEqual(['77', '77'])
})
