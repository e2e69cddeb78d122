// The post in the meadow of "Two-post rain gauge": each tip of the bucket is 0.2 mm of rain.
#include <Wire.h>
#include <BME280.h>

const int BUCKET = 32;
const float PER_TIP = 0.2f;

BME280 meadow;
volatile unsigned int tips = 0;
volatile unsigned long last = 0;

void IRAM_ATTR onTip() {
  const unsigned long now = millis();
  // The magnet passes once; what follows at once is the reed of the switch.
  if (now - last > 50) tips++;
  last = now;
}

void setup() {
  Serial.begin(115200);
  pinMode(BUCKET, INPUT_PULLUP);
  attachInterrupt(digitalPinToInterrupt(BUCKET), onTip, FALLING);
  if (!meadow.begin(0x76)) Serial.println("no climate");
}

void loop() {
  noInterrupts();
  const unsigned int now = tips;
  interrupts();
  Serial.printf("%.1f mm, %.1f C, %.0f %%\n", now * PER_TIP, meadow.readTemperature(), meadow.readHumidity());
  delay(1000);
}
