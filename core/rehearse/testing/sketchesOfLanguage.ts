/** A sketch that says what it finds once, in `setup`: its title, what stands before `setup`, and what is done in it. */
type Once = readonly [title: string, before: string, body: string]

const once: readonly Once[] = [
  [
    'integer division and remainders of both signs',
    '',
    `for (int a = -7; a <= 7; a += 7) for (int b = -2; b <= 2; b += 4) { Serial.print(a / b); Serial.print(' '); Serial.println(a % b); }`,
  ],
  [
    'shifts left and right of both signs',
    '',
    `Serial.println(1 << 10); Serial.println(-9 >> 1); Serial.println(0x80000000UL >> 4); uint8_t b = 0x81; Serial.println(b << 1); Serial.println((uint8_t)(b << 1)); b <<= 3; Serial.println(b); b >>= 2; Serial.println(b); int n = 1; n <<= n + 2; Serial.println(n);`,
  ],
  [
    'bit operators and their order',
    '',
    `Serial.println(6 & 3 | 8 ^ 1); Serial.println(~5 & 0xFF); Serial.println(1 | 2 == 2); Serial.println((5 & 4) == 4); Serial.println(!5 + !0); uint16_t m = 0xF0F0; m &= ~(1 << 4); Serial.println(m, HEX); m ^= m >> 8; Serial.println(m, BIN);`,
  ],
  [
    'what comes before what',
    '',
    `int a = 2, b = 3, c = 4; Serial.println(a + b * c - a / b); Serial.println(a < b == b < c); Serial.println(a ? b : c ? a : b); Serial.println(-a * -b); Serial.println(a++ + ++a); Serial.println(a-- - --a); Serial.println(!a == 0 || b > c && c); Serial.println(a = b = c); Serial.println((a, b, c + 1)); int x = a > b ? a : b; Serial.println(x);`,
  ],
  [
    'side effects that do not happen',
    `int calls = 0; bool yes() { calls++; return true; } bool no() { calls += 10; return false; }`,
    `if (no() && yes()) calls += 100; Serial.println(calls); if (yes() || no()) calls += 1000; Serial.println(calls); bool both = no() & yes(); Serial.println(calls); int v = yes() ? 1 : no(); Serial.println(calls + v);`,
  ],
  [
    'increments inside indexes',
    '',
    `int a[5] = {10, 20, 30, 40, 50}; int i = 0; Serial.println(a[i++]); Serial.println(a[++i]); a[i--] += 5; Serial.println(a[2]); Serial.println(i); int *p = a; Serial.println(*p++); Serial.println(*++p); Serial.println((*p)++); Serial.println(*p); Serial.println(--*p); Serial.println(*(p - 1)); Serial.println(p - a);`,
  ],
  [
    'numbers that go round',
    '',
    `uint8_t a = 250; a += 10; Serial.println(a); int8_t b = 127; b++; Serial.println(b); uint16_t c = 0; c--; Serial.println(c); uint32_t d = 4294967295UL; d += 2; Serial.println(d); int32_t e = -2147483647L - 1; e--; Serial.println(e); unsigned long t = 5; t -= 10; Serial.println(t); Serial.println((uint8_t)-1); Serial.println((int8_t)200);`,
  ],
  [
    'signed beside unsigned',
    '',
    `int a = -1; unsigned int b = 1; Serial.println(a < b); Serial.println((long)(a * b)); uint8_t x = 200, y = 100; Serial.println(x + y); Serial.println((uint8_t)(x + y)); Serial.println(y - x); Serial.println((uint8_t)(y - x)); long l = -5; Serial.println(l % 3); Serial.println((unsigned char)'\\xff' > 0); char ch = 'A' + 2; Serial.println(ch); Serial.println(ch + 1);`,
  ],
  [
    'sixty-four bits',
    '',
    `uint64_t big = 1ULL << 40; Serial.println((unsigned long)(big >> 20)); big *= 3; Serial.println((unsigned long)(big % 1000000007ULL)); int64_t s = -5000000000LL; Serial.println((long)(s / 1000)); Serial.println((long)(s % 7)); Serial.println(s < 0); uint64_t all = ~0ULL; Serial.println((unsigned long)(all >> 33)); Serial.println((unsigned long)(all % 97));`,
  ],
  [
    'fractions',
    '',
    `float f = 1.0 / 3; Serial.println(f, 6); double d = 1.0 / 3; Serial.println(d, 10); Serial.println(f == d); Serial.println(7 / 2 * 2.0); Serial.println(7 / 2.0 * 2); Serial.println((int)3.99); Serial.println((int)-3.99); Serial.println(0.1f + 0.2f == 0.3f); Serial.println(1e10f, 0); Serial.println(sqrt(2.0), 5); Serial.println(pow(2, 10)); Serial.println(fabs(-2.5)); Serial.println(fmod(7.5, 2)); Serial.println(floor(-2.5)); Serial.println(ceil(2.1)); Serial.println(atan2(1, 1), 4); Serial.println(sin(PI / 6), 4); Serial.println(exp(1), 4); Serial.println(log(10), 4);`,
  ],
  [
    'infinity and what is no number',
    '',
    `float zero = 0; Serial.println(1 / zero); Serial.println(0 / zero); float n = 0 / zero; Serial.println(n == n); Serial.println(isnan(n)); Serial.println(isinf(1 / zero)); Serial.println(n < 1 || n > 1);`,
  ],
  [
    'literals of all kinds',
    '',
    `Serial.println(0x1F); Serial.println(0b1010); Serial.println(017); Serial.println(10UL); Serial.println(1.5e3); Serial.println('\\n' + 0); Serial.println('\\x41'); Serial.println('\\101'); Serial.println("tab\\tquote\\"back\\\\end"); Serial.println("one" " two"); Serial.println(1'000'000L); Serial.println(true + true); Serial.println(sizeof('a'));`,
  ],
  [
    'sizes of things',
    `struct Pair { uint8_t a; uint8_t b; }; uint16_t row[7];`,
    `Serial.println(sizeof(uint8_t) + sizeof(int16_t) + sizeof(uint32_t) + sizeof(int64_t)); Serial.println(sizeof(Pair)); Serial.println(sizeof row / sizeof row[0]); Serial.println(sizeof(float)); char text[] = "lamp"; Serial.println(sizeof text); Serial.println(strlen(text)); Serial.println(sizeof(Pair[3]));`,
  ],
  [
    'casts written in all ways',
    `enum Mode { OFF, DIM = 5, BRIGHT };`,
    `double d = 7.9; Serial.println(int(d)); Serial.println((long)d); Serial.println(static_cast<uint8_t>(300)); Mode m = static_cast<Mode>(6); Serial.println(m == BRIGHT); Serial.println((int)m); Serial.println(float(3) / 2); Serial.println((char)66); Serial.println(bool(42)); const int k = 3; Serial.println(const_cast<int &>(k)); unsigned long u = (unsigned long)-1; Serial.println(u == 4294967295UL || u > 4294967295UL);`,
  ],
  [
    'enumerations',
    `enum Colour { RED, GREEN = 4, BLUE }; enum class Key : uint8_t { Up = 1, Down, Left = 9, Right }; const char *nameOf(Colour c) { switch (c) { case RED: return "red"; case GREEN: return "green"; case BLUE: return "blue"; } return "?"; }`,
    `Serial.println(RED); Serial.println(BLUE); Colour c = GREEN; Serial.println(nameOf(c)); c = (Colour)(c + 1); Serial.println(nameOf(c)); Key k = Key::Right; Serial.println((int)k); Serial.println(k == Key::Right); Serial.println(sizeof(Key)); Serial.println(static_cast<int>(Key::Down) + 1);`,
  ],
  [
    'a choice that falls through',
    `int steps(int n) { int s = 0; switch (n) { case 3: s += 100; case 2: s += 10; break; case 1: { int x = 7; s += x; break; } case -1: return -1; default: s = 99; } return s; }`,
    `for (int n = -1; n <= 4; n++) Serial.println(steps(n)); char c = 'b'; switch (c) { case 'a': Serial.println("A"); break; case 'b': case 'c': Serial.println("BC"); break; default: Serial.println("?"); } switch (5 % 3) { default: Serial.println("d"); case 7: Serial.println("7"); }`,
  ],
  [
    'loops of every form',
    '',
    `int n = 0; do { n += 3; } while (n < 10); Serial.println(n); while (true) { if (n-- < 5) break; if (n % 2) continue; Serial.print(n); Serial.print(' '); } Serial.println(); for (int i = 0, j = 10; i < j; i += 2, j--) { Serial.print(i * j); Serial.print(','); } Serial.println(); for (;;) { n++; if (n > 8) break; } Serial.println(n); int k = 5; for (; k; k--) Serial.print(k); Serial.println(); for (char c = 'a'; c <= 'e'; ++c) Serial.print(c); Serial.println(); for (uint8_t x = 3; x-- > 0;) Serial.print(x); Serial.println();`,
  ],
  [
    'breaking out of loops in loops',
    '',
    `bool found = false; for (int a = 1; a < 20 && !found; a++) for (int b = a; b < 20; b++) { if (a * a + b * b == 169) { Serial.println(a); Serial.println(b); found = true; break; } if (b > 15) continue; } int count = 0; for (int i = 0; i < 3; i++) { switch (i) { case 1: continue; case 2: break; } count += i + 1; } Serial.println(count);`,
  ],
  [
    'every element of something',
    `int sum(const int (&row)[4]) { int s = 0; for (int v : row) s += v; return s; }`,
    `int row[4] = {1, 2, 3, 4}; for (int &v : row) v *= v; Serial.println(sum(row)); for (const char *w : {"red", "green"}) Serial.println(w); for (auto c : "ab") if (c) Serial.println(c); String s = "xyz"; for (char c : s) Serial.print(c); Serial.println(); struct P { int x, y; } ps[] = {{1, 2}, {3, 4}}; for (auto &p : ps) { p.x += p.y; } for (const auto &p : ps) Serial.println(p.x);`,
  ],
  [
    'arrays of arrays',
    `byte grid[3][4] = {{1, 2}, {3, 4, 5}}; const char names[2][6] = {"north", "south"}; int cube[2][2][2] = {{{1, 2}, {3, 4}}, {{5, 6}, {7, 8}}}; int total(byte g[][4], int rows) { int t = 0; for (int r = 0; r < rows; r++) for (int c = 0; c < 4; c++) t += g[r][c]; return t; }`,
    `Serial.println(total(grid, 3)); grid[2][3] = 9; Serial.println(grid[2][3] + grid[0][3]); Serial.println(names[1]); Serial.println(names[0][2]); Serial.println(cube[1][0][1]); byte (*row)[4] = grid + 1; Serial.println((*row)[2]); Serial.println(sizeof grid); memset(grid, 7, sizeof grid); Serial.println(total(grid, 3)); int one[2][3] = {{1, 2, 3}, {4, 5, 6}}, two[2][3]; memcpy(two, one, sizeof two); Serial.println(two[1][2]);`,
  ],
  [
    'pointers into the middle',
    `void fill(int *from, int *to, int with) { while (from != to) *from++ = with; } int *find(int *row, int n, int what) { for (int i = 0; i < n; i++) if (row[i] == what) return &row[i]; return nullptr; }`,
    `int row[6] = {0}; fill(row + 1, row + 4, 8); for (int i = 0; i < 6; i++) Serial.print(row[i]); Serial.println(); int *at = find(row, 6, 8); Serial.println(at - row); Serial.println(at == row + 1); Serial.println(find(row, 6, 9) == NULL); *(at + 1) = 3; Serial.println(at[1]); at += 3; Serial.println(*at); Serial.println(at > row); Serial.println(&row[6] - at); const int *c = row; c++; Serial.println(*c); int **pp = &at; (*pp)--; Serial.println(*at);`,
  ],
  [
    'text by its letters',
    `int vowels(const char *s) { int n = 0; for (; *s; s++) if (strchr("aeiou", *s)) n++; return n; } void reverse(char *s) { for (size_t i = 0, j = strlen(s) - 1; i < j; i++, j--) { char t = s[i]; s[i] = s[j]; s[j] = t; } }`,
    `Serial.println(vowels("lighthouse")); char w[] = "signal"; reverse(w); Serial.println(w); char b[16]; strcpy(b, "gate"); strcat(b, "-7"); Serial.println(b); Serial.println(strcmp("abc", "abd") < 0); Serial.println(strncmp("abc", "abd", 2)); Serial.println(strstr("shed door", "door")); Serial.println(strrchr("a.b.c", '.')); strncpy(b, "lantern", 4); b[4] = 0; Serial.println(b); Serial.println(isdigit('7') != 0); Serial.println((char)toupper('q')); Serial.println(atoi("42x") + atoi("-3")); Serial.println(atof("2.5"));`,
  ],
  [
    'words of a line, one by one',
    `char line[] = "set,lamp,40"; `,
    `int n = 0; for (char *w = strtok(line, ","); w; w = strtok(NULL, ",")) { Serial.print(n++); Serial.print(':'); Serial.println(w); } char num[12]; itoa(-255, num, 10); Serial.println(num); sprintf(num, "%03d|%x", 7, 255); Serial.println(num); int r = snprintf(num, 6, "%s", "overflowing"); Serial.println(num); Serial.println(r); Serial.println(strtol("ff", NULL, 16)); char *end; Serial.println(strtol("12ab", &end, 10)); Serial.println(end);`,
  ],
  [
    'printf in its forms',
    `char b[64];`,
    `sprintf(b, "%d %i %u", -5, 6, 7u); Serial.println(b); sprintf(b, "%5d|%-5d|%05d|%+d", 42, 42, 42, 42); Serial.println(b); sprintf(b, "%x %X %o %c %%", 255, 255, 8, 'z'); Serial.println(b); sprintf(b, "%s|%10s|%-6s|%.2s", "abc", "abc", "abc", "abc"); Serial.println(b); sprintf(b, "%ld %lu %02x:%02x", -100000L, 100000UL, 10, 200); Serial.println(b); sprintf(b, "%*d|%.3d", 6, 42, 7); Serial.println(b); sprintf(b, "%#x %#o", 255, 8); Serial.println(b);`,
  ],
  [
    'String, cut and joined',
    '',
    `String s = "temp=21.5;hum=40"; int eq = s.indexOf('='); int semi = s.indexOf(';'); Serial.println(s.substring(eq + 1, semi).toFloat(), 1); Serial.println(s.substring(semi + 1)); Serial.println(s.lastIndexOf('=')); Serial.println(s.startsWith("temp")); Serial.println(s.endsWith("40")); s.remove(4, 5); Serial.println(s); s += '!'; s += 7; s.concat("x"); Serial.println(s); Serial.println(s.charAt(1)); s.setCharAt(0, 'T'); Serial.println(s[0]); Serial.println(String(255, HEX) + String(3.14159, 2) + String('c')); Serial.println(String("a") == "a"); Serial.println(String("b") > "a"); Serial.println(s.length()); String t; Serial.println(t.length() == 0); t = s; t.toUpperCase(); Serial.println(t); Serial.println(s.equalsIgnoreCase(t)); Serial.println(("n" + String(4)).toInt()); Serial.println(String("12").toInt() + 1);`,
  ],
  [
    'structs copied, passed and returned',
    `struct Reading { int16_t tenths; uint8_t from; }; Reading warmer(Reading r, int by) { r.tenths += by; return r; } void mark(Reading &r) { r.from = 99; } int of(const Reading *r) { return r->tenths + r->from; }`,
    `Reading a = {215, 3}; Reading b = a; b.tenths = 0; Serial.println(a.tenths); Reading c = warmer(a, 10); Serial.println(a.tenths); Serial.println(c.tenths); mark(c); Serial.println(of(&c)); Reading row[2] = {{1, 2}, {3, 4}}; row[0] = row[1]; row[1].from = 7; Serial.println(of(row) + row[1].from); Reading *p = &row[1]; p->tenths *= 2; (*p).from--; Serial.println(of(p)); Reading z{}; Serial.println(z.tenths + z.from); a = Reading{5, 6}; Serial.println(a.from);`,
  ],
  [
    'structs in structs, arrays in structs',
    `struct Pin { uint8_t number; bool low; }; struct Channel { Pin pin; int samples[3]; const char *name; }; Channel all[2] = {{{4, true}, {1, 2, 3}, "left"}, {{5, false}, {9}, "right"}}; int mean(const Channel &c) { int s = 0; for (int v : c.samples) s += v; return s / 3; }`,
    `for (auto &c : all) { Serial.print(c.name); Serial.print(c.pin.number); Serial.print(c.pin.low); Serial.println(mean(c)); } Channel copy = all[0]; copy.samples[1] = 50; copy.pin.number++; Serial.println(all[0].samples[1]); Serial.println(mean(copy)); all[1] = copy; Serial.println(all[1].pin.number); Channel *p = all; p++; Serial.println(p->samples[2]); Pin *pin = &p->pin; pin->low = false; Serial.println(all[1].pin.low);`,
  ],
  [
    'designated and default fields',
    `struct Config { int rate = 9600; bool echo = false; char name[8] = "node"; float gain{1.5}; }; struct Point { int x, y; };`,
    `Config c; Serial.println(c.rate); c.echo = true; Serial.println(c.name); Serial.println(c.gain); Point p = {.x = 3, .y = 4}; Serial.println(p.x * p.y); Config d = c; d.rate /= 2; Serial.println(d.rate + d.echo); Point row[] = {{1, 2}, {3}}; Serial.println(row[1].y); auto q = Point{7, 8}; Serial.println(q.y);`,
  ],
  [
    'a class with everything private',
    `class Counter { int n = 0; static const int MOST = 3; public: bool up() { if (n >= MOST) return false; ++n; return true; } int value() const { return n; } Counter &reset() { n = 0; return *this; } Counter &add(int by) { n += by; return *this; } };`,
    `Counter c; while (c.up()); Serial.println(c.value()); c.reset().add(2).add(3); Serial.println(c.value()); Counter d = c; d.up(); d.reset(); Serial.println(c.value() + d.value()); Counter *p = &d; p->add(8); Serial.println(p->value()); const Counter &r = d; Serial.println(r.value());`,
  ],
  [
    'constructors one after the other',
    `int order = 0; struct Part { int id, at; Part(int id) : id(id), at(++order) {} Part() : Part(7) { at += 100; } }; struct Whole { Part a, b; int sum; Whole(int x) : a(x), b(x * 2), sum(a.id + b.id) { sum += order; } };`,
    `Part p; Serial.println(p.id); Serial.println(p.at); Whole w(5); Serial.println(w.sum); Serial.println(w.b.at); Part row[2] = {Part(1), 2}; Serial.println(row[1].id); Serial.println(row[1].at); Part made = Part(9); Serial.println(made.at); auto *h = new Part(4); Serial.println(h->id); delete h;`,
  ],
  [
    'methods outside of their class',
    `class Box { public: Box(int w, int h); int area() const; static Box square(int s); int w, h; private: void grow(int by); friend void swell(Box &b); }; Box::Box(int w, int h) : w(w), h(h) {} int Box::area() const { return w * h; } Box Box::square(int s) { return Box(s, s); } void Box::grow(int by) { w += by; this->h += by; } void swell(Box &b) { b.grow(1); }`,
    `Box b(2, 3); Serial.println(b.area()); swell(b); Serial.println(b.area()); Serial.println(Box::square(5).area()); Box c = Box::square(2); c.w = 9; Serial.println(c.area());`,
  ],
  [
    'virtual and hidden methods',
    `struct Shape { virtual int area() const { return 0; } int twice() const { return 2 * area(); } const char *kind() { return "shape"; } }; struct Square : Shape { int s; Square(int s) : s(s) {} int area() const override { return s * s; } const char *kind() { return "square"; } }; struct Strip : Square { Strip(int s) : Square(s) {} int area() const override { return Square::area() + 1; } };`,
    `Square q(3); Strip t(4); Shape *all[] = {&q, &t}; for (Shape *one : all) { Serial.println(one->area()); Serial.println(one->twice()); Serial.println(one->kind()); } Serial.println(q.kind()); Serial.println(t.Square::area()); Shape &r = t; Serial.println(r.area()); Shape base; Serial.println(base.twice());`,
  ],
  [
    'a base of nothing but promises',
    `class Sensor { public: virtual int read() = 0; virtual const char *unit() const = 0; int mean(int n) { long s = 0; for (int i = 0; i < n; i++) s += read(); return s / n; } }; class Ramp : public Sensor { int at = 0; public: int read() override { return at += 3; } const char *unit() const override { return "mV"; } }; class Fixed : public Sensor { int v; public: explicit Fixed(int v) : v(v) {} int read() override { return v; } const char *unit() const override { return "C"; } };`,
    `Ramp r; Fixed f(21); Sensor *list[2] = {&r, &f}; for (int i = 0; i < 2; i++) { Serial.print(list[i]->mean(4)); Serial.println(list[i]->unit()); }`,
  ],
  [
    'operators of one’s own',
    `struct Vec { int x, y; Vec operator+(const Vec &o) const { return {x + o.x, y + o.y}; } Vec operator*(int k) const { return {x * k, y * k}; } Vec operator-() const { return {-x, -y}; } bool operator==(const Vec &o) const { return x == o.x && y == o.y; } Vec &operator+=(const Vec &o) { x += o.x; y += o.y; return *this; } int operator[](int i) const { return i ? y : x; } Vec &operator++() { ++x; return *this; } operator bool() const { return x || y; } }; Vec operator*(int k, const Vec &v) { return v * k; } bool operator<(const Vec &a, const Vec &b) { return a.x < b.x; }`,
    `Vec a = {1, 2}, b = {3, 4}; Vec c = a + b * 2; Serial.println(c.x); Serial.println(c[1]); Serial.println((-c)[0]); c += a; Serial.println(c.y); Serial.println(a == Vec{1, 2}); Serial.println((2 * a).y); Serial.println(a < b); ++a; Serial.println(a.x); if (a) Serial.println("some"); Vec z = {0, 0}; Serial.println(!z); Serial.println((a + b + c)[1]);`,
  ],
  [
    'called like a function',
    `struct Smooth { float v = 0; float k; Smooth(float k) : k(k) {} float operator()(float in) { v += k * (in - v); return v; } }; template <typename F> int apply(F f, int n) { return f(n) + f(n + 1); }`,
    `Smooth s(0.5); Serial.println(s(10)); Serial.println(s(10)); int base = 5; Serial.println(apply([base](int x) { return x * base; }, 3)); int seen = 0; Serial.println(apply([&seen](int x) { return seen += x; }, 3)); Serial.println(seen); auto counter = [n = 0]() mutable { return ++n; }; counter(); Serial.println(counter());`,
  ],
  [
    'functions by their address',
    `int add(int a, int b) { return a + b; } int sub(int a, int b) { return a - b; } typedef int (*Op)(int, int); using Action = void (*)(); int hits = 0; void hit() { hits++; } struct Entry { char key; Op op; }; const Entry table[] = {{'+', add}, {'-', sub}}; int fold(int *row, int n, Op op) { int v = row[0]; for (int i = 1; i < n; i++) v = op(v, row[i]); return v; } Op choose(bool plus) { return plus ? add : sub; }`,
    `int row[] = {10, 3, 2}; for (const Entry &e : table) { Serial.print(e.key); Serial.println(fold(row, 3, e.op)); } Serial.println(choose(false)(9, 4)); Op op = nullptr; if (!op) op = &add; Serial.println((*op)(1, 2)); Action acts[3] = {hit, hit, 0}; for (Action a : acts) if (a) a(); Serial.println(hits); Serial.println(op == add);`,
  ],
  [
    'defaults, overloads and references that are returned',
    `int area(int w, int h = 2, int d = 1) { return w * h * d; } const char *kind(int) { return "int"; } const char *kind(float) { return "float"; } const char *kind(const char *) { return "text"; } const char *kind(char) { return "char"; } const char *kind(int, int) { return "two"; } int store[3]; int &slot(int i) { return store[i]; } int &larger(int &a, int &b) { return a > b ? a : b; }`,
    `Serial.println(area(3)); Serial.println(area(3, 3)); Serial.println(area(3, 3, 3)); Serial.println(kind(1)); Serial.println(kind(1.0f)); Serial.println(kind("x")); Serial.println(kind('x')); Serial.println(kind(1, 2)); slot(1) = 8; slot(1)++; Serial.println(store[1]); int a = 1, b = 2; larger(a, b) = 0; Serial.println(a + b * 10); int &r = slot(2); r = 4; Serial.println(store[2]);`,
  ],
  [
    'statics that stay',
    `int next() { static int n = 10; static bool first = true; if (first) { first = false; return -1; } return n++; } struct Id { static int last; int mine; Id() : mine(++last) {} static void restart() { last = 0; } }; int Id::last = 5; int each(int k) { static int sums[2]; return sums[k] += k + 1; }`,
    `for (int i = 0; i < 3; i++) Serial.println(next()); Id a, b; Serial.println(b.mine); Serial.println(Id::last); Id::restart(); Id c; Serial.println(c.mine + a.mine); each(0); each(1); each(1); Serial.println(each(0) * 10 + each(1));`,
  ],
  [
    'a function that calls itself',
    `unsigned long fact(int n) { return n < 2 ? 1 : n * fact(n - 1); } int fib(int n) { return n < 2 ? n : fib(n - 1) + fib(n - 2); } int gcd(int a, int b) { return b ? gcd(b, a % b) : a; } bool odd(int n); bool even(int n) { return n == 0 || odd(n - 1); } bool odd(int n) { return n != 0 && even(n - 1); } void hanoi(int n, char a, char b, char c, int &moves) { if (n == 0) return; hanoi(n - 1, a, c, b, moves); moves++; hanoi(n - 1, c, b, a, moves); } int digits(long n) { return n < 10 ? 1 : 1 + digits(n / 10); }`,
    `Serial.println(fact(10)); Serial.println(fib(15)); Serial.println(gcd(84, 36)); Serial.println(even(10)); int m = 0; hanoi(5, 'a', 'b', 'c', m); Serial.println(m); Serial.println(digits(123456L));`,
  ],
  [
    'templates of functions',
    `template <typename T> T larger(T a, T b) { return a > b ? a : b; } template <typename T, int N> int count(T (&row)[N]) { return N; } template <typename T> void swapped(T &a, T &b) { T t = a; a = b; b = t; } template <typename T> T clampTo(T v, T lo, T hi) { return v < lo ? lo : v > hi ? hi : v; } template <int K> int times(int n) { return K * n; }`,
    `Serial.println(larger(3, 7)); Serial.println(larger(2.5, 1.5)); Serial.println(larger<long>(3, 70000L)); int row[6]; Serial.println(count(row)); float x = 1, y = 2; swapped(x, y); Serial.println(x); Serial.println(clampTo(15, 0, 10)); Serial.println(times<4>(5)); Serial.println(larger('a', 'b'));`,
  ],
  [
    'templates of classes',
    `template <typename T, int N> class Ring { T data[N]; int head = 0, used = 0; public: bool push(T v) { if (used == N) return false; data[(head + used++) % N] = v; return true; } T pop() { T v = data[head]; head = (head + 1) % N; used--; return v; } int size() const { return used; } }; template <typename A, typename B> struct Pair { A first; B second; };`,
    `Ring<int, 3> r; for (int i = 1; i <= 4; i++) Serial.print(r.push(i * 10)); Serial.println(); Serial.println(r.pop()); r.push(50); while (r.size()) Serial.println(r.pop()); Ring<char, 2> c; c.push('q'); Serial.println(c.pop()); Pair<int, float> p = {3, 1.5}; Serial.println(p.first * p.second);`,
  ],
  [
    'methods that leave types open',
    `struct Tally { long sum = 0; int seen = 0; template <typename T> Tally &add(T value) { sum += (long)(value * 10); seen++; return *this; } template <typename T, int N> void all(T (&row)[N]) { for (int i = 0; i < N; i++) add(row[i]); } template <typename F> int each(F f) { int n = 0; for (int i = 0; i < seen; i++) n += f(i); return n; } int add(bool) { return -7; } }; struct Wide : Tally { template <typename T> T twice(T v) { add(v); return v + v; } }; template <typename T> class Box { T held; public: Box(T v) : held(v) {} template <typename U> U as(U by) { return (U)held * by; } };`,
    `Tally t; t.add(3).add(2.5f).add('a'); int row[] = {1, 2, 3}; t.all(row); Serial.println(t.sum); Serial.println(t.seen); Serial.println(t.each([](int n) { return n * n; })); Serial.println(t.add(true)); Wide w; Serial.println(w.twice(4)); Serial.println(w.twice(1.25)); w.add(1L); Serial.println(w.sum); Box<int> b(7); Serial.println(b.as(2)); Serial.println(b.as(0.5));`,
  ],
  [
    'other names of namespaces',
    `namespace shed { namespace lamps { const int PIN = 9; int level = 3; int dim() { return --level; } struct Lamp { int at = 4; }; } namespace doors { int open = 1; } } namespace lights = shed::lamps; namespace s = shed; namespace d = s::doors;`,
    `Serial.println(lights::PIN); Serial.println(lights::dim()); Serial.println(s::lamps::level); d::open += 5; Serial.println(shed::doors::open); lights::Lamp lamp; Serial.println(lamp.at); { namespace l = shed::lamps; l::level = 40; Serial.println(l::level); } int l = 6; Serial.println(l); Serial.println(lights::level > 3 ? lights::PIN : l);`,
  ],
  [
    'names in namespaces',
    `namespace lamp { const int PIN = 9; int level = 3; namespace fade { int step() { return level * 2; } } void dim() { level--; } } using lamp::dim; int level = 100;`,
    `Serial.println(lamp::PIN); dim(); Serial.println(lamp::fade::step()); Serial.println(level + lamp::level); { using namespace lamp::fade; Serial.println(step()); } int level = 7; Serial.println(level);`,
  ],
  [
    'scopes inside scopes',
    `int v = 1; int get() { return v; }`,
    `Serial.println(v); int v = 2; { int v = 3; Serial.println(v); { v++; int w = v; Serial.println(w); } Serial.println(v); } Serial.println(v); for (int v = 9; v < 10; v++) Serial.println(v); if (int v = get()) Serial.println(v + 40); Serial.println(v); auto f = [v](int w) { int v2 = v * w; return v2; }; Serial.println(f(6));`,
  ],
  [
    'constants known early',
    `const int ROWS = 3, COLS = ROWS + 1; constexpr int CELLS = ROWS * COLS; constexpr int square(int n) { return n * n; } int board[CELLS]; char label[ROWS * 3] = "twelve"; const int SIDE = 4;\n#define LAST (CELLS - 1)\n enum { FIRST_LED = 4, LEDS = COLS }; static_assert(CELLS == 12, "cells");`,
    `Serial.println(sizeof board / sizeof *board); Serial.println(sizeof label); board[LAST] = 5; Serial.println(board[11]); Serial.println(FIRST_LED + LEDS); const float third = 1.0f / ROWS; Serial.println(third, 3); constexpr auto name = "early"; Serial.println(name);`,
  ],
  [
    'macros that take arguments',
    `#define MAX_OF(a, b) ((a) > (b) ? (a) : (b))\n#define SQUARE(x) x * x\n#define STR(x) #x\n#define JOIN(a, b) a##b\n#define EACH(i, n) for (int i = 0; i < (n); i++)\n#define LOG(...) do { Serial.print("log "); Serial.println(__VA_ARGS__); } while (0)\n#define UNUSED\n#define LONG_ONE(a) \\\n  ((a) + \\\n   1)`,
    `Serial.println(MAX_OF(3, 2 + 4)); Serial.println(SQUARE(1 + 2)); Serial.println(STR(pin 4)); int JOIN(va, lue) = 6; Serial.println(value); EACH(i, 3) Serial.print(i); Serial.println(); LOG(5); if (value > 3) LOG("big"); else LOG("small"); Serial.println(LONG_ONE(4)); UNUSED Serial.println(__LINE__ > 0);`,
  ],
  [
    'what is compiled and what is not',
    `#define BOARD 2\n#define HAS_RADIO\n#if BOARD == 1\nint pins = 14;\n#elif BOARD == 2 && defined(HAS_RADIO)\nint pins = 30;\n#else\nint pins = 40;\n#endif\n#ifdef DEBUG\n#define SAY(x) Serial.println(x)\n#else\n#define SAY(x)\n#endif\n#ifndef RATE\n#define RATE 50\n#endif\n#undef HAS_RADIO\n#if defined HAS_RADIO || !(RATE > 40)\nthis is not even C++\n#endif\n#if 0\nnor is this "\n#endif`,
    `Serial.println(pins); SAY("nothing"); Serial.println(RATE);\n#ifdef HAS_RADIO\n Serial.println("radio");\n#else\n Serial.println("quiet");\n#endif\n`,
  ],
  [
    'sorting by hand',
    `int row[] = {9, 4, 7, 1, 8, 2}; const int N = sizeof(row) / sizeof(row[0]); void bubble(int *a, int n) { for (int i = 0; i < n - 1; i++) for (int j = 0; j < n - 1 - i; j++) if (a[j] > a[j + 1]) { int t = a[j]; a[j] = a[j + 1]; a[j + 1] = t; } } void insert(int a[], int n) { for (int i = 1; i < n; i++) { int v = a[i], j = i - 1; while (j >= 0 && a[j] < v) { a[j + 1] = a[j]; j--; } a[j + 1] = v; } } int search(const int *a, int n, int what) { int lo = 0, hi = n - 1; while (lo <= hi) { int mid = lo + (hi - lo) / 2; if (a[mid] == what) return mid; if (a[mid] < what) lo = mid + 1; else hi = mid - 1; } return -1; } int cmp(const void *a, const void *b) { return *(const int *)a - *(const int *)b; }`,
    `bubble(row, N); for (int v : row) Serial.print(v); Serial.println(); Serial.println(search(row, N, 7)); Serial.println(search(row, N, 3)); insert(row, N); for (int v : row) Serial.print(v); Serial.println();`,
  ],
  [
    'a list that is linked',
    `struct Node { int v; Node *next; Node(int v, Node *n = nullptr) : v(v), next(n) {} }; class List { Node *head = nullptr; int n = 0; public: void push(int v) { head = new Node(v, head); n++; } int pop() { Node *o = head; int v = o->v; head = o->next; delete o; n--; return v; } void reverse() { Node *p = nullptr; while (head) { Node *x = head->next; head->next = p; p = head; head = x; } head = p; } int sum() const { int s = 0; for (Node *x = head; x; x = x->next) s += x->v; return s; } bool empty() const { return !head; } };`,
    `List l; for (int i = 1; i < 5; i++) l.push(i * i); Serial.println(l.sum()); l.reverse(); while (!l.empty()) { Serial.print(l.pop()); } Serial.println();`,
  ],
  [
    'memory that is asked for',
    '',
    `int *a = new int[4]; for (int i = 0; i < 4; i++) a[i] = i * 3; Serial.println(a[3]); delete[] a; int *z = new int(5); *z += 2; Serial.println(*z); delete z; char *b = (char *)malloc(10); strcpy(b, "heap"); Serial.println(b); free(b); int *c = (int *)calloc(3, sizeof(int)); Serial.println(c[2]); free(c); struct P { int x = 4; }; P *ps = new P[2]; ps[1].x++; Serial.println(ps[0].x + ps[1].x); delete[] ps;`,
  ],
  [
    'state machines by table',
    `enum State : uint8_t { IDLE, RUN, STOPPING, STATES }; enum Input { START, STOP, DONE, INPUTS }; const State table[STATES][INPUTS] = {{RUN, IDLE, IDLE}, {RUN, STOPPING, IDLE}, {STOPPING, STOPPING, IDLE}}; const char *const names[] = {"idle", "run", "stopping"}; typedef void (*Enter)(); int runs = 0; void onRun() { runs++; } void nothing() {} Enter enters[STATES] = {nothing, onRun, nothing};`,
    `State s = IDLE; const Input seq[] = {STOP, START, START, STOP, START, DONE, START}; for (Input i : seq) { State to = table[s][i]; if (to != s) { enters[to](); s = to; } Serial.println(names[s]); } Serial.println(runs);`,
  ],
  [
    'checks and sums',
    `uint8_t crc8(const uint8_t *d, size_t n) { uint8_t c = 0; while (n--) { c ^= *d++; for (int i = 0; i < 8; i++) c = c & 0x80 ? (c << 1) ^ 0x31 : c << 1; } return c; } uint16_t fletcher(const uint8_t *d, int n) { uint16_t a = 0, b = 0; for (int i = 0; i < n; i++) { a = (a + d[i]) % 255; b = (b + a) % 255; } return b << 8 | a; } uint8_t parity(uint8_t v) { v ^= v >> 4; v ^= v >> 2; v ^= v >> 1; return v & 1; } uint8_t reversed(uint8_t v) { uint8_t r = 0; for (int i = 0; i < 8; i++) { r = r << 1 | (v & 1); v >>= 1; } return r; }`,
    `const uint8_t d[] = {0xBE, 0xEF, 0x92, 7}; Serial.println(crc8(d, 2), HEX); Serial.println(crc8(d, 4), HEX); Serial.println(fletcher(d, 4), HEX); Serial.println(parity(0x35)); Serial.println(reversed(0x13), BIN);`,
  ],
  [
    'numbers put into bytes and taken out',
    `uint16_t word16(uint8_t hi, uint8_t lo) { return (uint16_t)hi << 8 | lo; } int16_t signed16(const uint8_t *b) { return (int16_t)(b[0] << 8 | b[1]); } void put32(uint8_t *b, uint32_t v) { for (int i = 3; i >= 0; i--) { b[i] = v & 0xFF; v >>= 8; } } uint8_t bcd(uint8_t v) { return (v / 10 << 4) + v % 10; } uint8_t dec(uint8_t v) { return (v >> 4) * 10 + (v & 15); }`,
    `Serial.println(word16(0x12, 0x34)); uint8_t b[4] = {0xFF, 0x38}; Serial.println(signed16(b)); put32(b, 305419896UL); Serial.println(b[1], HEX); Serial.println(bcd(59)); Serial.println(dec(0x59)); Serial.println(highByte(0xABCD), HEX); Serial.println(lowByte(0xABCD), HEX); uint8_t flags = 0; bitSet(flags, 3); bitWrite(flags, 1, 1); bitClear(flags, 3); Serial.println(flags); Serial.println(bitRead(0b100, 2)); Serial.println(bit(5));`,
  ],
  [
    'helpers of the platform',
    '',
    `Serial.println(map(512, 0, 1023, 0, 255)); Serial.println(map(-5, -10, 10, 100, 0)); Serial.println(constrain(300, 0, 255)); Serial.println(min(3, 5) + max(3, 5)); Serial.println(abs(-7)); Serial.println(sq(5)); Serial.println(isAlpha('x')); Serial.println(isDigit('x')); Serial.println(radians(180), 4); Serial.println(degrees(PI / 2), 1);`,
  ],
  [
    'numbers printed in every base',
    '',
    `Serial.print(255, BIN); Serial.print(' '); Serial.print(255, OCT); Serial.print(' '); Serial.println(255, HEX); Serial.println((byte)200); Serial.println((char)200 < 0); Serial.println(-5); Serial.println(3.14159, 3); Serial.println(2.0); Serial.println(-0.5); Serial.println(123456.789, 1); Serial.println(true); Serial.println('A'); Serial.println((int)'A'); Serial.println(1234567890UL); Serial.println(-7, DEC); Serial.println(0.05, 1); Serial.println(9.999, 2);`,
  ],
  [
    'the address of what',
    `void twice(int *v) { *v *= 2; } void both(int &a, int *b) { a++; (*b)--; } int deep(int ***p) { return ***p; } struct S { int a[2]; int *p; };`,
    `int v = 4; twice(&v); Serial.println(v); int w = 9; both(v, &w); Serial.println(v * 10 + w); int *p = &v; int **pp = &p; int ***ppp = &pp; Serial.println(deep(ppp)); *pp = &w; Serial.println(*p); S s = {{1, 2}, nullptr}; s.p = &s.a[1]; *s.p = 8; Serial.println(s.a[1]); S t = s; *t.p = 5; Serial.println(s.a[1]); Serial.println(t.a[1]); int &r = *p; r = 77; Serial.println(w); const int *const c = &w; Serial.println(*c); void *any = &v; Serial.println(*(int *)any);`,
  ],
  [
    'auto and what it comes to',
    `auto half(int n) { return n / 2.0; } struct P { int x, y; }; P origin() { return {3, 4}; }`,
    `auto a = 7; auto b = 7.5f; auto c = 'c'; auto &r = a; r++; Serial.println(a / 2); Serial.println(b / 2); Serial.println(c); Serial.println(half(5)); auto o = origin(); Serial.println(o.x * o.y); const auto k = a; Serial.println(k); auto *p = &a; *p = 3; Serial.println(a); unsigned u = 3; auto s = u - 4; Serial.println(s > 0);`,
  ],
  [
    'optional and chained comparisons of texts',
    `int rank(const char *s) { if (!strcmp(s, "low")) return 0; else if (!strcmp(s, "mid")) return 1; else if (strcmp(s, "high") == 0) return 2; return -1; } bool same(const String &a, const String &b) { return a.equalsIgnoreCase(b); }`,
    `Serial.println(rank("mid")); Serial.println(rank("high") + rank("none")); String cmd = "LED on"; if (cmd == "LED on") Serial.println(1); if (cmd.startsWith("LED ") && cmd.substring(4) == "on") Serial.println(2); Serial.println(same(cmd, "led ON")); Serial.println(cmd.compareTo("LED off") > 0); const char *w = cmd.c_str(); Serial.println(w[4]); Serial.println(cmd != "x"); Serial.println(String() == ""); char buf[8]; cmd.toCharArray(buf, 8); Serial.println(buf);`,
  ],
  [
    'exits that come early',
    `int first(int *row, int n) { for (int i = 0; i < n; i++) { if (row[i] < 0) return i; } return n; } void say(int v) { if (v == 0) return; Serial.println(v); } int sign(int v) { return v < 0 ? -1 : v > 0; } int classify(int v) { if (v > 100) return 3; if (v > 50) { if (v % 2) return 2; return 1; } return 0; }`,
    `int row[] = {4, 5, -1, 2}; Serial.println(first(row, 4)); say(0); say(9); Serial.println(sign(-8) + sign(0) * 10 + sign(6) * 100); for (int v : {120, 75, 76, 3}) Serial.print(classify(v)); Serial.println();`,
  ],
  [
    'commas, empty statements and blocks',
    '',
    `int a = 1, b = 2;; { } if (a) ; else Serial.println("no"); for (a = 0; a < 3; a++); Serial.println(a); a = (b++, b + 1); Serial.println(a + b); while (a-- > 0) {} Serial.println(a); int c = a < 0 ? (b = 9, 1) : 0; Serial.println(b + c); { int a = 50; b += a; } Serial.println(b);`,
  ],
  [
    'conversions at the call',
    `struct Celsius { float v; Celsius(float v) : v(v) {} }; float show(Celsius c) { return c.v; } long wide(long v) { return v; } byte narrow(byte v) { return v; } bool truth(bool b) { return b; } float real(float f) { return f; } int whole(int n) { return n; }`,
    `Serial.println(show(21.5f)); Serial.println(wide('a')); Serial.println(narrow(257)); Serial.println(truth(42)); Serial.println(truth(0.0)); Serial.println(real(3) / 2); Serial.println(whole(7.9)); int n = 3.7; Serial.println(n); n = -3.7; Serial.println(n); unsigned char c = 300; Serial.println(c); float f = 7 / 2; Serial.println(f); bool b = 5; Serial.println(b + b); n = 'z' - 'a'; Serial.println(n); n += 2.6; Serial.println(n); n *= 0.5; Serial.println(n);`,
  ],
  [
    'fields that share their bytes',
    `union Number { float f; uint32_t whole; uint8_t b[4]; }; struct Packet { uint8_t kind; union Value { int16_t n; uint8_t parts[2]; } value; };`,
    `Number n; n.f = 1.5; Serial.println(n.whole, HEX); for (uint8_t one : n.b) { Serial.print(one, HEX); Serial.print(','); } Serial.println(); n.b[3] = 0xC0; Serial.println(n.f); n.whole++; Serial.println(n.b[0]); Number m = n; m.b[0] = 7; Serial.println(n.b[0]); Serial.println(m.b[0]); uint8_t *p = n.b; n.f = 0; Serial.println(p[3]); p[2] = 0x80; p[3] = 0x3F; Serial.println(n.f); Packet q = {1}; q.value.parts[0] = 0x39; q.value.parts[1] = 0x30; Serial.println(q.value.n); Packet r = q; r.value.n = -2; Serial.println(r.value.parts[1]); Serial.println(q.value.n); Serial.println(sizeof(Number));`,
  ],
  [
    'memory looked at byte by byte',
    `struct Sample { uint16_t at; int8_t level; uint8_t flags; float v; }; uint8_t sum(const uint8_t *b, size_t n) { uint8_t s = 0; while (n--) s += *b++; return s; }`,
    `Sample s = {515, -1, 7, 2.5}; const uint8_t *b = (const uint8_t *)&s; Serial.println(b[0] + b[1] * 256); Serial.println(b[2]); Serial.println(sum((uint8_t *)&s, sizeof s)); uint8_t out[sizeof(Sample)]; memcpy(out, &s, sizeof s); Serial.println(out[3]); out[2] = 100; Sample t; memcpy(&t, out, sizeof t); Serial.println(t.level); Serial.println(t.v); Serial.println(s.level); uint32_t word = 0x01020304; Serial.println(((uint8_t *)&word)[3]); ((byte *)&word)[0] = 0xFF; Serial.println(word, HEX); float f = -2; uint32_t bits; memcpy(&bits, &f, 4); Serial.println(bits, HEX); Serial.println(memcmp(&s, &t, sizeof s) != 0); t = s; Serial.println(memcmp(&s, &t, sizeof s));`,
  ],
  [
    'memory set and moved',
    `struct Slot { int16_t v[3]; bool on; char name[6]; }; Slot slots[3]; int16_t grid[2][3]; long row[5] = {1, 2, 3, 4, 5};`,
    `strcpy(slots[1].name, "heat"); slots[1].v[2] = 9; slots[2].on = true; memset(&slots[1], 0, sizeof(Slot)); Serial.println(slots[1].v[2]); Serial.println(strlen(slots[1].name)); Serial.println(slots[2].on); memset(grid, 0xFF, sizeof grid); Serial.println(grid[1][2]); memset(grid[0], 0, sizeof grid[0]); Serial.println(grid[0][2] + grid[1][0]); memset(row, 1, 2 * sizeof(long)); Serial.println(row[1]); Serial.println(row[2]); memmove(row + 1, row + 2, 3 * sizeof(long)); Serial.println(row[1] + row[4]); Slot other[3]; memcpy(other, slots, sizeof slots); Serial.println(other[2].on); other[2].on = false; Serial.println(slots[2].on); memset(slots, 0, sizeof slots); Serial.println(slots[2].on); char line[8]; memset(line, '-', 7); line[7] = 0; Serial.println(line);`,
  ],
  [
    'what falls into parts',
    `struct Point { int x; float y; }; Point make(int n) { return {n, n / 2.0f}; } Point row[3] = {{1, 1.5f}, {2, 2.5f}, {3, 3.5f}};`,
    `auto [x, y] = make(7); Serial.println(x); Serial.println(y); int both[2] = {7, 8}; auto &[p, q] = both; p = 9; q++; Serial.println(both[0]); Serial.println(both[1]); for (auto &[a, b] : row) { a *= 10; b += a; } for (const auto &[a, b] : row) { Serial.println(a); Serial.println(b); } for (auto [a, b] : row) a = 0; Serial.println(row[1].x); const auto [rx, ry] = row[2]; row[2].x = 5; Serial.println(rx); if (x > 3) { auto [x, y] = make(1); Serial.println(x); } Serial.println(x);`,
  ],
  [
    'objects that turn into numbers and texts',
    `struct Reading { int n; const char *unit; operator int() const { return n; } operator float() const { return n * 1.5f; } operator bool() const { return n != 0; } operator const char *() const { return unit; } }; int whole(int v) { return v + 1; }`,
    `Reading r{7, "cm"}, none{0, "mm"}; int i = r; float f = r; const char *c = r; Serial.println(i); Serial.println(f); Serial.println(c); if (r) Serial.println("some"); if (!none) Serial.println("none"); Serial.println(whole(r)); i = (int)r + 3; Serial.println(i); f = (float)none; Serial.println(f); long w = static_cast<int>(r) * 2; Serial.println(w);`,
  ],
]

/** Sketches over the features of the language, a page each. */
export const sketchesOfLanguage: readonly (readonly [string, string])[] = once.map(([title, before, body]) => [
  title,
  `${before}\nvoid setup() {\n  ${body}\n}\nvoid loop() { delay(900); }`,
])
