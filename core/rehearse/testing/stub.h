// What a sketch finds on its board, for the compiler of this machine: the same calls, the same virtual time, and every
// call written down, so that a run here and a run in the rehearsal can be compared line by line.
#pragma once
#include <cctype>
#include <cmath>
#include <cstdint>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <functional>
#include <new>
#include <type_traits>

typedef uint8_t byte;
typedef bool boolean;
typedef unsigned int word;
typedef unsigned int uint;

#define HIGH 1
#define LOW 0
#define INPUT 0
#define OUTPUT 1
#define INPUT_PULLUP 2
#define CHANGE 1
#define FALLING 2
#define RISING 3
#define LSBFIRST 0
#define MSBFIRST 1
#define DEC 10
#define HEX 16
#define OCT 8
#define BIN 2
#define PROGMEM
#define F(text) (text)
#define PSTR(text) (text)
#define pgm_read_byte(from) (*(from))
#define pgm_read_word(from) (*(from))
#define constrain(amt, low, high) ((amt) < (low) ? (low) : ((amt) > (high) ? (high) : (amt)))
#define sq(x) ((x) * (x))
#define bitRead(value, bit) (((value) >> (bit)) & 0x01)
#define bitSet(value, bit) ((value) |= (1UL << (bit)))
#define bitClear(value, bit) ((value) &= ~(1UL << (bit)))
#define bitWrite(value, bit, bitvalue) ((bitvalue) ? bitSet(value, bit) : bitClear(value, bit))
#define PI 3.1415926535897932384626433832795
#define ESP32 1

namespace stub {
inline double now = 0;
inline double until = 0;
struct Change { double at; int pin; int level; };
inline const Change *changes = nullptr;
inline int left = 0;
inline int levels[64] = {0};
inline std::function<void()> handlers[64];
inline int edges[64] = {0};
inline bool masked = false;
inline char line[4096];
inline int length = 0;

inline void flush() {
  if (length > 0) printf("S %.*s\n", length, line);
  length = 0;
}
inline void finish() {
  flush();
  fflush(stdout);
  _Exit(0);
}
inline void run(const Change &change) {
  int before = levels[change.pin];
  levels[change.pin] = change.level;
  if (before == change.level || !handlers[change.pin]) return;
  int edge = edges[change.pin];
  if (edge == CHANGE || (edge == RISING && change.level) || (edge == FALLING && !change.level)) handlers[change.pin]();
}
inline void wait(double us) {
  double to = now + us;
  while (left > 0 && changes->at <= to && changes->at <= until) {
    const Change &next = *changes;
    changes++;
    left--;
    if (next.at > now) now = next.at;
    run(next);
  }
  if (to > now) now = to;
  if (now >= until) finish();
}
inline void say(const char *form, long a, long b) {
  flush();
  printf("%.0f ", now);
  printf(form, a, b);
  printf("\n");
}
inline void put(const char *text) {
  for (; *text; text++) {
    if (*text == '\n') {
      if (length > 0 && line[length - 1] == '\r') length--;
      printf("S %.*s\n", length, line);
      length = 0;
    } else if (length < 4095) line[length++] = *text;
  }
}
inline void number(char *to, unsigned long long value, int base) {
  char digits[70];
  int count = 0;
  do {
    int digit = value % base;
    digits[count++] = digit < 10 ? '0' + digit : 'A' + digit - 10;
    value /= base;
  } while (value);
  while (count) *to++ = digits[--count];
  *to = 0;
}
inline void real(char *to, double value, int digits) {
  if (std::isnan(value)) { strcpy(to, "nan"); return; }
  if (std::isinf(value)) { strcpy(to, "inf"); return; }
  if (fabs(value) > 4294967040.0) { strcpy(to, "ovf"); return; }
  double size = fabs(value), rounding = 0.5;
  for (int at = 0; at < digits; at++) rounding /= 10;
  size += rounding;
  unsigned long long whole = (unsigned long long)size;
  double rest = size - (double)whole;
  if (value < 0) *to++ = '-';
  number(to, whole, 10);
  to += strlen(to);
  if (digits > 0) *to++ = '.';
  for (int at = 0; at < digits; at++) {
    rest *= 10;
    int digit = (int)rest;
    *to++ = '0' + digit;
    rest -= digit;
  }
  *to = 0;
}
template <typename T> void text(char *to, T value, int how) {
  if constexpr (std::is_same_v<T, char>) {
    if (how < 0) { to[0] = value; to[1] = 0; return; }
    number(to, (unsigned char)value, how);
  } else if constexpr (std::is_same_v<T, bool>) strcpy(to, value ? "1" : "0");
  else if constexpr (std::is_enum_v<T>) text(to, (int)value, how);
  else if constexpr (std::is_floating_point_v<T>) real(to, value, how < 0 ? 2 : how);
  else if constexpr (std::is_integral_v<T>) {
    int base = how <= 0 ? 10 : how;
    if (base == 10) {
      if (std::is_signed_v<T> && value < 0) { *to++ = '-'; number(to, 0ULL - (unsigned long long)(long long)value, 10); }
      else number(to, (unsigned long long)value, 10);
    } else if (sizeof(T) <= 4) number(to, (uint32_t)value, base);
    else number(to, (unsigned long long)value, base);
  } else if constexpr (std::is_convertible_v<T, const char *>) {
    const char *from = value;
    strcpy(to, from ? from : "");
  } else strcpy(to, "?");
}
} // namespace stub

class String {
  char *own;
  void take(const char *from, size_t count) {
    char *made = (char *)malloc(count + 1);
    memcpy(made, from, count);
    made[count] = 0;
    free(own);
    own = made;
  }

public:
  String(const char *from = "") : own(nullptr) { take(from ? from : "", strlen(from ? from : "")); }
  String(const String &other) : own(nullptr) { take(other.own, strlen(other.own)); }
  template <typename T, typename = std::enable_if_t<std::is_arithmetic_v<T>>> explicit String(T value, int how = -1) : own(nullptr) {
    char to[100];
    stub::text(to, value, how);
    take(to, strlen(to));
  }
  ~String() { free(own); }
  String &operator=(const String &other) {
    if (this != &other) take(other.own, strlen(other.own));
    return *this;
  }
  const char *c_str() const { return own; }
  char *begin() { return own; }
  char *end() { return own + strlen(own); }
  int compareTo(const String &b) const { return strcmp(own, b.own); }
  unsigned int length() const { return strlen(own); }
  bool isEmpty() const { return !*own; }
  String &operator+=(const String &more) {
    size_t a = strlen(own), b = strlen(more.own);
    char *made = (char *)malloc(a + b + 1);
    memcpy(made, own, a);
    memcpy(made + a, more.own, b + 1);
    free(own);
    own = made;
    return *this;
  }
  String &operator+=(const char *more) { return *this += String(more); }
  template <typename T, typename = std::enable_if_t<std::is_arithmetic_v<T>>> String &operator+=(T more) { return *this += String(more); }
  template <typename T> bool concat(T more) { *this += more; return true; }
  char operator[](unsigned int at) const { return at < length() ? own[at] : 0; }
  char &operator[](unsigned int at) { static char none; return at < length() ? own[at] : (none = 0); }
  char charAt(unsigned int at) const { return at < length() ? own[at] : 0; }
  void setCharAt(unsigned int at, char letter) { if (at < length()) own[at] = letter; }
  bool operator==(const String &b) const { return !strcmp(own, b.own); }
  bool operator!=(const String &b) const { return strcmp(own, b.own); }
  bool operator<(const String &b) const { return strcmp(own, b.own) < 0; }
  bool operator>(const String &b) const { return strcmp(own, b.own) > 0; }
  bool equals(const String &b) const { return *this == b; }
  bool equalsIgnoreCase(const String &b) const { return !strcasecmp(own, b.own); }
  bool startsWith(const String &b) const { return !strncmp(own, b.own, b.length()); }
  bool endsWith(const String &b) const { return length() >= b.length() && !strcmp(own + length() - b.length(), b.own); }
  int indexOf(char letter, unsigned int from = 0) const {
    if (from >= length()) return -1;
    const char *at = strchr(own + from, letter);
    return at ? at - own : -1;
  }
  int indexOf(const String &part, unsigned int from = 0) const {
    if (from >= length()) return -1;
    const char *at = strstr(own + from, part.own);
    return at ? at - own : -1;
  }
  int lastIndexOf(char letter) const {
    const char *at = strrchr(own, letter);
    return at ? at - own : -1;
  }
  String substring(unsigned int from) const { return substring(from, length()); }
  String substring(unsigned int from, unsigned int to) const {
    if (from > to) { unsigned int kept = from; from = to; to = kept; }
    if (from >= length()) return String("");
    if (to > length()) to = length();
    String made;
    made.take(own + from, to - from);
    return made;
  }
  void replace(const String &from, const String &to) {
    if (from.length() == 0) return;
    String made;
    const char *at = own;
    for (const char *next; (next = strstr(at, from.own)); at = next + from.length()) {
      String piece;
      piece.take(at, next - at);
      made += piece;
      made += to;
    }
    made += String(at);
    *this = made;
  }
  void remove(unsigned int at) { if (at < length()) own[at] = 0; }
  void remove(unsigned int at, unsigned int count) {
    if (at >= length()) return;
    String made = substring(0, at);
    if (at + count < length()) made += substring(at + count);
    *this = made;
  }
  void trim() {
    const char *from = own;
    while (isspace((unsigned char)*from)) from++;
    size_t count = strlen(from);
    while (count && isspace((unsigned char)from[count - 1])) count--;
    String made;
    made.take(from, count);
    *this = made;
  }
  void toUpperCase() { for (char *at = own; *at; at++) *at = toupper(*at); }
  void toLowerCase() { for (char *at = own; *at; at++) *at = tolower(*at); }
  int toInt() const { return atol(own); }
  float toFloat() const { return atof(own); }
  void toCharArray(char *to, unsigned int size) const {
    strncpy(to, own, size - 1);
    to[size - 1 < length() ? size - 1 : length()] = 0;
  }
  bool reserve(unsigned int) { return true; }
};
inline String operator+(const String &a, const String &b) { String made(a); made += b; return made; }
inline String operator+(const String &a, const char *b) { String made(a); made += String(b); return made; }
inline String operator+(const char *a, const String &b) { String made(a); made += b; return made; }
template <typename T, typename = std::enable_if_t<std::is_arithmetic_v<T>>> String operator+(const String &a, T b) { String made(a); made += b; return made; }

namespace stub { template <> inline void text<String>(char *to, String value, int) { strcpy(to, value.c_str()); } }

struct Printer {
  void begin(long) {}
  template <typename T> void print(const T &value, int how = -1) {
    char to[2000];
    if constexpr (std::is_array_v<T>) stub::text<const char *>(to, value, how);
    else stub::text<T>(to, value, how);
    stub::put(to);
  }
  template <typename T> void println(const T &value, int how = -1) { print(value, how); stub::put("\n"); }
  void println() { stub::put("\n"); }
  template <typename... T> void printf(const char *form, T... args) {
    char to[2000];
    snprintf(to, sizeof(to), form, args...);
    stub::put(to);
  }
  void write(int code) { char to[2] = {(char)code, 0}; stub::put(to); }
  void write(const char *text) { stub::put(text); }
  int available() { stub::wait(1); return 0; }
  int read() { return -1; }
  operator bool() const { return true; }
};
inline Printer Serial;

inline void pinMode(int pin, int mode) { stub::say("mode %ld %ld", pin, mode); stub::wait(3); }
inline void digitalWrite(int pin, int level) { stub::say("write %ld %ld", pin, level ? 1 : 0); stub::wait(3); }
inline int digitalRead(int pin) { stub::wait(3); return stub::levels[pin & 63]; }
inline int analogRead(int pin) { stub::wait(100); return (pin * 37 + (int)(stub::now / 100)) & 1023; }
inline void analogWrite(int pin, int value) { stub::say("pulse %ld %ld", pin, value < 0 ? 0 : value > 255 ? 255 : value); stub::wait(3); }
inline unsigned int millis() { stub::wait(1); return (unsigned int)(stub::now / 1000); }
inline unsigned int micros() { stub::wait(1); return (unsigned int)stub::now; }
inline void delay(unsigned int ms) { stub::wait(ms * 1000.0); }
inline void delayMicroseconds(unsigned int us) { stub::wait(us); }
inline void tone(int pin, int hertz, int = 0) { stub::say("tone %ld %ld", pin, hertz); }
inline void noTone(int pin) { stub::say("quiet %ld", pin, 0); }
inline int digitalPinToInterrupt(int pin) { return pin; }
inline void attachInterrupt(int pin, std::function<void()> handler, int mode) { stub::handlers[pin] = handler; stub::edges[pin] = mode; }
inline void detachInterrupt(int pin) { stub::handlers[pin] = nullptr; }
inline void noInterrupts() {}
inline void interrupts() {}
template <typename A, typename B> std::common_type_t<A, B> min(A a, B b) {
  std::common_type_t<A, B> x = a, y = b;
  return y < x ? y : x;
}
template <typename A, typename B> std::common_type_t<A, B> max(A a, B b) {
  std::common_type_t<A, B> x = a, y = b;
  return x < y ? y : x;
}
inline int map(int x, int a, int b, int c, int d) { return (int)((unsigned)(x - a) * (unsigned)(d - c)) / (b - a) + c; }
using std::isinf;
using std::isnan;
inline bool isAlpha(int c) { return isalpha(c); }
inline bool isDigit(int c) { return isdigit(c); }
inline unsigned long bit(int at) { return 1UL << at; }
inline double radians(double deg) { return deg * 0.017453292519943295; }
inline double degrees(double rad) { return rad * 57.29577951308232; }
inline char *itoa(int value, char *to, int base) {
  char *at = to;
  if (base == 10 && value < 0) *at++ = '-';
  stub::number(at, base == 10 && value < 0 ? 0ULL - (long long)value : (unsigned)value, base);
  return to;
}
inline uint8_t highByte(unsigned value) { return value >> 8; }
inline uint8_t lowByte(unsigned value) { return value; }

void setup();
void loop();
// A `long` has 32 bits on these boards.
#define long int
