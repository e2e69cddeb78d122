import type { Short } from '../plans.ts'
import type { ProgramCase } from './case.ts'

const gatePlan: Short = {
  mcu: 'uno-r3',
  parts: {
    RED: { part: 'led', title: 'Stop lamp' },
    GREEN: { part: 'led', title: 'Go lamp', options: { colour: 'green' } },
    R1: 'resistor',
    R2: 'resistor',
    GATE: { part: 'button', title: 'Gate switch' },
    FLAP: { part: 'servo-sg90', title: 'Flap' },
    EYE: { part: 'hc-sr04', title: 'Distance to the gate' },
    LIGHT: { part: 'ldr', title: 'Daylight' },
  },
  wires:
    'RED.A R1.1, R1.2 MCU.D4, RED.K MCU.GND, GREEN.A R2.1, R2.2 MCU.D5, GREEN.K MCU.GND, GATE.1 MCU.D2, GATE.2 MCU.GND, FLAP.SIG MCU.D9, EYE.TRIG MCU.D7, EYE.ECHO MCU.D8, LIGHT.2 MCU.A0',
}

const keypadPlan: Short = {
  mcu: 'mega-2560-r3',
  parts: { KEYS: 'keypad-4x3', LCD: 'lcd-parallel', BUZZ: 'buzzer-active', LOCK: 'relay-1' },
  wires:
    'KEYS.R1 MCU.D22, KEYS.R2 MCU.D24, KEYS.R3 MCU.D26, KEYS.R4 MCU.D28, KEYS.C1 MCU.D30, KEYS.C2 MCU.D32, KEYS.C3 MCU.D34, LCD.RS MCU.D12, LCD.E MCU.D11, LCD.D4 MCU.D5, LCD.D5 MCU.D4, LCD.D6 MCU.D3, LCD.D7 MCU.D2, BUZZ.+ MCU.D8, LOCK.IN MCU.D9',
}

const hivePlan: Short = {
  mcu: 'esp32-devkit-30',
  parts: {
    BROOD: { part: 'bme280', title: 'Brood climate' },
    SHOW: { part: 'ssd1306', title: 'Display' },
    SCALE: { part: 'hx711', title: 'Hive scale' },
    GPS: { part: 'gps-uart', title: 'Where it stands' },
    VENT: { part: 'nmos', title: 'Vent fan switch' },
    LID: { part: 'button', title: 'Lid switch' },
    LORA: { part: 'sx1276', title: 'Radio' },
  },
  wires:
    'BROOD.SDA MCU.GPIO25, BROOD.SCL MCU.GPIO26, SHOW.SDA MCU.GPIO25, SHOW.SCL MCU.GPIO26, SCALE.DT MCU.GPIO34, SCALE.SCK MCU.GPIO32, GPS.TX MCU.GPIO16, GPS.RX MCU.GPIO17, VENT.G MCU.GPIO4, LID.1 MCU.GPIO14, LID.2 MCU.GND, LORA.SCK MCU.GPIO18, LORA.MISO MCU.GPIO19, LORA.MOSI MCU.GPIO23, LORA.NSS MCU.GPIO5, LORA.RESET MCU.GPIO27, LORA.DIO0 MCU.GPIO33',
}

const picoPlan: Short = {
  mcu: 'pico',
  parts: {
    LAMP: { part: 'led', title: 'Ready lamp' },
    R1: 'resistor',
    KEY: { part: 'button', title: 'Start key' },
    KNOB: { part: 'potentiometer', title: 'Speed knob' },
    ARM: { part: 'servo-sg90', title: 'Arm' },
    SHOW: { part: 'ssd1306', title: 'Display' },
    STRIP: { part: 'ws2812-strip', title: 'Light strip' },
  },
  wires:
    'LAMP.A R1.1, R1.2 MCU.GP16, LAMP.K MCU.GND, KEY.1 MCU.GP17, KEY.2 MCU.GND, KNOB.W MCU.GP26, ARM.SIG MCU.GP18, SHOW.SDA MCU.GP4, SHOW.SCL MCU.GP5, STRIP.DIN MCU.GP22',
}

const kilnPlan: Short = {
  boards: { PI: { board: 'pi-40' } },
  parts: {
    HOT: { part: 'led', title: 'Kiln is hot' },
    R1: 'resistor',
    CONE: { part: 'button', title: 'Cone has bent' },
    FAN: { part: 'relay-1', title: 'Fan relay' },
    SHED: { part: 'bme280', title: 'Shed climate' },
    BELL: { part: 'buzzer-active', title: 'Bell' },
  },
  wires:
    'HOT.A R1.1, R1.2 PI.GPIO27, HOT.K PI.GND, CONE.1 PI.GPIO17, CONE.2 PI.GND, FAN.IN PI.GPIO23, SHED.SDA PI.GPIO2, SHED.SCL PI.GPIO3, BELL.+ PI.GPIO24',
}

/** One of each kind, with many changes. */
export const firstPrograms: readonly ProgramCase[] = [
  {
    title: 'constants of every kind, functions of the platform',
    plan: gatePlan,
    language: 'cpp',
    files: [
      [
        'gate.ino',
        `const int redPin = 4;
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
}
`,
      ],
    ],
    changes: [
      ['TRIG_PIN{7}', 'TRIG_PIN{8}', ['differs EYE.TRIG']],
      ['redPin = 4', 'redPin = 6', ['differs RED.A']],
      ['redPin = 4', 'redPin = 5', ['differs RED.A']],
      ['redPin = 4', 'redPin = 45', ['differs RED.A']],
      ['pinMode(echoPin, INPUT)', 'pinMode(echoPin, OUTPUT)', ['mode EYE.ECHO']],
      ['INPUT_PULLUP', 'INPUT', ['pull GATE.1']],
      ['  flap.attach(9);\n', '', ['missing FLAP.SIG']],
      ['flap.attach(9);', 'flap.attach(9); pinMode(12, OUTPUT);', ['unknown']],
      ['flap.attach(9);', 'flap.attach(9); pinMode(LED_BUILTIN, OUTPUT); pinMode(13, OUTPUT);', []],
      ['analogRead(A0)', 'analogRead(0)', []],
      ['analogRead(A0)', 'analogRead(14)', []],
      ['analogRead(A0)', 'analogRead(A1)', ['unknown', 'missing LIGHT.2']],
      ['flap.attach(9)', 'flap.attach(10)', ['differs FLAP.SIG']],
      ['flap.attach(9)', 'flap.attach(GREEN_LED)', ['differs FLAP.SIG']],
      ['digitalRead(gateSwitch)', 'digitalRead(gate())', ['lost']],
    ],
  },
  {
    title: 'exchanged pairs, whatever the names look like',
    plan: gatePlan,
    language: 'cpp',
    files: [
      [
        'gate.ino',
        `int led_red = 4, led_green = 5;
const int SWITCH = 2;
const int trig = 7, echo = 8;
void setup() {
  pinMode(led_red, OUTPUT); pinMode(led_green, OUTPUT);
  pinMode(SWITCH, INPUT_PULLUP);
  pinMode(trig, OUTPUT); pinMode(echo, INPUT);
  pinMode(9, OUTPUT);
}
void loop() { analogRead(A0); digitalRead(SWITCH); pulseIn(echo, HIGH); }
`,
      ],
    ],
    changes: [
      ['led_red = 4, led_green = 5', 'led_red = 5, led_green = 4', ['exchanged RED.A GREEN.A']],
      ['trig = 7, echo = 8', 'trig = 8, echo = 7', ['exchanged EYE.TRIG EYE.ECHO']],
      ['SWITCH = 2', 'SWITCH = 3', ['differs GATE.1']],
      ['pinMode(9, OUTPUT)', 'pinMode(9, INPUT)', ['mode FLAP.SIG']],
      ['const int SWITCH = 2', 'const int SWITCH = 0b10', []],
    ],
  },
  {
    title: 'only numbers: what is done with a pin tells',
    plan: gatePlan,
    language: 'cpp',
    files: [
      [
        'bare.ino',
        `void setup() {
  pinMode(4, OUTPUT); pinMode(5, OUTPUT); pinMode(2, INPUT_PULLUP);
  pinMode(7, OUTPUT); pinMode(8, INPUT); pinMode(9, OUTPUT);
}
void loop() { digitalWrite(4, digitalRead(2)); digitalWrite(5, analogRead(A0) > 500); pulseIn(8, HIGH); }
`,
      ],
    ],
    changes: [
      [
        'pinMode(7, OUTPUT); pinMode(8, INPUT)',
        'pinMode(8, OUTPUT); pinMode(7, INPUT)',
        ['mode EYE.ECHO', 'mode EYE.TRIG'],
      ],
      ['pinMode(4, OUTPUT); pinMode(5', 'pinMode(3, OUTPUT); pinMode(5', ['unknown']],
      ['pinMode(9, OUTPUT);', '', ['missing FLAP.SIG']],
      ['pinMode(2, INPUT_PULLUP)', 'pinMode(2, OUTPUT)', ['mode GATE.1']],
    ],
  },
  {
    title: 'arrays, loops, structures and a class of its own',
    plan: gatePlan,
    language: 'cpp',
    files: [
      [
        'objects.ino',
        `#include "lamp.h"
struct Ranger { uint8_t trig; uint8_t echo; };
const Ranger ranger = { 7, 8 };
Lamp lamps[] = { Lamp(4), Lamp(5) };
const int BASE = 2;
void setup() {
  for (auto &lamp : lamps) lamp.begin();
  pinMode(ranger.trig, OUTPUT);
  pinMode(ranger.echo, INPUT);
  pinMode(BASE, INPUT_PULLUP);
  analogWrite(BASE + 7, 30);
}
void loop() { lamps[0].set(true); pulseIn(ranger.echo, HIGH); analogRead(A0); digitalRead(BASE); }
`,
      ],
      [
        'lamp.h',
        `#pragma once
class Lamp {
public:
  explicit Lamp(uint8_t pin) : _pin(pin) {}
  void begin() { pinMode(_pin, OUTPUT); set(false); }
  void set(bool on);
private:
  const uint8_t _pin;
};
`,
      ],
      ['lamp.cpp', '#include "lamp.h"\nvoid Lamp::set(bool on) { digitalWrite(_pin, on ? HIGH : LOW); }\n'],
    ],
    changes: [
      ['{ 7, 8 }', '{ 8, 7 }', ['exchanged EYE.TRIG EYE.ECHO']],
      ['Lamp(4), Lamp(5)', 'Lamp(4), Lamp(6)', ['unknown', 'missing GREEN.A']],
      ['BASE + 7', 'BASE + 8', ['unknown', 'missing FLAP.SIG']],
      ['const uint8_t _pin;', 'const uint8_t _pin; static const int EXTRA = 3;', []],
    ],
  },
  {
    title: 'a display and a keypad in the order of their libraries',
    plan: keypadPlan,
    language: 'cpp',
    files: [
      [
        'door.ino',
        `const int rs = 12, en = 11, d4 = 5, d5 = 4, d6 = 3, d7 = 2;
LiquidCrystal lcd(rs, en, d4, d5, d6, d7);
byte rowPins[4] = {22, 24, 26, 28};
byte colPins[3] = {30, 32, 34};
Keypad keypad = Keypad(makeKeymap(keys), rowPins, colPins, 4, 3);
enum { BUZZER = 8, LOCK_RELAY };
void setup() { lcd.begin(16, 2); pinMode(BUZZER, OUTPUT); pinMode(LOCK_RELAY, OUTPUT); digitalWrite(LOCK_RELAY, HIGH); }
void loop() { char k = keypad.getKey(); tone(BUZZER, 440); }
`,
      ],
    ],
    changes: [
      ['rs = 12, en = 11', 'rs = 11, en = 12', ['exchanged LCD.RS LCD.E']],
      ['d4 = 5, d5 = 4', 'd4 = 4, d5 = 5', ['exchanged LCD.D4 LCD.D5']],
      ['d7 = 2', 'd7 = 7', ['differs LCD.D7']],
      ['BUZZER = 8', 'BUZZER = 9', ['differs BUZZ.+', 'differs LOCK.IN']],
      ['{30, 32, 34}', '{30, 32, 36}', ['missing KEYS.C3']],
      ['{22, 24, 26, 28}', '{24, 22, 26, 28}', ['exchanged KEYS.R1 KEYS.R2']],
      ['lcd(rs, en, d4, d5, d6, d7)', 'lcd(12, 11, 5, 4, 2, 3)', ['exchanged LCD.D6 LCD.D7']],
      ['lcd(rs, en, d4, d5, d6, d7)', 'lcd(12, 11, 5, 4, 3, 2)', []],
    ],
  },
  {
    title: 'buses, serial lines, addresses and a radio on other pins than usual',
    plan: hivePlan,
    language: 'cpp',
    files: [
      [
        'hive.ino',
        `#define SDA_PIN 25
#define SCL_PIN 26
#define LORA_SS 5
#define LORA_RST 27
#define LORA_DIO0 33
Bme280 brood;
Panel show(128, 64, &Wire, -1);
HX711 scale;
HardwareSerial gps(2);
const int LID = 14;
const int VENT_FAN = 4;
void setup() {
  Serial.begin(115200);
  Wire.begin(SDA_PIN, SCL_PIN);
  brood.begin(0x76);
  show.begin(0x3C);
  scale.begin(34, 32);
  gps.begin(9600, SERIAL_8N1, 16, 17);
  SPI.begin(18, 19, 23, LORA_SS);
  LoRa.setPins(LORA_SS, LORA_RST, LORA_DIO0);
  pinMode(LID, INPUT_PULLUP);
  pinMode(VENT_FAN, OUTPUT);
  attachInterrupt(digitalPinToInterrupt(LID), onLid, FALLING);
}
void IRAM_ATTR onLid() { digitalWrite(VENT_FAN, LOW); }
void loop() {}
`,
      ],
    ],
    changes: [
      ['Wire.begin(SDA_PIN, SCL_PIN)', 'Wire.begin()', ['bus BROOD SHOW']],
      ['SDA_PIN 25\n#define SCL_PIN 26', 'SDA_PIN 26\n#define SCL_PIN 25', ['exchanged BROOD SHOW']],
      ['SDA_PIN 25', 'SDA_PIN 21', ['bus BROOD SHOW']],
      ['0x76', '0x77', ['address BROOD']],
      ['0x3C', '0x3D', ['address SHOW']],
      ['9600, SERIAL_8N1, 16, 17', '9600, SERIAL_8N1, 17, 16', ['exchanged GPS']],
      ['9600, SERIAL_8N1', '38400, SERIAL_8N1', ['baud GPS']],
      ['SPI.begin(18, 19, 23, LORA_SS)', 'SPI.begin()', []],
      ['LORA_RST 27', 'LORA_RST 13', ['differs LORA.RESET']],
      ['LORA_RST 27\n#define LORA_DIO0 33', 'LORA_RST 33\n#define LORA_DIO0 27', ['exchanged LORA.RESET LORA.DIO0']],
      ['scale.begin(34, 32)', 'scale.begin(32, 34)', ['exchanged SCALE.DT SCALE.SCK']],
      ['VENT_FAN = 4', 'VENT_FAN = 39', ['differs VENT.G']],
      [
        'brood.begin(0x76);',
        'brood.begin(0x76); for (byte a = 8; a < 0x78; a++) { Wire.beginTransmission(a); Wire.endTransmission(); }',
        [],
      ],
      ['brood.begin(0x76);', 'brood.begin(0x76); Wire.beginTransmission(0x50);', ['address']],
      ['gps.begin(9600, SERIAL_8N1, 16, 17)', 'Serial2.begin(9600)', []],
    ],
  },
  {
    title: 'preprocessor: only what holds for this board counts',
    plan: gatePlan,
    language: 'cpp',
    files: [
      [
        'both.ino',
        `#if defined(ESP32)
  #define RED 23
  #define GREEN 22
#elif defined(__AVR__)
  #define RED 4
  #define GREEN 5
#else
  #error "no such board"
#endif
#define GATE_1 2
#define ON(pin) digitalWrite((pin), HIGH)
#define MAKE_OUT(p) pinMode(p, OUTPUT)
void setup() {
  MAKE_OUT(RED);
  MAKE_OUT(GREEN);
  MAKE_OUT(7);
  MAKE_OUT(9);
  pinMode(GATE_1, INPUT_PULLUP);
  pinMode(8, INPUT);
}
void loop() { ON(RED); ON(GREEN); analogRead(A0); }
`,
      ],
    ],
    changes: [
      ['#define RED 4', '#define RED 3', ['differs RED.A']],
      ['#define RED 23', '#define RED 19', []],
      ['#define RED 4\n  #define GREEN 5', '#define RED 5\n  #define GREEN 4', ['exchanged RED.A GREEN.A']],
    ],
  },
  {
    title: 'printed numbers taken for those of the platform',
    plan: {
      mcu: 'esp8266-nodemcu-v2',
      parts: {
        RED: 'led',
        GREEN: { part: 'led', options: { colour: 'green' } },
        R1: 'resistor',
        R2: 'resistor',
        KEY: 'button',
      },
      wires:
        'RED.A R1.1, R1.2 MCU.D5, RED.K MCU.GND, GREEN.A R2.1, R2.2 MCU.D6, GREEN.K MCU.GND, KEY.1 MCU.D2, KEY.2 MCU.GND',
    },
    language: 'cpp',
    files: [
      [
        'node.ino',
        `#define RED D5
#define GREEN D6
#define KEY D2
void setup() { pinMode(RED, OUTPUT); pinMode(GREEN, OUTPUT); pinMode(KEY, INPUT_PULLUP); }
void loop() {}
`,
      ],
    ],
    changes: [
      ['RED D5', 'RED 14', []],
      ['RED D5', 'RED 5', ['numbering RED.A']],
      [
        'RED D5\n#define GREEN D6\n#define KEY D2',
        'RED 5\n#define GREEN 6\n#define KEY 2',
        ['numbering RED.A', 'numbering GREEN.A', 'numbering KEY.1'],
      ],
      ['RED D5', 'RED D6', ['differs RED.A']],
      ['RED D5\n#define GREEN D6', 'RED D6\n#define GREEN D5', ['exchanged RED.A GREEN.A']],
    ],
  },
  {
    title: 'MicroPython with its own objects',
    plan: picoPlan,
    language: 'micropython',
    files: [
      [
        'main.py',
        `from machine import Pin, PWM, ADC, I2C
import neopixel
from panel import Panel

LAMP = 16
KEY_PIN = const(17)
lamp = Pin(LAMP, Pin.OUT)
key = Pin(KEY_PIN, Pin.IN, Pin.PULL_UP)
knob = ADC(Pin(26))
arm = PWM(Pin(18), freq=50)
i2c = I2C(0, sda=Pin(4), scl=Pin(5), freq=400_000)
show = Panel(128, 64, i2c, addr=0x3C)
strip = neopixel.NeoPixel(Pin(22), 8)

def pressed(pin):
    lamp.toggle()

key.irq(pressed, Pin.IRQ_FALLING)
while True:
    lamp.value(knob.read_u16() > 30000)
    arm.duty_u16(4000)
`,
      ],
    ],
    changes: [
      ['LAMP = 16', 'LAMP = 15', ['differs LAMP.A']],
      ['LAMP = 16\nKEY_PIN = const(17)', 'LAMP = 17\nKEY_PIN = const(16)', ['exchanged LAMP.A KEY.1']],
      ['Pin(LAMP, Pin.OUT)', 'Pin(LAMP, Pin.IN)', []],
      [', Pin.PULL_UP', '', ['pull KEY.1']],
      ['sda=Pin(4), scl=Pin(5)', 'sda=Pin(5), scl=Pin(4)', ['exchanged SHOW']],
      ['sda=Pin(4), scl=Pin(5)', 'sda=Pin(8), scl=Pin(9)', ['bus SHOW']],
      ['ADC(Pin(26))', 'ADC(26)', []],
      ['ADC(Pin(26))', 'ADC(Pin(27))', ['differs KNOB.W']],
      ['NeoPixel(Pin(22), 8)', 'NeoPixel(Pin(21), 8)', ['differs STRIP.DIN']],
      ['addr=0x3C', 'addr=0x3D', ['address SHOW']],
      ['arm = PWM(Pin(18), freq=50)', 'arm = PWM(Pin("GP18"), freq=50)', []],
      ['LAMP = 16', 'LAMP = 21', ['numbering LAMP.A']],
    ],
  },
  {
    title: 'MicroPython with lists, classes and several files',
    plan: picoPlan,
    language: 'micropython',
    files: [
      [
        'main.py',
        `import pins
from machine import Pin, ADC, PWM, SoftI2C
from lamp import Lamp

class Arm:
    def __init__(self, pin, least=1000):
        self.pwm = PWM(Pin(pin))
        self.least = least

OUTS = {"lamp": pins.LAMP, "strip": pins.STRIP}
lamp = Lamp(OUTS["lamp"])
arm = Arm(pin=pins.ARM)
strip = Pin(OUTS["strip"], Pin.OUT)
bus = SoftI2C(Pin(pins.SCL), Pin(pins.SDA))
keys = [Pin(n, Pin.IN, Pin.PULL_UP) for n in pins.KEYS]

def main():
    knob = ADC(pins.KNOB)
    for key in keys:
        if not key.value():
            lamp.on()

if __name__ == "__main__":
    main()
`,
      ],
      ['pins.py', 'LAMP = 16\nKEYS = (17,)\nARM = LAMP + 2\nKNOB = 26\nSDA, SCL = 4, 5\nSTRIP = 22\n'],
      [
        'lamp.py',
        'from machine import Pin\n\nclass Lamp:\n    def __init__(self, pin):\n        self.pin = Pin(pin, Pin.OUT)\n\n    def on(self):\n        self.pin.on()\n',
      ],
    ],
    changes: [
      ['LAMP = 16', 'LAMP = 15', ['differs LAMP.A', 'differs ARM.SIG']],
      ['SDA, SCL = 4, 5', 'SDA, SCL = 5, 4', ['exchanged SHOW']],
      ['KEYS = (17,)', 'KEYS = (17, 19)', ['unknown']],
      ['KNOB = 26', 'KNOB = 28', ['differs KNOB.W']],
      ['ARM = LAMP + 2', 'ARM = LAMP + 6', ['differs ARM.SIG']],
    ],
  },
  {
    title: 'CircuitPython',
    plan: picoPlan,
    language: 'circuitpython',
    files: [
      [
        'code.py',
        `import board
import busio
import digitalio
import analogio
import pwmio
import neopixel

lamp = digitalio.DigitalInOut(board.GP16)
lamp.direction = digitalio.Direction.OUTPUT
key = digitalio.DigitalInOut(board.GP17)
key.switch_to_input(pull=digitalio.Pull.UP)
knob = analogio.AnalogIn(board.GP26)
arm = pwmio.PWMOut(board.GP18, frequency=50)
i2c = busio.I2C(board.GP5, board.GP4)
strip = neopixel.NeoPixel(board.GP22, 8)
while True:
    lamp.value = not key.value
`,
      ],
    ],
    changes: [
      ['DigitalInOut(board.GP16)', 'DigitalInOut(board.GP15)', ['differs LAMP.A']],
      ['(board.GP5, board.GP4)', '(board.GP4, board.GP5)', ['exchanged SHOW']],
      ['board.GP26', 'board.A0', []],
      ['board.GP22', 'microcontroller.pin.GPIO22', []],
      ['Direction.OUTPUT', 'Direction.INPUT', []],
      ['lamp = digitalio.DigitalInOut(board.GP16)', 'lamp = digitalio.DigitalInOut(board.GP17)', ['differs LAMP.A']],
      ['board.GP26', 'board.GP40', ['differs KNOB.W']],
    ],
  },
  {
    title: 'a single-board computer by GPIO numbers',
    plan: kilnPlan,
    language: 'python',
    files: [
      [
        'kiln.py',
        `import RPi.GPIO as GPIO
from smbus2 import SMBus

HOT, CONE, FAN_RELAY, BELL = 27, 17, 23, 24
GPIO.setmode(GPIO.BCM)
GPIO.setup([HOT, FAN_RELAY, BELL], GPIO.OUT)
GPIO.setup(CONE, GPIO.IN, pull_up_down=GPIO.PUD_UP)
bus = SMBus(1)
bus.read_byte_data(0x76, 0xD0)
GPIO.output(HOT, GPIO.input(CONE))
GPIO.output(FAN_RELAY, 0)
`,
      ],
    ],
    changes: [
      [
        '27, 17, 23, 24',
        '13, 11, 16, 18',
        ['numbering HOT.A', 'numbering CONE.1', 'numbering FAN.IN', 'numbering BELL.+'],
      ],
      ['GPIO.BCM', 'GPIO.BOARD', ['numbering HOT.A', 'numbering CONE.1', 'numbering FAN.IN', 'numbering BELL.+']],
      ['27, 17, 23, 24', '17, 27, 23, 24', ['exchanged HOT.A CONE.1']],
      ['27, 17, 23, 24', '27, 17, 22, 24', ['differs FAN.IN']],
      ['pull_up_down=GPIO.PUD_UP', 'GPIO.PUD_OFF', ['pull CONE.1']],
      ['GPIO.setup(CONE, GPIO.IN, pull_up_down=GPIO.PUD_UP)', 'GPIO.setup(CONE, GPIO.OUT)', ['mode CONE.1']],
      ['0x76', '0x77', ['address SHED']],
    ],
  },
  {
    title: 'a single-board computer by positions of the header',
    plan: kilnPlan,
    language: 'python',
    files: [
      [
        'kiln.py',
        `import RPi.GPIO as GPIO
import smbus
GPIO.setmode(GPIO.BOARD)
for pin in (13, 16, 18):
    GPIO.setup(pin, GPIO.OUT)
GPIO.setup(11, GPIO.IN, pull_up_down=GPIO.PUD_UP)
bus = smbus.SMBus(1)
bus.write_byte(0x76, 0)
`,
      ],
    ],
    changes: [
      ['GPIO.BOARD', 'GPIO.BCM', ['numbering HOT.A', 'numbering FAN.IN', 'numbering BELL.+', 'numbering CONE.1']],
      ['(13, 16, 18)', '(13, 16, 22)', ['unknown', 'missing BELL.+']],
    ],
  },
  {
    title: 'a single-board computer with objects for its parts',
    plan: kilnPlan,
    language: 'python',
    files: [
      [
        'kiln.py',
        `from gpiozero import LED, Button, OutputDevice, Buzzer
from signal import pause

hot = LED(27)
cone = Button(17)
fan = OutputDevice("GPIO23", active_high=False)
bell = Buzzer(pin="BOARD18")
cone.when_pressed = hot.on
pause()
`,
      ],
    ],
    says: ['missing SHED'],
    changes: [
      ['LED(27)', 'LED(22)', ['differs HOT.A', 'missing SHED']],
      ['LED(27)', 'LED(13)', ['numbering HOT.A', 'missing SHED']],
      ['LED(27)\ncone = Button(17)', 'LED(17)\ncone = Button(27)', ['exchanged HOT.A CONE.1', 'missing SHED']],
      ['"BOARD18"', '"BOARD16"', ['differs BELL.+', 'missing SHED']],
    ],
  },
]
