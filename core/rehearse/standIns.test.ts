import { describe, expect, it } from 'vitest'
import type { Short } from '../testing/plans.ts'
import { run } from './testing/quick.ts'

const loop = 'void loop() { delay(1000); }'

/** A part that is driven by a class: what it shows, what is found when the program names it otherwise. */
const cases: readonly {
  readonly title: string
  readonly plan: Short
  readonly right: string
  readonly wrong?: string
  readonly finds?: string
  readonly steps?: string
  readonly shows?: Readonly<Record<string, string>>
  readonly prints?: readonly string[]
}[] = [
  {
    title: 'a climate sensor on one line, and its handle',
    plan: { mcu: 'uno-r3', parts: { AIR: 'dht11' }, wires: 'AIR.VCC MCU.5V, AIR.GND MCU.GND, AIR.DATA MCU.D7' },
    right: `#include <DHT.h>\nDHT air(7, DHT11);\nvoid setup() { Serial.begin(9600); air.begin(); }\nvoid loop() { Serial.println(air.readTemperature()); delay(2000); }`,
    wrong: `#include <DHT.h>\nDHT air(8, DHT11);\nvoid setup() { Serial.begin(9600); air.begin(); }\nvoid loop() { Serial.println(air.readTemperature()); delay(1000); }`,
    finds: 'other-pin',
    steps: '  - { at: 1.5, set: { AIR.temperature: 33 } }\n  - { at: 4 }',
    prints: ['21.50', '33.00', '33.00'],
  },
  {
    title: 'letters on rows, over the bus',
    plan: {
      mcu: 'nano-v3',
      parts: { PANEL: 'lcd-i2c' },
      wires: 'PANEL.VCC MCU.5V, PANEL.GND MCU.GND, PANEL.SDA MCU.A4, PANEL.SCL MCU.A5',
    },
    right: `#include <LiquidCrystal_I2C.h>\nLiquidCrystal_I2C panel(0x27, 16, 2);\nvoid setup() { panel.init(); panel.backlight(); panel.print("Gate"); panel.setCursor(3, 1); panel.print(42); }\n${loop}`,
    wrong: `#include <LiquidCrystal_I2C.h>\nLiquidCrystal_I2C panel(0x3F, 16, 2);\nvoid setup() { panel.init(); panel.print("Gate"); }\n${loop}`,
    finds: 'nobody-answers',
    shows: { PANEL: '"Gate ⏎    42"' },
  },
  {
    title: 'letters that run over the end of a row are not seen',
    plan: {
      mcu: 'nano-v3',
      parts: { PANEL: 'lcd-i2c' },
      wires: 'PANEL.VCC MCU.5V, PANEL.GND MCU.GND, PANEL.SDA MCU.A4, PANEL.SCL MCU.A5',
    },
    right: `#include <LiquidCrystal_I2C.h>\nLiquidCrystal_I2C panel(0x27, 16, 2);\nvoid setup() { panel.init(); panel.print("0123456789abcdefGH"); panel.noBacklight(); }\n${loop}`,
    shows: { PANEL: 'dark: "0123456789abcdef"' },
  },
  {
    title: 'dots on the bus, shown when they are asked to be',
    plan: {
      mcu: 'esp32-devkit-30',
      parts: { EYE: 'ssd1306' },
      wires: 'EYE.VCC MCU.3V3, EYE.GND MCU.GND, EYE.SDA MCU.GPIO21, EYE.SCL MCU.GPIO22',
    },
    right: `#include <Wire.h>\n#include <Shed_SSD1306.h>\nShed_SSD1306 eye(128, 64, &Wire, -1);\nvoid setup() { Serial.begin(9600); Serial.println(eye.begin(SSD1306_SWITCHCAPVCC, 0x3C)); eye.clearDisplay(); eye.setCursor(0, 0); eye.print("up"); eye.display(); eye.print("unseen"); }\n${loop}`,
    wrong: `#include <Wire.h>\n#include <Shed_SSD1306.h>\nShed_SSD1306 eye(128, 64, &Wire, -1);\nvoid setup() { Serial.begin(9600); Serial.println(eye.begin(SSD1306_SWITCHCAPVCC, 0x3D)); }\n${loop}`,
    finds: 'nobody-answers',
    shows: { EYE: '"up"' },
    prints: ['1'],
  },
  {
    title: 'a strip of colours behind its resistor',
    plan: {
      mcu: 'nano-v3',
      parts: { STRIP: 'ws2812-strip', R1: { part: 'resistor', options: { ohms: 330 } } },
      wires: 'STRIP.5V MCU.5V, STRIP.GND MCU.GND, STRIP.DIN R1.1, R1.2 MCU.D6',
    },
    right: `#include <Shed_NeoPixel.h>\nShed_NeoPixel strip(8, 6, NEO_GRB + NEO_KHZ800);\nvoid setup() { strip.begin(); strip.setPixelColor(1, strip.Color(255, 0, 0)); strip.setPixelColor(2, 0, 0, 9); strip.show(); }\n${loop}`,
    wrong: `#include <Shed_NeoPixel.h>\nShed_NeoPixel strip(8, 5, NEO_GRB + NEO_KHZ800);\nvoid setup() { strip.begin(); strip.show(); }\n${loop}`,
    finds: 'other-pin',
    shows: { STRIP: '2 lit: 1 #ff0000, 2 #000009' },
  },
  {
    title: 'a thermometer through the class of its line',
    plan: {
      mcu: 'nano-v3',
      parts: { HEAT: 'ds18b20', R1: { part: 'resistor', options: { ohms: 4700 } } },
      wires: 'HEAT.VDD MCU.5V, HEAT.GND MCU.GND, HEAT.DQ MCU.D3, R1.1 HEAT.DQ, R1.2 MCU.5V',
    },
    right: `#include <OneWire.h>\n#include <DallasTemperature.h>\nOneWire line(3);\nDallasTemperature heat(&line);\nvoid setup() { Serial.begin(9600); heat.begin(); }\nvoid loop() { heat.requestTemperatures(); Serial.println(heat.getTempCByIndex(0)); delay(250); }`,
    wrong: `#include <OneWire.h>\n#include <DallasTemperature.h>\nOneWire line(4);\nDallasTemperature heat(&line);\nvoid setup() { Serial.begin(9600); heat.begin(); }\nvoid loop() { heat.requestTemperatures(); Serial.println(heat.getTempCByIndex(0)); delay(250); }`,
    finds: 'other-pin',
    steps: '  - { at: 0.5, set: { HEAT: -5 } }\n  - { at: 0.9 }',
    prints: ['-5.00', '-5.00'],
  },
  {
    title: 'an air sensor on the bus, in the units of its class',
    plan: {
      mcu: 'nano-v3',
      parts: { AIR: 'bme280' },
      wires: 'AIR.VIN MCU.3V3, AIR.GND MCU.GND, AIR.SDA MCU.A4, AIR.SCL MCU.A5',
    },
    right: `#include <Shed_BME280.h>\nShed_BME280 air;\nvoid setup() { Serial.begin(9600); if (!air.begin(0x76)) Serial.println("none"); Serial.println(air.readPressure() / 100.0F, 1); }\n${loop}`,
    wrong: `#include <Shed_BME280.h>\nShed_BME280 air;\nvoid setup() { Serial.begin(9600); if (!air.begin(0x77)) Serial.println("none"); }\n${loop}`,
    finds: 'nobody-answers',
    prints: ['1013.2'],
  },
  {
    title: 'a load cell whose pins are told when it begins',
    plan: {
      mcu: 'nano-v3',
      parts: { LOAD: 'hx711' },
      wires: 'LOAD.VCC MCU.5V, LOAD.GND MCU.GND, LOAD.DT MCU.D4, LOAD.SCK MCU.D5',
    },
    right: `#include <HX711.h>\nHX711 load;\nvoid setup() { Serial.begin(9600); load.begin(4, 5); Serial.println(load.is_ready()); Serial.println(load.get_units(10), 1); }\n${loop}`,
    wrong: `#include <HX711.h>\nHX711 load;\nvoid setup() { Serial.begin(9600); load.begin(5, 4); Serial.println(load.is_ready()); }\n${loop}`,
    finds: 'other-pin',
    prints: ['1', '0.0'],
  },
]

describe('a class that drives a part', () => {
  it.each(cases)('$title', ({ plan, right, wrong, finds, steps, shows, prints }) => {
    const good = run(plan, right, steps)
    expect(good.findings.map(({ message }) => message)).toEqual([])
    if (shows) expect(good.shows).toMatchObject(shows)
    if (prints) expect(good.printed.map(({ text }) => text)).toEqual(prints)
    if (wrong) expect(run(plan, wrong).findings.map(({ kind }) => kind)).toContain(finds)
  })
  it('of a part that the plan does not have is said, and the rest runs', () => {
    const result = run(
      { mcu: 'nano-v3' },
      `#include <DHT.h>\nDHT air(7, DHT22);\nvoid setup() { Serial.begin(9600); Serial.println(air.readTemperature()); }\n${loop}`,
    )
    expect(result.findings.map(({ kind }) => kind)).toEqual(['no-such-part'])
    expect(result.printed[0]?.text).toBe('nan')
  })
  it('that nobody has described is said, and gives nought', () => {
    const result = run(
      { mcu: 'nano-v3' },
      `#include <Foo.h>\nFoo foo(7);\nvoid setup() { Serial.begin(9600); Serial.println(foo.reading()); }\n${loop}`,
    )
    expect(result.findings.map(({ kind, line }) => [kind, line])).toEqual([['unknown-class', 2]])
    expect(result.printed[0]?.text).toBe('0')
    expect(result.findings[0]?.why).toContain('Foo.reading')
  })
  it('that nobody has described answers what somebody sets, and only where the answer counts', () => {
    const result = run(
      { mcu: 'nano-v3' },
      `#include <Foo.h>\nFoo foo(7);\nvoid setup() { Serial.begin(9600); foo.begin(foo.most()); }\nvoid loop() { float now = foo.reading(); Serial.println(now); delay(1000); }`,
      '  - { at: 1.5, set: { Foo.reading: 12.5 } }\n  - { at: 2 }',
    )
    expect(result.handles.map(({ name }) => name)).toEqual(['Foo.most', 'Foo.reading'])
    expect(result.printed.map(({ text }) => text)).toEqual(['0.00', '0.00', '12.50'])
  })
})

describe('thermometers on one 1-Wire line, by their classes', () => {
  const pond: Short = {
    mcu: 'nano-v3',
    parts: { POND: 'ds18b20', AIR: 'ds18b20-probe', R1: { part: 'resistor', options: { ohms: 4700 } } },
    wires:
      'POND.VDD MCU.5V, POND.GND MCU.GND, POND.DQ MCU.D3, AIR.VDD MCU.5V, AIR.GND MCU.GND, AIR.DQ MCU.D3, R1.1 POND.DQ, R1.2 MCU.5V',
  }
  const steps = '  - { at: 0, set: { POND: -3.5, AIR: 31 } }\n  - { at: 4 }'
  const head =
    '#include <OneWire.h>\n#include <DallasTemperature.h>\nOneWire line(3);\nDallasTemperature meters(&line);\n'
  const printed = (text: string): string[] => run(pond, head + text, steps).printed.map((one) => one.text)

  it('each has its own number and its own warmth', () => {
    const text = `DeviceAddress second;
void setup() {
  Serial.begin(115200);
  meters.begin();
  Serial.println(meters.getDeviceCount());
  meters.requestTemperatures();
  Serial.println(meters.getTempCByIndex(0));
  Serial.println(meters.getTempCByIndex(1));
  Serial.println(meters.getTempCByIndex(2));
  Serial.println(meters.getAddress(second, 1));
  Serial.println(meters.getTempF(second));
}
${loop}`
    expect(printed(text)).toEqual(['2', '-3.50', '31.00', '-127.00', '1', '87.80'])
  })
  it('a program that does not wait for them gets what they had before, and that is said', () => {
    const text = `void setup() {
  Serial.begin(115200);
  meters.setWaitForConversion(false);
  meters.requestTemperatures();
  Serial.println(meters.isConversionComplete());
  Serial.println(meters.getTempCByIndex(1));
  while (millis() < 800) {}
  meters.requestTemperatures();
  while (!meters.isConversionComplete()) {}
  Serial.println(meters.getTempCByIndex(1));
}
${loop}`
    const result = run(pond, head + text, steps)
    expect(result.printed.map((one) => one.text)).toEqual(['0', '85.00', '31.00'])
    expect(result.findings.map(({ kind }) => kind)).toEqual(['asked-too-soon'])
  })
  it('measured less finely they are ready sooner', () => {
    const text = (wait: number): string => `void setup() {
  Serial.begin(115200);
  meters.setResolution(9);
  meters.setWaitForConversion(false);
  meters.requestTemperatures();
  delay(${wait});
  Serial.println(meters.getTempCByIndex(0));
}
${loop}`
    const fine = '  - { at: 0, set: { POND: 20.3 } }\n  - { at: 2 }'
    const result = run(pond, head + text(95), fine)
    expect([result.printed[0]?.text, result.findings]).toEqual(['20.00', []])
    expect(run(pond, head + text(50), fine).findings.map(({ kind }) => kind)).toEqual(['asked-too-soon'])
  })
  it('a program that speaks to the line byte by byte is answered the same', () => {
    const text = `byte rom[8], pad[9];
void setup() {
  Serial.begin(115200);
  while (line.search(rom)) {
    if (OneWire::crc8(rom, 7) != rom[7]) Serial.println("wrong");
    line.reset();
    line.select(rom);
    line.write(0x44, 1);
    delay(800);
    Serial.print(line.reset());
    line.select(rom);
    line.write(0xBE);
    for (byte i = 0; i < 9; i++) pad[i] = line.read();
    const int16_t raw = (pad[1] << 8) | pad[0];
    Serial.print(' ');
    Serial.println(raw / 16.0);
  }
  line.reset_search();
}
${loop}`
    expect(printed(text)).toEqual(['1 -3.50', '1 31.00'])
  })
})
