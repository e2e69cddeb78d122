import { describe, expect, it } from 'vitest'
import { type Short, wiringOf } from '../../testing/plans.ts'
import { rehearse } from '../run.ts'

const clockface: Short = {
  mcu: 'nano-v3',
  parts: { FACE: 'tm1637' },
  wires: 'FACE.VCC MCU.5V, FACE.GND MCU.GND, FACE.CLK MCU.D2, FACE.DIO MCU.D3',
}
const ran = (short: Short, name: string, text: string) => {
  const wiring = wiringOf(short)
  return rehearse(wiring, wiring.boards[0]!, [{ name, text }], { seconds: 1 })
}

/** Lets its lines go for a high level and listens for the answer, as the data sheet asks. */
const polite = (body: string): string => `
const int CLK = 2, DIO = 3;
int missed = 0;
void low(int pin) { pinMode(pin, OUTPUT); }
void high(int pin) { pinMode(pin, INPUT); }
void begin() { low(DIO); }
void finish() { low(DIO); high(CLK); high(DIO); }
void put(byte value) {
  for (int i = 0; i < 8; i++) { low(CLK); if (value >> i & 1) high(DIO); else low(DIO); high(CLK); }
  low(CLK); high(DIO); high(CLK);
  if (digitalRead(DIO)) missed++;
  low(CLK);
}
void tell(byte command) { begin(); put(command); finish(); }
void setup() { Serial.begin(115200); digitalWrite(CLK, LOW); digitalWrite(DIO, LOW); high(CLK); high(DIO); ${body} Serial.println(missed); }
void loop() {}`

describe('figures on two lines', () => {
  it('are shown as they are told, and each byte is answered', () => {
    const body =
      'tell(0x40); begin(); put(0xC0); put(0x06); put(0x5B | 0x80); put(0x4F); put(0x66); finish(); tell(0x8F);'
    const result = ran(clockface, 'a.ino', polite(body))
    expect([result.shows.FACE, result.printed.map(({ text }) => text)]).toEqual(['"12:34"', ['0']])
    expect(result.findings.map(({ message }) => message)).toEqual([])
  })
  it('one alone, at its place; dark until they are on', () => {
    const one = 'tell(0x44); begin(); put(0xC2); put(0x7F); finish();'
    expect(ran(clockface, 'a.ino', polite(`${one} tell(0x88);`)).shows.FACE).toBe('"  8"')
    expect(ran(clockface, 'a.ino', polite(`${one} tell(0x80);`)).shows.FACE).toBe('off')
  })
  it('no answer comes from one without a supply', () => {
    const unfed = { ...clockface, wires: clockface.wires!.replace('FACE.VCC MCU.5V, ', '') }
    const result = ran(unfed, 'a.ino', polite('pinMode(3, INPUT_PULLUP); tell(0x40);'))
    expect(result.shows.FACE ?? '').not.toContain('"')
  })
  it('with lines exchanged nothing is shown', () => {
    const turned = {
      ...clockface,
      wires: clockface.wires!.replace('CLK MCU.D2', 'CLK MCU.D3').replace('DIO MCU.D3', 'DIO MCU.D2'),
    }
    const body = 'tell(0x40); begin(); put(0xC0); put(0x06); finish(); tell(0x8F);'
    expect(ran(turned, 'a.ino', polite(body)).shows.FACE ?? '').not.toContain('"1')
  })
  it('are told by a program that holds the data line through the answer as well', () => {
    const pico = {
      ...clockface,
      mcu: 'pico',
      wires: 'FACE.VCC MCU.3V3, FACE.GND MCU.GND, FACE.CLK MCU.GP2, FACE.DIO MCU.GP3',
    }
    const text = `from machine import Pin
clk = Pin(2, Pin.OUT, value=1)
dio = Pin(3, Pin.OUT, value=1)

def put(value):
    for i in range(8):
        clk(0)
        dio(value >> i & 1)
        clk(1)
    clk(0)
    clk(1)
    clk(0)

def tell(*values):
    dio(0)
    for value in values:
        put(value)
    dio(0)
    clk(1)
    dio(1)

tell(0x40)
tell(0xC0, 0x40, 0x6D, 0x3F, 0x39)
tell(0x8A)
`
    const result = ran(pico, 'main.py', text)
    expect([result.shows.FACE, result.findings.map(({ message }) => message)]).toEqual(['"-50C"', []])
  })
})
