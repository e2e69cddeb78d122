import { describe, expect, it } from 'vitest'
import type { Language } from '../../catalog/boardSchema.ts'
import { type Short, wiringOf } from '../../testing/plans.ts'
import { compareSource } from './compare.ts'

const says = (short: Short, language: Language, ...texts: string[]): string[] => {
  const wiring = wiringOf(short)
  const files = texts.map((text, at) => {
    const named = /^(?:\/\/|#) file (\S+)\n/.exec(text)
    return { name: named?.[1] ?? (language === 'cpp' ? `main${at}.ino` : `main${at}.py`), text }
  })
  return compareSource(wiring, wiring.boards[0]!, files, language).differences.map(
    ({ kind, ends, place }) => `${kind}${ends.length > 0 ? ` ${ends.join(' ')}` : ''}${kind === 'same' ? '' : place ? ` @${place.line}` : ''}`,
  )
}
const wrong = (short: Short, language: Language, ...texts: string[]): string[] =>
  says(short, language, ...texts).filter((one) => !one.startsWith('same'))

const uno: Short = {
  mcu: 'uno-r3',
  parts: { RED: { part: 'led', title: 'Stop lamp' }, GREEN: { part: 'led', options: { colour: 'green' }, title: 'Go lamp' }, R1: 'resistor', R2: 'resistor', GATE: { part: 'button', title: 'Gate switch' }, FLAP: { part: 'servo-sg90', title: 'Flap' }, EYE: { part: 'hc-sr04', title: 'Distance to the gate' }, LIGHT: { part: 'ldr', title: 'Daylight' } },
  wires:
    'RED.A R1.1, R1.2 MCU.D4, RED.K MCU.GND, GREEN.A R2.1, R2.2 MCU.D5, GREEN.K MCU.GND, GATE.1 MCU.D2, GATE.2 MCU.GND, FLAP.SIG MCU.D9, EYE.TRIG MCU.D7, EYE.ECHO MCU.D8, LIGHT.2 MCU.A0',
}

const good = `
const int redPin = 4;
#define GREEN_LED 5
const byte gateSwitch = 2;
constexpr uint8_t TRIG_PIN{7};
int echoPin(8);
Servo flap;
void setup() {
  pinMode(redPin, OUTPUT);
  pinMode(GREEN_LED, OUTPUT);
  pinMode(gateSwitch, INPUT_PULLUP);
  pinMode(TRIG_PIN, OUTPUT);
  pinMode(echoPin, INPUT);
  flap.attach(9);
}
void loop() {
  digitalWrite(redPin, digitalRead(gateSwitch));
  digitalWrite(GREEN_LED, HIGH);
  digitalWrite(TRIG_PIN, LOW);
  long t = pulseIn(echoPin, HIGH);
  int light = analogRead(A0);
  flap.write(map(light, 0, 1023, 0, 180));
}`

describe('a program that agrees', () => {
  it('has everything the same, and nothing else is said', () => {
    expect(says(uno, 'cpp', good)).toEqual([
      'same RED.A', 'same GREEN.A', 'same GATE.1', 'same EYE.TRIG', 'same EYE.ECHO', 'same FLAP.SIG', 'same LIGHT.2',
    ])
  })
})
it.each<[string, (text: string) => string, string[]]>([
  ['two exchanged', (t) => t.replace('TRIG_PIN{7}', 'TRIG_PIN{8}').replace('echoPin(8)', 'echoPin(7)'), ['exchanged EYE.TRIG EYE.ECHO @11']],
  ['two lamps exchanged', (t) => t.replace('redPin = 4', 'redPin = 5').replace('GREEN_LED 5', 'GREEN_LED 4'), ['exchanged RED.A GREEN.A @8']],
  ['another pin', (t) => t.replace('redPin = 4', 'redPin = 6'), ['differs RED.A @8']],
  ['a pin of another signal', (t) => t.replace('redPin = 4', 'redPin = 5'), ['differs RED.A @8']],
  ['no such pin', (t) => t.replace('redPin = 4', 'redPin = 45'), ['differs RED.A @8']],
  ['an input that is driven', (t) => t.replace('pinMode(echoPin, INPUT)', 'pinMode(echoPin, OUTPUT)'), ['mode EYE.ECHO @12']],
  ['pull-up forgotten', (t) => t.replace('INPUT_PULLUP', 'INPUT'), ['pull GATE.1 @10']],
  ['missing', (t) => t.replace('flap.attach(9);', ''), ['missing FLAP.SIG']],
  ['one more', (t) => t.replace('flap.attach(9);', 'flap.attach(9); pinMode(12, OUTPUT);'), ['unknown @13']],
  ['the lamp on the board is nobody’s business', (t) => t.replace('flap.attach(9);', 'flap.attach(9); pinMode(LED_BUILTIN, OUTPUT); pinMode(13, OUTPUT);'), []],
])('%s', (_, change, expected) => {
  const text = change(good)
  expect(text === good).toBe(false)
  expect(wrong(uno, 'cpp', text)).toEqual(expected)
})
