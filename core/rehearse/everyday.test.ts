import { describe, expect, it } from 'vitest'
import { catalog, planOf, type Short } from '../testing/plans.ts'
import { resolve } from '../wiring/resolve.ts'
import { type RunResult, rehearse } from './run.ts'
import { run } from './testing/quick.ts'

const ohms = (value: number) => ({ part: 'resistor', options: { ohms: value } })
/** A lamp on 26, a turned knob on 32 and 33, a key on 27. */
const bench: Short = {
  mcu: 'esp32-devkit-30',
  parts: { L: 'led', R: ohms(330), E: 'rotary-encoder', K: 'button' },
  wires:
    'L.A R.1, R.2 MCU.26, L.K MCU.GND, E.VCC MCU.3V3, E.GND MCU.GND, E.CLK MCU.32, E.DT MCU.33, K.1 MCU.27, K.2 MCU.GND',
}
const fed = 'X.VCC MCU.3V3, X.GND MCU.GND'
const said = ({ printed }: RunResult): string[] => printed.map(({ text }) => text)
const kinds = ({ findings }: RunResult): string[] => findings.map(({ kind }) => kind)

describe('displays that programs drive over pins or a bus', () => {
  const small: Short = {
    mcu: 'esp32-devkit-30',
    parts: { X: 'st7735' },
    wires: 'X.VCC MCU.VIN, X.GND MCU.GND, X.SCK MCU.18, X.SDA MCU.23, X.CS MCU.5, X.A0 MCU.16, X.RESET MCU.17',
  }
  const text = (made: string): string =>
    `#include <Maker_GFX.h>\n#include <Maker_ST7735.h>\n${made}\nvoid setup() { tft.initR(INITR_BLACKTAB); tft.fillScreen(ST77XX_BLACK); tft.setTextColor(ST77XX_WHITE); tft.setCursor(0, 0); tft.print("Hi "); tft.println(42); }\nvoid loop() { delay(100); }`
  it('a colour display shows its text where its pins are those of the program', () => {
    const right = run(small, text('Maker_ST7735 tft = Maker_ST7735(5, 16, 17);'))
    expect(right.shows).toEqual({ X: '"Hi 42"' })
    expect(kinds(right)).toEqual([])
    expect(kinds(run(small, text('Maker_ST7735 tft(5, 16, -1);')))).toEqual([])
    expect(kinds(run(small, text('Maker_ST7735 tft(5, 16, 23, 18, 17);')))).toEqual([])
    const wrong = run(small, text('Maker_ST7735 tft(5, 17, 16);'))
    expect(kinds(wrong)).toEqual(['other-pin'])
    expect(wrong.shows).toEqual({})
  })
  const shown = (short: Short, program: string): RunResult => run(short, `${program}\nvoid loop() { delay(100); }`)
  it('one with dots on four wires, over a controller or not', () => {
    const dots: Short = {
      mcu: 'uno-r3',
      parts: { X: 'ssd1306-spi' },
      wires: `${fed}, X.D0 MCU.13, X.D1 MCU.11, X.CS MCU.10, X.DC MCU.9, X.RES MCU.8`,
    }
    const program = (made: string): string =>
      `#include <Maker_SSD1306.h>\nMaker_SSD1306 d(128, 64, ${made});\nvoid setup() { d.begin(SSD1306_SWITCHCAPVCC); d.print("hey"); d.display(); }`
    expect(shown(dots, program('&SPI, 9, 8, 10')).shows.X).toBe('"hey"')
    expect(shown(dots, program('11, 13, 9, 8, 10')).shows.X).toBe('"hey"')
    expect(kinds(shown(dots, program('13, 11, 9, 8, 10')))).toEqual(['other-pin'])
  })
  it('one that is drawn page by page or from a buffer, whatever its class is called', () => {
    const dots = (part: string): Short => ({
      mcu: 'esp32-devkit-30',
      parts: { X: part },
      wires: `${fed}, X.SDA MCU.21, X.SCL MCU.22`,
    })
    const buffered = (name: string): string =>
      `#include <U8g2lib.h>\n${name} u8g2(U8G2_R0, U8X8_PIN_NONE);\nvoid setup() { u8g2.begin(); u8g2.clearBuffer(); u8g2.setFont(u8g2_font_ncenB08_tr); u8g2.drawStr(0, 10, "Hello"); u8g2.setCursor(0, 30); u8g2.print(42); u8g2.print(1.5, 1); u8g2.sendBuffer(); }`
    expect(shown(dots('ssd1306'), buffered('U8G2_SSD1306_128X64_NONAME_F_HW_I2C')).shows.X).toBe('"Hello ⏎  ⏎ 421.5"')
    expect(shown(dots('sh1106'), buffered('U8G2_SH1106_128X64_NONAME_F_HW_I2C')).shows.X).toBe('"Hello ⏎  ⏎ 421.5"')
    const paged =
      '#include <U8g2lib.h>\nU8G2_SSD1306_128X64_NONAME_1_HW_I2C d(U8G2_R0);\nvoid setup() { d.begin(); d.firstPage(); do { d.setFont(u8g2_font_6x10_tf); d.drawStr(0, 8, "page"); } while (d.nextPage()); }'
    expect(shown(dots('ssd1306'), paged).shows.X).toBe('"page"')
  })
  it('a taller one on the two-wire bus, and a low one', () => {
    const tall: Short = { mcu: 'esp32-devkit-30', parts: { X: 'sh1106' }, wires: `${fed}, X.SDA MCU.21, X.SCL MCU.22` }
    const program =
      '#include <Maker_SH110X.h>\nMaker_SH1106G d = Maker_SH1106G(128, 64, &Wire, -1);\nvoid setup() { d.begin(0x3C, true); d.clearDisplay(); d.setTextColor(SH110X_WHITE); d.println("tall"); d.display(); }'
    expect(shown(tall, program).shows.X).toBe('"tall"')
    expect(kinds(shown(tall, program.replace('0x3C', '0x3D')))).toEqual(['nobody-answers'])
    const low: Short = {
      mcu: 'uno-r3',
      parts: { X: 'pcd8544' },
      wires: `${fed}, X.CLK MCU.7, X.DIN MCU.6, X.DC MCU.5, X.CE MCU.4, X.RST MCU.3`,
    }
    const five =
      '#include <Maker_PCD8544.h>\nMaker_PCD8544 d = Maker_PCD8544(7, 6, 5, 4, 3);\nvoid setup() { d.begin(); d.setContrast(50); d.print("low"); d.display(); }'
    expect(shown(low, five).shows.X).toBe('"low"')
    expect(kinds(shown(low, five.replace('7, 6, 5, 4, 3', '7, 6, 4, 5, 3')))).toEqual(['other-pin'])
  })
})

describe('libraries that programs include', () => {
  it('strips by named colours, hues and rows', () => {
    const strip: Short = { parts: { X: 'ws2812-strip' }, wires: 'X.5V MCU.VIN, X.GND MCU.GND, X.DIN MCU.26' }
    const program = `#include <FastLED.h>
CRGB leds[8];
void setup() { FastLED.addLeds<WS2812B, 26, GRB>(leds, 8).setCorrection(TypicalLEDStrip); fill_solid(leds, 8, CRGB::Blue); leds[1] = CRGB(1, 2, 3); leds[2] = CHSV(0, 255, 255); leds[3] = 0x00FF00; FastLED.show(); leds[0] = CRGB::Red; }
void loop() { delay(100); }`
    expect(run(strip, program).shows.X).toBe('8 lit: 0 #0000ff, 1 #010203, 2 #ff0000, 3 #00ff00 …')
    expect(kinds(run(strip, program.replace('WS2812B, 26, GRB', 'NEOPIXEL, 25')))).toContain('other-pin')
    const paced = `#include <FastLED.h>
CRGB leds[1];
int n = 0;
int m = 0;
void setup() { Serial.begin(9600); FastLED.addLeds<NEOPIXEL, 26>(leds, 1); }
void loop() { EVERY_N_MILLISECONDS(100) { n++; } EVERY_N_SECONDS(1) { m++; } if (millis() > 2050 && n > 0) { Serial.println(n); Serial.println(m); n = -1000; } delay(1); }`
    expect(said(run(strip, paced))).toEqual(['20', '2'])
  })
  it('a network joins after two seconds, is said to be made up, and nobody answers', () => {
    const program = `#include <WiFi.h>
#include <WebServer.h>
#include <HTTPClient.h>
WebServer server(80);
void page() { server.send(200, "text/html", "on"); digitalWrite(26, HIGH); }
void setup() { Serial.begin(115200); pinMode(26, OUTPUT); WiFi.mode(WIFI_STA); WiFi.begin("home", "secret"); int waited = 0; while (WiFi.status() != WL_CONNECTED) { delay(500); waited++; } Serial.println(waited); Serial.println(WiFi.localIP()); server.on("/", page); server.on("/off", HTTP_POST, []() { digitalWrite(26, LOW); }); server.begin(); HTTPClient http; http.begin("http://there/"); Serial.println(http.GET() < 0); }
void loop() { server.handleClient(); delay(10); }`
    const result = run(bench, program)
    expect(said(result)).toEqual(['4', '192.168.1.50', '1'])
    expect(result.findings.map(({ kind, line, severity }) => [kind, line, severity])).toEqual([['made-up', 1, 'tip']])
    expect(result.shows.L).toBe('off')
  })
  it('a network is none on a board that has no radio', () => {
    const program = '#include <WiFi.h>\nvoid setup() { WiFi.begin("a", "b"); }\nvoid loop() { delay(100); }'
    const bare: Short = { mcu: 'uno-r3', parts: { K: 'button' }, wires: 'K.1 MCU.2, K.2 MCU.GND' }
    expect(kinds(run(bare, program))).toContain('not-able')
    expect(kinds(run(bench, program))).not.toContain('not-able')
    expect(kinds(run({ ...bare, mcu: 'pico-w', wires: 'K.1 MCU.GP2, K.2 MCU.GND' }, program))).not.toContain('not-able')
  })
  it('messages are taken by a broker that says nothing', () => {
    const program = `#include <WiFi.h>
#include <PubSubClient.h>
WiFiClient net;
PubSubClient client(net);
void heard(char *topic, byte *text, unsigned int length) { digitalWrite(26, HIGH); }
void setup() { Serial.begin(9600); WiFi.begin("a", "b"); Serial.println(client.connect("x")); WiFi.waitForConnectResult(); client.setServer("there", 1883); client.setCallback(heard); Serial.println(client.connect("x")); Serial.println(client.publish("t", String(7).c_str())); }
void loop() { client.loop(); delay(10); }`
    expect(said(run(bench, program))).toEqual(['0', '1', '1'])
  })
  it('a key without bounces tells when it falls and rises', () => {
    const program = `#include <Bounce2.h>
Bounce key = Bounce();
void setup() { Serial.begin(9600); key.attach(27, INPUT_PULLUP); key.interval(25); }
void loop() { key.update(); if (key.fell()) Serial.println("down"); if (key.rose()) Serial.println(key.read()); delay(1); }`
    const pressed = '  - { at: 0.5, set: { K: true } }\n  - { at: 1, set: { K: false } }\n  - { at: 1.5 }'
    expect(said(run(bench, program, pressed))).toEqual(['down', '1'])
    expect(said(run(bench, program, '  - { at: 1.5 }'))).toEqual([])
  })
  it('a knob that turns is counted, by edges or by looking', () => {
    const program = `#include <Encoder.h>
Encoder knob(32, 33);
void setup() { Serial.begin(9600); }
void loop() { delay(1000); Serial.println(knob.read()); knob.write(0); }`
    const turned = (by: number): string => `  - { at: 0.2, set: { E: ${by} } }\n  - { at: 1.5 }`
    expect(said(run(bench, program, turned(2)))[0]).toBe('8')
    expect(said(run(bench, program, turned(-3)))[0]).toBe('-12')
  })
  it('a regulator reckons with its shares, within its limits', () => {
    const program = (shares: string, more = ''): string => `#include <PID_v1.h>
double want, in, out;
PID hold(&in, &out, &want, ${shares}, DIRECT);
void setup() { Serial.begin(9600); want = 100; in = 90; hold.SetMode(AUTOMATIC); ${more} }
void loop() { if (hold.Compute()) { Serial.println(out); in = 80; } delay(20); }`
    const first = (text: string): string[] => said(run(bench, text)).slice(0, 3)
    expect(first(program('2, 0, 0'))).toEqual(['20.00', '40.00', '40.00'])
    expect(first(program('0, 5, 0'))).toEqual(['5.00', '15.00', '25.00'])
    expect(first(program('0, 0, 1'))).toEqual(['0.00', '100.00', '0.00'])
    expect(first(program('2, 0, 0', 'hold.SetOutputLimits(0, 30);'))).toEqual(['20.00', '30.00', '30.00'])
  })
  it('files hold what is written, added to or begun anew as the platform does', () => {
    const program = `#include <SD.h>
void setup() { Serial.begin(9600); SD.begin(10); File f = SD.open("log.txt", FILE_WRITE); f.print("a="); f.println(1.25, 1); f.close(); f = SD.open("log.txt", FILE_WRITE); f.println("b"); f.close(); f = SD.open("/log.txt"); Serial.println(f.size()); while (f.available()) Serial.write(f.read()); f.close(); if (!SD.open("no.txt")) Serial.println("none"); Serial.println(SD.exists("log.txt")); SD.remove("log.txt"); Serial.println(SD.exists("log.txt")); }
void loop() { delay(100); }`
    const card: Short = { mcu: 'uno-r3', parts: { K: 'button' }, wires: 'K.1 MCU.2, K.2 MCU.GND' }
    expect(said(run(card, program))).toEqual(['10', 'a=1.3', 'b', 'none', '1', '0'])
    expect(said(run(bench, program))).toEqual(['3', 'b', 'none', '1', '0'])
  })
  it('settings are found again under their name', () => {
    const program = `#include <Preferences.h>
Preferences p;
void setup() { Serial.begin(9600); p.begin("x"); Serial.println(p.getInt("n", 3)); p.putInt("n", -4); p.putString("s", "hey"); p.putFloat("f", 1.5); Serial.println(p.getInt("n")); Serial.println(p.getString("s", "-")); Serial.println(p.getFloat("f")); p.end(); p.begin("y"); Serial.println(p.isKey("n")); }
void loop() { delay(100); }`
    expect(said(run(bench, program))).toEqual(['3', '-4', 'hey', '1.50', '0'])
  })
  it('timers call again and again, once, with an argument, and not after they are stopped', () => {
    const program = `#include <Ticker.h>
Ticker often, once;
int n = 0;
void tick() { n++; }
void say(int what) { Serial.println(what); }
void setup() { Serial.begin(9600); often.attach(0.5, tick); once.once_ms(1200, say, 7); }
void loop() { if (n == 5 && often.active()) { often.detach(); Serial.println(millis() / 100); } delay(10); }`
    expect(said(run(bench, program))).toEqual(['7', '25'])
    const first = `#include <TimerOne.h>
volatile int n = 0;
void tick() { n++; }
void setup() { Serial.begin(9600); Timer1.initialize(100000); Timer1.attachInterrupt(tick); }
void loop() { delay(1000); noInterrupts(); int m = n; interrupts(); Serial.println(m); Timer1.setPeriod(200000); }`
    expect(said(run({ ...bench, mcu: 'esp32-devkit-30' }, first)).slice(0, 3)).toEqual(['10', '15', '20'])
  })
  it('a line through the air prints under its own name', () => {
    const program =
      '#include <BluetoothSerial.h>\nBluetoothSerial air;\nvoid setup() { air.begin("lamp"); air.println("hello"); }\nvoid loop() { delay(100); }'
    expect(run(bench, program).printed.map(({ line, text }) => `${line}: ${text}`)).toEqual(['Bluetooth: hello'])
  })
})

describe('what programs bring along', () => {
  it('a display whose pins stand elsewhere shows its text, and is not compared', () => {
    const small: Short = {
      mcu: 'esp32-devkit-30',
      parts: { X: 'st7735' },
      wires: 'X.VCC MCU.VIN, X.GND MCU.GND, X.SCK MCU.18, X.SDA MCU.23, X.CS MCU.5, X.A0 MCU.16, X.RESET MCU.17',
    }
    const program =
      '#include <TFT_eSPI.h>\nTFT_eSPI tft = TFT_eSPI();\nvoid setup() { tft.init(); tft.setRotation(1); tft.fillScreen(TFT_BLACK); tft.setTextColor(TFT_WHITE, TFT_BLACK); tft.drawString("warm", 0, 0, 2); tft.setCursor(0, 20); tft.print(21.5, 1); tft.fillCircle(tft.width() / 2, 40, 9, TFT_RED); }\nvoid loop() { delay(100); }'
    const result = run(small, program)
    expect(result.shows.X).toMatch(/warm.*21\.5/)
    expect(kinds(result)).toEqual(['made-up'])
  })
  it('a radio between boards says that it has sent, once it is begun and knows somebody', () => {
    const program = (peer: string): string =>
      `#include <esp_now.h>\n#include <WiFi.h>\nuint8_t who[] = {1, 2, 3, 4, 5, 6}; struct Note { int n; } note = {3};\nvoid sent(const uint8_t *mac, esp_now_send_status_t how) { Serial.println(how == ESP_NOW_SEND_SUCCESS ? "sent" : "lost"); }\nvoid setup() { Serial.begin(115200); WiFi.mode(WIFI_STA); if (esp_now_init() != ESP_OK) return; esp_now_register_send_cb(sent); esp_now_peer_info_t one = {}; memcpy(one.peer_addr, who, 6); ${peer} Serial.println(esp_now_send(who, (uint8_t *)&note, sizeof note) == ESP_OK); }\nvoid loop() { delay(100); }`
    expect(said(run({ mcu: 'esp32-devkit-30', parts: {} }, program('esp_now_add_peer(&one);')))).toEqual(['sent', '1'])
    expect(said(run({ mcu: 'esp32-devkit-30', parts: {} }, program('')))).toEqual(['0'])
  })
  it('settings of an eight-bit chip end where its memory ends', () => {
    const program = (at: number): string =>
      `#include <EEPROM.h>\nvoid setup() { Serial.begin(9600); EEPROM.write(${at}, 5); Serial.println(EEPROM.length()); }\nvoid loop() {}`
    const uno = { mcu: 'uno-r3', parts: {} }
    expect([said(run(uno, program(1023))), kinds(run(uno, program(1023)))]).toEqual([['1024'], []])
    expect(kinds(run(uno, program(1024)))).toEqual(['wrong-place'])
    expect(kinds(run({ mcu: 'mega-2560-r3', parts: {} }, program(1024)))).toEqual([])
  })
  it('texts in flash, and the day on which a program was compiled', () => {
    const program =
      '#include <RTClib.h>\nconst char words[] PROGMEM = "abc";\nvoid setup() { Serial.begin(9600); char out[8]; strcpy_P(out, words); Serial.println(out); Serial.println(strlen_P(words)); DateTime made(F(__DATE__), F(__TIME__)); char form[] = "DD.MM.YYYY hh:mm DDD"; Serial.println(made.toString(form)); }\nvoid loop() {}'
    expect(said(run({ mcu: 'uno-r3', parts: {} }, program))).toEqual(['abc', '3', '01.01.2026 12:00 Thu'])
  })
})

describe('networks in Python', () => {
  it('join after two seconds and say that they are made up; who is asked there does not answer', () => {
    const text = `import network, time
import requests
w = network.WLAN(network.STA_IF)
w.active(True)
w.connect("home", "secret")
n = 0
while not w.isconnected():
    time.sleep(0.5)
    n += 1
print(n, w.ifconfig()[0])
try:
    requests.get("http://there/")
except OSError:
    print("nobody")
from umqtt.simple import MQTTClient
c = MQTTClient("x", "there")
c.connect()
c.publish(b"t", b"1")
print("sent")
`
    const wiring = resolve(planOf({ mcu: 'pico-w', parts: {}, wires: '' }), catalog)
    const result = rehearse(wiring, wiring.boards[0]!, [{ name: 'main.py', text }], { seconds: 6 })
    expect(said(result)).toEqual(['4 192.168.1.50', 'nobody', 'sent'])
    expect(new Set(kinds(result))).toEqual(new Set(['made-up']))
  })
})

describe('loads that pulses dim or slow', () => {
  const box = { part: 'battery-box', options: { volts: 6 } }
  const motor = { part: 'dc-motor', options: { volts: 6 } }
  const bridged: Short = {
    mcu: 'uno-r3',
    parts: { H: 'l9110s', M: motor, B: box },
    wires: 'H.VCC B.+, H.GND B.-, H.GND MCU.GND, H.A-IA MCU.9, H.A-IB MCU.10, H.OA1 M.M1, H.OA2 M.M2',
  }
  const milliamps = (short: Short, text: string, ref = 'M'): number =>
    Number(/(\d+) mA/.exec(run(short, `void setup() { ${text} }\nvoid loop() {}`).shows[ref]!)?.[1] ?? 0)
  it('a motor behind a bridge gets as much as its pulses say, either way round', () => {
    const full = milliamps(bridged, 'pinMode(9, OUTPUT); digitalWrite(9, HIGH); pinMode(10, OUTPUT);')
    expect(full).toBeGreaterThan(200)
    for (const duty of [51, 102, 204]) {
      const share = milliamps(bridged, `pinMode(9, OUTPUT); analogWrite(10, ${duty});`) / full
      expect(share).toBeCloseTo(duty / 255, 1)
    }
    const words = (text: string): string => run(bridged, `void setup() { ${text} }\nvoid loop() {}`).shows.M!
    expect(words('analogWrite(9, 100); pinMode(10, OUTPUT);')).toContain('forwards')
    expect(words('analogWrite(10, 100); pinMode(9, OUTPUT);')).toContain('backwards')
    expect(words('analogWrite(10, 10); pinMode(9, OUTPUT);')).toBe('rests')
  })
  it('pulses at the input that releases a bridge count as well', () => {
    const released: Short = {
      mcu: 'uno-r3',
      parts: { H: 'l298n', M: motor, B: { part: 'battery-box', options: { volts: 9 } } },
      wires: 'H.VS B.+, H.GND B.-, H.GND MCU.GND, H.ENA MCU.9, H.IN1 MCU.7, H.IN2 MCU.8, H.OUT1 M.M1, H.OUT2 M.M2',
    }
    const text = (duty: number): string =>
      `pinMode(7, OUTPUT); pinMode(8, OUTPUT); digitalWrite(8, HIGH); analogWrite(9, ${duty});`
    expect(milliamps(released, text(64)) / milliamps(released, text(255))).toBeCloseTo(0.25, 1)
  })
  it('and so does a lamp at an output that pulls low', () => {
    const sunk: Short = {
      mcu: 'uno-r3',
      parts: { U: 'uln2003', L: 'lamp', B: { part: 'dc-socket', options: { volts: 12 } } },
      wires: 'U.IN1 MCU.9, U.GND MCU.GND, U.COM B.+, B.+ L.+, L.- U.OUT1, B.- MCU.GND',
    }
    const full = milliamps(sunk, 'pinMode(9, OUTPUT); digitalWrite(9, HIGH);', 'L')
    expect(milliamps(sunk, 'analogWrite(9, 128);', 'L') / full).toBeCloseTo(0.5, 1)
    expect(milliamps(sunk, 'analogWrite(9, 0);', 'L')).toBe(0)
  })
})
