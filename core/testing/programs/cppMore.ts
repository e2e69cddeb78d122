import type { ProgramCase } from './case.ts'

/** Sketches whose pins are harder to follow: macros of macros, templates, inheritance, tables of tables. */
export const cppMorePrograms: readonly ProgramCase[] = [
  {
    title: 'macros made of macros, and a choice by the board',
    plan: {
      mcu: 'pro-mini-3v3',
      parts: {
        TICK: { part: 'led', title: 'Tick' },
        R1: 'resistor',
        CUP: { part: 'reed-switch', title: 'Wind cup' },
        BATT: { part: 'potentiometer', title: 'Trim' },
      },
      wires: 'TICK.A R1.1, R1.2 MCU.D6, TICK.K MCU.GND, CUP.1 MCU.D3, CUP.2 MCU.GND, BATT.W MCU.A1',
    },
    language: 'cpp',
    files: [
      [
        'wind.ino',
        `#define BASE 3
#define OFFSET(n) (BASE + (n))
#define CUP OFFSET(0)
#define TICK OFFSET(3)
#ifdef ESP8266
  #define TRIM A0
#else
  #define TRIM A1
#endif
void setup() {
  pinMode(CUP, INPUT_PULLUP);
  pinMode(TICK, OUTPUT);
}
void loop() { digitalWrite(TICK, digitalRead(CUP)); analogRead(TRIM); }
`,
      ],
    ],
    changes: [
      ['TICK OFFSET(3)', 'TICK OFFSET(2)', ['differs TICK.A']],
      ['BASE 3', 'BASE 4', ['differs CUP.1', 'differs TICK.A']],
      ['#define TRIM A1', '#define TRIM A2', ['differs BATT.W']],
      ['#define TRIM A0', '#define TRIM A7', []],
      ['CUP OFFSET(0)\n#define TICK OFFSET(3)', 'CUP OFFSET(3)\n#define TICK OFFSET(0)', ['exchanged CUP.1 TICK.A']],
    ],
  },
  {
    title: 'a base class, a derived one and pins through both constructors',
    plan: {
      mcu: 'esp32-devkit-38',
      parts: {
        PUMP: { part: 'relay-1', title: 'Pump' },
        HEAT: { part: 'relay-1', title: 'Heat' },
        LEVEL: { part: 'limit-switch', title: 'Level' },
      },
      wires: 'PUMP.IN MCU.GPIO25, HEAT.IN MCU.GPIO26, LEVEL.C MCU.GPIO27',
    },
    language: 'cpp',
    files: [
      [
        'kettle.ino',
        `#include "output.h"
LowOutput pump(25);
LowOutput heat{26};
const int LEVEL = 27;
void setup() { pump.begin(); heat.begin(); pinMode(LEVEL, INPUT_PULLUP); }
void loop() { pump.set(digitalRead(LEVEL)); heat.set(false); }
`,
      ],
      [
        'output.h',
        `class Output {
public:
  explicit Output(int pin) { this->pin = pin; }
  void begin() { pinMode(pin, OUTPUT); }
protected:
  int pin;
};
class LowOutput : public Output {
public:
  explicit LowOutput(int p) : Output(p) {}
  void set(bool on) { digitalWrite(pin, on ? LOW : HIGH); }
};
`,
      ],
    ],
    changes: [
      ['pump(25);\nLowOutput heat{26}', 'pump(26);\nLowOutput heat{25}', ['exchanged PUMP.IN HEAT.IN']],
      ['pump(25)', 'pump(33)', ['differs PUMP.IN']],
      ['LEVEL = 27', 'LEVEL = 14', ['differs LEVEL.C']],
      ['pinMode(LEVEL, INPUT_PULLUP)', 'pinMode(LEVEL, INPUT)', ['pull LEVEL.C']],
    ],
  },
  {
    title: 'a choice of sixteen by address lines and one converter',
    plan: {
      mcu: 'mega-2560-r3',
      parts: { SCAN: { part: 'mux-4067', title: 'Bed scanner' } },
      wires: 'SCAN.S0 MCU.D22, SCAN.S1 MCU.D23, SCAN.S2 MCU.D24, SCAN.S3 MCU.D25, SCAN.SIG MCU.A0',
    },
    language: 'cpp',
    files: [
      [
        'beds.ino',
        `const byte select[4] = {22, 23, 24, 25};
const byte SIG = A0;
int bed(byte number) {
  for (byte bit = 0; bit < 4; bit++) digitalWrite(select[bit], bitRead(number, bit));
  return analogRead(SIG);
}
void setup() { for (byte pin : select) pinMode(pin, OUTPUT); }
void loop() { for (byte n = 0; n < 16; n++) bed(n); }
`,
      ],
    ],
    changes: [
      ['{22, 23, 24, 25}', '{22, 24, 23, 25}', ['exchanged SCAN.S1 SCAN.S2']],
      ['{22, 23, 24, 25}', '{22, 23, 24, 26}', ['unknown', 'missing SCAN.S3']],
      ['SIG = A0', 'SIG = A1', ['differs SCAN.SIG']],
    ],
  },
  {
    title: 'a template that takes its pin as a number',
    plan: {
      mcu: 'uno-r3',
      parts: { EYE: { part: 'obstacle-ir', title: 'Eye' }, BELL: { part: 'buzzer-active', title: 'Bell' } },
      wires: 'EYE.OUT MCU.D2, BELL.+ MCU.D3',
    },
    language: 'cpp',
    files: [
      [
        'shop.ino',
        `template <int PIN> class Pin {
public:
  void out() { pinMode(PIN, OUTPUT); }
  void in() { pinMode(PIN, INPUT); }
  bool read() { return digitalRead(PIN); }
  void write(bool v) { digitalWrite(PIN, v); }
};
Pin<2> eye;
Pin<3> bell;
void setup() { eye.in(); bell.out(); }
void loop() { bell.write(!eye.read()); }
`,
      ],
    ],
    changes: [
      ['Pin<2> eye;\nPin<3> bell', 'Pin<3> eye;\nPin<2> bell', ['exchanged EYE.OUT BELL.+']],
      ['Pin<3> bell', 'Pin<4> bell', ['differs BELL.+']],
      ['eye.in()', 'eye.out()', ['mode EYE.OUT']],
    ],
  },
  {
    title: 'an array of structures of arrays and a function with a default',
    plan: {
      mcu: 'mega-2560-r3',
      parts: { NORTH: { part: 'hc-sr04', title: 'North' }, SOUTH: { part: 'hc-sr04', title: 'South' } },
      wires: 'NORTH.TRIG MCU.D30, NORTH.ECHO MCU.D31, SOUTH.TRIG MCU.D32, SOUTH.ECHO MCU.D33',
    },
    language: 'cpp',
    files: [
      [
        'rim.ino',
        `typedef struct { byte trig; byte echo; } Ranger;
Ranger north = { .trig = 30, .echo = 31 };
Ranger south = { .trig = 32, .echo = 33 };
Ranger *all[] = { &north, &south };
long ping(const Ranger &r, unsigned long wait = 25000UL) {
  digitalWrite(r.trig, HIGH); delayMicroseconds(10); digitalWrite(r.trig, LOW);
  return pulseIn(r.echo, HIGH, wait);
}
void setup() {
  pinMode(north.trig, OUTPUT); pinMode(south.trig, OUTPUT);
  pinMode(north.echo, INPUT); pinMode(south.echo, INPUT);
}
void loop() { ping(north); ping(south); }
`,
      ],
    ],
    changes: [
      ['{ .trig = 30, .echo = 31 }', '{ .trig = 31, .echo = 30 }', ['exchanged NORTH.TRIG NORTH.ECHO']],
      ['.echo = 33', '.echo = 35', ['differs SOUTH.ECHO']],
      ['pinMode(north.echo, INPUT)', 'pinMode(north.echo, OUTPUT)', ['mode NORTH.ECHO']],
      ['.trig = 32', '.trig = 34', ['differs SOUTH.TRIG']],
    ],
  },
  {
    title: 'a network chip, a clock and a temperature on the buses of a small board',
    plan: {
      mcu: 'nucleo-f446re',
      parts: { NET: { part: 'w5500', title: 'Net' }, TIME: { part: 'ds3231', title: 'Time' } },
      wires:
        'NET.SCLK MCU.PA5, NET.MISO MCU.PA6, NET.MOSI MCU.PA7, NET.SCSN MCU.PB6, NET.RST MCU.PA9, TIME.SDA MCU.PB9, TIME.SCL MCU.PB8',
    },
    language: 'cpp',
    files: [
      [
        'clock.ino',
        `#include <SPI.h>
#include <Wire.h>
const int NET_CS = PB6;
const int NET_RST = PA9;
void setup() {
  pinMode(NET_RST, OUTPUT);
  digitalWrite(NET_RST, HIGH);
  NetChip.init(NET_CS);
  SPI.begin();
  Wire.begin();
  Wire.beginTransmission(0x68);
  Wire.endTransmission();
}
void loop() {}
`,
      ],
    ],
    changes: [
      [
        'NET_CS = PB6;\nconst int NET_RST = PA9',
        'NET_CS = PA9;\nconst int NET_RST = PB6',
        ['exchanged NET.RST NET.SCSN'],
      ],
      ['NET_RST = PA9', 'NET_RST = PA8', ['differs NET.RST']],
      ['beginTransmission(0x68)', 'beginTransmission(0x6F)', ['address']],
    ],
  },
  {
    title: 'a method with its pin between angles',
    plan: {
      mcu: 'esp32-devkit-30',
      parts: { GLOW: { part: 'ws2812-strip', title: 'Glow' }, KEY: { part: 'button', title: 'Key' } },
      wires: 'GLOW.DIN MCU.GPIO13, KEY.1 MCU.GPIO14, KEY.2 MCU.GND',
    },
    language: 'cpp',
    files: [
      [
        'glow.ino',
        `#define GLOW_PIN 13
const int KEY = 14;
Dot dots[30];
void setup() { Strips.addLeds<KIND, GLOW_PIN, ORDER>(dots, 30); pinMode(KEY, INPUT_PULLUP); }
void loop() { if (!digitalRead(KEY)) Strips.show(); }
`,
      ],
    ],
    changes: [
      ['GLOW_PIN 13', 'GLOW_PIN 12', ['differs GLOW.DIN']],
      ['<KIND, GLOW_PIN, ORDER>', '<KIND, 13, ORDER>', []],
      ['KEY = 14', 'KEY = 27', ['differs KEY.1']],
    ],
  },
]
