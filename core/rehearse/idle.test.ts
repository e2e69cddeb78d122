import { describe, expect, it } from 'vitest'
import { bench, once, seen } from '../testing/bothWays.ts'
import { wiringOf } from '../testing/plans.ts'
import { rehearse } from './run.ts'

const uno = bench('uno-r3', (n) => String(n), 'A0', '5V')
const pico = bench('pico', (n) => `GP${n}`, 'GP26', '3V3')
const SET = 'void setup() { pinMode(5, OUTPUT); pinMode(2, INPUT_PULLUP); Serial.begin(115200); }\n'
/** Title, sketch, and the least and the most share of its rounds that can be passed over. */
const MOST: Share = [0.5, 1]
const SOME: Share = [0.05, 0.5]
const NONE: Share = [0, 0.05]
type Share = readonly [least: number, most: number]
const sketches: readonly (readonly [string, string, Share])[] = [
  [
    'a lamp by the clock',
    `unsigned long then = 0; bool on = false;\n${SET}void loop() { if (millis() - then >= 37) { then = millis(); on = !on; digitalWrite(5, on); } }`,
    MOST,
  ],
  ['a lamp that follows a button', `${SET}void loop() { digitalWrite(5, !digitalRead(2)); }`, MOST],
  [
    'a button that settles',
    `int last = HIGH, level = HIGH; unsigned long changed = 0; int presses = 0;\n${SET}void loop() {
  int now = digitalRead(2);
  if (now != last) changed = millis();
  if (millis() - changed > 20 && now != level) { level = now; if (level == LOW) { presses++; Serial.println(presses); digitalWrite(5, presses & 1); } }
  last = now;
}`,
    MOST,
  ],
  [
    'a knob with a limit',
    `${SET}void loop() { int v = analogRead(A0); digitalWrite(5, map(v, 0, 1023, 0, 100) > 50); }`,
    MOST,
  ],
  [
    'a command is waited for',
    `${SET}void loop() { if (Serial.available()) { char c = Serial.read(); Serial.print(c); digitalWrite(5, HIGH); } }`,
    MOST,
  ],
  [
    'waits for a press in a loop of its own',
    `${SET}void loop() { while (digitalRead(2) == HIGH) {} digitalWrite(5, HIGH); while (digitalRead(2) == LOW); digitalWrite(5, LOW); Serial.println(millis()); }`,
    MOST,
  ],
  [
    'waits for the clock in a loop of its own',
    `${SET}void loop() { unsigned long from = millis(); while (millis() - from < 31) {} digitalWrite(5, !digitalRead(5)); }`,
    MOST,
  ],
  [
    'waits without a brace, and in a function',
    `${SET}void hold(unsigned long ms) { unsigned long from = millis(); do { yield(); } while (millis() - from < ms); }\nvoid loop() { digitalWrite(5, HIGH); hold(12); digitalWrite(5, LOW); hold(40); }`,
    MOST,
  ],
  [
    'states in an object',
    `struct Flap { byte pin; bool on; unsigned long since; void run(unsigned long each) { if (millis() - since < each) return; since = millis(); on = !on; digitalWrite(pin, on); } };\nFlap flap = {5, false, 0};\n${SET}void loop() { flap.run(23); }`,
    MOST,
  ],
  ['nothing at all', `${SET}void loop() {}`, [0, 1]],
  [
    'counts its rounds',
    `long rounds = 0;\n${SET}void loop() { rounds++; if (rounds % 1000 == 0) Serial.println(rounds); }`,
    NONE,
  ],
  [
    'counts in a variable of its own loop',
    `${SET}void loop() { static unsigned int n = 0; n += 1; if (n == 0) Serial.println(millis()); }`,
    NONE,
  ],
  [
    'counts through a pointer',
    `int cell[2] = {0, 0}; int *to = &cell[1];\n${SET}void loop() { (*to)++; if (cell[1] > 900) { cell[1] = 0; Serial.println(millis()); } }`,
    NONE,
  ],
  [
    'counts while it waits',
    `${SET}void loop() { long n = 0; while (digitalRead(2) == HIGH) { n++; } while (digitalRead(2) == LOW) { n--; } Serial.println(n); }`,
    NONE,
  ],
  [
    'counts in what a lambda took along',
    `${SET}void loop() { int n = 0; auto more = [n]() mutable { n++; return n; }; while (digitalRead(2) == HIGH) { if (more() > 500) { Serial.println(millis()); break; } } }`,
    SOME,
  ],
  [
    'turns an arrow between two cells',
    `int cells[2] = {1, 2}; int *at = cells; int *other = cells + 1;\n${SET}void loop() { int *was = at; at = other; other = was; if (millis() == 200) { Serial.println(*at); while (millis() == 200) {} } }`,
    NONE,
  ],
  ['draws lots', `${SET}void loop() { if (random(5000) == 7) Serial.println(millis()); }`, NONE],
  [
    'reads a pin in the air',
    `${SET}void loop() { if (digitalRead(9) && digitalRead(9) && analogRead(A3) > 400) digitalWrite(5, HIGH); else digitalWrite(5, LOW); }`,
    NONE,
  ],
  [
    'watches the fine clock',
    `unsigned long then = 0;\n${SET}void loop() { if (micros() - then > 7001) { then = micros(); digitalWrite(5, !digitalRead(5)); } }`,
    NONE,
  ],
  [
    'counts edges meanwhile',
    `volatile int edges = 0; int told = 0;\nvoid edge() { edges++; }\n${SET.replace('}', 'attachInterrupt(digitalPinToInterrupt(2), edge, CHANGE); }')}void loop() { if (edges != told) { told = edges; Serial.println(told); } }`,
    MOST,
  ],
  [
    'cuts a text bit by bit',
    `char text[] = "a,b,c,d"; bool first = true;\n${SET}void loop() { char *piece = strtok(first ? text : nullptr, ","); first = false; if (piece) { Serial.println(piece); delay(3); } }`,
    NONE,
  ],
  [
    'asks lines as a port, where something holds each of them',
    `void setup() { DDRD = 0b11111011; PORTD |= 1 << 2; }\nvoid loop() { if (PIND & (1 << 2)) PORTD &= ~(1 << 5); else PORTD |= 1 << 5; }`,
    MOST,
  ],
  [
    'asks lines in the air',
    `void setup() { DDRD |= 1 << 5; PORTD |= 1 << 2; }\nvoid loop() { if (PIND & (1 << 2)) PORTD &= ~(1 << 5); else PORTD |= 1 << 5; }`,
    NONE,
  ],
]

describe('rounds in which nothing happens are passed over, and the run is the same', () => {
  for (const [title, text, [least, most]] of sketches) {
    it(title, () => {
      const fast = once(uno, text, false)
      expect(seen(fast)).toEqual(seen(once(uno, text, true)))
      const share = fast.passed / Math.max(1, fast.statements)
      expect(share).toBeGreaterThanOrEqual(least)
      expect(share).toBeLessThanOrEqual(most)
    })
  }

  it('on a fast board', () => {
    for (const at of [0, 1, 2, 4, 5]) {
      const text = sketches[at]![1].replaceAll('A0', '26')
      const fast = once(pico, text, false, 0.35)
      expect(seen(fast)).toEqual(seen(once(pico, text, true, 0.35)))
      expect(fast.passed).toBeGreaterThan(0.5 * fast.statements)
    }
  })

  it('a counter of the chip goes on by itself', () => {
    const text =
      'bool was = false;\nvoid setup() { DDRD |= 1 << 5; TCCR1A = 0; TCCR1B = 1 << CS12 | 1 << CS10; }\nvoid loop() { bool now = TCNT1 & 0x200; if (now != was) { was = now; digitalWrite(5, now); Serial.println(TCNT1); } }'
    const fast = once(uno, text, false)
    expect(seen(fast)).toEqual(seen(once(uno, text, true)))
    expect(fast.passed).toBe(0)
    expect(fast.printed.length).toBeGreaterThan(5)
  })

  it('statements are kept one by one from the moment on that was asked for', () => {
    const wiring = wiringOf(uno)
    const at = (from: number) =>
      rehearse(wiring, wiring.boards[0]!, [{ name: 'a.ino', text: sketches[1]![1] }], {
        seconds: 1,
        statements: { from, most: 50 },
      })
    const { stepped, passed } = at(0.2)
    expect(stepped).toHaveLength(50)
    expect(stepped[0]!.at).toBeGreaterThanOrEqual(200_000)
    expect(stepped[0]!.at).toBeLessThan(200_020)
    expect(passed).toBeGreaterThan(0)
    expect(at(0).passed).toBe(0)
  })
})
