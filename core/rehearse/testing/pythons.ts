/** Python programs over the features of the language; each prints what it finds, the same under any Python. */
export const pythons: readonly (readonly [string, string])[] = [
  [
    'numbers',
    `print(7 // 2, -7 // 2, 7 % 3, -7 % 3, 7 / 2, 2 ** 10, 2 ** -1, -3 ** 2)
print(1_000, 0xff, 0b101, 0o17, 1e3, .5, 10.0, 1e16, 1e-5, 123456789.123, 1/3)
print(2 ** 64, 2 ** 64 - 2 ** 63, (2 ** 70) // 3, (2 ** 70) % 1000, -(2 ** 65))
print(5 & 3, 5 | 3, 5 ^ 3, ~5, 1 << 40, -9 >> 1, 0xF0 >> 4)
print(round(2.5), round(3.5), round(2.675, 2), round(-1.5), abs(-4), abs(-2.5), divmod(17, 5), divmod(-17, 5))
print(int('42'), int('-0x1F', 16), int(3.9), int(-3.9), float('2.5'), int('101', 2), bool(0), bool('a'))
print(7.5 // 2, -7.5 % 2, 1 == 1.0, 1 < 2 <= 2 < 3, 3 > 2 > 2, True + True, hex(255), bin(10), oct(8))
print(min(3, 1, 2), max([4, 9, 2]), sum([1, 2, 3]), sum([0.1] * 3), pow(2, 5), pow(7, 3, 5), 0.1 + 0.2)`,
  ],
  [
    'texts',
    `s = 'Shed door'
print(s[0], s[-1], s[1:4], s[::-1], s[::2], len(s), s.upper(), s.find('door'), 'door' in s, s.replace('o', '0'))
print('  a b '.strip(), 'a,b,,c'.split(','), ' a  b '.split(), '-'.join(['x', 'y']), 'abc'.startswith('ab'), 'x=1'.partition('='))
print(f'{3.14159:.2f} {42:05d} {255:#x} {1234567:,} {"a":>5}|{"b":<5}|{"c":^5}| {0.5:%} {1e10:g} {7:b} {-3:+d} {s!r}')
x = 7
print(f'{x=} {x * 2} {{}} {x:>{3}}', '%d %5.2f %s %x %r %%' % (5, 2.5, 'z', 255, 'q'), '{} {1} {0} {n}'.replace('{} ', '').format('a', 'b', n=3))
print('{:>6.2f}|{:<8}|{:^7}|'.format(3.14159, 'ab', 'mid'), repr("it's"), repr('a"b'), repr('tab\\t\\n'), str(1.0), str(None))
print('a' < 'b', 'a' * 3, 'ab' + 'cd', ord('A'), chr(98), 'MiXed'.lower().capitalize(), 'x'.isalpha(), '12'.isdigit(), 'abc'.index('c'))
for i, c in enumerate('xyz', 1): print(i, c, end=' ')
print()
print('''two
lines''', "it" 's', r'raw\\n', b'by\\x00te', bytes([1, 2]), bytearray(b'ab'), b'ab'[0], b'ab' + b'c', 'zfill'.zfill(8), 'a b c'.rsplit(' ', 1))`,
  ],
  [
    'lists, maps and sets',
    `a = [3, 1, 2]
a.append(5); a.extend([4]); a.insert(0, 9); print(a, a.pop(), a.pop(0), a, sorted(a), sorted(a, reverse=True), a.index(5))
a.sort(key=lambda v: -v); print(a, a[1:], a[:-1], [0] * 3, a + [7], 5 in a, len(a)); a[0], a[-1] = a[-1], a[0]; print(a)
b = [i * i for i in range(6) if i % 2]; print(b, [(x, y) for x in range(2) for y in 'ab'], list(range(5, 0, -2)), list(zip([1, 2], 'ab')))
del a[0]; a[1:2] = [8, 8]; print(a, a.count(8)); m = [[0] * 2 for _ in range(2)]; m[0][1] = 5; print(m)
d = {'a': 1, 'b': 2}; d['c'] = 3; d.update(z=26); print(d, d.get('q'), d.get('q', 0), list(d), list(d.values()), list(d.items()), 'a' in d, len(d))
for k, v in d.items(): print(k, v, end=';')
print({k: v * 2 for k, v in d.items() if v > 1}, d.pop('a'), d.setdefault('n', []), sorted(d, key=lambda k: d[k] if isinstance(d[k], int) else 0))
s = {1, 2, 3}; s.add(2); print(s & {2, 9}, s | {9}, s - {1}, 2 in s, len(s), {1, 2} <= s)
t = (1, 'two', 3.0); print(t, t[1], t + (4,), (5,), (), len(t)); x, *rest, y = [1, 2, 3, 4]; print(x, rest, y); (p, q), r = (1, 2), 3; print(p + q + r)
print([1, 2] == [1, 2], [1, 2] < [1, 3], (1, 2) == (1, 2), {1: 'a'} == {1: 'a'}, [] or 'empty', None is None, not [], any([0, 1]), all([]))
print(list(map(lambda v: v + 1, [1, 2])), list(filter(None, [0, 1, 2])), list(reversed([1, 2])), max('abc', key=ord), min([], default=7), {True: 'yes'}[1])`,
  ],
  [
    'functions',
    `def area(w, h=2, *rest, scale=1, **more): return (w * h * scale, rest, sorted(more.items()))
print(area(3), area(3, 4), area(3, 4, 5, 6, scale=2, x=1), area(h=1, w=9), area(*[1, 2], **{'scale': 3}))
def counter():
    n = 0
    def up(by=1):
        nonlocal n
        n += by
        return n
    return up
c = counter(); c(); c(5); print(c())
total = 0
def add(v):
    global total
    total += v
for v in (1, 2, 3): add(v)
print(total, (lambda a, b=2: a * b)(4), [f(3) for f in [lambda x: x + 1, lambda x: x * x]])
def fib(n): return n if n < 2 else fib(n - 1) + fib(n - 2)
print(fib(15), [fib(i) for i in range(8)])
def gen(n):
    for i in range(n):
        got = yield i * i
        if got: print('got', got)
    return 'end'
g = gen(3); print(next(g), g.send('x'), list(g)); print(sum(x for x in gen(4)), list(i for i in gen(3) if i))
def both():
    r = yield from gen(2)
    print(r)
    yield 9
print(list(both()))
def outer(fn):
    def inner(*a): return 'before ' + fn(*a)
    return inner
@outer
def hello(name): return 'hello ' + name
print(hello('gate'), hello.__name__)
funcs = [lambda i=i: i for i in range(3)]; print([f() for f in funcs]); x = 5
if (n := x * 2) > 9: print('walrus', n)
print([y for y in range(3)], x)`,
  ],
  [
    'classes',
    `class Lamp:
    made = 0
    def __init__(self, pin, on=False):
        self.pin = pin; self._on = on; Lamp.made += 1
    def toggle(self):
        self._on = not self._on
        return self
    @property
    def on(self): return self._on
    @on.setter
    def on(self, value): self._on = bool(value)
    @staticmethod
    def kinds(): return ['red', 'green']
    @classmethod
    def pair(cls, pin): return cls(pin), cls(pin + 1)
    def __repr__(self): return 'Lamp(%d, %s)' % (self.pin, self._on)
    def __eq__(self, other): return self.pin == other.pin
    def __len__(self): return self.pin
class Blinker(Lamp):
    def __init__(self, pin, each):
        super().__init__(pin)
        self.each = each
    def toggle(self):
        super().toggle()
        return self.each
    def __str__(self): return 'blinker'
a = Lamp(3); b = Blinker(5, 100)
print(a, a.toggle().on, b, repr(b), b.toggle(), b.on, Lamp.made, Lamp.kinds(), Lamp.pair(7), isinstance(b, Lamp), issubclass(Blinker, Lamp))
a.on = 0; print(a.on, a == Lamp(3), a != Lamp(4), len(b), hasattr(a, 'pin'), getattr(a, 'nope', 'none'), type(b).__name__, bool(Lamp(0)))
class Vec:
    def __init__(self, x, y): self.x, self.y = x, y
    def __add__(self, o): return Vec(self.x + o.x, self.y + o.y)
    def __mul__(self, k): return Vec(self.x * k, self.y * k)
    __rmul__ = __mul__
    def __getitem__(self, i): return (self.x, self.y)[i]
    def __iter__(self): return iter((self.x, self.y))
    def __call__(self, z): return self.x + z
    def __lt__(self, o): return self.x < o.x
    def __contains__(self, v): return v in (self.x, self.y)
    def __str__(self): return f'<{self.x}, {self.y}>'
v = Vec(1, 2) + 3 * Vec(2, 0); print(v, v[0], list(v), v(10), Vec(1, 1) < v, 7 in v, sorted([Vec(3, 0), Vec(1, 0)])[0].x)
class Count:
    def __init__(self, n): self.n = n
    def __iter__(self): return self
    def __next__(self):
        if self.n == 0: raise StopIteration
        self.n -= 1
        return self.n
print(list(Count(3)), sum(Count(4)))
class Held:
    def __enter__(self): print('in'); return self
    def __exit__(self, kind, value, trace): print('out', kind is not None); return True
with Held() as h: print('inside'); raise ValueError('x')
print('after'); a.extra = 5; print(a.extra)`,
  ],
  [
    'what goes wrong',
    `def try_it(f):
    try:
        return f()
    except ZeroDivisionError as e: return 'zero: ' + str(e)
    except (KeyError, IndexError) as e: return type(e).__name__ + ' ' + str(e)
    except Exception as e: return 'other ' + type(e).__name__
    finally: print('tried', end=' ')
print(try_it(lambda: 1 // 0), try_it(lambda: {}['k']), try_it(lambda: [][1]), try_it(lambda: int('x')), try_it(lambda: None.x), try_it(lambda: 1 + 'a'), try_it(lambda: undefined))
class Own(ValueError):
    def __init__(self, code, text='bad'):
        super().__init__(text)
        self.code = code
try: raise Own(7)
except ValueError as e: print(e.code, e, repr(e), e.args)
try:
    try: raise KeyError('inner')
    except KeyError: raise
    finally: print('cleanup')
except KeyError as e: print('again', e)
def early():
    for i in range(5):
        try:
            if i == 2: return i
        finally: print('f', i, end=' ')
print(early())
try: assert 1 > 2, 'never'
except AssertionError as e: print('assert', e)
for n in range(2, 6):
    for d in range(2, n):
        if n % d == 0: break
    else: print(n, 'prime', end=' ')
print()
i = 0
while i < 5:
    i += 1
    if i == 2: continue
    if i == 4: break
    print(i, end=',')
else: print('no')
try:
    x = [1, 2, 3]; a, b = x
except ValueError as e: print(e)
try: raise StopIteration(3)
except StopIteration as e: print(e.value if hasattr(e, 'value') else e.args)`,
  ],
  [
    'bytes in a layout',
    `import struct
for how, values in (('<BhI', (200, -2, 70000)), ('>HHb', (1, 65535, -1)), ('<2f', (0.5, -2)), ('>d', (1.25,)), ('<q', (-5,)), ('<?xB', (True, 7))):
    made = struct.pack(how, *values)
    print(how, struct.calcsize(how), made, struct.unpack(how, made))
try: struct.unpack('<H', b'x')
except Exception as e: print('short')`,
  ],
]
