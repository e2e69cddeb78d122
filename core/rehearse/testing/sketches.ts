/** Sketches over the features of the language, each with what it is about. They run the same on any compiler. */
export const sketches: readonly (readonly [string, string])[] = [
  [
    'blinking without waiting',
    `const uint8_t LAMP = 4;
unsigned long before = 0;
bool lit = false;
void setup() { pinMode(LAMP, OUTPUT); Serial.begin(9600); }
void loop() {
  unsigned long now = millis();
  if (now - before >= 120) { before = now; lit = !lit; digitalWrite(LAMP, lit ? HIGH : LOW); Serial.println(lit); }
  delay(7);
}`,
  ],
  [
    'a traffic light as a machine of states',
    `enum class Phase { Red, Amber, Green };
struct Step { Phase phase; uint16_t lasts; uint8_t pins; };
const Step steps[] = { {Phase::Red, 90, 0b100}, {Phase::Amber, 30, 0b010}, {Phase::Green, 110, 0b001} };
const byte PINS[3] = {5, 6, 7};
size_t at = 0; unsigned long since;
void show(const Step &step) { for (byte i = 0; i < 3; i++) digitalWrite(PINS[i], bitRead(step.pins, i)); }
void setup() { for (auto pin : PINS) pinMode(pin, OUTPUT); show(steps[at]); since = millis(); }
void loop() {
  if (millis() - since < steps[at].lasts) { delay(1); return; }
  at = (at + 1) % (sizeof steps / sizeof *steps);
  since = millis(); show(steps[at]);
  switch (steps[at].phase) { case Phase::Red: Serial.println("stop"); break; case Phase::Green: Serial.println("go"); break; default: Serial.println("wait"); }
}`,
  ],
  [
    'classes that build on one another',
    `class Output {
public:
  Output(int pin, bool low = false) : _pin(pin), _low(low) { made++; }
  void begin() { pinMode(_pin, OUTPUT); off(); }
  void on() { put(true); }
  void off() { put(false); }
  virtual const char *name() const { return "output"; }
  virtual ~Output() {}
  static int made;
protected:
  void put(bool on) { digitalWrite(_pin, on != _low); _on = on; }
  int _pin; bool _low; bool _on = false;
};
int Output::made = 0;
class Blinker : public Output {
public:
  Blinker(int pin, unsigned long each) : Output(pin), _each(each) {}
  void tick() { if (millis() - _last >= _each) { _last = millis(); if (_on) off(); else on(); times++; } }
  const char *name() const override { return "blinker"; }
  int times = 0;
private:
  unsigned long _each, _last = 0;
};
Output relay(8, true); Blinker one(9, 35), two(10, 90);
Output *all[] = {&relay, &one, &two};
void setup() {
  for (Output *each : all) { each->begin(); Serial.println(each->name()); }
  Serial.println(Output::made); relay.on();
}
void loop() { one.tick(); two.tick(); delay(5); if (one.times == 20) { Serial.println(two.times); one.times = 0; } }`,
  ],
  [
    'references, pointers, pointers to pointers',
    `struct Node { int value; Node *next; };
Node c = {3, nullptr}, b = {2, &c}, a = {1, &b};
void twice(int &x) { x *= 2; }
void clear(int *x, int count) { while (count--) *x++ = 0; }
int &largest(int &x, int &y) { return x > y ? x : y; }
int sum(const Node *from) { int s = 0; for (; from; from = from->next) s += from->value; return s; }
void push(Node **head, Node *one) { one->next = *head; *head = one; }
void setup() {
  int n = 5; twice(n); Serial.println(n);
  int row[4] = {1, 2, 3, 4}; clear(row + 1, 2); for (int v : row) Serial.print(v); Serial.println();
  int x = 3, y = 9; largest(x, y) = 0; Serial.println(y);
  Node *head = &a; Node d = {10, nullptr}; push(&head, &d); Serial.println(sum(head)); Serial.println(head == &d);
  int *p = row, *e = row + 4; int count = 0; while (p != e) { count += *p; ++p; } Serial.println(count);
  (*head).value = 20; Serial.println(d.value); int **pp = &p; *pp = row; Serial.println(**pp);
  const char *words[] = {"lamp", "relay", "horn"}; for (const char **w = words; w < words + 3; w++) Serial.println(*w);
  int m[3][2] = {{1, 2}, {3, 4}, {5, 6}}; int (*r)[2] = m; Serial.println(r[2][1]); r++; Serial.println((*r)[0]);
}
void loop() { delay(900); }`,
  ],
  [
    'letters and texts',
    `char buffer[32];
void setup() {
  String s = "  Shed door "; s.trim(); Serial.println(s); s.toUpperCase(); Serial.println(s);
  s.replace("DOOR", "gate"); Serial.println(s + "/" + s.length()); Serial.println(s.substring(5)); Serial.println(s.substring(1, 3));
  Serial.println(s.indexOf("gate")); Serial.println(s.indexOf('x')); Serial.println(s.charAt(0)); s[0] = 's'; Serial.println(s);
  String n = "42 mm"; Serial.println(n.toInt() + 1); Serial.println(String("2.75x").toFloat(), 3); Serial.println(n.startsWith("42")); Serial.println(n.endsWith("cm"));
  String made = String(10, HEX) + "," + String(5, BIN) + "," + String(3.14159, 3) + ',' + true; Serial.println(made);
  if (n == "42 mm" && n != "x" && String("a") < String("b")) Serial.println("ok");
  strcpy(buffer, "one"); strcat(buffer, "+two"); Serial.println(buffer); Serial.println(strlen(buffer)); Serial.println(strcmp(buffer, "one+two") == 0);
  char *at = strchr(buffer, '+'); *at = 0; Serial.println(buffer); Serial.println(at + 1);
  snprintf(buffer, sizeof(buffer), "%03d|%-5s|%5.1f|%x|%c", 7, "ab", 2.25, 254, 'z'); Serial.println(buffer);
  Serial.println(atoi("123abc")); Serial.println(isdigit('7') ? "digit" : "no"); Serial.println((char)toupper('q'));
  char cut[] = "red,green,blue"; for (char *part = strtok(cut, ","); part != NULL; part = strtok(NULL, ",")) Serial.println(part);
  for (char letter = 'a'; letter <= 'e'; letter++) Serial.print(letter); Serial.println();
  Serial.print('a' + 1); Serial.println((char)('a' + 1)); s.remove(2, 3); Serial.println(s); s.concat("!"); Serial.println(s); String copy = s; copy += "?"; Serial.println(s + copy);
  char fixed[8] = "abc"; fixed[1] = 'X'; Serial.println(fixed); memset(fixed, '-', 3); Serial.println(fixed); Serial.println(memcmp("abc", "abd", 2));
}
void loop() { delay(900); }`,
  ],
  [
    'macros, with arguments and without, and branches',
    `#define COUNT 4
#define DOUBLE(x) ((x) * 2)
#define LARGER(a, b) ((a) > (b) ? (a) : (b))
#define NAME(what) #what
#define JOIN(a, b) a##b
#define SAY(...) Serial.println(__VA_ARGS__)
#define LOOP_OVER(i) for (int i = 0; i < COUNT; i++)
#define DEBUG 1
#if DEBUG && defined(COUNT) && COUNT > 3
#define LOG(x) Serial.println(x)
#else
#define LOG(x)
#endif
#ifndef MISSING
int JOIN(lamp, One) = 3;
#elif COUNT == 9
int lampOne = 99;
#endif
#undef DEBUG
#ifdef DEBUG
#error not here
#endif
void setup() {
  SAY(DOUBLE(COUNT + 1)); SAY(LARGER(3, DOUBLE(2))); SAY(NAME(shed door)); SAY(lampOne); SAY(255, HEX);
  LOOP_OVER(i) { if (i & 1) LOG(i); }
  LOG("logged"); SAY(__LINE__);
}
void loop() { delay(900); }`,
  ],
  [
    'templates',
    `template <typename T> T middle(T a, T b, T c) { return a > b ? (b > c ? b : (a > c ? c : a)) : (a > c ? a : (b > c ? c : b)); }
template <typename T, int N> class Ring {
public:
  void add(T value) { _all[_next] = value; _next = (_next + 1) % N; if (_count < N) _count++; }
  T mean() const { T sum = 0; for (int i = 0; i < _count; i++) sum += _all[i]; return _count ? sum / _count : 0; }
  int count() const { return _count; }
  T operator[](int at) const { return _all[at]; }
private:
  T _all[N]; int _next = 0; int _count = 0;
};
template <class T> void swapped(T &a, T &b) { T kept = a; a = b; b = kept; }
template <typename T, size_t N> size_t lengthOf(T (&)[N]) { return N; }
Ring<int, 4> whole; Ring<float, 3> real;
void setup() {
  Serial.println(middle(3, 9, 5)); Serial.println(middle(2.5, 1.5, 2.0)); Serial.println(middle<long>(1, 2, 3));
  for (int i = 1; i < 8; i++) { whole.add(i * 10); real.add(i / 2.0f); }
  Serial.println(whole.mean()); Serial.println(real.mean()); Serial.println(whole.count()); Serial.println(whole[1]);
  int a = 1, b = 2; swapped(a, b); Serial.println(a * 10 + b); String s = "x", t = "y"; swapped(s, t); Serial.println(s + t);
}
void loop() { delay(900); }`,
  ],
  [
    'lambdas and functions as values',
    `typedef void (*Action)(int);
using Test = bool (*)(int);
int total = 0;
void add(int n) { total += n; }
void take(int n) { total -= n; }
bool even(int n) { return n % 2 == 0; }
int count(const int *all, int length, Test test) { int found = 0; for (int i = 0; i < length; i++) if (test(all[i])) found++; return found; }
struct Entry { const char *name; Action action; };
Entry menu[] = { {"add", add}, {"take", take} };
void each(int from, int to, void (*what)(int)) { while (from < to) what(from++); }
void setup() {
  for (Entry &one : menu) { one.action(7); Serial.print(one.name); Serial.print(' '); Serial.println(total); }
  int all[] = {1, 2, 3, 4, 6}; Serial.println(count(all, 5, even)); Serial.println(count(all, 5, [](int n) { return n > 2; }));
  int factor = 3; auto by = [factor](int x) { return x * factor; }; factor = 100; Serial.println(by(5));
  auto next = [&total = total]() -> int { return ++total; }; next(); Serial.println(next());
  int seen = 0; auto note = [&](int n) { seen += n; }; for (int n : all) note(n); Serial.println(seen);
  each(0, 3, [](int n) { Serial.print(n); }); Serial.println(); Action maybe = nullptr; if (!maybe) maybe = add; maybe(1); (*maybe)(1); Serial.println(total);
}
void loop() { delay(900); }`,
  ],
  [
    'overloads, defaults, and static variables',
    `int area(int side) { return side * side; }
int area(int a, int b) { return a * b; }
float area(float r) { return 3.0f * r * r; }
void say(const char *text) { Serial.print("text "); Serial.println(text); }
void say(int n) { Serial.print("int "); Serial.println(n); }
void say(bool n) { Serial.print("bool "); Serial.println(n); }
void say(double n) { Serial.print("double "); Serial.println(n); }
void wait(int n = 10, int times = 2);
int counter() { static int n = 0; static const int step = 5; n += step; return n; }
void setup() {
  Serial.println(area(3)); Serial.println(area(3, 4)); Serial.println(area(1.5f)); say("a"); say(1); say(true); say(2.5); say('a');
  wait(); wait(5); wait(5, 1); counter(); counter(); Serial.println(counter());
}
void wait(int n, int times) { while (times--) { delay(n); digitalWrite(n, times); } }
void loop() { delay(900); }`,
  ],
  [
    'numbers of every width',
    `void setup() {
  uint8_t a = 200; a = a + 100; Serial.println(a); int8_t b = 127; b++; Serial.println(b); uint16_t c = 65535; c += 2; Serial.println(c);
  unsigned int d = 3; d -= 5; Serial.println(d); int e = -17; Serial.println(e / 5); Serial.println(e % 5); Serial.println(e >> 2); Serial.println((unsigned)e >> 28);
  long f = 100000L * 3; Serial.println(f); uint32_t g = 0xFFFFFFFF; Serial.println(g + 1); Serial.println(g, HEX); uint64_t h = 1ULL << 33; Serial.println((unsigned long)(h / 3)); int64_t i = -5; i *= 1000000000000LL; Serial.println((long)(i / 1000000));
  Serial.println(7 / 2 * 2.0); Serial.println(1 / 3.0f, 6); Serial.println((int)-2.7); Serial.println(5.0 / 2, 0); Serial.println(0.1 + 0.2 == 0.3); Serial.println(0.1f + 0.2f, 8);
  uint8_t x = 0x0F, y = 0x35; Serial.println(x & y); Serial.println(x | y); Serial.println(x ^ y); Serial.println((uint8_t)~x); Serial.println(x << 4); Serial.println(1UL << 31);
  bool t = 5; Serial.println(t + t); char ch = 'a'; ch += 2; Serial.println(ch); Serial.println(ch + 0); Serial.println(sizeof(int) + sizeof(char) * 10 + sizeof(uint16_t) * 100);
  int k = 5; k = k++ + 2; Serial.println(k); int m = (k = 3, k + 1); Serial.println(m); k <<= 3; k |= 1; k ^= 0xF; Serial.println(k); Serial.println(-k % 7); Serial.println(!k); Serial.println(true && 0 || 3);
  uint16_t hi = 0x12, lo = 0x34; int16_t both = (hi << 8) | lo; Serial.println(both, HEX); int16_t minus = (0xFF << 8) | 0x38; Serial.println(minus);
  float big = 1e9; Serial.println(big); Serial.println(1e10); Serial.println(-0.004); Serial.println(2.675, 2); Serial.println(sqrt(2.0), 5); Serial.println(pow(2, 10)); Serial.println(fabs(-3.5)); Serial.println(sin(0.5), 4); Serial.println(atan2(1, -1), 4);
}
void loop() { delay(900); }`,
  ],
  [
    'interrupts count edges',
    `volatile unsigned int edges = 0; volatile unsigned long last = 0;
void onEdge() { unsigned long now = micros(); if (now - last > 3000) edges++; last = now; }
void setup() { pinMode(2, INPUT_PULLUP); attachInterrupt(digitalPinToInterrupt(2), onEdge, FALLING); attachInterrupt(digitalPinToInterrupt(3), []() { Serial.println("three"); }, CHANGE); }
void loop() {
  noInterrupts(); unsigned int now = edges; edges = 0; interrupts();
  Serial.print(millis()); Serial.print(' '); Serial.println(now); delay(100);
}`,
  ],
  [
    'a button is debounced',
    `const int BUTTON = 2;
int stable = LOW, before = LOW; unsigned long changed = 0; int presses = 0;
void setup() { pinMode(BUTTON, INPUT); }
void loop() {
  int now = digitalRead(BUTTON);
  if (now != before) { changed = millis(); before = now; }
  if (millis() - changed > 15 && now != stable) { stable = now; if (stable == HIGH) { presses++; Serial.print("press "); Serial.println(presses); } }
  delay(2);
}`,
  ],
  [
    'objects in objects, references as fields, operators',
    `struct Vec { float x, y; Vec(float a = 0, float b = 0) : x(a), y(b) {} Vec operator+(const Vec &o) const { return Vec(x + o.x, y + o.y); } Vec operator*(float k) const { return {x * k, y * k}; } bool operator==(const Vec &o) const { return x == o.x && y == o.y; } Vec &operator+=(const Vec &o) { x += o.x; y += o.y; return *this; } float length() const { return sqrt(x * x + y * y); } };
class Counter { public: void up() { n++; } int value() const { return n; } private: int n = 0; };
class Watcher { public: Watcher(Counter &c) : counter(c) {} void see() { counter.up(); } private: Counter &counter; };
struct Box { Vec at; Vec size{2, 3}; Counter count; };
Vec operator-(const Vec &a, const Vec &b) { return Vec(a.x - b.x, a.y - b.y); }
Counter shared; Watcher one(shared), two(shared);
void setup() {
  Vec a(1, 2), b = {3, 4}; Vec c = a + b * 2; Serial.println(c.x); Serial.println(c.y); c += a; Serial.println(c.length(), 3); Serial.println(a == Vec(1, 2)); Serial.println((b - a).y);
  one.see(); two.see(); one.see(); Serial.println(shared.value());
  Box box; box.at = b; box.count.up(); Box copy = box; copy.at.x = 50; copy.count.up(); Serial.println(box.at.x); Serial.println(copy.count.value() * 10 + box.count.value()); Serial.println(box.size.y);
  Vec many[3] = {Vec(1, 1), {2, 2}}; many[2] = many[0] + many[1]; Serial.println(many[2].x); Vec *p = &many[1]; p->x = 8; Serial.println(many[1].x); Vec *made = new Vec(5, 6); Serial.println(made->y); delete made;
}
void loop() { delay(900); }`,
  ],
  [
    'loops inside loops and how they end',
    `int primes() { int found = 0; for (int n = 2; n < 60; n++) { bool prime = true; for (int d = 2; d * d <= n; ++d) { if (n % d == 0) { prime = false; break; } } if (!prime) continue; found++; } return found; }
int collatz(long n) { int steps = 0; while (true) { if (n == 1) break; n = n % 2 ? 3 * n + 1 : n / 2; steps++; } return steps; }
int search(int want) { for (int i = 0; i < 5; i++) for (int j = 0; j < 5; j++) if (i * j == want) return i * 10 + j; return -1; }
void setup() {
  Serial.println(primes()); Serial.println(collatz(27)); Serial.println(search(12)); Serial.println(search(7));
  int i = 0; do { if (i == 3) { i += 2; continue; } Serial.print(i); i++; } while (i < 8); Serial.println();
  for (int a = 0, b = 10; a < b; a += 2, b--) Serial.print(a * b), Serial.print(','); Serial.println();
  for (;;) { if (++i > 12) break; } Serial.println(i); for (char *s = (char *)"xyz"; *s; s++) Serial.print(*s); Serial.println();
  switch (i) { case 12: { int inside = 1; Serial.println(inside); break; } case 13: Serial.println("13"); default: Serial.println("on"); case 99: Serial.println("through"); }
  int n = 3; while (n --> 0) switch (n) { case 1: continue; default: Serial.print(n); } Serial.println();
}
void loop() { delay(900); }`,
  ],
  [
    'names that hide others, and names of names',
    `int level = 1;
namespace shed { int level = 2; int twice() { return level * 2; } namespace roof { const int HEIGHT = 7; } }
struct Lamp { enum State { OFF, ON }; static constexpr int MOST = 9; typedef uint8_t Pin; Pin pin; State state = OFF; int level(int level) { return level + this->pin; } };
void setup() {
  Serial.println(level); int level = 5; { int level = 6; Serial.println(level); } Serial.println(level); Serial.println(::level); Serial.println(shed::twice()); Serial.println(shed::roof::HEIGHT);
  Lamp l{4}; l.state = Lamp::ON; Serial.println(l.state); Serial.println(l.level(10)); Serial.println(Lamp::MOST); Lamp::Pin p = 300; Serial.println(p);
  for (int level = 0; level < 2; level++) Serial.print(level); Serial.println(level); using Small = int8_t; Small s = 200; Serial.println(s); typedef struct { int a; int b; } Duo; Duo d = {1, 2}; Serial.println(d.a + d.b);
}
void loop() { delay(900); }`,
  ],
  [
    'sorting and searching',
    `void sort(int *all, int n) { for (int i = 1; i < n; i++) { int key = all[i], j = i - 1; while (j >= 0 && all[j] > key) { all[j + 1] = all[j]; j--; } all[j + 1] = key; } }
int find(const int all[], int n, int want) { int low = 0, high = n - 1; while (low <= high) { int mid = low + (high - low) / 2; if (all[mid] == want) return mid; if (all[mid] < want) low = mid + 1; else high = mid - 1; } return -1; }
void quick(int a[], int low, int high) { if (low >= high) return; int pivot = a[high], at = low; for (int i = low; i < high; i++) if (a[i] < pivot) { int t = a[i]; a[i] = a[at]; a[at] = t; at++; } int t = a[high]; a[high] = a[at]; a[at] = t; quick(a, low, at - 1); quick(a, at + 1, high); }
void setup() {
  int all[10]; unsigned long seed = 12345; for (int &v : all) { seed = seed * 1103515245UL + 12345UL; v = (seed >> 16) % 100; } int copy[10]; memcpy(copy, all, sizeof(all));
  sort(all, 10); for (int v : all) { Serial.print(v); Serial.print(' '); } Serial.println(); Serial.println(find(all, 10, all[6])); quick(copy, 0, 9); Serial.println(memcmp(all, copy, sizeof(all)));
  uint8_t crc = 0; for (byte b : {0x12, 0x34, 0x56}) { crc ^= b; for (int i = 0; i < 8; i++) crc = crc & 0x80 ? (crc << 1) ^ 0x31 : crc << 1; } Serial.println(crc, HEX);
}
void loop() { delay(900); }`,
  ],
  [
    'analog values, averaged and mapped',
    `const int SAMPLES = 5; int history[SAMPLES]; int at = 0; long sum = 0;
void setup() { for (int i = 0; i < SAMPLES; i++) history[i] = 0; }
void loop() {
  sum -= history[at]; history[at] = analogRead(3); sum += history[at]; at = (at + 1) % SAMPLES;
  int mean = sum / SAMPLES; float volts = mean * 3.3f / 1023; int percent = map(mean, 0, 1023, 0, 100);
  Serial.print(mean); Serial.print('\\t'); Serial.print(volts, 3); Serial.print('\\t'); Serial.println(percent);
  analogWrite(9, constrain(map(mean, 0, 600, 255, 0), 0, 255)); delay(73);
}`,
  ],
  [
    'a tune out of a table',
    `struct Note { uint16_t hertz; uint8_t beats; };
const Note tune[] PROGMEM = { {262, 1}, {294, 1}, {330, 2}, {0, 1}, {392, 3} };
const int N = sizeof(tune) / sizeof(tune[0]);
void setup() { for (int i = 0; i < N; i++) { if (tune[i].hertz) tone(8, tune[i].hertz); else noTone(8); delay(tune[i].beats * 40); } noTone(8); }
void loop() { delay(900); }`,
  ],
]
