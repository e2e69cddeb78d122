import type { Machine } from '../cpp/machine.ts'
import type { Hardware } from '../platform/hardware.ts'
import type { OneWireLine } from '../stage/oneWire.ts'
import { objectClass, type Py, PyClass, PyFunction, PyModule, PyObject, PyProperty } from './values.ts'

export type Named = ReadonlyMap<string, Py>
export const none: Named = new Map()

/** What modules of a board ask of it. */
export interface PythonBoard {
  readonly hardware: Hardware
  readonly machine: Machine
  /** Number of the pin that a value means; undefined where the board has none. */
  readonly pinOf: (value: number | string, isSymbol: boolean) => number | undefined
  /** Number of the pin that a channel of the converter reads, where channels have numbers of their own. */
  readonly channel: (number: number) => number | undefined
  /** The 1-Wire line at a pin, by its number; said where the plan has its thermometers elsewhere, or none. */
  readonly oneWire: (pin: number) => OneWireLine
  /** Said where a value means no pin. */
  readonly noPin: (written: string) => void
  /** Said of what lies beyond the plan. */
  readonly madeUp: (text: string) => void
  /** Lets something happen later, and again each so many microseconds. */
  readonly later: (microseconds: number, run: () => void) => void
  /** Microseconds by which the clocks of seconds go on: `time` and `monotonic`, by their dialect. */
  readonly steps: { readonly time: number; readonly monotonic: number }
  readonly costs: { readonly call: number; readonly analog: number; readonly bus: number }
}

export const fn = (name: string, call: (args: readonly Py[], named: Named) => Py): PyFunction =>
  new PyFunction(name, call)

/** A function that changes nothing but values of the program; what it writes to a pin tells of itself. */
export const reading = (name: string, call: (args: readonly Py[], named: Named) => Py): PyFunction =>
  new PyFunction(name, call, 'plain', 0, 'reads')

/** An object of a board's module: a pin, a bus, a timer. */
export class Native extends PyObject {
  pin = -1
  settled: { mode: string; pull: string } = { mode: 'in', pull: '' }
  duty = 0
  hertz = 1000
  on = false
  /** Something goes on with it beside the program. */
  plays = false
  bus = ''
}

export function nativeClass(
  name: string,
  init: (self: Native, args: readonly Py[], named: Named) => void,
  methods: Readonly<Record<string, (self: Native, args: readonly Py[], named: Named) => Py>>,
  constants: Readonly<Record<string, Py>> = {},
  reads: readonly string[] = [],
): PyClass {
  const cls: PyClass = new PyClass(name, [objectClass], (args, named) => {
    const made = new Native(cls)
    init(made, args, named)
    return made
  })
  cls.attrs
    .set(
      '__enter__',
      fn('__enter__', ([self]) => self),
    )
    .set(
      '__exit__',
      fn('__exit__', () => null),
    )
  for (const [key, method] of Object.entries(methods))
    cls.attrs.set(
      key,
      (reads.includes(key) ? reading : fn)(key, ([self, ...rest], named) => method(self as Native, rest, named)),
    )
  for (const [key, value] of Object.entries(constants)) cls.attrs.set(key, value)
  return cls
}

export const property = (
  cls: PyClass,
  name: string,
  get: (self: Native) => Py,
  set?: (self: Native, value: Py) => void,
  made = fn,
): void => {
  cls.attrs.set(
    name,
    new PyProperty(
      made(name, ([self]) => get(self as Native)),
      set &&
        made(name, ([self, value]) => {
          set(self as Native, value)
          return null
        }),
    ),
  )
}

/** A module by its name, made when it is first asked for. */
export type GivenModule = readonly [name: string, make: () => PyModule]

export const module = (name: string, attrs: readonly (readonly [string, Py])[]): GivenModule => [
  name,
  () => new PyModule(name, new Map(attrs)),
]
