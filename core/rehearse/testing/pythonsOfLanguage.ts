/** Small programs in Python over the features of the language; each prints what it finds, the same under any Python. */
export const pythonsOfLanguage: readonly (readonly [string, string])[] = [
  [
    'loops that end early, and those that do not',
    `for n in range(2, 12):
    for d in range(2, n):
        if n % d == 0:
            break
    else:
        print(n, end=' ')
print()
n = 0
while n < 5:
    n += 1
    if n == 3:
        continue
    print(n, end=' ')
else:
    print('done')
while True:
    n -= 1
    if n < 2: break
print(n)`,
  ],
  [
    'ranges of all kinds',
    `print(list(range(5)), list(range(2, 9, 3)), list(range(9, 2, -3)), list(range(0)), len(range(1, 100, 7)))
r = range(10, 20)
print(15 in r, 20 in r, r[3], r[-1], list(r[2:5]), sum(r), max(r))
print(list(reversed(range(3))), [i for i in range(3) for j in range(i)])`,
  ],
  [
    'slices',
    `a = list(range(10))
print(a[2:5], a[:3], a[7:], a[-3:], a[::3], a[::-1], a[8:2:-2], a[20:], a[-100:2])
b = a[:]
b[2:4] = ['x', 'y', 'z']
print(b, a[2])
del b[::2]
print(b)
b[1:1] = [0]
print(b, 'signal'[1:4], 'signal'[::-1], (1, 2, 3)[1:])
b[-1:] = []
print(b)`,
  ],
  [
    'a list sorted in many ways',
    `parts = [('led', 4), ('button', 2), ('servo', 9), ('relay', 2)]
print(sorted(parts), sorted(parts, key=lambda p: p[1]), sorted(parts, key=lambda p: (-p[1], p[0])))
names = [n for n, _ in parts]
names.sort(key=len)
print(names, sorted(names, reverse=True), min(names), max(names, key=len))
n = [3, 1, 2]
print(sorted(n), n, n.sort(), n, n[::-1])
n.reverse()
print(n, sorted('gate'), sorted({3, 1, 2}), sorted({'b': 1, 'a': 2}))`,
  ],
  [
    'lists that are shared',
    `a = [1, 2]
b = a
c = list(a)
b.append(3)
print(a, c, a is b, a is c, a == b, a == c)
rows = [[0] * 3] * 2
rows[0][1] = 5
print(rows)
rows = [[0] * 3 for _ in range(2)]
rows[0][1] = 5
print(rows)
def put(l, v):
    l.append(v)
    l = [v]
    return l
print(put(a, 9), a)
a += [7]
print(b, a * 2, [] + a)`,
  ],
  [
    'words counted',
    `text = 'the bell rings and the gate shuts and the lamp lights'
count = {}
for w in text.split():
    count[w] = count.get(w, 0) + 1
for w, n in sorted(count.items(), key=lambda i: (-i[1], i[0])):
    if n > 1:
        print(w, n)
letters = {}
for c in text:
    if c != ' ':
        letters.setdefault(c, []).append(c)
print(len(letters), max(letters, key=lambda c: len(letters[c])), ''.join(sorted(letters))[:6])`,
  ],
  [
    'maps made, changed and merged',
    `d = dict(a=1, b=2)
e = {**d, 'c': 3, 'a': 9}
print(d, e, len(e), list(e.keys()), 'c' in e, e.get('z'), e.get('z', -1))
e.update({'d': 4}, e=5)
print(e.pop('a'), e.pop('q', None), e, e.popitem())
del e['c']
print(e, {v: k for k, v in e.items()}, dict([(1, 2), (3, 4)]), dict(zip('xy', (1, 2))))
for k in list(e):
    del e[k]
print(e, not e, {(1, 2): 'pair'}[(1, 2)], d == {'b': 2, 'a': 1})
n = {'x': {'y': [1, 2]}}
n['x']['y'].append(3)
print(n, n['x']['y'][-1], sum(d.values()), sorted(d, reverse=True))`,
  ],
  [
    'sets',
    `a = {3, 1, 2}
b = set([2, 3, 4])
print(sorted(a | b), sorted(a & b), sorted(a - b), sorted(a ^ b), a <= b, {2} < a, a.isdisjoint({9}))
a.add(7); a.discard(1); a.discard(99)
print(sorted(a), 7 in a, len(a), set(), sorted(set('hello')), sorted({x % 3 for x in range(9)}))
a.update([8, 9]); a.remove(8)
print(sorted(a), frozenset([1]) == {1}, bool(set()))
seen = set()
print([x for x in [1, 2, 1, 3, 2] if not (x in seen or seen.add(x))])`,
  ],
  [
    'tuples taken apart',
    `p = (3, 4)
x, y = p
x, y = y, x
print(x, y, p, p + (5,), p * 2, len(p), p[0], 4 in p, p.index(4), p.count(3))
(a, b), c = (1, [2]), 'z'
print(a, b, c)
first, *rest = [1, 2, 3]
*init, last = 'abc'
print(first, rest, init, last)
for i, (k, v) in enumerate([('a', 1), ('b', 2)]):
    print(i, k, v)
def two(): return 1, 2
q, r = two()
print(q + r, (1,) == (1,), (1, 2) < (1, 3), tuple([1, 2]), ())
a = b = 5
a += 1
print(a, b)`,
  ],
  [
    'comprehensions inside comprehensions',
    `m = [[1, 2, 3], [4, 5, 6]]
print([[row[i] for row in m] for i in range(3)], [v for row in m for v in row if v % 2], [[v * v for v in row] for row in m])
print({k: [v for v in range(k)] for k in range(3)}, {(a, b) for a in 'xy' for b in 'x'} == {('x', 'x'), ('y', 'x')})
print(sum(v for row in m for v in row), any(v > 5 for row in m for v in row), list(zip(*m)), ['odd' if v % 2 else 'even' for v in range(3)])
x = 'kept'
print([x for x in range(2)], x)`,
  ],
  [
    'functions handed around',
    `def compose(*fs):
    def run(v):
        for f in fs:
            v = f(v)
        return v
    return run
def add(n): return lambda v: v + n
print(compose(add(1), add(2), str)(4), list(map(add(10), [1, 2])), (lambda a, b=2: a * b)(5))
table = {'+': lambda a, b: a + b, '-': lambda a, b: a - b}
print([table[o](7, 2) for o in '+-'])
def apply(f, *a, **k): return f(*a, **k)
print(apply(max, 1, 5, 3), apply(sorted, [2, 1], reverse=True), apply(print, 'said', end='!\\n'))
fs = [lambda i=i: i for i in range(3)]
print([f() for f in fs], callable(fs[0]), add.__name__)`,
  ],
  [
    'defaults that are kept, and arguments of every kind',
    `def log(v, seen=[]):
    seen.append(v)
    return len(seen)
print(log(1), log(2), log(3, []))
def f(a, b=2, /, c=3, *args, d, e=5, **kw): return (a, b, c, args, d, e, sorted(kw))
print(f(1, d=4), f(1, 9, 8, 7, 6, d=0, z=1, y=2), f(*[1, 2], **{'d': 3, 'c': 4}))
def none(): pass
print(none(), none() is None)
def early(n):
    if n < 0: return 'low'
    for i in range(n):
        if i == 2: return i
    return 'end'
print(early(-1), early(2), early(9))`,
  ],
  [
    'names inside and outside',
    `x = 1
def read(): return x
def local():
    x = 2
    return x
def change():
    global x
    x += 10
def outer():
    x = 'o'
    def inner():
        nonlocal x
        x += 'i'
        return x
    inner()
    return x, inner()
print(read(), local(), x)
change()
print(x, outer(), x)
def late(): return later
later = 5
print(late())
for i in range(3): pass
print(i)
if True:
    block = 'seen'
print(block)`,
  ],
  [
    'functions that call themselves',
    `def fact(n): return 1 if n < 2 else n * fact(n - 1)
def fib(n, memo={}):
    if n in memo: return memo[n]
    memo[n] = n if n < 2 else fib(n - 1) + fib(n - 2)
    return memo[n]
def flat(v):
    return [x for e in v for x in (flat(e) if isinstance(e, list) else [e])]
def hanoi(n, a, b, c): return 0 if n == 0 else hanoi(n - 1, a, c, b) + 1 + hanoi(n - 1, c, b, a)
def perms(s): return [s] if len(s) < 2 else [c + p for i, c in enumerate(s) for p in perms(s[:i] + s[i + 1:])]
print(fact(20), fib(50), flat([1, [2, [3, []], 4]]), hanoi(6, 'a', 'b', 'c'), perms('abc'))
def gcd(a, b):
    while b: a, b = b, a % b
    return a
print(gcd(84, 36), fact(25) // fact(23))`,
  ],
  [
    'generators',
    `def count(n):
    print('begin')
    while n:
        got = yield n
        if got: n = got
        n -= 1
    return 'over'
g = count(3)
print(next(g), next(g), g.send(3), list(g))
def chain(*its):
    for it in its:
        yield from it
print(list(chain('ab', [1], (x * x for x in range(3)))))
def evens():
    n = 0
    while True:
        yield n
        n += 2
e = evens()
print([next(e) for _ in range(4)], next(iter([7])), next(iter([]), 'none'))
def pairs(seq):
    it = iter(seq)
    for a in it:
        yield a, next(it, None)
print(list(pairs('abcde')), sum(x for x in range(5)), max(len(w) for w in ['a', 'bcd']))
try:
    next(iter([]))
except StopIteration:
    print('stopped')`,
  ],
  [
    'classes with what they share and what they own',
    `class Lamp:
    made = 0
    def __init__(self, pin, level=0):
        self.pin = pin
        self.level = level
        Lamp.made += 1
    def dim(self, by=10):
        self.level = max(0, self.level - by)
        return self
    def __repr__(self): return f'Lamp({self.pin}, {self.level})'
    @staticmethod
    def clamp(v): return min(100, max(0, v))
    @classmethod
    def bright(cls, pin): return cls(pin, 100)
a = Lamp(4, 50)
b = Lamp.bright(5)
print(a, b, Lamp.made, a.made, a.dim().dim(5), Lamp.clamp(120), a.clamp(-3), [a, b])
a.made = 9
a.extra = 'new'
print(Lamp.made, a.made, a.extra, hasattr(b, 'extra'), getattr(b, 'extra', None), isinstance(a, Lamp), type(a).__name__)
setattr(b, 'level', 7)
print(b, b.level, str(a), f'{a!r}')`,
  ],
  [
    'classes that build on others',
    `class Device:
    def __init__(self, name): self.name = name
    def state(self): return 'off'
    def __str__(self): return f'{self.name} is {self.state()}'
class Relay(Device):
    def __init__(self, name, on=False):
        super().__init__(name)
        self.on = on
    def state(self): return 'on' if self.on else super().state()
class Timer(Relay):
    def state(self): return super().state() + ' by time'
for d in (Device('d'), Relay('r', True), Timer('t')):
    print(d, isinstance(d, Device), isinstance(d, Relay), type(d) is Relay)
print(issubclass(Timer, Device), Timer.__name__, Timer('x').name)
class Mixed:
    def hello(self): return 'hello from ' + self.name
class Both(Timer, Mixed): pass
print(Both('b', True).hello(), Both('b', True))`,
  ],
  [
    'operators of one’s own',
    `class Vec:
    def __init__(self, x, y): self.x, self.y = x, y
    def __add__(self, o): return Vec(self.x + o.x, self.y + o.y)
    def __sub__(self, o): return Vec(self.x - o.x, self.y - o.y)
    def __mul__(self, k): return Vec(self.x * k, self.y * k)
    __rmul__ = __mul__
    def __neg__(self): return Vec(-self.x, -self.y)
    def __eq__(self, o): return isinstance(o, Vec) and (self.x, self.y) == (o.x, o.y)
    def __lt__(self, o): return abs(self) < abs(o)
    def __abs__(self): return (self.x ** 2 + self.y ** 2) ** 0.5
    def __bool__(self): return bool(self.x or self.y)
    def __len__(self): return 2
    def __getitem__(self, i): return (self.x, self.y)[i]
    def __iter__(self): return iter((self.x, self.y))
    def __contains__(self, v): return v in (self.x, self.y)
    def __call__(self, f): return Vec(f(self.x), f(self.y))
    def __repr__(self): return f'<{self.x} {self.y}>'
    def __hash__(self): return hash((self.x, self.y))
    def __iadd__(self, o):
        self.x += o.x
        return self
a, b = Vec(3, 4), Vec(1, 2)
print(a + b, a - b, a * 2, 3 * b, -a, a == Vec(3, 4), a != b, b < a, abs(a), bool(Vec(0, 0)), len(a), a[1], list(a), 4 in a, a(str))
x, y = a
a += b
print(x, y, a, sorted([a, b]), {a: 1}[Vec(4, 4)], sum([a, b], Vec(0, 0)))`,
  ],
  [
    'properties, slots of state, and things made once',
    `class Thermostat:
    def __init__(self): self._goal = 20
    @property
    def goal(self): return self._goal
    @goal.setter
    def goal(self, v):
        if not 5 <= v <= 30: raise ValueError('out of range: ' + str(v))
        self._goal = v
    @property
    def fahrenheit(self): return self._goal * 9 / 5 + 32
t = Thermostat()
t.goal = 25
print(t.goal, t.fahrenheit)
try:
    t.goal = 99
except ValueError as e:
    print(e)
try:
    t.fahrenheit = 1
except AttributeError:
    print('read only')
class One:
    it = None
    def __new__(cls):
        if cls.it is None: cls.it = super().__new__(cls)
        return cls.it
print(One() is One())`,
  ],
  [
    'what goes wrong and is caught',
    `def risky(n):
    try:
        if n == 0: return 1 / 0
        if n == 1: return [][3]
        if n == 2: return {}['k']
        if n == 3: return int('x')
        if n == 4: return None.pin
        if n == 5: return 'a' + 1
        if n == 6: raise RuntimeError('own')
        return 'fine'
    except ZeroDivisionError as e:
        return 'zero', str(e)
    except (IndexError, KeyError) as e:
        return type(e).__name__, str(e)
    except (ValueError, AttributeError):
        return 'value or attribute'
    except Exception as e:
        return 'other', type(e).__name__
    else:
        return 'never here'
    finally:
        print('seen', n, end='; ')
for n in range(8): print(risky(n))`,
  ],
  [
    'exceptions of one’s own, handed on',
    `class BusError(Exception): pass
class NoAnswer(BusError):
    def __init__(self, address):
        super().__init__('nobody at 0x%02x' % address)
        self.address = address
def ask(a):
    if a > 0x60: raise NoAnswer(a)
    return a
def tries(a, n=2):
    for i in range(n):
        try:
            return ask(a)
        except NoAnswer as e:
            print(i, e, e.address)
            if i == n - 1: raise
print(tries(0x20))
try:
    tries(0x76)
except BusError as e:
    print('gave up:', e, isinstance(e, NoAnswer), e.args)
try:
    try:
        ask(0x70)
    finally:
        print('closed')
except NoAnswer:
    print('after')
try:
    assert 1 > 2, 'not so'
except AssertionError as e:
    print(e)
def clean():
    for i in range(3):
        try:
            if i == 1: continue
            if i == 2: break
            print('body', i)
        finally:
            print('end', i)
clean()`,
  ],
  [
    'with',
    `class Port:
    def __init__(self, name, quiet=False): self.name, self.quiet = name, quiet
    def __enter__(self):
        print('open', self.name)
        return self
    def __exit__(self, kind, value, trace):
        print('close', self.name, kind.__name__ if kind else None)
        return self.quiet
with Port('a') as p: print(p.name)
with Port('b') as b, Port('c', quiet=True): raise ValueError('lost')
print('went on')
def leave():
    with Port('d'): return 'left'
print(leave())
try:
    with Port('e'): 1 / 0
except ZeroDivisionError: print('told')`,
  ],
  [
    'numbers written in every way',
    `n, f = 42, 3.14159
print(f'{n:5d}|{n:<5}|{n:^5}|{n:05}|{n:+}|{n:x}|{n:#010b}|{n:,}|{f:.2f}|{f:8.3f}|{f:e}|{f:.3g}|{f:%}')
print('%d %5.1f %x %s %r %c %%' % (n, f, 255, 'a', 'b', 'c'), '{0}-{1}-{0}'.format(1, 2), '{:>8}|{:*^7}'.format('ab', 'c'))
print(1e3, 1.0, 0.1 + 0.2, 1/3, 1e100, 2.50, -0.0, 100000000000000000.0, 123456789.0, 1.5e-7, 5 / 2, 4 / 2)
print(str(0.1), repr(1.0), int(1e3), float('1e3'), round(1234.5678, 2), round(1234.5678, -2), round(0.5), round(1.5), 7 // 2.0)
w = 6
print(f'{"lamp":>{w}}|{f:{w}.{2}f}|{n!r:>4}|{True!s}|{None}|{[1, 2]}|{ {"a": 1}["a"] }')`,
  ],
  [
    'text cut, looked through and joined',
    `s = 'temp: 21.5 C; hum: 40 %'
print([p.strip().split(': ') for p in s.split(';')], s.partition(':'), s.rpartition(' '), s.find('hum'), s.index('C'), s.count(' '))
print(s.upper()[:4], s.replace(' ', '')[:9], s.startswith(('hum', 'temp')), s.endswith('%'), 'C' in s, s[-4:], s.title()[:6])
print('a-b-c'.split('-', 1), 'a b  c'.split(), ','.join(str(i) for i in range(3)), 'x'.center(5, '*'), '7'.zfill(3), ' pad '.strip() + '|', 'xxhixx'.strip('x'), '..a'.lstrip('.'))
print('line1\\nline2'.splitlines(), 'A'.lower(), 'abc'.isalpha(), '12'.isdigit(), ' '.isspace(), 'Ab'.swapcase(), 'tab\\there', 'é'.upper(), len('é'), 'ab' * 2, 'b' > 'a')
print('%s has %d' % ('pin', 4), '-'.join(reversed('abc')), ''.join(chr(ord(c) + 1) for c in 'HAL'), 'aXbX'.rsplit('X', 1), max('hello'), sorted('bca'), 'abcabc'.rfind('b'))`,
  ],
  [
    'bytes and bits',
    `b = bytes([0x12, 0x34, 255])
print(b, b[0], b[1:], len(b), list(b), b.hex() if hasattr(b, 'hex') else '1234ff', bytes(3), bytes('ab', 'utf-8'), 'hé'.encode(), b'ok'.decode())
a = bytearray(4)
a[1] = 7
a[2:4] = b'xy'
a.append(9)
print(a, a[1], sum(a), bytes(a), a == bytearray(b'\\x00\\x07xy\\x09'))
word = b[0] << 8 | b[1]
print(word, hex(word), int.from_bytes(b[:2], 'big'), int.from_bytes(b[:2], 'little'), (4660).to_bytes(2, 'big'), (1000).to_bytes(4, 'little'))
v = 0b10110010
print(v & 0x0F, v >> 4, v | 1, v ^ 0xFF, ~v, bin(v), bin(v).count('1'), (v >> 3) & 1, v & -v, -5 >> 1, -1 & 0xFF, 1 << 20)
def signed(v, bits): return v - (1 << bits) if v & (1 << (bits - 1)) else v
print(signed(0xFF, 8), signed(0x7F, 8), signed(0x8000, 16))`,
  ],
  [
    'checks over bytes',
    `def crc8(data, poly=0x31, crc=0xFF):
    for byte in data:
        crc ^= byte
        for _ in range(8):
            crc = ((crc << 1) ^ poly) & 0xFF if crc & 0x80 else (crc << 1) & 0xFF
    return crc
def crc16(data):
    crc = 0xFFFF
    for b in data:
        crc ^= b
        for _ in range(8):
            crc = (crc >> 1) ^ 0xA001 if crc & 1 else crc >> 1
    return crc
def bcd(v): return (v // 10) << 4 | v % 10
def unbcd(v): return (v >> 4) * 10 + (v & 15)
print(hex(crc8(b'\\xbe\\xef')), hex(crc16(b'123456789')), hex(bcd(59)), unbcd(0x47), sum(b'abc') & 0xFF)
def nmea(s):
    c = 0
    for ch in s: c ^= ord(ch)
    return '%02X' % c
print(nmea('GPGLL,5057.970,N'))`,
  ],
  [
    'things that are true and things that are not',
    `for v in (0, 1, '', 'a', [], [0], {}, None, 0.0, (), True, set()):
    print(1 if v else 0, end='')
print()
print(0 or 'x', 1 and 'y', None or 0 or [], 1 and 0 and 2, not 0, not 'a', 1 < 2 < 3, 1 < 3 > 2, 1 == 1.0, True == 1, 'a' == "a", [] == [], None is None, 2 in [1, 2] and 3 not in [1])
x = None
print('none' if x is None else x, x or 'else', bool(x), (x is not None) or 'nothing', all([]), any([]), all([1, 'a']), any([0, '', 3]))
print(1 if [] else 2 if {} else 3, (lambda: 4)() if True else 5)`,
  ],
  [
    'lines joined, split and commented',
    `total = (1 +
         2 +  # two
         3)
text = 'one ' \\
       'two'
if total > 3 and \\
   text: print(total, text)
d = {
    'a': 1,  # first
    'b': [
        2,
        3,
    ],
}
print(d); print('same line'); x = 1; y = 2
if x: print('short')
else: print('never')
"""a text
that is nothing"""
def f(
    a,
    b=2,
):
    """Says what it does."""
    return a + b
print(f(1), f(
    b=5, a=1))
pass
print(x,
      y, sep='|', end='.\\n')`,
  ],
  [
    'sorting and searching by hand',
    `def bubble(a):
    a = a[:]
    for i in range(len(a)):
        for j in range(len(a) - 1 - i):
            if a[j] > a[j + 1]: a[j], a[j + 1] = a[j + 1], a[j]
    return a
def quick(a):
    if len(a) < 2: return a
    p, *rest = a
    return quick([x for x in rest if x < p]) + [p] + quick([x for x in rest if x >= p])
def find(a, v):
    lo, hi = 0, len(a) - 1
    while lo <= hi:
        mid = (lo + hi) // 2
        if a[mid] == v: return mid
        if a[mid] < v: lo = mid + 1
        else: hi = mid - 1
    return -1
a = [5, 2, 9, 1, 7, 3]
s = bubble(a)
print(s, quick(a) == s, find(s, 7), find(s, 4), a)
sieve = [True] * 30
for i in range(2, 6):
    if sieve[i]:
        for j in range(i * i, 30, i): sieve[j] = False
print([i for i in range(2, 30) if sieve[i]])`,
  ],
  [
    'queues, stacks and rings',
    `class Ring:
    def __init__(self, size):
        self.data = [None] * size
        self.head = self.used = 0
    def push(self, v):
        self.data[(self.head + self.used) % len(self.data)] = v
        if self.used < len(self.data): self.used += 1
        else: self.head = (self.head + 1) % len(self.data)
    def mean(self): return sum(self) / self.used if self.used else None
    def __iter__(self):
        for i in range(self.used): yield self.data[(self.head + i) % len(self.data)]
r = Ring(3)
print(r.mean())
for v in (1, 2, 3, 4, 5): r.push(v)
print(list(r), r.mean(), 4 in r, max(r))
stack = []
for t in '3 4 + 2 * 7 -'.split():
    if t in '+-*':
        b, a = stack.pop(), stack.pop()
        stack.append(a + b if t == '+' else a - b if t == '-' else a * b)
    else: stack.append(int(t))
print(stack)
q = [1]
while len(q) < 6: q.append(q[-1] + (q[-2] if len(q) > 1 else 0))
print(q, q.pop(0), q.pop(), q)`,
  ],
  [
    'machines of states',
    `class Gate:
    table = {('closed', 'open'): 'opening', ('opening', 'done'): 'opened', ('opened', 'close'): 'closing', ('closing', 'done'): 'closed'}
    def __init__(self):
        self.state = 'closed'
        self.log = []
    def on(self, event):
        to = self.table.get((self.state, event))
        if to is None: return False
        self.log.append(self.state[0] + '>' + to[0])
        self.state = to
        return True
g = Gate()
print([g.on(e) for e in ('close', 'open', 'open', 'done', 'close', 'done')], g.state, ' '.join(g.log))
def light():
    while True:
        for colour, s in (('red', 3), ('green', 2)):
            for left in range(s, 0, -1): yield colour, left
l = light()
print([next(l) for _ in range(7)])`,
  ],
  [
    'filters of readings',
    `class Mean:
    def __init__(self, n): self.n, self.last = n, []
    def __call__(self, v):
        self.last = (self.last + [v])[-self.n:]
        return sum(self.last) / len(self.last)
def median(vs):
    s = sorted(vs)
    m = len(s) // 2
    return s[m] if len(s) % 2 else (s[m - 1] + s[m]) / 2
def smooth(k):
    v = None
    def step(x):
        nonlocal v
        v = x if v is None else v + k * (x - v)
        return round(v, 3)
    return step
data = [10, 12, 50, 11, 9, 13]
m, s = Mean(3), smooth(0.25)
print([round(m(v), 2) for v in data], median(data), median(data[1:]), [s(v) for v in data])
def hysteresis(lo, hi):
    on = False
    while True:
        v = yield on
        on = v > hi or (on and v > lo)
h = hysteresis(10, 20)
next(h)
print([h.send(v) for v in (15, 25, 15, 9, 15)])
def scale(v, a, b, c, d): return c + (v - a) * (d - c) / (b - a)
print(scale(512, 0, 1024, 0, 3.3), min(255, max(0, 300)), [int(scale(v, 0, 4095, 0, 180)) for v in (0, 1000, 4095)])`,
  ],
  [
    'modules of the language',
    `import math, json
from collections import namedtuple, OrderedDict
print(math.floor(-2.5), math.ceil(2.1), math.sqrt(16), round(math.sin(math.pi / 6), 6), math.pi, math.e, round(math.atan2(1, 1), 4), math.pow(2, 3), math.fabs(-2), round(math.log(10), 4), math.trunc(-2.7), round(math.degrees(1), 3), math.isnan(float('nan')), math.inf > 1)
Point = namedtuple('Point', ('x', 'y'))
p = Point(3, 4)
x, y = p
print(p.x * y, p[1], p == (3, 4), math.sqrt(p.x ** 2 + p.y ** 2))
o = OrderedDict()
o['b'] = 1
o['a'] = 2
print(list(o), list(o.values()))
s = json.dumps({'pin': 4, 'on': True, 'name': 'lamp', 'none': None, 'list': [1, 2.5]})
print(s, json.loads(s)['list'][1], json.loads('[1, "two", false]'))`,
  ],
  [
    'time and turns',
    `import time
jobs = []
class Every:
    def __init__(self, ms, what):
        self.ms, self.what, self.next = ms, what, ms
        jobs.append(self)
    def due(self, now):
        if now >= self.next:
            self.next += self.ms
            return True
        return False
Every(20, 'blink'); Every(50, 'read'); Every(45, 'send')
said = []
for now in range(0, 161, 5):
    for j in jobs:
        if j.due(now): said.append('%d:%s' % (now, j.what))
print(' '.join(said))`,
  ],
  [
    'values looked at by kind',
    `def kind(v):
    if v is None: return 'none'
    if isinstance(v, bool): return 'bool'
    if isinstance(v, (int, float)): return 'number'
    if isinstance(v, str): return 'text'
    if isinstance(v, (list, tuple)): return 'row of ' + ','.join(kind(x) for x in v)
    if isinstance(v, dict): return 'map'
    if callable(v): return 'function'
    return type(v).__name__
class Odd: pass
print([kind(v) for v in (None, True, 3, 2.5, 'a', [1, 'b'], (), {}, print, Odd())])
print(type(1) is int, type('') == str, type(2.0).__name__, int('7') + float('0.5'), str(7) + '!', list('ab'), tuple([1]), set([1]), bool('False'), int(True), float(2))
print(id(1) == id(1), isinstance(1, object), [int(x) for x in '1 2 3'.split()], list(map(float, ['1', '2.5'])), abs(-3), divmod(7, 3), pow(3, 4, 5), hash('a') == hash('a'))`,
  ],
  [
    'walking through several at once',
    `a, b = [1, 2, 3], 'xy'
print(list(zip(a, b)), [x * y for x, y in zip(a, a[1:])], dict(zip(b, a)), list(enumerate(b, 5)))
for i, v in enumerate(a):
    if v == 2: a[i] = 20
print(a, [(i, j) for i in range(2) for j in range(2)], list(map(lambda x, y: x + y, [1, 2], [10, 20])), list(filter(lambda v: v > 2, a)))
it = iter(a)
print(next(it), [x for x in it])
m = {'led': 4, 'key': 5}
for k in m: print(k, m[k], end=' ')
for k, v in m.items(): print(k, v, end=' ')
print(max(m, key=m.get), sorted(m.values()), [k for k, v in m.items() if v > 4], {k: v + 1 for k, v in m.items()})
del m['led']
print(m, list(m.items()), len(m))`,
  ],
  [
    'strings as formats with keys',
    `row = {'name': 'attic', 'temp': 21.456, 'n': 7}
print('{name}: {temp:.1f} ({n:03d})'.format(**row), '%(name)s %(n)d' % row, f"{row['name']:>8}|{row['temp']:6.2f}|{row['n']:>3}")
print('{} {}'.format('a', 'b'), '{1}{0}'.format('a', 'b'), '{:,}'.format(1234567), '{:08.3f}'.format(3.14159), '{:+d}'.format(5), '{!r}'.format('q'), '{{}}'.format())
print('a' 'b', 'it\\'s', "q\\"q", '\\x41\\u0042', 'back\\\\slash', r'\\d+', len('\\n'), '''tri'ple''')
print(','.join('%02x' % b for b in b'\\x01\\xab'), '|'.join(['x'] * 3), ' '.join('{:>2}'.format(i) for i in range(3)))`,
  ],
  [
    'numbers in other writings',
    `def roman(n):
    out = ''
    for v, r in ((1000, 'M'), (900, 'CM'), (500, 'D'), (400, 'CD'), (100, 'C'), (90, 'XC'), (50, 'L'), (40, 'XL'), (10, 'X'), (9, 'IX'), (5, 'V'), (4, 'IV'), (1, 'I')):
        while n >= v:
            out += r
            n -= v
    return out
def base(n, b, digits='0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ'):
    return digits[n] if n < b else base(n // b, b) + digits[n % b]
def gray(n): return n ^ n >> 1
print([roman(n) for n in (4, 9, 14, 1994, 2026)], [base(255, b) for b in (2, 7, 16, 36)], ['{:03b}'.format(gray(n)) for n in range(8)])
print(int('777', 8), int('zz', 36), int('-101', 2), '{:b} {:o} {:X}'.format(10, 10, 255), hex(-255), bin(-5), [int(c) for c in str(2 ** 20)])
print(sum(int(d) for d in str(2 ** 100)), len(str(3 ** 200)), 10 ** 18 // 7, -(10 ** 18) // 7, 10 ** 18 % -7)`,
  ],
  [
    'commands that come as lines',
    `state = {'lamp': 0, 'door': 'closed'}
def lamp(v='100'):
    n = int(v)
    if not 0 <= n <= 100: raise ValueError('0 to 100')
    state['lamp'] = n
    return n
def door(how): state['door'] = how
commands = {'lamp': lamp, 'door': door, 'state': lambda: sorted(state.items())}
for line in ('lamp 40', 'lamp', 'door open', 'state', 'lamp x', 'lamp 400', 'bell', 'door', '', '  lamp   7  '):
    name, *args = line.split() or ['']
    try:
        if not name: continue
        print(name, commands[name](*args))
    except KeyError as e:
        print('no command', e)
    except (ValueError, TypeError) as e:
        print(type(e).__name__)
print(state)`,
  ],
  [
    'classes of the library',
    `from dataclasses import dataclass, field, asdict
from enum import Enum, IntEnum, auto
@dataclass
class Reading:
    name: str
    value: float = 0.0
    tags: list = field(default_factory=list)
    def twice(self): return self.value * 2
@dataclass
class Marked(Reading):
    level: int = 1
    def __post_init__(self): self.tags.append('new')
r = Reading('t', 2.5)
print(r, r.twice(), r == Reading('t', 2.5), r == Reading('u'), asdict(r))
m = Marked('x', level=3); n = Marked('y')
print(m, n, m.tags is n.tags)
try: Reading()
except TypeError as e: print('missing' in str(e))
class Mode(Enum):
    OFF = 0
    ON = 1
    ALSO = 1
    def next(self): return Mode((self.value + 1) % 2)
class Level(IntEnum):
    LOW = auto()
    MID = auto()
    HIGH = 10
print(Mode.ON, repr(Mode.ON), Mode.ON.name, Mode.ON.value, Mode(0), Mode['ON'], Mode.OFF.next(), Mode.ALSO is Mode.ON, [one.name for one in Mode])
print(Level.MID + 1, Level.LOW < Level.HIGH, Level.HIGH == 10, list(range(Level.MID)), Level(10).name, max(Level.LOW, Level.MID).name, {Mode.ON: 'x'}[Mode.ON])
try: Mode(7)
except ValueError as e: print(e)
print(isinstance(Mode.ON, Mode), Mode.ON != Mode.OFF, Mode.ON in [Mode.OFF, Mode.ON])`,
  ],
  [
    'tools',
    `import functools, itertools, statistics
from collections import deque, defaultdict, Counter
def loud(f):
    @functools.wraps(f)
    def inner(*a, **k):
        print('call', f.__name__)
        return f(*a, **k)
    return inner
@loud
def add(a, b=2, *rest, **kw): return a + b + sum(rest) + sum(kw.values())
print(add(1), add(1, 2, 3, x=4), add.__name__)
@functools.lru_cache(maxsize=None)
def fib(n): return n if n < 2 else fib(n - 1) + fib(n - 2)
print(fib(60), functools.reduce(lambda a, b: a * b, [1, 2, 3, 4]), functools.partial(add, 5)(1))
print(list(itertools.islice(itertools.count(5, 2), 3)), list(itertools.chain([1], (2, 3), 'a')), list(itertools.accumulate([1, 2, 3])), list(itertools.product('ab', [1, 2])))
print(list(itertools.combinations([1, 2, 3], 2)), list(itertools.permutations('abc', 2))[:3], list(itertools.zip_longest([1, 2], 'a', fillvalue=0)), list(itertools.takewhile(lambda v: v < 3, [1, 2, 3, 1])), list(itertools.repeat('x', 2)))
c = itertools.cycle('ab'); print(next(c), next(c), next(c))
print(statistics.mean([1, 2, 3]), statistics.mean([1, 2]), statistics.median([3, 1, 2]), statistics.median([1, 2, 3, 4]), round(statistics.stdev([1, 2, 3, 4]), 4), statistics.mode([1, 2, 2]), statistics.pvariance([1, 2, 3, 4]))
d = deque(maxlen=3)
for i in range(5): d.append(i)
print(d, list(d), len(d), sum(d) / len(d), d[0], d[-1], 3 in d, d.popleft(), d); d.rotate(1); print(d); d.appendleft(9); print(d, deque([1, 2]))
w = defaultdict(list); w['a'].append(1); w['a'].append(2); w['b']; print(dict(w), 'c' in w)
n = Counter('banana'); print(n['a'], n['z'], sorted(n.items()))`,
  ],
  [
    'a match',
    `def f(x):
    match x:
        case 0 | 1: return 'few'
        case int() if x > 10: return 'many'
        case [a, b]: return f'pair {a} {b}'
        case ['go', *rest]: return f'go {rest}'
        case {'on': True, 'at': at}: return f'on at {at}'
        case 'stop' | 'halt' as word: return word.upper()
        case (1, (p, q), _): return p + q
        case None: return 'nothing'
        case str(): return 'text'
        case _: return 'else'
print(f(0), f(1), f(11), f([3, 4]), f(['go', 1, 2]), f({'on': True, 'at': 5, 'more': 0}), f('halt'), f((1, (2, 3), 9)), f(None), f('x'), f(5), f([]), f({'on': False}))
class P:
    def __init__(self, x, y): self.x, self.y = x, y
def g(p):
    match p:
        case P(x=0, y=y): return f'on the axis at {y}'
        case P(x=x): return f'at {x}'
    return 'no point'
print(g(P(0, 2)), g(P(3, 1)), g(4))
match = 3; print(match)
command = 'on 3'
match command.split():
    case ['on', n]: print('on', int(n))
    case ['off']: print('off')`,
  ],
]
