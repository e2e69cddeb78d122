import { it } from 'vitest'
import { run } from './testing/quick.ts'
const base = { mcu: 'esp32-devkit-30', parts: { L: 'led', R: { part: 'resistor', options: { ohms: 330 } }, E: 'rotary-encoder', P: 'potentiometer' }, wires: 'L.A R.1, R.2 MCU.26, L.K MCU.GND, E.VCC MCU.3V3, E.GND MCU.GND, E.CLK MCU.32, E.DT MCU.33, P.1 MCU.GND, P.3 MCU.3V3, P.W MCU.34' }
const sk: Record<string, string> = {
wifi: `#include <WiFi.h>
#include <WebServer.h>
const char* ssid = "home"; const char* password = "secret";
WebServer server(80);
void handleRoot() { server.send(200, "text/html", "<h1>on</h1>"); digitalWrite(26, HIGH); }
void setup() { Serial.begin(115200); pinMode(26, OUTPUT); WiFi.mode(WIFI_STA); WiFi.begin(ssid, password); while (WiFi.status() != WL_CONNECTED) { delay(500); Serial.print("."); } Serial.println(WiFi.localIP()); server.on("/", handleRoot); server.on("/off", []() { digitalWrite(26, LOW); server.send(200, "text/plain", "off"); }); server.on("/x", HTTP_POST, handleRoot); server.begin(); digitalWrite(26, HIGH); }
void loop() { server.handleClient(); }`,
mqtt: `#include <WiFi.h>
#include <PubSubClient.h>
WiFiClient espClient; PubSubClient client(espClient);
void callback(char* topic, byte* payload, unsigned int length) { if ((char)payload[0] == '1') digitalWrite(26, HIGH); }
void reconnect() { while (!client.connected()) { if (client.connect("x")) { client.subscribe("a"); } else { delay(5000); } } }
void setup() { Serial.begin(115200); pinMode(26, OUTPUT); WiFi.begin("a", "b"); while (WiFi.status() != WL_CONNECTED) delay(500); client.setServer("1.2.3.4", 1883); client.setCallback(callback); }
void loop() { if (!client.connected()) reconnect(); client.loop(); Serial.println(client.publish("t", String(analogRead(34)).c_str())); delay(1000); }`,
http: `#include <ESP8266WiFi.h>
#include <HTTPClient.h>
void setup() { Serial.begin(9600); WiFi.begin("a", "b"); WiFi.waitForConnectResult(); HTTPClient http; http.begin("http://x/y"); int code = http.GET(); if (code > 0) Serial.println(http.getString()); else Serial.printf("%s\\n", http.errorToString(code).c_str()); http.end(); }
void loop() { delay(100); }`,
bounce: `#include <Bounce2.h>
Bounce b = Bounce();
Bounce2::Button key;
void setup() { Serial.begin(9600); b.attach(26, INPUT_PULLUP); b.interval(25); key.attach(27, INPUT_PULLUP); key.setPressedState(LOW); }
void loop() { b.update(); if (b.fell()) Serial.println("x"); key.update(); if (key.wasPressed()) Serial.println("y"); delay(1); }`,
encoder: `#include <Encoder.h>
Encoder e(32, 33);
long old = -999;
void setup() { Serial.begin(9600); }
void loop() { long p = e.read(); if (p != old) { old = p; Serial.println(p); } delay(10); }`,
pid: `#include <PID_v1.h>
double sp, in, out; PID p(&in, &out, &sp, 2, 5, 1, DIRECT);
void setup() { Serial.begin(9600); sp = 100; p.SetMode(AUTOMATIC); }
void loop() { in = 50; if (p.Compute()) Serial.println(out); delay(50); }`,
sd: `#include <SPI.h>
#include <SD.h>
File f;
void setup() { Serial.begin(9600); if (!SD.begin(5)) { Serial.println("fail"); return; } f = SD.open("/log.txt", FILE_WRITE); if (f) { f.print("t="); f.println(3.14, 1); f.println("x"); f.close(); } f = SD.open("/log.txt"); while (f.available()) Serial.write(f.read()); f.close(); Serial.println(SD.exists("/no.txt")); }
void loop() { delay(100); }`,
pref: `#include <Preferences.h>
Preferences p;
void setup() { p.begin("x", false); int n = p.getInt("n", 3); p.putInt("n", n + 1); p.putString("s", "hey"); Serial.begin(9600); Serial.println(n); Serial.println(p.getInt("n")); Serial.println(p.getString("s", "-")); p.end(); }
void loop() { delay(100); }`,
}
for (const [k, text] of Object.entries(sk)) it(k, () => {
  try { const r = run(base as never, text, k === 'encoder' ? '  - { at: 0.5, set: { E: 2 } }\n  - { at: 2 }' : ''); console.log('#####', k, JSON.stringify(r.findings.filter((f) => !['nothing-there'].includes(f.kind)).map((f) => `${f.kind} ${f.file} ${f.line}: ${f.message}`)).slice(0, 900), JSON.stringify(r.shows), JSON.stringify(r.printed.map(({ text }) => text).slice(0, 6))) } catch (e) { console.log('#####', k, 'THROW', e) }
})
