// The weather box of "Mended by Monday", written in the same hurry as it was wired.
#include <Wire.h>
#include <ESP32Servo.h>

const int WIND = 3, LAMP = 34, DIAL = 16, SHADE = 32, FLAP = 27, TEST = 12, BLOWER = 13;
Servo flap;
volatile int gusts = 0;

void onGust() { gusts++; }

void setup() {
  Serial.begin(115200);
  pinMode(LAMP, OUTPUT);
  pinMode(BLOWER, OUTPUT);
  pinMode(TEST, INPUT);
  pinMode(WIND, INPUT);
  attachInterrupt(digitalPinToInterrupt(WIND), onGust, FALLING);
  flap.attach(FLAP);
  Wire.begin();
}

void loop() {
  const int level = analogRead(DIAL);
  digitalWrite(LAMP, gusts * 100 > level);
  flap.write(map(analogRead(SHADE), 0, 4095, 0, 180));
  digitalWrite(BLOWER, digitalRead(TEST) == LOW);
  gusts = 0;
  delay(1000);
}
