// The board of "Orchard hive watch": weighs, feels the air, counts who goes in and out, and opens the vent when it is warm.
#include <BME280.h>
#include <HX711.h>
#include <MCP23X17.h>
#include <RTClib.h>
#include <Wire.h>

const int LAMP = 13;
const int VENT = 4;
const int LID = 14;
const int CELL = 34;
const int DT = 36;
const int SCK_SCALE = 32;
const float TOO_WARM = 36.0;

BME280 brood;
BME280 attic;
HX711 scale;
MCP23X17 gates;
RTC_DS3231 clockOnLid;

struct Gate {
  int pin;
  bool was;
  long passed;
};
Gate entrances[] = {{0, false, 0}, {1, false, 0}, {2, false, 0}};

unsigned long told = 0;
bool isOpen = false;

void fail(const char *what) {
  Serial.print("no ");
  Serial.println(what);
}

void setup() {
  Serial.begin(115200);
  pinMode(LAMP, OUTPUT);
  pinMode(VENT, OUTPUT);
  pinMode(LID, INPUT_PULLUP);
  Wire.begin();
  if (!brood.begin(0x76)) fail("brood");
  if (!attic.begin(0x77)) fail("attic");
  if (!clockOnLid.begin()) fail("clock");
  if (!gates.begin_I2C(0x20)) fail("gates");
  for (Gate &gate : entrances) gates.pinMode(gate.pin, INPUT_PULLUP);
  scale.begin(DT, SCK_SCALE);
  digitalWrite(LAMP, HIGH);
}

void loop() {
  for (Gate &gate : entrances) {
    const bool now = gates.digitalRead(gate.pin) == LOW;
    if (now && !gate.was) gate.passed++;
    gate.was = now;
  }
  // The knob moves the limit by three degrees either way.
  const float limit = TOO_WARM + (analogRead(CELL) / 4095.0 - 0.5) * 6;
  const float warmth = brood.readTemperature();
  const bool wasOpen = isOpen;
  isOpen = warmth > limit || (isOpen && warmth > limit - 0.5);
  digitalWrite(VENT, isOpen);
  if (isOpen != wasOpen) Serial.println(isOpen ? "vent on" : "vent off");
  if (digitalRead(LID) == LOW) {
    const DateTime now = clockOnLid.now();
    Serial.printf("lid at %02d:%02d\n", now.hour(), now.minute());
    delay(200);
  }
  if (millis() - told >= 2000) {
    told = millis();
    long all = 0;
    for (const Gate &gate : entrances) all += gate.passed;
    Serial.printf("%.1f C, %.1f above, %.1f kg, %ld passed\n", warmth, attic.readTemperature(), scale.get_units(1) / 1000, all);
  }
  delay(20);
}
