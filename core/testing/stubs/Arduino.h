// The calls of a sketch's platform, as far as a test program makes them: what is done to pins is written to standard error.
#pragma once
#include <cstdint>
#include <cstdio>
#include <cstring>
#include <string>

enum { INPUT, OUTPUT, INPUT_PULLUP, INPUT_PULLDOWN };
enum { LOW, HIGH };
#define F(text) text

inline void pinMode(int pin, int mode) { std::fprintf(stderr, "mode %d %d\n", pin, mode); }
inline void digitalWrite(int pin, int level) { std::fprintf(stderr, "write %d %d\n", pin, level); }
inline int digitalRead(int pin) { std::fprintf(stderr, "read %d\n", pin); return pin % 2; }
inline int analogRead(int pin) { std::fprintf(stderr, "analog %d\n", pin); return 100 + pin; }
inline unsigned long pulseIn(int pin, int, unsigned long) { std::fprintf(stderr, "pulse %d\n", pin); return 1166; }
inline void delay(unsigned long) {}
inline void delayMicroseconds(unsigned int) {}

struct SerialStub {
  int next = -2;
  void begin(unsigned long) {}
  int available() {
    if (next == -2) next = std::getchar();
    return next >= 0 ? 1 : 0;
  }
  int read() {
    int c = available() ? next : -1;
    next = -2;
    return c;
  }
  void print(const char *text) { std::fputs(text, stdout); }
  void print(char c) { std::fputc(c, stdout); }
  void print(int value) { std::printf("%d", value); }
  void print(unsigned long value) { std::printf("%lu", value); }
  void println(const char *text) { std::puts(text); }
};
static SerialStub Serial;

struct TwoWire {
  int address = 0;
  int sda = -1;
  int scl = -1;
  void setSDA(int pin) { sda = pin; }
  void setSCL(int pin) { scl = pin; }
  void begin() { std::fprintf(stderr, "bus %d %d\n", sda, scl); }
  void begin(int data, int clock) { std::fprintf(stderr, "bus %d %d\n", data, clock); }
  void beginTransmission(int to) { address = to; }
  // Many answer, so that a line would become too long.
  int endTransmission() { return address % 2 == 0 ? 0 : 2; }
};
static TwoWire Wire, Wire1, Wire2;
