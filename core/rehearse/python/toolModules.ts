import { invoke } from './attributes.ts'
import { fn, type GivenModule, module, nativeClass } from './native.ts'
import { binary, compare, equal } from './operators.ts'
import { asIndex, asNumber, isInt, isTrue, iterate, listed } from './protocols.ts'
import { reprOf } from './text.ts'
import {
  DefaultDict,
  Float,
  type Py,
  PyDict,
  PyFunction,
  PyIterator,
  PyList,
  type PyObject,
  PyTuple,
  raise,
  Unknown,
} from './values.ts'

/** `functools`, `itertools`, `statistics`, `typing`, and the containers of `collections`. */
export const toolModules = (): GivenModule[] => [
  module('functools', functools()),
  module('itertools', itertools()),
  module('statistics', statistics()),
  module('typing', typing()),
]

const made = (all: Iterator<Py, Py>): PyIterator => new PyIterator(() => all.next())
const wrap = (name: string, run: (args: readonly Py[], named: ReadonlyMap<string, Py>) => Generator<Py, void, void>) =>
  [name, fn(name, (args, named) => made(run(args, named) as Iterator<Py, Py>))] as [string, Py]

function functools(): [string, Py][] {
  /** Decorators that keep answers, with or without an argument of their own. */
  const cached = fn('lru_cache', ([first]) => {
    const keep = (by: Py): PyFunction => {
      const known = new PyDict()
      return fn(by.name, (args, named) => {
        const key = new PyTuple([...args, ...[...named].flat()])
        if (!known.has(key)) known.set(key, invoke(by, args, named))
        return known.get(key)
      })
    }
    return first instanceof PyFunction ? keep(first) : fn('lru_cache', ([by]) => keep(by))
  })
  return [
    [
      'partial',
      fn(
        'partial',
        ([by, ...first], kept) =>
          new PyFunction('partial', (rest, named) => invoke(by, [...first, ...rest], new Map([...kept, ...named]))),
      ),
    ],
    [
      'wraps',
      fn('wraps', ([of]) =>
        fn('wraps', ([by]) => {
          const named = new PyFunction(of.name ?? by.name, by.call, by.kind, by.wants)
          named.held = by.held
          return named
        }),
      ),
    ],
    [
      'reduce',
      fn('reduce', ([by, over, ...first]) => {
        const all = [...first, ...listed(over)]
        if (all.length === 0) return raise('TypeError', 'reduce() of empty iterable with no initial value')
        return all.slice(1).reduce((sofar, one) => invoke(by, [sofar, one]), all[0])
      }),
    ],
    ['lru_cache', cached],
    ['cache', cached],
  ]
}

function itertools(): [string, Py][] {
  const pools = (args: readonly Py[], named: ReadonlyMap<string, Py>): Py[][] =>
    Array.from({ length: asIndex(named.get('repeat') ?? 1) }, () => args.map(listed)).flat()
  return [
    wrap('count', function* ([from = 0, step = 1], named) {
      for (let at = named.get('start') ?? from; ; at = binary('+', at, named.get('step') ?? step)) yield at
    }),
    wrap('cycle', function* ([over]) {
      const all = listed(over)
      while (all.length > 0) yield* all
    }),
    wrap('repeat', function* ([one, times]) {
      for (let at = 0; times === undefined || at < asIndex(times); at += 1) yield one
    }),
    wrap('chain', function* (all) {
      for (const one of all) yield* { [Symbol.iterator]: () => iterate(one) as Iterator<Py> }
    }),
    wrap('islice', function* ([over, ...ends]) {
      const [from, to, step] = ends.length === 1 ? [0, ends[0], 1] : [ends[0] ?? 0, ends[1] ?? null, ends[2] ?? 1]
      const source = iterate(over)
      for (let at = 0; to === null || at < asIndex(to); at += 1) {
        const next = source.next()
        if (next.done) return
        if (at >= asIndex(from) && (at - asIndex(from)) % asIndex(step) === 0) yield next.value
      }
    }),
    wrap('accumulate', function* ([over, by]) {
      let sum: Py
      for (const one of listed(over)) {
        sum = sum === undefined ? one : by === undefined || by === null ? binary('+', sum, one) : invoke(by, [sum, one])
        yield sum
      }
    }),
    wrap('takewhile', function* ([test, over]) {
      for (const one of listed(over)) {
        if (!isTrue(invoke(test, [one]))) return
        yield one
      }
    }),
    wrap('dropwhile', function* ([test, over]) {
      let isOn = false
      for (const one of listed(over)) {
        isOn ||= !isTrue(invoke(test, [one]))
        if (isOn) yield one
      }
    }),
    wrap('pairwise', function* ([over]) {
      const all = listed(over)
      for (let at = 1; at < all.length; at += 1) yield new PyTuple([all[at - 1], all[at]])
    }),
    wrap('zip_longest', function* (all, named) {
      const lists = all.map(listed)
      for (let at = 0; at < Math.max(0, ...lists.map(({ length }) => length)); at += 1)
        yield new PyTuple(lists.map((one) => (at < one.length ? one[at] : (named.get('fillvalue') ?? null))))
    }),
    wrap('product', function* (args, named) {
      const sets = pools(args, named)
      const go = function* (taken: readonly Py[]): Generator<Py, void, void> {
        const next = sets[taken.length]
        if (!next) yield new PyTuple([...taken])
        else for (const one of next) yield* go([...taken, one])
      }
      yield* go([])
    }),
    wrap('combinations', function* ([over, many]) {
      const all = listed(over)
      const go = function* (taken: readonly Py[], from: number): Generator<Py, void, void> {
        if (taken.length === asIndex(many)) yield new PyTuple([...taken])
        else for (let at = from; at < all.length; at += 1) yield* go([...taken, all[at]], at + 1)
      }
      yield* go([], 0)
    }),
    wrap('permutations', function* ([over, many]) {
      const all = listed(over)
      const count = many === undefined || many === null ? all.length : asIndex(many)
      const go = function* (taken: readonly number[]): Generator<Py, void, void> {
        if (taken.length === count) yield new PyTuple(taken.map((at) => all[at]))
        else for (let at = 0; at < all.length; at += 1) if (!taken.includes(at)) yield* go([...taken, at])
      }
      yield* go([])
    }),
  ]
}

/** A result as whole as what it is made of. */
const asMade = (value: number, from: readonly Py[]): Py =>
  Number.isInteger(value) && from.every(isInt) ? value : new Float(value)

function statistics(): [string, Py][] {
  const numbers = (over: Py): { all: Py[]; by: number[] } => {
    const all = listed(over)
    if (all.length === 0) raise('ValueError', 'mean requires at least one data point')
    return { all, by: all.map(asNumber) }
  }
  const mean = (by: readonly number[]): number => by.reduce((sum, one) => sum + one, 0) / by.length
  const spread = (over: Py, less: number): number => {
    const { by } = numbers(over)
    if (by.length - less < 1) raise('ValueError', 'variance requires at least two data points')
    const middle = mean(by)
    return by.reduce((sum, one) => sum + (one - middle) ** 2, 0) / (by.length - less)
  }
  return [
    ['mean', fn('mean', ([over]) => asMade(mean(numbers(over).by), listed(over)))],
    ['fmean', fn('fmean', ([over]) => new Float(mean(numbers(over).by)))],
    [
      'median',
      fn('median', ([over]) => {
        const { all } = numbers(over)
        const sorted = [...all].sort((a, b) => asNumber(a) - asNumber(b))
        const half = Math.floor(sorted.length / 2)
        return sorted.length % 2 === 1
          ? sorted[half]
          : new Float((asNumber(sorted[half - 1]) + asNumber(sorted[half])) / 2)
      }),
    ],
    ['stdev', fn('stdev', ([over]) => new Float(Math.sqrt(spread(over, 1))))],
    ['pstdev', fn('pstdev', ([over]) => new Float(Math.sqrt(spread(over, 0))))],
    ['variance', fn('variance', ([over]) => asMade(spread(over, 1), listed(over)))],
    ['pvariance', fn('pvariance', ([over]) => asMade(spread(over, 0), listed(over)))],
    [
      'mode',
      fn('mode', ([over]) => {
        const all = listed(over)
        const counts = all.map((one) => all.filter((other) => equal(one, other)).length)
        return all[counts.indexOf(Math.max(...counts))]
      }),
    ],
  ]
}

/** Names that only say what something is meant to be. */
const typing = (): [string, Py][] =>
  [
    ...['Any', 'Optional', 'Union', 'List', 'Dict', 'Tuple', 'Set', 'Callable', 'Iterable', 'Iterator', 'Generator'],
    ...['Sequence', 'Literal', 'Final', 'ClassVar', 'Type', 'NoReturn', 'Awaitable', 'Protocol', 'Self', 'TypeVar'],
  ].map((name) => [name, new Unknown()])

/** What `collections` gives besides. */
export function containers(): [string, Py][] {
  const held = new WeakMap<PyObject, { items: Py[]; most: number }>()
  const of = (self: PyObject): { items: Py[]; most: number } => held.get(self)!
  const put = (self: PyObject, all: readonly Py[], atFront: boolean): null => {
    const { items, most } = of(self)
    for (const one of all) {
      if (atFront) items.unshift(one)
      else items.push(one)
      if (items.length > most && atFront) items.pop()
      else if (items.length > most) items.shift()
    }
    return null
  }
  const place = (self: PyObject, by: Py): number => {
    const { length } = of(self).items
    const at = asIndex(by) < 0 ? asIndex(by) + length : asIndex(by)
    return at >= 0 && at < length ? at : raise('IndexError', 'deque index out of range')
  }
  const taken = (one: Py): Py => (one === undefined ? raise('IndexError', 'pop from an empty deque') : one)
  const deque = nativeClass(
    'deque',
    (self, [over, most], named) => {
      const limit = named.get('maxlen') ?? most ?? null
      // The firmware of small boards wants both: what it begins with, and how many it holds.
      held.set(self, { items: [], most: limit === null ? Number.POSITIVE_INFINITY : asIndex(limit) })
      self.attrs.set('maxlen', limit)
      if (over !== undefined) put(self, listed(over), false)
    },
    {
      append: (self, [one]) => put(self, [one], false),
      appendleft: (self, [one]) => put(self, [one], true),
      extend: (self, [all]) => put(self, listed(all), false),
      extendleft: (self, [all]) => put(self, listed(all), true),
      pop: (self) => taken(of(self).items.pop()),
      popleft: (self) => taken(of(self).items.shift()),
      clear: (self) => {
        of(self).items.length = 0
        return null
      },
      rotate: (self, [by = 1]) => {
        const { items } = of(self)
        for (let at = 0; at < Math.abs(asIndex(by)) && items.length > 0; at += 1)
          if (asIndex(by) > 0) items.unshift(items.pop())
          else items.push(items.shift())
        return null
      },
      count: (self, [one]) => of(self).items.filter((other) => equal(one, other)).length,
      __len__: (self) => of(self).items.length,
      __iter__: (self) => made(iterate(new PyList(of(self).items))),
      __contains__: (self, [one]) => of(self).items.some((other) => equal(one, other)),
      __getitem__: (self, [by]) => of(self).items[place(self, by)],
      __setitem__: (self, [by, one]) => {
        of(self).items[place(self, by)] = one
        return null
      },
      __repr__: (self) =>
        `deque(${reprOf(new PyList(of(self).items))}${self.attrs.get('maxlen') === null ? '' : `, maxlen=${self.attrs.get('maxlen')}`})`,
    },
  )
  return [
    ['deque', deque],
    [
      'defaultdict',
      fn('defaultdict', ([make, from]) => {
        const all = new DefaultDict(() => invoke(make, []))
        if (from instanceof PyDict) for (const [key, value] of from.entries.values()) all.set(key, value)
        return all
      }),
    ],
    [
      'Counter',
      fn('Counter', ([over]) => {
        const all = new DefaultDict(() => 0, false)
        for (const one of over === undefined ? [] : listed(over)) all.set(one, binary('+', all.get(one) ?? 0, 1))
        const sorted = new DefaultDict(() => 0, false)
        for (const [key, value] of [...all.entries.values()].sort(([, a], [, b]) =>
          isTrue(compare('<', a, b)) ? 1 : isTrue(compare('>', a, b)) ? -1 : 0,
        ))
          sorted.set(key, value)
        return sorted
      }),
    ],
  ]
}
