import { describe, expect, it } from 'vitest'
import type { Short } from '../testing/plans.ts'
import { run } from './testing/quick.ts'

const bus = (ref: string, power = 'VCC', supply = '5V', ground = 'GND'): string =>
  `${ref}.${power} MCU.${supply}, ${ref}.${ground} MCU.GND, ${ref}.SDA MCU.A4, ${ref}.SCL MCU.A5`
const lamp = (ref: string, from: string): string => `${from} R${ref}.1, R${ref}.2 ${ref}.A, ${ref}.K MCU.GND`
const resistor = (ohms: number) => ({ part: 'resistor', options: { ohms } })
const idle = 'void loop() { delay(500); }'

/** A library that is text of our own: what the part shows and says, and what is found when the wiring or program is wrong. */
const cases: readonly {
  readonly title: string
  readonly plan: Short
  readonly right: string
  readonly steps?: string
  readonly prints?: readonly string[]
  readonly shows?: Readonly<Record<string, string | RegExp>>
  /** The program changed, or the wires. */
  readonly wrong?: readonly [string, string]
  readonly finds?: string
}[] = [
  {
    title: 'sixteen more pins: a lamp and a button with the pull inside',
    plan: {
      mcu: 'nano-v3',
      parts: { MORE: 'mcp23017', L: 'led', RL: resistor(470), KEY: 'button' },
      wires: `${bus('MORE', 'VDD', '5V', 'VSS')}, MORE.RESET MCU.5V, MORE.A0 MCU.GND, MORE.A1 MCU.GND, MORE.A2 MCU.GND, ${lamp('L', 'MORE.GPA3')}, KEY.1 MORE.GPB0, KEY.2 MCU.GND`,
    },
    right: `#include <Shed_MCP23X17.h>
Shed_MCP23X17 more;
void setup() { Serial.begin(9600); if (!more.begin_I2C()) Serial.println("none"); more.pinMode(3, OUTPUT); more.pinMode(8, INPUT_PULLUP); }
void loop() { bool pressed = more.digitalRead(8) == LOW; more.digitalWrite(3, pressed); Serial.println(pressed); delay(400); }`,
    steps: '  - { at: 0.5, set: { KEY: pressed } }\n  - { at: 1.1 }',
    prints: ['0', '0', '1', '1', '1', '1'],
    shows: { L: /^on, / },
    wrong: ['INPUT_PULLUP', 'INPUT'],
    finds: 'read-floating',
  },
  {
    title: 'sixteen more pins: a number that none of them has',
    plan: {
      mcu: 'nano-v3',
      parts: { MORE: 'mcp23008', L: 'led', RL: resistor(470) },
      wires: `${bus('MORE', 'VDD', '5V', 'VSS')}, MORE.RESET MCU.5V, MORE.A0 MCU.GND, MORE.A1 MCU.GND, MORE.A2 MCU.GND, ${lamp('L', 'MORE.GP7')}`,
    },
    right: `#include <Shed_MCP23008.h>
Shed_MCP23008 more;
void setup() { more.begin(0); more.pinMode(7, OUTPUT); more.digitalWrite(7, HIGH); }
${idle}`,
    shows: { L: /^on, / },
    wrong: ['pinMode(7, OUTPUT); more.digitalWrite(7', 'pinMode(8, OUTPUT); more.digitalWrite(8'],
    finds: 'no-such-pin',
  },
  {
    title: 'eight weak pins: a lamp to ground stays dark, one from the supply lights',
    plan: {
      mcu: 'nano-v3',
      parts: { PORT: 'pcf8574-module', L: 'led', RL: resistor(470), M: 'led', RM: resistor(470) },
      wires: `${bus('PORT')}, ${lamp('L', 'PORT.P0')}, MCU.5V RM.1, RM.2 M.A, M.K PORT.P1`,
    },
    right: `#include <PCF8574.h>
PCF8574 port(0x20);
void setup() { Serial.begin(9600); Serial.println(port.begin()); port.write(0, HIGH); port.write(1, LOW); }
${idle}`,
    prints: ['1'],
    shows: { L: 'off', M: /^on, / },
    wrong: ['0x20', '0x21'],
    finds: 'nobody-answers',
  },
  {
    title: 'a maker of pulses turns a servo',
    plan: {
      mcu: 'nano-v3',
      supplies: { PSU: { volts: 5, limitMilliamps: 2000 } },
      parts: { MOVE: 'pca9685', ARM: 'servo-sg90' },
      wires: `${bus('MOVE')}, MOVE.OE MCU.GND, MOVE.V+ PSU.+, PSU.- MCU.GND, ARM.SIG MOVE.PWM4, ARM.VCC PSU.+, ARM.GND MCU.GND`,
    },
    right: `#include <Shed_PWMServoDriver.h>
Shed_PWMServoDriver move = Shed_PWMServoDriver(0x40);
void setup() { move.begin(); move.setPWMFreq(50); move.setPWM(4, 0, 307); }
${idle}`,
    shows: { ARM: '1.50 ms, 90°' },
    wrong: ['0x40', '0x41'],
    finds: 'nobody-answers',
  },
  {
    title: 'a converter on the bus reads what the wiring gives',
    plan: {
      mcu: 'nano-v3',
      parts: { ADC: 'ads1115', KNOB: 'potentiometer' },
      wires: `${bus('ADC', 'VDD')}, ADC.ADDR MCU.GND, KNOB.3 MCU.5V, KNOB.1 MCU.GND, KNOB.W ADC.A2`,
    },
    right: `#include <Shed_ADS1X15.h>
Shed_ADS1115 adc;
void setup() { Serial.begin(9600); adc.begin(); int16_t raw = adc.readADC_SingleEnded(2); Serial.println(raw); Serial.println(adc.computeVolts(raw)); adc.setGain(GAIN_TWO); Serial.println(adc.readADC_SingleEnded(2)); }
${idle}`,
    prints: ['13333', '2.50', '32767'],
    wrong: ['SingleEnded(2)', 'SingleEnded(1)'],
    finds: 'nothing-there',
  },
  {
    title: 'a clock goes on from where its hands are put, over midnight and the end of a month',
    plan: { mcu: 'nano-v3', parts: { CLOCK: 'ds3231' }, wires: bus('CLOCK') },
    right: `#include <RTClib.h>
RTC_DS3231 clock;
void setup() { Serial.begin(9600); if (!clock.begin()) Serial.println("none"); clock.adjust(DateTime(2028, 2, 28, 23, 59, 58)); }
void loop() { DateTime now = clock.now(); Serial.println(now.timestamp()); Serial.println(now.dayOfTheWeek()); Serial.println((now + TimeSpan(1, 0, 0, 0)).day()); delay(3000); }`,
    steps: '  - { at: 5, set: { CLOCK: 7.5 } }\n  - { at: 6.5 }',
    prints: ['2028-02-28T23:59:58', '1', '29', '2028-02-29T00:00:01', '2', '1', '2028-02-29T07:30:00', '2', '1'],
    wrong: ['nothing', 'nothing'],
  },
  {
    title: 'a clock is put to the time of a text',
    plan: { mcu: 'nano-v3', parts: { CLOCK: 'ds1307' }, wires: bus('CLOCK') },
    right: `#include <RTClib.h>
RTC_DS1307 clock;
void setup() { Serial.begin(9600); clock.begin(); clock.adjust(DateTime(F("Jun  9 2027"), F("04:05:06"))); DateTime now = clock.now(); Serial.println(now.unixtime()); Serial.println(now.month()); Serial.println(now.day()); }
${idle}`,
    prints: ['1812513906', '6', '9'],
  },
  {
    title: 'tilt in metres a second squared, and in counts',
    plan: { mcu: 'nano-v3', parts: { TILT: 'mpu6050' }, wires: bus('TILT') },
    right: `#include <Shed_MPU6050.h>
#include <Shed_Sensor.h>
Shed_MPU6050 tilt;
void setup() { Serial.begin(9600); Serial.println(tilt.begin()); tilt.setAccelerometerRange(MPU6050_RANGE_4_G); }
void loop() { sensors_event_t a, g, t; tilt.getEvent(&a, &g, &t); Serial.println(a.acceleration.x); Serial.println(g.gyro.z); int16_t x, y, z; tilt.getAcceleration(&x, &y, &z); Serial.println(z); delay(2000); }`,
    steps: '  - { at: 1, set: { TILT.x: 4.9, TILT.turn-z: 180 } }\n  - { at: 1.5 }',
    prints: ['1', '0.00', '0.00', '8194', '4.90', '3.14', '8194'],
    wrong: ['tilt.begin()', 'tilt.begin(0x69)'],
    finds: 'nobody-answers',
  },
  {
    title: 'a card is held to a reader, halted, and held there again',
    plan: {
      mcu: 'nano-v3',
      parts: { DOOR: 'rc522' },
      wires:
        'DOOR.VCC MCU.3V3, DOOR.GND MCU.GND, DOOR.SDA MCU.D10, DOOR.SCK MCU.D13, DOOR.MOSI MCU.D11, DOOR.MISO MCU.D12, DOOR.RST MCU.D9',
    },
    right: `#include <SPI.h>
#include <MFRC522.h>
MFRC522 door(10, 9);
void setup() { Serial.begin(9600); SPI.begin(); door.PCD_Init(); }
void loop() { delay(100); if (!door.PICC_IsNewCardPresent()) return; if (!door.PICC_ReadCardSerial()) return;
for (byte i = 0; i < door.uid.size; i++) Serial.print(door.uid.uidByte[i], HEX); Serial.println(); door.PICC_HaltA(); }`,
    steps:
      '  - { at: 0.5, set: { DOOR: 2 } }\n  - { at: 1.5, set: { DOOR: 0 } }\n  - { at: 2, set: { DOOR: 2 } }\n  - { at: 2.5, set: { DOOR: 3 } }\n  - { at: 3 }',
    prints: ['A21B2C32', 'A21B2C32', 'A31B2C33'],
    wrong: ['door(10, 9)', 'door(9, 10)'],
    finds: 'other-pin',
  },
  {
    title: 'commands of a remote come once each',
    plan: { mcu: 'nano-v3', parts: { FAR: 'ir-receiver' }, wires: 'FAR.VS MCU.5V, FAR.GND MCU.GND, FAR.OUT MCU.D2' },
    right: `#include <IRremote.hpp>
void setup() { Serial.begin(9600); IrReceiver.begin(2, ENABLE_LED_FEEDBACK); }
void loop() { if (IrReceiver.decode()) { Serial.println(IrReceiver.decodedIRData.command); IrReceiver.resume(); } }`,
    steps:
      '  - { at: 0.5, set: { FAR: 24 } }\n  - { at: 1, set: { FAR: 0 } }\n  - { at: 1.5, set: { FAR: 24 } }\n  - { at: 2 }',
    prints: ['24', '24'],
    wrong: ['begin(2,', 'begin(3,'],
    finds: 'other-pin',
  },
  {
    title: 'commands of a remote in the older way of the class',
    plan: { mcu: 'nano-v3', parts: { FAR: 'ir-receiver' }, wires: 'FAR.VS MCU.5V, FAR.GND MCU.GND, FAR.OUT MCU.D2' },
    right: `#include <IRremote.h>
IRrecv far(2);
decode_results results;
void setup() { Serial.begin(9600); far.enableIRIn(); }
void loop() { if (far.decode(&results)) { Serial.println(results.value, HEX); far.resume(); } delay(20); }`,
    steps: '  - { at: 0.5, set: { FAR: 24 } }\n  - { at: 1 }',
    prints: ['FF18E7'],
  },
  {
    title: 'four digits show numbers, with what stands before them',
    plan: {
      mcu: 'nano-v3',
      parts: { SHOW: 'tm1637' },
      wires: 'SHOW.VCC MCU.5V, SHOW.GND MCU.GND, SHOW.CLK MCU.D3, SHOW.DIO MCU.D4',
    },
    right: `#include <TM1637Display.h>
TM1637Display show(3, 4);
void setup() { show.setBrightness(5); show.showNumberDec(-42); }
${idle}`,
    shows: { SHOW: '" -42"' },
    wrong: ['show(3, 4)', 'show(4, 3)'],
    finds: 'other-pin',
  },
  {
    title: 'a field of dots counts what is lit',
    plan: {
      mcu: 'nano-v3',
      parts: { DOTS: 'max7219' },
      wires: 'DOTS.VCC MCU.5V, DOTS.GND MCU.GND, DOTS.DIN MCU.D11, DOTS.CLK MCU.D13, DOTS.CS MCU.D10',
    },
    right: `#include <LedControl.h>
LedControl dots(11, 13, 10, 1);
void setup() { dots.shutdown(0, false); dots.setRow(0, 2, 0b10100000); dots.setLed(0, 5, 7, true); }
${idle}`,
    shows: { DOTS: '"3 dots lit"' },
    wrong: ['dots(11, 13, 10', 'dots(13, 11, 10'],
    finds: 'other-pin',
  },
  {
    title: 'light on the bus',
    plan: { mcu: 'nano-v3', parts: { SUN: 'bh1750' }, wires: bus('SUN') },
    right: `#include <BH1750.h>
BH1750 sun;
void setup() { Serial.begin(9600); sun.begin(); Serial.println(sun.readLightLevel(), 0); }
${idle}`,
    prints: ['320'],
    wrong: ['BH1750 sun;', 'BH1750 sun(0x5C);'],
    finds: 'nobody-answers',
  },
  {
    title: 'an air sensor is asked at the usual address of its class, not of its module',
    plan: { mcu: 'nano-v3', parts: { AIR: 'bme280' }, wires: bus('AIR', 'VIN') },
    right: `#include <Shed_BME280.h>
Shed_BME280 air;
void setup() { Serial.begin(9600); Serial.println(air.begin(0x76)); }
${idle}`,
    prints: ['1'],
    wrong: ['begin(0x76)', 'begin()'],
    finds: 'nobody-answers',
  },
  {
    title: 'air in events',
    plan: { mcu: 'nano-v3', parts: { AIR: 'aht20' }, wires: bus('AIR', 'VIN') },
    right: `#include <Shed_AHTX0.h>
Shed_AHTX0 air;
void setup() { Serial.begin(9600); air.begin(); sensors_event_t wet, warm; air.getEvent(&wet, &warm); Serial.println(warm.temperature); Serial.println(wet.relative_humidity); }
${idle}`,
    prints: ['21.50', '48.00'],
  },
]

describe('a library as text of our own', () => {
  it.each(cases)('$title', ({ plan, right, steps, prints, shows, wrong, finds }) => {
    const good = run(plan, right, steps)
    expect(good.findings.map(({ message }) => message)).toEqual([])
    if (prints) expect(good.printed.map(({ text }) => text)).toEqual(prints)
    for (const [ref, words] of Object.entries(shows ?? {}))
      if (typeof words === 'string') expect(good.shows[ref]).toBe(words)
      else expect(good.shows[ref]).toMatch(words)
    if (wrong && finds) {
      const changed = right.replaceAll(...wrong)
      expect(changed).not.toBe(right)
      expect(run(plan, changed, steps).findings.map(({ kind }) => kind)).toContain(finds)
    }
  })

  it('what it finds stands at the line of the program that called it', () => {
    const plan: Short = { mcu: 'nano-v3', parts: { CLOCK: 'ds3231' }, wires: 'CLOCK.VCC MCU.5V, CLOCK.GND MCU.GND' }
    const text = `#include <RTClib.h>\nRTC_DS3231 clock;\nvoid setup() { Serial.begin(9600); }\nvoid loop() {\n  Serial.println(clock.now().hour());\n  delay(5000);\n}`
    const { findings } = run(plan, text)
    expect(findings.map(({ kind, file, line }) => `${kind} ${file} ${line}`)).toEqual(['nobody-answers a.ino 5'])
  })

  it('a class of the program with the same name comes first', () => {
    const plan: Short = { mcu: 'nano-v3' }
    const text = `class BH1750 { public: int read() { return 7; } };\nBH1750 own;\nvoid setup() { Serial.begin(9600); Serial.println(own.read()); }\n${idle}`
    const { printed, findings } = run(plan, text)
    expect(findings).toEqual([])
    expect(printed[0]?.text).toBe('7')
  })
})
