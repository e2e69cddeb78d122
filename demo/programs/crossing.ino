// The level crossing of "Branch-line crossing": a train comes, the lamps blink, the barriers fall; it goes, they rise.
#include <Servo.h>
#include <Wire.h>
#include <SSD1306.h>

constexpr uint8_t NORTH = 2, SOUTH = 3, BARRIER1 = 9, BARRIER2 = 6;
constexpr uint8_t RED1 = 8, RED2 = 7, WHITE_LAMP = 4, RELEASE = 5;
constexpr uint8_t COUNT_ADDRESS = 0x3C;
constexpr unsigned long BLINK = 400, LONGEST = 20000;

enum class State { Open, Closing, Closed };

Servo barriers[2];
SSD1306 panel(128, 64, &Wire, -1);
State state = State::Open;
unsigned long since = 0, blinked = 0;
bool left = false;
int trains = 0;
volatile bool came = false;

void onTrain() { came = true; }

void show() {
  panel.clearDisplay();
  panel.setCursor(0, 0);
  panel.print(F("Trains: "));
  panel.print(trains);
  panel.display();
}

void move(int angle) {
  for (Servo &one : barriers) one.write(angle);
}

void go(State next) {
  state = next;
  since = millis();
  digitalWrite(WHITE_LAMP, state == State::Open);
  if (state == State::Open) {
    digitalWrite(RED1, LOW);
    digitalWrite(RED2, LOW);
    move(90);
  }
  if (state == State::Closed) move(0);
}

void setup() {
  Serial.begin(9600);
  pinMode(NORTH, INPUT_PULLUP);
  pinMode(SOUTH, INPUT_PULLUP);
  pinMode(RELEASE, INPUT_PULLUP);
  for (uint8_t lamp : {RED1, RED2, WHITE_LAMP}) pinMode(lamp, OUTPUT);
  barriers[0].attach(BARRIER1, 1000, 2000);
  barriers[1].attach(BARRIER2, 1000, 2000);
  if (!panel.begin(SSD1306_SWITCHCAPVCC, COUNT_ADDRESS)) Serial.println(F("no display"));
  attachInterrupt(digitalPinToInterrupt(NORTH), onTrain, FALLING);
  attachInterrupt(digitalPinToInterrupt(SOUTH), onTrain, FALLING);
  go(State::Open);
  show();
}

void loop() {
  const unsigned long now = millis();
  if (state != State::Open && now - blinked >= BLINK) {
    blinked = now;
    left = !left;
    digitalWrite(RED1, left);
    digitalWrite(RED2, !left);
  }
  const bool isTrain = came;
  came = false;
  switch (state) {
    case State::Open:
      if (isTrain) {
        trains++;
        Serial.print(F("train "));
        Serial.println(trains);
        show();
        go(State::Closing);
      }
      break;
    case State::Closing:
      if (now - since > 1500) go(State::Closed);
      break;
    case State::Closed:
      if (isTrain || digitalRead(RELEASE) == LOW || now - since > LONGEST) go(State::Open);
      break;
  }
  delay(10);
}
