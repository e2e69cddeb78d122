/** Sketches that do what boards are for: they wait, watch pins and drive them. Pin 2 bounces, pin 3 comes and goes. */
export const sketchesOfHardware: readonly (readonly [string, string])[] = [
  [
    'three lamps, each at a time of its own',
    `struct Lamp { byte pin; unsigned int on, off; bool lit; unsigned long since; };
Lamp lamps[] = {{4, 70, 130, false, 0}, {5, 33, 33, false, 0}, {6, 200, 15, true, 0}};
void setup() { for (Lamp &l : lamps) { pinMode(l.pin, OUTPUT); digitalWrite(l.pin, l.lit); } }
void loop() {
  for (Lamp &l : lamps) if (millis() - l.since >= (l.lit ? l.on : l.off)) { l.since += l.lit ? l.on : l.off; l.lit = !l.lit; digitalWrite(l.pin, l.lit); }
  delay(3);
}`,
  ],
  [
    'a press that is short, and one that is long',
    `const byte KEY = 2; const unsigned long SETTLE = 20, LONG = 60;
int raw = 0, level = 0; unsigned long changed = 0, pressed = 0; int shorts = 0, longs = 0;
void setup() { Serial.begin(9600); pinMode(KEY, INPUT); }
void loop() {
  int now = digitalRead(KEY);
  if (now != raw) { raw = now; changed = millis(); }
  if (millis() - changed > SETTLE && raw != level) {
    level = raw;
    if (level == HIGH) pressed = millis();
    else if (millis() - pressed >= LONG) { longs++; Serial.print("long "); Serial.println(longs); }
    else { shorts++; Serial.print("short "); Serial.println(shorts); }
  }
  delay(2);
}`,
  ],
  [
    'edges counted by an interrupt, told now and then',
    `volatile unsigned int edges = 0; volatile unsigned long last = 0; unsigned int told = 0;
void count() { if (micros() - last > 1500) { edges++; last = micros(); } }
void setup() { Serial.begin(115200); attachInterrupt(digitalPinToInterrupt(2), count, CHANGE); }
void loop() {
  noInterrupts(); unsigned int now = edges; interrupts();
  if (now != told) { Serial.print(now - told); Serial.print(" of "); Serial.println(now); told = now; }
  delay(97);
}`,
  ],
  [
    'a knob that turns, by both of its contacts',
    `volatile long at = 0; const int8_t TABLE[16] = {0, -1, 1, 0, 1, 0, 0, -1, -1, 0, 0, 1, 0, 1, -1, 0}; volatile byte was = 0;
void turn() { byte now = digitalRead(2) << 1 | digitalRead(3); at += TABLE[was << 2 | now]; was = now; }
long told = 99;
void setup() { Serial.begin(9600); pinMode(2, INPUT_PULLUP); pinMode(3, INPUT_PULLUP); attachInterrupt(digitalPinToInterrupt(2), turn, CHANGE); attachInterrupt(digitalPinToInterrupt(3), turn, CHANGE); }
void loop() { if (at != told) { told = at; Serial.println(told); } delay(11); }`,
  ],
  [
    'a light that breathes',
    `const byte GLOW = 9; int level = 0, step = 5;
void setup() { pinMode(GLOW, OUTPUT); }
void loop() { analogWrite(GLOW, level); level += step; if (level <= 0 || level >= 255) { step = -step; level = constrain(level, 0, 255); } delay(4); }`,
  ],
  [
    'a light by a table of eyes',
    `const byte GAMMA[] PROGMEM = {0, 1, 3, 7, 14, 24, 38, 56, 79, 107, 140, 178, 222, 255};
void setup() { pinMode(9, OUTPUT); for (byte i = 0; i < sizeof(GAMMA); i++) { analogWrite(9, pgm_read_byte(&GAMMA[i])); delay(10); } }
void loop() { for (int i = sizeof(GAMMA) - 1; i >= 0; i--) { analogWrite(9, pgm_read_byte(GAMMA + i)); delayMicroseconds(2500); } }`,
  ],
  [
    'a row of lamps as a gauge',
    `const byte PINS[] = {4, 5, 6, 7, 8, 10}; const int N = sizeof PINS; int shown = -1;
void setup() { for (byte p : PINS) pinMode(p, OUTPUT); }
void loop() { int level = map(analogRead(0), 0, 1023, 0, N); if (level != shown) { shown = level; for (int i = 0; i < N; i++) digitalWrite(PINS[i], i < level ? HIGH : LOW); } delay(60); }`,
  ],
  [
    'a digit of seven segments',
    `const byte SEGMENTS[8] = {4, 5, 6, 7, 8, 9, 10, 11};
const byte SHAPES[16] = {0x3F, 0x06, 0x5B, 0x4F, 0x66, 0x6D, 0x7D, 0x07, 0x7F, 0x6F, 0x77, 0x7C, 0x39, 0x5E, 0x79, 0x71};
void show(byte digit, bool point = false) { byte shape = SHAPES[digit & 15] | (point << 7); for (byte i = 0; i < 8; i++) digitalWrite(SEGMENTS[i], bitRead(shape, i)); }
byte n = 0;
void setup() { for (byte s : SEGMENTS) pinMode(s, OUTPUT); }
void loop() { show(n, n % 3 == 0); n = (n + 1) % 16; delay(150); }`,
  ],
  [
    'dots and dashes',
    `const char *const LETTERS[26] = {".-", "-...", "-.-.", "-..", ".", "..-.", "--.", "....", "..", ".---", "-.-", ".-..", "--", "-.", "---", ".--.", "--.-", ".-.", "...", "-", "..-", "...-", ".--", "-..-", "-.--", "--.."};
const byte LAMP = 13; const unsigned int DOT = 12;
void send(const char *text) { for (; *text; text++) { if (*text == ' ') { delay(4 * DOT); continue; } for (const char *c = LETTERS[toupper(*text) - 'A']; *c; c++) { digitalWrite(LAMP, HIGH); delay(*c == '.' ? DOT : 3 * DOT); digitalWrite(LAMP, LOW); delay(DOT); } delay(2 * DOT); } }
void setup() { pinMode(LAMP, OUTPUT); }
void loop() { send("gate open"); delay(100); }`,
  ],
  [
    'a thermostat with room between on and off',
    `const byte HEATER = 7; bool on = false; int lows = 0;
int measure() { long sum = 0; for (byte i = 0; i < 4; i++) sum += analogRead(1); return sum / 4; }
void setup() { pinMode(HEATER, OUTPUT); Serial.begin(9600); }
void loop() { int t = measure(); bool want = on ? t < 600 : t < 400; if (want != on) { on = want; digitalWrite(HEATER, on); Serial.print(t); Serial.println(on ? " heats" : " rests"); } if (t < 200) lows++; delay(15); }`,
  ],
  [
    'readings in a ring, their mean and their middle',
    `const byte N = 5; int ring[N]; byte at = 0, have = 0;
int middle() { int s[N]; memcpy(s, ring, sizeof s); for (byte i = 1; i < have; i++) { int v = s[i]; byte j = i; while (j && s[j - 1] > v) { s[j] = s[j - 1]; j--; } s[j] = v; } return s[have / 2]; }
void setup() { Serial.begin(9600); }
void loop() { ring[at] = analogRead(2); at = (at + 1) % N; if (have < N) have++; long sum = 0; for (byte i = 0; i < have; i++) sum += ring[i]; Serial.print(sum / have); Serial.print(' '); Serial.println(middle()); delay(70); }`,
  ],
  [
    'bits pushed out by hand',
    `const byte DATA = 11, CLOCK = 12, LATCH = 10;
void push(byte value, bool lowFirst) { digitalWrite(LATCH, LOW); for (byte i = 0; i < 8; i++) { digitalWrite(DATA, bitRead(value, lowFirst ? i : 7 - i)); digitalWrite(CLOCK, HIGH); digitalWrite(CLOCK, LOW); } digitalWrite(LATCH, HIGH); }
byte lamp = 1;
void setup() { for (byte p = LATCH; p <= CLOCK; p++) pinMode(p, OUTPUT); }
void loop() { push(lamp, false); lamp = lamp << 1 | lamp >> 7; delay(120); }`,
  ],
  [
    'a matrix of keys looked at column by column',
    `const byte ROWS[2] = {2, 3}, COLS[3] = {4, 5, 6}; uint8_t state = 0;
void setup() { Serial.begin(9600); for (byte r : ROWS) pinMode(r, INPUT); for (byte c : COLS) { pinMode(c, OUTPUT); digitalWrite(c, HIGH); } }
void loop() { uint8_t now = 0; for (byte c = 0; c < 3; c++) { digitalWrite(COLS[c], LOW); for (byte r = 0; r < 2; r++) if (digitalRead(ROWS[r]) == HIGH) now |= 1 << (c * 2 + r); digitalWrite(COLS[c], HIGH); } if (now != state) { state = now; Serial.println(state, BIN); } delay(25); }`,
  ],
  [
    'a game of who is faster',
    `enum { WAIT, GO, DONE } phase = WAIT; unsigned long since = 0; int rounds = 0; unsigned int lfsr = 0xACE1;
unsigned int chance() { lfsr = (lfsr >> 1) ^ (-(lfsr & 1u) & 0xB400u); return lfsr & 0xFFFF; }
unsigned int pause = 50;
void setup() { Serial.begin(9600); pinMode(8, OUTPUT); pause = 30 + chance() % 60; }
void loop() {
  switch (phase) {
    case WAIT: if (millis() - since > pause) { digitalWrite(8, HIGH); since = millis(); phase = GO; } break;
    case GO: if (digitalRead(2)) { Serial.print(++rounds); Serial.print(':'); Serial.println(millis() - since); phase = DONE; } else if (millis() - since > 150) { Serial.println("slow"); phase = DONE; } break;
    case DONE: digitalWrite(8, LOW); if (!digitalRead(2)) { phase = WAIT; since = millis(); pause = 30 + chance() % 60; } break;
  }
  delay(1);
}`,
  ],
  [
    'a tune whose notes are counted from one',
    `const int NOTES[] = {0, 2, 4, 5, 7, 9, 11, 12}; int at = 0;
int hertz(int half) { double f = 440; for (int i = 0; i < half; i++) f *= 1.0594630943592953; return (int)(f + 0.5); }
void setup() { pinMode(6, OUTPUT); }
void loop() { if (at < 8) tone(6, hertz(NOTES[at])); else noTone(6); at = (at + 1) % 10; delay(45); }`,
  ],
  [
    'a lamp that goes out by itself',
    `const byte MOVES = 3, LAMP = 5; unsigned long until = 0; bool lit = false;
void setup() { pinMode(MOVES, INPUT); pinMode(LAMP, OUTPUT); Serial.begin(9600); }
void loop() { if (digitalRead(MOVES)) until = millis() + 100; bool want = (long)(until - millis()) > 0; if (want != lit) { lit = want; digitalWrite(LAMP, lit); Serial.println(millis() / 10); } delay(5); }`,
  ],
  [
    'jobs in a list, each when it is due',
    `typedef void (*Job)(); struct Task { Job job; unsigned int each; unsigned long next; };
int a = 0, b = 0; void blink() { digitalWrite(4, ++a & 1); } void say() { Serial.println(a); } void slow() { b += a; Serial.print("sum "); Serial.println(b); }
Task tasks[] = {{blink, 40, 0}, {say, 170, 10}, {slow, 310, 20}};
void setup() { Serial.begin(9600); pinMode(4, OUTPUT); }
void loop() { unsigned long now = millis(); for (Task &t : tasks) if ((long)(now - t.next) >= 0) { t.next += t.each; t.job(); } delay(2); }`,
  ],
  [
    'a number asked for letter by letter',
    `const char SENT[] = "L40\\nX\\nL250\\nO\\nL-3\\n"; char line[12]; byte used = 0; int level = 0;
void obey(const char *cmd) { switch (cmd[0]) { case 'L': { int v = atoi(cmd + 1); if (v < 0 || v > 100) { Serial.print("range "); Serial.println(v); return; } level = v; analogWrite(9, map(level, 0, 100, 0, 255)); break; } case 'O': level = 0; analogWrite(9, 0); break; default: Serial.print("what is "); Serial.println(cmd); } }
void take(char c) { if (c == '\\n') { line[used] = 0; obey(line); used = 0; } else if (used < sizeof(line) - 1) line[used++] = c; }
size_t next = 0;
void setup() { Serial.begin(9600); pinMode(9, OUTPUT); }
void loop() { if (next < strlen(SENT)) take(SENT[next++]); delay(13); }`,
  ],
  [
    'speeds that rise and fall in a ramp',
    `const byte PWM = 10, DIR = 12; int speed = 0, goal = 200; unsigned long since = 0;
void drive(int v) { digitalWrite(DIR, v >= 0); analogWrite(PWM, abs(v)); }
void setup() { pinMode(PWM, OUTPUT); pinMode(DIR, OUTPUT); }
void loop() { if (millis() - since >= 20) { since += 20; int by = constrain(goal - speed, -25, 25); speed += by; drive(speed); if (speed == goal) goal = -goal / 2; } }`,
  ],
  [
    'a controller of three parts',
    `float goal = 500, kp = 0.8f, ki = 0.05f, kd = 0.2f, sum = 0, last = 0; unsigned long before = 0;
int control(float is, float dt) { float e = goal - is; sum = constrain(sum + e * dt, -400, 400); float d = (e - last) / dt; last = e; return constrain((int)(kp * e + ki * sum + kd * d), 0, 255); }
void setup() { pinMode(9, OUTPUT); Serial.begin(9600); }
void loop() { unsigned long now = millis(); if (now - before >= 80) { float dt = (now - before) / 1000.0f; before = now; int out = control(analogRead(3), dt); analogWrite(9, out); Serial.println(out); } }`,
  ],
  [
    'classes for a button and a lamp',
    `class Button { byte pin; bool was = false; unsigned long at = 0; public: explicit Button(byte p) : pin(p) {} void begin() { pinMode(pin, INPUT); } bool pressed() { bool now = digitalRead(pin); bool edge = false; if (now != was && millis() - at > 15) { at = millis(); was = now; edge = now; } return edge; } };
class Lamp { const byte pin; bool on = false; public: Lamp(byte p) : pin(p) {} void begin() { pinMode(pin, OUTPUT); } void toggle() { on = !on; digitalWrite(pin, on); } bool lit() const { return on; } };
Button keys[] = {Button(2), Button(3)}; Lamp lamps[2] = {Lamp(5), Lamp(6)};
void setup() { for (auto &k : keys) k.begin(); for (auto &l : lamps) l.begin(); Serial.begin(9600); }
void loop() { for (byte i = 0; i < 2; i++) if (keys[i].pressed()) { lamps[i].toggle(); Serial.print(i); Serial.println(lamps[i].lit() ? " on" : " off"); } delay(4); }`,
  ],
  [
    'a frame of bytes put together and proven',
    `struct __attribute__((packed)) Frame { uint8_t start; uint8_t kind; int16_t value; uint8_t sum; };
uint8_t sumOf(const uint8_t *b, size_t n) { uint8_t s = 0; while (n--) s += *b++; return s; }
Frame made(uint8_t kind, int16_t value) { Frame f = {0xAA, kind, value, 0}; f.sum = sumOf((const uint8_t *)&f, 4); return f; }
bool sound(const Frame &f) { return f.start == 0xAA && f.sum == sumOf((const uint8_t *)&f, 4); }
int n = 0;
void setup() { Serial.begin(9600); }
void loop() { Frame f = made(n % 3, n * 411 - 300); if (n % 4 == 3) f.value++; const uint8_t *b = (const uint8_t *)&f; for (byte i = 0; i < 5; i++) { Serial.print(b[i], HEX); Serial.print(' '); } Serial.println(sound(f) ? "sound" : "broken"); n++; delay(140); }`,
  ],
  [
    'a clock of its own',
    `struct Clock { uint8_t h, m, s; bool tick() { if (++s < 60) return false; s = 0; if (++m < 60) return true; m = 0; h = (h + 1) % 24; return true; } };
Clock c = {23, 58, 50}; unsigned long next = 0; char text[9];
void setup() { Serial.begin(9600); }
void loop() { while ((long)(millis() - next) >= 0) { next += 10; if (c.tick()) { sprintf(text, "%02d:%02d:%02d", c.h, c.m, c.s); Serial.println(text); } } delay(7); }`,
  ],
  [
    'lamps behind fewer pins than lamps',
    `const byte PINS[3] = {5, 6, 7}; const byte PAIRS[6][2] = {{0, 1}, {1, 0}, {0, 2}, {2, 0}, {1, 2}, {2, 1}}; byte lamp = 0;
void light(byte n) { for (byte i = 0; i < 3; i++) pinMode(PINS[i], INPUT); const byte *p = PAIRS[n]; pinMode(PINS[p[0]], OUTPUT); digitalWrite(PINS[p[0]], HIGH); pinMode(PINS[p[1]], OUTPUT); digitalWrite(PINS[p[1]], LOW); }
void setup() {}
void loop() { light(lamp); lamp = (lamp + 1) % 6; delay(90); }`,
  ],
]
