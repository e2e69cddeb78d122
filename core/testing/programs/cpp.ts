import type { ProgramCase } from './case.ts'

/** Sketches for boards of several families. */
export const cppPrograms: readonly ProgramCase[] = [
  {
    title: 'a motor driver in a class of its own',
    plan: {
      mcu: 'nano-v3',
      parts: { DRIVE: 'tb6612', LEFT: 'dc-motor', RIGHT: 'dc-motor' },
      wires:
        'DRIVE.PWMA MCU.D5, DRIVE.AIN1 MCU.D7, DRIVE.AIN2 MCU.D8, DRIVE.PWMB MCU.D6, DRIVE.BIN1 MCU.D9, DRIVE.BIN2 MCU.D10, DRIVE.STBY MCU.D4',
    },
    language: 'cpp',
    files: [
      [
        'cart.ino',
        `class Wheel {
public:
  Wheel(int speedPin, int in1, int in2) : speed(speedPin), a(in1), b(in2) {}
  void begin() { pinMode(speed, OUTPUT); pinMode(a, OUTPUT); pinMode(b, OUTPUT); }
  void go(int v) { digitalWrite(a, v > 0); digitalWrite(b, v < 0); analogWrite(speed, abs(v)); }
private:
  int speed, a, b;
};
#define PWMA 5
#define AIN1 7
#define AIN2 8
#define PWMB 6
#define BIN1 9
#define BIN2 10
#define STBY 4
Wheel left(PWMA, AIN1, AIN2);
Wheel right(PWMB, BIN1, BIN2);
void setup() { left.begin(); right.begin(); pinMode(STBY, OUTPUT); digitalWrite(STBY, HIGH); }
void loop() { left.go(120); right.go(-120); }
`,
      ],
    ],
    changes: [
      ['AIN1 7\n#define AIN2 8', 'AIN1 8\n#define AIN2 7', ['exchanged DRIVE.AIN1 DRIVE.AIN2']],
      ['PWMA 5', 'PWMA 3', ['differs DRIVE.PWMA']],
      ['PWMA 5', 'PWMA 22', ['differs DRIVE.PWMA']],
      ['pinMode(STBY, OUTPUT); digitalWrite(STBY, HIGH);', '', ['missing DRIVE.STBY']],
      ['#define STBY 4', 'const uint8_t STBY = 4;', []],
      ['digitalWrite(a, v > 0)', 'digitalWrite(a, v > 0 ? HIGH : LOW)', []],
    ],
  },
  {
    title: 'shift registers clocked by the platform and by hand',
    plan: {
      mcu: 'uno-r3',
      parts: { OUTS: '74hc595', INS: '74hc165' },
      wires: 'OUTS.SER MCU.D11, OUTS.SRCLK MCU.D13, OUTS.RCLK MCU.D10, INS.PL MCU.D4, INS.CLK MCU.D5, INS.QH MCU.D6',
    },
    language: 'cpp',
    files: [
      [
        'panel.ino',
        `static const byte dataPin = 11, clockPin = 13, latchPin = 10;
enum InPins : byte { LOAD_PIN = 4, IN_CLOCK, IN_DATA };
void send(byte bits) {
  digitalWrite(latchPin, LOW);
  shiftOut(dataPin, clockPin, MSBFIRST, bits);
  digitalWrite(latchPin, HIGH);
}
byte fetch() {
  digitalWrite(LOAD_PIN, LOW); digitalWrite(LOAD_PIN, HIGH);
  byte bits = 0;
  for (byte i = 0; i < 8; i++) {
    bits = bits << 1 | digitalRead(IN_DATA);
    digitalWrite(IN_CLOCK, HIGH); digitalWrite(IN_CLOCK, LOW);
  }
  return bits;
}
void setup() {
  for (byte p : {dataPin, clockPin, latchPin}) pinMode(p, OUTPUT);
  pinMode(LOAD_PIN, OUTPUT); pinMode(IN_CLOCK, OUTPUT); pinMode(IN_DATA, INPUT);
}
void loop() { send(fetch()); }
`,
      ],
    ],
    changes: [
      ['dataPin = 11, clockPin = 13', 'dataPin = 13, clockPin = 11', ['exchanged OUTS.SER OUTS.SRCLK']],
      ['latchPin = 10', 'latchPin = 9', ['differs OUTS.RCLK']],
      ['pinMode(IN_DATA, INPUT)', 'pinMode(IN_DATA, OUTPUT)', ['mode INS.QH']],
      ['LOAD_PIN = 4', 'LOAD_PIN = 3', ['differs INS.PL', 'differs INS.CLK', 'missing INS.QH', 'mode INS.CLK']],
    ],
  },
  {
    title: 'a stepper by its coils, on a mega',
    plan: {
      mcu: 'mega-2560-r3',
      parts: { COIL: 'uln2003-board', SHAFT: 'stepper-28byj48', HOME: { part: 'limit-switch', title: 'Home switch' } },
      wires: 'COIL.IN1 MCU.D22, COIL.IN2 MCU.D23, COIL.IN3 MCU.D24, COIL.IN4 MCU.D25, HOME.C MCU.D30',
    },
    language: 'cpp',
    files: [
      [
        'turntable.ino',
        `const int FIRST = 22;
int coil[4];
const int HOME_SWITCH = 30;
void setup() {
  for (int i = 0; i < 4; i++) { coil[i] = FIRST + i; pinMode(FIRST + i, OUTPUT); }
  pinMode(HOME_SWITCH, INPUT_PULLUP);
}
void loop() {
  if (digitalRead(HOME_SWITCH) == LOW) return;
  for (int i = 0; i < 4; i++) digitalWrite(FIRST + i, i % 2);
}
`,
      ],
    ],
    changes: [
      [
        'FIRST = 22',
        'FIRST = 26',
        [
          'missing COIL.IN1',
          'missing COIL.IN2',
          'missing COIL.IN3',
          'missing COIL.IN4',
          'unknown',
          'unknown',
          'unknown',
          'unknown',
        ],
      ],
      ['HOME_SWITCH = 30', 'HOME_SWITCH = 31', ['differs HOME.C']],
      ['pinMode(HOME_SWITCH, INPUT_PULLUP)', 'pinMode(HOME_SWITCH, OUTPUT)', ['mode HOME.C']],
      ['FIRST + i, OUTPUT', 'FIRST + i + 1, OUTPUT', ['unknown']],
    ],
  },
  {
    title: 'a stepper driver by step and direction',
    plan: {
      mcu: 'uno-r3',
      parts: { AXIS: 'a4988', MOTOR: 'stepper-bipolar' },
      wires: 'AXIS.STEP MCU.D3, AXIS.DIR MCU.D4, AXIS.EN MCU.D8',
    },
    language: 'cpp',
    files: [
      [
        'slide.ino',
        `namespace pins {
constexpr uint8_t step = 3;
constexpr uint8_t dir = 4;
constexpr uint8_t enable = 8;
}
void setup() {
  pinMode(pins::step, OUTPUT);
  pinMode(pins::dir, OUTPUT);
  pinMode(pins::enable, OUTPUT);
  digitalWrite(pins::enable, LOW);
}
void loop() { digitalWrite(pins::step, HIGH); delayMicroseconds(3); digitalWrite(pins::step, LOW); digitalWrite(pins::dir, LOW); }
`,
      ],
    ],
    changes: [
      [
        'step = 3;\nconstexpr uint8_t dir = 4',
        'step = 4;\nconstexpr uint8_t dir = 3',
        ['exchanged AXIS.STEP AXIS.DIR'],
      ],
      ['enable = 8', 'enable = 7', ['differs AXIS.EN']],
      ['pinMode(pins::dir, OUTPUT)', 'pinMode(pins::dir, INPUT)', []],
    ],
  },
  {
    title: 'a radio and a card on one bus, each with its select',
    plan: {
      mcu: 'nano-v3',
      parts: { LINK: { part: 'nrf24l01', title: 'Link to the shed' }, CARD: { part: 'microsd', title: 'Log card' } },
      wires:
        'LINK.SCK MCU.D13, LINK.MISO MCU.D12, LINK.MOSI MCU.D11, LINK.CE MCU.D9, LINK.CSN MCU.D10, CARD.SCK MCU.D13, CARD.MISO MCU.D12, CARD.MOSI MCU.D11, CARD.CS MCU.D4',
    },
    language: 'cpp',
    files: [
      [
        'post.ino',
        `#include <SPI.h>
const int LINK_CE = 9, LINK_CSN = 10;
const int CARD_CS = 4;
Radio24 link(LINK_CE, LINK_CSN);
void setup() { SPI.begin(); link.begin(); CardReader.begin(CARD_CS); }
void loop() {}
`,
      ],
    ],
    changes: [
      ['LINK_CE = 9, LINK_CSN = 10', 'LINK_CE = 10, LINK_CSN = 9', ['exchanged LINK.CE LINK.CSN']],
      ['CARD_CS = 4', 'CARD_CS = 5', ['differs CARD.CS']],
      ['link(LINK_CE, LINK_CSN)', 'link(9, 10)', []],
      ['SPI.begin(); ', '', ['missing LINK CARD']],
    ],
  },
  {
    title: 'a display on SPI with more lines than a bus has',
    plan: {
      mcu: 'esp32-devkit-38',
      parts: { SCREEN: { part: 'st7735', title: 'Screen' }, KNOB: 'rotary-encoder' },
      wires:
        'SCREEN.SCK MCU.GPIO18, SCREEN.SDA MCU.GPIO23, SCREEN.CS MCU.GPIO5, SCREEN.A0 MCU.GPIO16, SCREEN.RESET MCU.GPIO17, KNOB.CLK MCU.GPIO25, KNOB.DT MCU.GPIO26, KNOB.SW MCU.GPIO27',
    },
    language: 'cpp',
    files: [
      [
        'menu.ino',
        `#define TFT_CS   5
#define TFT_DC   16
#define TFT_RST  17
#define ENC_CLK  25
#define ENC_DT   26
#define ENC_SW   27
Screen160 tft(TFT_CS, TFT_DC, TFT_RST);
volatile int at = 0;
void IRAM_ATTR turned() { at += digitalRead(ENC_DT) ? 1 : -1; }
void setup() {
  SPI.begin(18, -1, 23);
  pinMode(ENC_CLK, INPUT_PULLUP); pinMode(ENC_DT, INPUT_PULLUP); pinMode(ENC_SW, INPUT_PULLUP);
  attachInterrupt(ENC_CLK, turned, FALLING);
}
void loop() { if (!digitalRead(ENC_SW)) at = 0; }
`,
      ],
    ],
    changes: [
      ['TFT_DC   16\n#define TFT_RST  17', 'TFT_DC   17\n#define TFT_RST  16', ['exchanged SCREEN.A0 SCREEN.RESET']],
      ['ENC_CLK  25\n#define ENC_DT   26', 'ENC_CLK  26\n#define ENC_DT   25', ['exchanged KNOB.CLK KNOB.DT']],
      ['SPI.begin(18, -1, 23)', 'SPI.begin(14, -1, 13)', ['bus SCREEN']],
      ['ENC_SW   27', 'ENC_SW   34', ['differs KNOB.SW']],
      ['pinMode(ENC_DT, INPUT_PULLUP)', 'pinMode(ENC_DT, OUTPUT)', ['mode KNOB.DT']],
    ],
  },
  {
    title: 'sensors on one wire each, one of them several times',
    plan: {
      mcu: 'esp8266-d1-mini',
      parts: {
        AIR: { part: 'dht22', title: 'Air in the cellar' },
        TANK: { part: 'ds18b20-probe', title: 'Tank' },
        PUMP: { part: 'relay-1', title: 'Pump relay' },
      },
      wires: 'AIR.DATA MCU.GPIO14, TANK.DQ MCU.GPIO12, PUMP.IN MCU.GPIO5',
    },
    language: 'cpp',
    files: [
      [
        'cellar.ino',
        `#define AIR_PIN D5
#define TANK_PIN D6
#define PUMP_RELAY D1
DHT air(AIR_PIN, DHT22);
OneWire wire(TANK_PIN);
Thermometers tank(&wire);
void setup() { pinMode(PUMP_RELAY, OUTPUT); digitalWrite(PUMP_RELAY, HIGH); air.begin(); tank.begin(); }
void loop() { }
`,
      ],
    ],
    changes: [
      ['AIR_PIN D5\n#define TANK_PIN D6', 'AIR_PIN D6\n#define TANK_PIN D5', ['exchanged AIR.DATA TANK.DQ']],
      ['PUMP_RELAY D1', 'PUMP_RELAY 1', ['numbering PUMP.IN']],
      ['PUMP_RELAY D1', 'PUMP_RELAY D2', ['differs PUMP.IN']],
      ['AIR_PIN D5', 'AIR_PIN 14', []],
    ],
  },
  {
    title: 'two serial lines by hardware and by software',
    plan: {
      mcu: 'mega-2560-r3',
      parts: { PHONE: { part: 'hc-05', title: 'Phone' }, SONG: { part: 'dfplayer', title: 'Songs' } },
      wires: 'PHONE.TXD MCU.D19, PHONE.RXD MCU.D18, SONG.TX MCU.D17, SONG.RX MCU.D16',
    },
    language: 'cpp',
    files: [
      [
        'jukebox.ino',
        `HardwareSerial &phone = Serial1;
HardwareSerial &song = Serial2;
void setup() { Serial.begin(115200); Serial1.begin(9600); Serial2.begin(9600); }
void loop() { if (Serial1.available()) Serial2.write(Serial1.read()); }
`,
      ],
    ],
    changes: [
      ['Serial2.begin(9600)', 'Serial3.begin(9600)', ['bus SONG']],
      ['Serial1.begin(9600)', 'Serial1.begin(57600)', ['baud PHONE']],
      ['Serial2.begin(9600)', 'Serial2.begin(115200)', ['baud SONG']],
    ],
  },
  {
    title: 'a serial line by software on pins of choice',
    plan: {
      mcu: 'uno-r3',
      parts: { WHERE: { part: 'gps-uart', title: 'Where we are' } },
      wires: 'WHERE.TX MCU.D4, WHERE.RX MCU.D3',
    },
    language: 'cpp',
    files: [
      [
        'walk.ino',
        `#include <SoftwareSerial.h>
#define RX_PIN 4
#define TX_PIN 3
SoftwareSerial where(RX_PIN, TX_PIN);
void setup() { Serial.begin(9600); where.begin(9600); }
void loop() { while (where.available()) Serial.write(where.read()); }
`,
      ],
    ],
    changes: [
      ['where(RX_PIN, TX_PIN)', 'where(TX_PIN, RX_PIN)', ['exchanged WHERE']],
      ['RX_PIN 4', 'RX_PIN 5', ['bus WHERE']],
      ['where.begin(9600)', 'where.begin(4800)', ['baud WHERE']],
    ],
  },
  {
    title: 'colours, channels and a table of structures',
    plan: {
      mcu: 'esp32-devkit-30',
      parts: {
        GLOW: { part: 'rgb-led', title: 'Mood light' },
        PLANT: { part: 'soil-capacitive', title: 'Plant' },
        SUN: { part: 'ldr', title: 'Sun' },
      },
      wires: 'GLOW.R MCU.GPIO25, GLOW.G MCU.GPIO26, GLOW.B MCU.GPIO27, PLANT.AOUT MCU.GPIO34, SUN.2 MCU.GPIO35',
    },
    language: 'cpp',
    files: [
      [
        'mood.ino',
        `struct Channel { const char *name; uint8_t pin; };
const Channel channels[] = { {"red", 25}, {"green", 26}, {"blue", 27} };
const uint8_t PLANT_PIN = 34, SUN_PIN = 35;
void setup() {
  for (const Channel &c : channels) ledcAttach(c.pin, 5000, 8);
}
void loop() {
  int wet = analogRead(PLANT_PIN);
  int sun = analogRead(SUN_PIN);
  ledcWrite(channels[0].pin, wet >> 4);
}
`,
      ],
    ],
    changes: [
      ['PLANT_PIN = 34, SUN_PIN = 35', 'PLANT_PIN = 35, SUN_PIN = 34', ['exchanged PLANT.AOUT SUN.2']],
      ['SUN_PIN = 35', 'SUN_PIN = 33', ['differs SUN.2']],
      ['{"blue", 27}', '{"blue", 14}', ['unknown', 'missing GLOW.B']],
      ['ledcAttach(c.pin, 5000, 8)', 'pinMode(c.pin, OUTPUT)', []],
    ],
  },
  {
    title: 'several files with pins in a header and externs',
    plan: {
      mcu: 'pico',
      parts: {
        BELL: { part: 'buzzer-passive', title: 'Bell' },
        DOOR: { part: 'reed-switch', title: 'Door contact' },
        EYE: { part: 'hc-sr501', title: 'Hall eye' },
      },
      wires: 'BELL.+ MCU.GP10, DOOR.1 MCU.GP11, DOOR.2 MCU.GND, EYE.OUT MCU.GP12',
    },
    language: 'cpp',
    files: [
      [
        'hall.ino',
        `#include "config.h"\nvoid setup() { beginDoor(); pinMode(EYE_OUT, INPUT); }\nvoid loop() { if (digitalRead(EYE_OUT) || doorOpen()) tone(BELL_PIN, 880, 100); }\n`,
      ],
      [
        'config.h',
        `#ifndef CONFIG_H\n#define CONFIG_H\nextern const int DOOR_CONTACT;\nconst int BELL_PIN = 10;\n#define EYE_OUT 12\nvoid beginDoor();\nbool doorOpen();\n#endif\n`,
      ],
      [
        'door.cpp',
        `#include "config.h"\nconst int DOOR_CONTACT = 11;\nvoid beginDoor() { pinMode(DOOR_CONTACT, INPUT_PULLUP); }\nbool doorOpen() { return digitalRead(DOOR_CONTACT) == HIGH; }\n`,
      ],
    ],
    changes: [
      ['DOOR_CONTACT = 11', 'DOOR_CONTACT = 13', ['differs DOOR.1']],
      ['BELL_PIN = 10;\n#define EYE_OUT 12', 'BELL_PIN = 12;\n#define EYE_OUT 10', ['exchanged EYE.OUT BELL.+']],
      ['DOOR_CONTACT, INPUT_PULLUP', 'DOOR_CONTACT, INPUT', ['pull DOOR.1']],
      ['pinMode(EYE_OUT, INPUT)', 'pinMode(EYE_OUT, OUTPUT)', ['mode EYE.OUT']],
      ['DOOR_CONTACT = 11', 'DOOR_CONTACT = 29', ['differs DOOR.1']],
    ],
  },
  {
    title: 'an interrupt line by its number and a flow meter',
    plan: {
      mcu: 'leonardo-32u4',
      parts: { FLOW: { part: 'flow-yf-s201', title: 'Water meter' }, VALVE: { part: 'relay-1', title: 'Valve' } },
      wires: 'FLOW.OUT MCU.D7, VALVE.IN MCU.D5',
    },
    language: 'cpp',
    files: [
      [
        'garden.ino',
        `const byte flowPin = 7, valvePin = 5;
volatile unsigned long drops;
void drop() { drops++; }
void setup() {
  pinMode(flowPin, INPUT_PULLUP);
  pinMode(valvePin, OUTPUT);
  attachInterrupt(digitalPinToInterrupt(flowPin), drop, RISING);
}
void loop() { digitalWrite(valvePin, drops > 4500 ? LOW : HIGH); }
`,
      ],
    ],
    changes: [
      ['flowPin = 7, valvePin = 5', 'flowPin = 5, valvePin = 7', ['exchanged FLOW.OUT VALVE.IN']],
      ['digitalPinToInterrupt(flowPin)', '4', []],
      ['digitalPinToInterrupt(flowPin)', '0', ['unknown']],
      ['valvePin = 5', 'valvePin = 6', ['differs VALVE.IN']],
    ],
  },
  {
    title: 'ports of the chip by their names',
    plan: {
      mcu: 'stm32f103-bluepill',
      parts: {
        LAMP: { part: 'led', title: 'Sign' },
        R1: 'resistor',
        KEY: { part: 'button', title: 'Call' },
        LEVEL: { part: 'potentiometer', title: 'Level' },
      },
      wires: 'LAMP.A R1.1, R1.2 MCU.PB12, LAMP.K MCU.GND, KEY.1 MCU.PB13, KEY.2 MCU.GND, LEVEL.W MCU.PA1',
    },
    language: 'cpp',
    files: [
      [
        'sign.ino',
        `#define SIGN_LAMP PB12
#define CALL_KEY PB13
#define LEVEL_POT PA1
void setup() { pinMode(SIGN_LAMP, OUTPUT); pinMode(CALL_KEY, INPUT_PULLUP); pinMode(LEVEL_POT, INPUT_ANALOG); }
void loop() { digitalWrite(SIGN_LAMP, digitalRead(CALL_KEY) || analogRead(LEVEL_POT) > 2000); }
`,
      ],
    ],
    changes: [
      ['SIGN_LAMP PB12\n#define CALL_KEY PB13', 'SIGN_LAMP PB13\n#define CALL_KEY PB12', ['exchanged LAMP.A KEY.1']],
      ['LEVEL_POT PA1', 'LEVEL_POT PA2', ['differs LEVEL.W']],
      ['LEVEL_POT PA1', 'LEVEL_POT PA18', ['differs LEVEL.W']],
      ['CALL_KEY, INPUT_PULLUP', 'CALL_KEY, INPUT', ['pull KEY.1']],
    ],
  },
  {
    title: 'two I2C buses with chosen pins and an expander',
    plan: {
      mcu: 'esp32-s3-devkitc-1',
      parts: { MORE: 'mcp23017', POWER: { part: 'ina219', title: 'Solar power' }, CLOCK: 'ds3231' },
      wires:
        'MORE.SDA MCU.GPIO4, MORE.SCL MCU.GPIO5, POWER.SDA MCU.GPIO17, POWER.SCL MCU.GPIO18, CLOCK.SDA MCU.GPIO17, CLOCK.SCL MCU.GPIO18',
    },
    language: 'cpp',
    files: [
      [
        'solar.ino',
        `TwoWire outside = TwoWire(1);
const int OUT_SDA = 17, OUT_SCL = 18;
Expander16 more;
Meter219 power(0x40);
void setup() {
  Wire.begin(4, 5);
  outside.begin(OUT_SDA, OUT_SCL, 400000);
  more.begin_I2C(0x20, &Wire);
  power.begin(&outside);
}
void loop() {}
`,
      ],
    ],
    changes: [
      ['Wire.begin(4, 5)', 'Wire.begin(5, 4)', ['exchanged MORE']],
      ['OUT_SDA = 17, OUT_SCL = 18', 'OUT_SDA = 18, OUT_SCL = 17', ['exchanged POWER CLOCK']],
      ['OUT_SDA = 17', 'OUT_SDA = 15', ['bus POWER CLOCK']],
      ['power(0x40)', 'power(0x41)', ['address POWER']],
    ],
  },
  {
    title: 'seven segments from an array of characters and a switch',
    plan: {
      mcu: 'uno-r3',
      parts: { DIGIT: 'seven-segment', MODE: { part: 'slide-switch', title: 'Mode' } },
      wires:
        'DIGIT.A MCU.D2, DIGIT.B MCU.D3, DIGIT.C MCU.D4, DIGIT.D MCU.D5, DIGIT.E MCU.D6, DIGIT.F MCU.D7, DIGIT.G MCU.D8, MODE.C MCU.D12',
    },
    language: 'cpp',
    files: [
      [
        'dice.ino',
        `const byte segments[] = { 2, 3, 4, 5, 6, 7, 8 };
const int count = sizeof(segments) / sizeof(segments[0]);
const int MODE_SWITCH = 12;
void setup() {
  for (int i = 0; i < count; ++i) pinMode(segments[i], OUTPUT);
  pinMode(MODE_SWITCH, INPUT_PULLUP);
}
void loop() {
  switch (digitalRead(MODE_SWITCH)) { case LOW: digitalWrite(segments[6], HIGH); break; default: digitalWrite(segments[6], LOW); }
}
`,
      ],
    ],
    changes: [
      ['{ 2, 3, 4, 5, 6, 7, 8 }', '{ 3, 2, 4, 5, 6, 7, 8 }', ['exchanged DIGIT.A DIGIT.B']],
      ['{ 2, 3, 4, 5, 6, 7, 8 }', '{ 2, 3, 4, 5, 6, 7, 9 }', ['unknown', 'missing DIGIT.G']],
      ['MODE_SWITCH = 12', 'MODE_SWITCH = 11', ['differs MODE.C']],
    ],
  },
  {
    title: 'a joystick, a strip and a remote control',
    plan: {
      mcu: 'teensy-4-1',
      parts: { STICK: 'joystick', STRIP: { part: 'ws2812-strip', title: 'Strip' }, REMOTE: 'ir-receiver' },
      wires: 'STICK.VRX MCU.D14, STICK.VRY MCU.D15, STICK.SW MCU.D16, STRIP.DIN MCU.D2, REMOTE.OUT MCU.D3',
    },
    language: 'cpp',
    files: [
      [
        'pad.ino',
        `const int VRX = A0, VRY = A1, SW = 16;
constexpr int STRIP_PIN = 2;
constexpr int IR_PIN = STRIP_PIN + 1;
Pixels strip(60, STRIP_PIN, GRB);
Remote remote(IR_PIN);
void setup() { pinMode(SW, INPUT_PULLUP); strip.begin(); }
void loop() { int x = analogRead(VRX), y = analogRead(VRY); if (!digitalRead(SW)) strip.show(); }
`,
      ],
    ],
    changes: [
      ['VRX = A0, VRY = A1', 'VRX = A1, VRY = A0', ['exchanged STICK.VRX STICK.VRY']],
      ['SW = 16', 'SW = 17', ['differs STICK.SW']],
      ['STRIP_PIN = 2;', 'STRIP_PIN = 6;', ['differs STRIP.DIN', 'differs REMOTE.OUT']],
      ['VRX = A0', 'VRX = 14', []],
    ],
  },
  {
    title: 'a pointer, a lambda and a function that takes a pin',
    plan: {
      mcu: 'xiao-samd21',
      parts: {
        TOUCH: { part: 'ttp223', title: 'Touch pad' },
        SSR1: { part: 'ssr', title: 'Heater' },
        TEMP: { part: 'ntc', title: 'Bath' },
      },
      wires: 'TOUCH.IO MCU.D2, SSR1.+ MCU.D3, TEMP.2 MCU.D0',
    },
    language: 'cpp',
    files: [
      [
        'bath.ino',
        `const uint8_t TOUCH_PAD = D2;
const uint8_t HEATER = D3;
const uint8_t BATH_NTC = A0;
void out(uint8_t pin, bool on) { pinMode(pin, OUTPUT); digitalWrite(pin, on); }
float warm(uint8_t channel) { return analogRead(channel) * 3.3 / 1023; }
void setup() { pinMode(TOUCH_PAD, INPUT); out(HEATER, false); }
void loop() { auto hot = []() { return warm(BATH_NTC) > 1.2; }; out(HEATER, digitalRead(TOUCH_PAD) && !hot()); }
`,
      ],
    ],
    changes: [
      [
        'TOUCH_PAD = D2;\nconst uint8_t HEATER = D3',
        'TOUCH_PAD = D3;\nconst uint8_t HEATER = D2',
        ['exchanged TOUCH.IO SSR1.+'],
      ],
      ['HEATER = D3', 'HEATER = D4', ['differs SSR1.+']],
      ['pinMode(TOUCH_PAD, INPUT)', 'pinMode(TOUCH_PAD, OUTPUT)', ['mode TOUCH.IO']],
    ],
  },
  {
    title: 'relays in a row, low to switch on, from a header of the board',
    plan: {
      mcu: 'nucleo-f446re',
      parts: { BANK: { part: 'relay-4', title: 'Pumps' } },
      wires: 'BANK.IN1 MCU.PA10, BANK.IN2 MCU.PB3, BANK.IN3 MCU.PB5, BANK.IN4 MCU.PB4',
    },
    language: 'cpp',
    files: [
      [
        'pumps.ino',
        `static const uint32_t relays[] = {PA10, PB3, PB5, PB4};
void setup() { for (auto r : relays) { pinMode(r, OUTPUT); digitalWrite(r, HIGH); } }
void loop() { digitalWrite(relays[2], LOW); }
`,
      ],
    ],
    changes: [
      ['{PA10, PB3, PB5, PB4}', '{PA10, PB5, PB3, PB4}', []],
      ['PB4}', 'PB6}', ['unknown', 'missing BANK.IN4']],
      ['PB4}', 'PE20}', ['no-pin', 'missing BANK.IN4']],
    ],
  },
]
