import { dictType } from './builtins.ts'
import { classModules } from './classModules.ts'
import { fromJson, jsonOf } from './json.ts'
import { fn, module, type Named, reading } from './native.ts'
import { layout, packed, unpacked } from './packing.ts'
import { asIndex, asNumber, listed, shrunk } from './protocols.ts'
import { containers, toolModules } from './toolModules.ts'
import { Float, objectClass, type Py, PyClass, PyFunction, PyList, type PyModule, PyTuple, raise } from './values.ts'

const func = (name: string, call: (args: readonly Py[], named: Named) => Py): [string, Py] => [name, fn(name, call)]
/** The same of what gives only by its arguments. */
const sum = (name: string, call: (args: readonly Py[], named: Named) => Py): [string, Py] => [name, reading(name, call)]
const real = (name: string, by: (x: number) => number): [string, Py] =>
  sum(name, ([value]) => {
    const made = by(asNumber(value))
    return Number.isNaN(made) && !Number.isNaN(asNumber(value))
      ? raise('ValueError', 'math domain error')
      : new Float(made)
  })

/** Modules of the language that stand for themselves on a board. */
export function plainModules(os: readonly (readonly [string, Py])[]): Map<string, () => PyModule> {
  const math: [string, Py][] = [
    ...(
      ['sqrt', 'sin', 'cos', 'tan', 'asin', 'acos', 'atan', 'exp', 'log2', 'log10', 'sinh', 'cosh', 'tanh'] as const
    ).map((name) => real(name, Math[name])),
    sum('log', ([x, base]) => {
      if (asNumber(x) <= 0) raise('ValueError', 'math domain error')
      return new Float(base === undefined ? Math.log(asNumber(x)) : Math.log(asNumber(x)) / Math.log(asNumber(base)))
    }),
    sum('floor', ([x]) => shrunk(BigInt(Math.floor(asNumber(x))))),
    sum('ceil', ([x]) => shrunk(BigInt(Math.ceil(asNumber(x))))),
    sum('trunc', ([x]) => shrunk(BigInt(Math.trunc(asNumber(x))))),
    real('fabs', Math.abs),
    sum('pow', ([x, y]) => new Float(asNumber(x) ** asNumber(y))),
    sum('atan2', ([y, x]) => new Float(Math.atan2(asNumber(y), asNumber(x)))),
    sum('hypot', ([x, y]) => new Float(Math.hypot(asNumber(x), asNumber(y)))),
    sum('fmod', ([x, y]) => new Float(asNumber(x) % asNumber(y))),
    real('radians', (x) => (x * Math.PI) / 180),
    real('degrees', (x) => (x * 180) / Math.PI),
    sum('isnan', ([x]) => Number.isNaN(asNumber(x))),
    sum('isinf', ([x]) => Math.abs(asNumber(x)) === Number.POSITIVE_INFINITY),
    sum('gcd', ([a, b]) => {
      let [x, y] = [Math.abs(Number(a)), Math.abs(Number(b))]
      while (y) [x, y] = [y, x % y]
      return x
    }),
    ['pi', new Float(Math.PI)],
    ['e', new Float(Math.E)],
    ['inf', new Float(Number.POSITIVE_INFINITY)],
    ['nan', new Float(Number.NaN)],
  ]
  let seed = 12345
  const chance = (): number => {
    seed = (seed * 16807) % 0x7fffffff
    return seed / 0x7fffffff
  }
  const between = (a: number, b: number): number => a + Math.floor(chance() * (b - a + 1))
  const random: [string, Py][] = [
    func('seed', ([to]) => {
      seed = Math.abs(Number(to ?? 1)) % 0x7fffffff || 1
      return null
    }),
    func('random', () => new Float(chance())),
    func('uniform', ([a, b]) => new Float(asNumber(a) + chance() * (asNumber(b) - asNumber(a)))),
    func('randint', ([a, b]) => between(asIndex(a), asIndex(b))),
    func('randrange', (args) =>
      args.length === 1 ? between(0, asIndex(args[0]) - 1) : between(asIndex(args[0]), asIndex(args[1]) - 1),
    ),
    func('getrandbits', ([bits]) => Math.floor(chance() * 2 ** asIndex(bits))),
    func('choice', ([all]) => listed(all)[between(0, listed(all).length - 1)]),
  ]
  const nothing = func('collect', () => 0)
  return new Map([
    module('math', math),
    module('random', random),
    module('urandom', random),
    module('micropython', [
      sum('const', ([value]) => value),
      ['native', new PyFunction('native', ([one]) => one)],
      ['viper', new PyFunction('viper', ([one]) => one)],
    ]),
    module('gc', [nothing, func('mem_free', () => 100_000), func('enable', () => null), func('disable', () => null)]),
    module('sys', [
      ['platform', 'rehearsal'],
      ['version', '3'],
      ['argv', new PyList([])],
      func('exit', () => raise('SystemExit')),
      func('print_exception', () => null),
    ]),
    module('os', os),
    module('uos', os),
    module('json', [func('dumps', ([value]) => jsonOf(value)), func('loads', ([text]) => fromJson(JSON.parse(text)))]),
    module('ujson', [func('dumps', ([value]) => jsonOf(value)), func('loads', ([text]) => fromJson(JSON.parse(text)))]),
    module('collections', [
      func('namedtuple', ([name, fields]) => {
        const names = typeof fields === 'string' ? fields.split(/[\s,]+/) : listed(fields)
        return new PyClass(
          name,
          [objectClass],
          (args, named) =>
            new PyTuple(
              names.map((one: string, at: number) => named.get(one) ?? args[at]),
              names,
            ),
        )
      }),
      func('OrderedDict', ([from]) =>
        (dictType.make as NonNullable<PyClass['make']>)(from === undefined ? [] : [from], new Map()),
      ),
      ...containers(),
    ]),
    module('struct', [func('pack', packed), func('unpack', unpacked), func('calcsize', ([how]) => layout(how).size)]),
    module('ustruct', [func('pack', packed), func('unpack', unpacked), func('calcsize', ([how]) => layout(how).size)]),
    module('array', [func('array', ([, items]) => new PyList(items === undefined ? [] : [...listed(items)]))]),
    ...toolModules(),
    ...classModules(),
  ])
}
