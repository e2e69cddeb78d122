import { describe, expect, it } from 'vitest'
import { catalog, planOf, type Short } from '../../testing/plans.ts'
import { resolve } from '../../wiring/resolve.ts'
import { rehearse } from '../run.ts'
import { CharacterDisplay } from './characterDisplay.ts'

function shown(plan: Short, name: string, text: string): string | undefined {
  const wiring = resolve(planOf(plan), catalog)
  const result = rehearse(wiring, wiring.boards[0]!, [{ name, text }], { seconds: 2 })
  expect(result.findings.map(({ message }) => message)).toEqual([])
  return result.shows.PANEL
}

const backpack: Short = {
  mcu: 'pico',
  parts: { PANEL: 'lcd-i2c', M: { part: 'shifter-bss138' } },
  wires:
    'PANEL.VCC MCU.VBUS, PANEL.GND MCU.GND, M.LV MCU.3V3, M.HV MCU.VBUS, M.GND MCU.GND, M.GND.2 MCU.GND, M.LV1 MCU.GP4, M.LV2 MCU.GP5, M.HV1 PANEL.SDA, M.HV2 PANEL.SCL',
}
const told = (body: string): string => `from machine import I2C, Pin
import time
bus = I2C(0, sda=Pin(4), scl=Pin(5))
LIGHT = 8

def half(value, data):
    bus.writeto(0x27, bytes([value & 0xf0 | LIGHT | data]))
    bus.writeto(0x27, bytes([value & 0xf0 | LIGHT | data | 4]))
    bus.writeto(0x27, bytes([value & 0xf0 | LIGHT | data]))

def send(value, data=0):
    half(value, data)
    half(value << 4, data)

def say(text):
    for letter in text:
        send(ord(letter), 1)

for wake in (0x30, 0x30, 0x30, 0x20):
    half(wake, 0)
    time.sleep_ms(5)
for one in (0x28, 0x0c, 0x06, 0x01):
    send(one)
time.sleep_ms(2)
${body}
`

describe('a display of letters behind a port', () => {
  it('shows what a program says byte by byte', () => {
    const text = told('say("Kiln 830")\nsend(0xdf, 1)\nsend(0xc0 + 4)\nsay("rising")')
    expect(shown(backpack, 'main.py', text)).toBe('"Kiln 830° ⏎     rising"')
  })
  it('goes dark with its light, and off', () => {
    expect(shown(backpack, 'main.py', told('say("Night")\nbus.writeto(0x27, b"\\x00")'))).toBe('dark: "Night"')
    expect(shown(backpack, 'main.py', told('say("Night")\nsend(0x08)'))).toBe('off')
  })
  it('is as large as what is written asks', () => {
    const text = told('say("one")\nsend(0x80 + 0x14)\nsay("three")\nsend(0x80 + 0x54 + 19)\nsay("!")')
    expect(shown(backpack, 'main.py', text)).toBe('"one ⏎  ⏎ three ⏎                    !"')
  })
})

describe('a display of letters at pins of the board', () => {
  const four: Short = {
    mcu: 'uno-r3',
    parts: { PANEL: { part: 'lcd-parallel', options: { size: '1602' } } },
    wires:
      'PANEL.VSS MCU.GND, PANEL.VDD MCU.5V, PANEL.V0 MCU.GND, PANEL.RW MCU.GND, PANEL.RS MCU.D12, PANEL.E MCU.D11, PANEL.D4 MCU.D5, PANEL.D5 MCU.D4, PANEL.D6 MCU.D3, PANEL.D7 MCU.D2',
  }
  const sketch = (pins: string, body: string): string => `
const int RS = 12, E = 11;
const int D[] = ${pins};
const int MANY = sizeof(D) / sizeof(D[0]);
void lines(int value) { for (int i = 0; i < MANY; i++) digitalWrite(D[i], value >> i & 1); digitalWrite(E, HIGH); delayMicroseconds(1); digitalWrite(E, LOW); delayMicroseconds(50); }
void send(int value, bool data) { digitalWrite(RS, data); if (MANY == 4) lines(value >> 4); lines(MANY == 4 ? value & 15 : value); }
void command(int value) { send(value, false); delay(2); }
void say(const char *text) { while (*text) send(*text++, true); }
void setup() {
  pinMode(RS, OUTPUT); pinMode(E, OUTPUT);
  for (int pin : D) pinMode(pin, OUTPUT);
  digitalWrite(RS, LOW);
  delay(50);
  if (MANY == 4) { lines(3); delay(5); lines(3); delay(1); lines(3); lines(2); command(0x28); } else command(0x38);
  command(0x0C); command(0x06); command(0x01);
  ${body}
}
void loop() {}`
  it('over four lines', () => {
    expect(shown(four, 'a.ino', sketch('{5, 4, 3, 2}', 'say("Tide 2.4 m"); command(0xC0); say("ebb");'))).toBe(
      '"Tide 2.4 m ⏎ ebb"',
    )
  })
  it('over lines in another order shows something else, as the real one would', () => {
    expect(shown(four, 'a.ino', sketch('{4, 5, 3, 2}', 'say("Tide");'))).not.toBe('"Tide"')
  })
  it('over eight lines, with a form of its own and letters that move', () => {
    const wires = `${four.wires}, PANEL.D0 MCU.D9, PANEL.D1 MCU.D8, PANEL.D2 MCU.D7, PANEL.D3 MCU.D6`
    const body =
      'command(0x40); for (int i = 0; i < 8; i++) send(21, true); command(0x80 + 2); send(0, true); say("x"); command(0x18);'
    expect(shown({ ...four, wires }, 'a.ino', sketch('{9, 8, 7, 6, 5, 4, 3, 2}', body))).toBe('" ▯x"')
  })
})

describe('its memory', () => {
  const words = (...bytes: number[]): string => {
    let last = ''
    const display = new CharacterDisplay(
      (text) => {
        last = text
      },
      { columns: 16, rows: 2 },
    )
    for (const byte of [0x38, 0x0c, ...bytes]) display.take(byte >= 0x100, byte & 255)
    return last
  }
  const letter = (text: string): number => 0x100 + text.charCodeAt(0)
  it('goes on from the end of a line to the other, and backwards', () => {
    expect(words(0x80 + 0x27, letter('a'), letter('b'))).toBe('" ⏎ b"')
    expect(words(0x80 + 0x67, letter('a'), letter('b'))).toBe('"b"')
    expect(words(0x04, 0xc0, letter('a'), letter('b'), 0x80 + 0x26, letter('c'))).toBe('" ⏎ a"')
  })
  it('moves its place without writing, goes home, and is wiped', () => {
    expect(words(letter('a'), 0x14, letter('b'), 0x10, 0x10, letter('c'))).toBe('"acb"')
    expect(words(letter('a'), 0x02, letter('b'))).toBe('"b"')
    expect(words(letter('a'), 0x01, 0x14, letter('b'))).toBe('" b"')
  })
})
