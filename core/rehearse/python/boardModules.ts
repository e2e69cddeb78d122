import type { Machine } from '../cpp/machine.ts'
import { Callable } from '../cpp/values.ts'
import type { Edge, Hardware } from '../platform/hardware.ts'
import { invoke } from './attributes.ts'
import {
  asIndex,
  asNumber,
  Float,
  isTrue,
  listed,
  objectClass,
  type Py,
  PyBytes,
  PyClass,
  PyFunction,
  PyIterator,
  PyList,
  PyModule,
  PyObject,
  PyProperty,
  PyTuple,
  raise,
  Unknown,
} from './values.ts'

type Named = ReadonlyMap<string, Py>
const none: Named = new Map()

/** What modules of a board ask of it. */
export interface PythonBoard {
  readonly hardware: Hardware
  readonly machine: Machine
  /** Number of the pin that a value means; undefined where the board has none. */
  readonly pinOf: (value: number | string, isSymbol: boolean) => number | undefined
  /** Number of the pin that a channel of the converter reads, where channels have numbers of their own. */
  readonly channel: (number: number) => number | undefined
  /** Said where a value means no pin. */
  readonly noPin: (written: string) => void
  /** Lets something happen later, and again each so many microseconds. */
  readonly later: (microseconds: number, run: () => void) => void
  readonly costs: { readonly call: number; readonly analog: number; readonly bus: number }
}

const fn = (name: string, call: (args: readonly Py[], named: Named) => Py): PyFunction => new PyFunction(name, call)

/** An object of a board's module: a pin, a bus, a timer. */
export class Native extends PyObject {
  pin = -1
  settled: { mode: string; pull: string } = { mode: 'in', pull: '' }
  duty = 0
  hertz = 1000
  on = false
  bus = ''
}

function nativeClass(
  name: string,
  init: (self: Native, args: readonly Py[], named: Named) => void,
  methods: Readonly<Record<string, (self: Native, args: readonly Py[], named: Named) => Py>>,
  constants: Readonly<Record<string, Py>> = {},
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
    cls.attrs.set(key, new PyFunction(key, ([self, ...rest], named) => method(self as Native, rest, named)))
  for (const [key, value] of Object.entries(constants)) cls.attrs.set(key, value)
  return cls
}

const property = (
  cls: PyClass,
  name: string,
  get: (self: Native) => Py,
  set?: (self: Native, value: Py) => void,
): void => {
  cls.attrs.set(
    name,
    new PyProperty(
      fn(name, ([self]) => get(self as Native)),
      set &&
        fn(name, ([self, value]) => {
          set(self as Native, value)
          return null
        }),
    ),
  )
}

/** Modules by which programs of MicroPython, CircuitPython and Python on single-board computers reach their board. */
export function boardModules(board: PythonBoard): Map<string, () => PyModule> {
  const { hardware, machine, costs } = board
  const wait = (microseconds: number): null => {
    hardware.wait(microseconds, machine.at)
    return null
  }
  /** Reads the clock, which takes its time. */
  const clock = (): number => {
    wait(costs.call)
    return machine.now
  }
  const arg = (args: readonly Py[], named: Named, at: number, name: string): Py => args[at] ?? named.get(name)
  const pinFrom = (value: Py): number => {
    if (value instanceof Native) return value.pin
    const found = board.pinOf(typeof value === 'string' ? value : Number(value), false)
    if (found === undefined) {
      board.noPin(String(value))
      return raise('ValueError', 'invalid pin')
    }
    return found
  }

  /** Names of pins, each made when it is asked for. */
  class Pins extends Map<string, Py> {
    readonly #path: string
    constructor(path: string) {
      super()
      this.#path = path
    }
    override get(name: string): Py {
      const own = super.get(name)
      if (own !== undefined) return own
      const pin = board.pinOf(`${this.#path}.${name}`, true)
      if (pin === undefined) return undefined
      const made = new Native(new PyClass('Pin', [objectClass]))
      made.pin = pin
      return made
    }
  }

  // MicroPython: machine
  const [IN, OUT, OPEN_DRAIN, PULL_UP, PULL_DOWN, RISING, FALLING] = [0, 1, 2, 1, 2, 1, 2]
  const apply = (self: Native): void => {
    const { mode, pull } = self.settled
    hardware.setting(
      self.pin,
      mode === 'out'
        ? 'out'
        : mode === 'open-drain'
          ? 'open-drain'
          : pull === 'up'
            ? 'pull-up'
            : pull === 'down'
              ? 'pull-down'
              : 'in',
      machine.at,
    )
  }
  const write = (self: Native, value: Py): null => {
    hardware.write(self.pin, isTrue(value), machine.at)
    wait(costs.call)
    return null
  }
  const read = (self: Native): number => {
    wait(costs.call)
    return hardware.read(self.pin, machine.at) ? 1 : 0
  }
  const setUp = (self: Native, args: readonly Py[], named: Named): void => {
    const mode = arg(args, named, 0, 'mode')
    const pull = arg(args, named, 1, 'pull')
    const value = arg(args, named, 2, 'value')
    if (mode !== undefined && mode !== null && asIndex(mode) >= 0)
      self.settled.mode = mode === OUT ? 'out' : mode === OPEN_DRAIN ? 'open-drain' : 'in'
    if (pull !== undefined) self.settled.pull = pull === PULL_UP ? 'up' : pull === PULL_DOWN ? 'down' : ''
    if (value !== undefined && value !== null) hardware.write(self.pin, isTrue(value), machine.at)
    apply(self)
    wait(costs.call)
  }
  const Pin = nativeClass(
    'Pin',
    (self, args, named) => {
      self.pin = pinFrom(args[0] ?? named.get('id'))
      if (args.length > 1 || named.size > 0) setUp(self, args.slice(1), named)
    },
    {
      init: (self, args, named) => {
        setUp(self, args, named)
        return null
      },
      value: (self, args) => (args.length === 0 ? read(self) : write(self, args[0])),
      __call__: (self, args) => (args.length === 0 ? read(self) : write(self, args[0])),
      on: (self) => write(self, 1),
      off: (self) => write(self, 0),
      high: (self) => write(self, 1),
      low: (self) => write(self, 0),
      toggle: (self) => write(self, hardware.read(self.pin, machine.at) ? 0 : 1),
      irq: (self, args, named) => {
        const handler = arg(args, named, 0, 'handler')
        const trigger = Number(arg(args, named, 1, 'trigger') ?? RISING | FALLING)
        const edge: Edge = trigger === RISING ? 'rising' : trigger === FALLING ? 'falling' : 'change'
        hardware.onEdge(
          self.pin,
          handler ? edge : undefined,
          handler ? new Callable('irq', () => invoke(handler, [self])) : undefined,
          machine.at,
        )
        return self
      },
      mode: () => null,
      pull: () => null,
    },
    {
      IN,
      OUT,
      OPEN_DRAIN,
      PULL_UP,
      PULL_DOWN,
      IRQ_RISING: RISING,
      IRQ_FALLING: FALLING,
      board: new PyModule('board', new Pins('machine.Pin.board')),
      cpu: new PyModule('cpu', new Pins('machine.Pin.cpu')),
    },
  )
  const pulse = (self: Native): null => {
    hardware.pulse(self.pin, Math.min(1, Math.max(0, self.duty)), self.hertz, machine.at)
    wait(costs.call)
    return null
  }
  const setPulse = (self: Native, args: readonly Py[], named: Named): void => {
    const hertz = arg(args, named, 0, 'freq')
    const [u16, nanos, old] = ['duty_u16', 'duty_ns', 'duty'].map((name) => named.get(name))
    if (hertz !== undefined) self.hertz = asNumber(hertz)
    if (u16 !== undefined) self.duty = asNumber(u16) / 65535
    if (old !== undefined) self.duty = asNumber(old) / 1023
    if (nanos !== undefined) self.duty = (asNumber(nanos) * self.hertz) / 1e9
    pulse(self)
  }
  const PWM = nativeClass(
    'PWM',
    (self, args, named) => {
      self.pin = pinFrom(args[0])
      if (args.length > 1 || named.size > 0) setPulse(self, args.slice(1), named)
    },
    {
      init: (self, args, named) => {
        setPulse(self, args, named)
        return null
      },
      freq: (self, [hertz]) => {
        if (hertz === undefined) return Math.round(self.hertz)
        self.hertz = asNumber(hertz)
        return pulse(self)
      },
      duty: (self, [value]) => {
        if (value === undefined) return Math.round(self.duty * 1023)
        self.duty = asNumber(value) / 1023
        return pulse(self)
      },
      duty_u16: (self, [value]) => {
        if (value === undefined) return Math.round(self.duty * 65535)
        self.duty = asNumber(value) / 65535
        return pulse(self)
      },
      duty_ns: (self, [value]) => {
        self.duty = (asNumber(value ?? 0) * self.hertz) / 1e9
        return pulse(self)
      },
      deinit: (self) => {
        hardware.write(self.pin, false, machine.at)
        return null
      },
    },
  )
  const analog = (self: Native, bits: number): number => {
    wait(costs.analog)
    return Math.round(hardware.readAnalog(self.pin, machine.at) * ((2 ** bits - 1) / (2 ** 16 - 1)))
  }
  const ADC = nativeClass(
    'ADC',
    (self, [of]) => {
      self.pin = (typeof of === 'number' ? board.channel(of) : undefined) ?? pinFrom(of)
    },
    {
      read: (self) => analog(self, 12),
      read_u16: (self) => analog(self, 16),
      read_uv: (self) => Math.round(analog(self, 16) * (3_300_000 / 65535)),
      atten: () => null,
      width: () => null,
      init: () => null,
    },
    {
      ATTN_0DB: 0,
      ATTN_2_5DB: 1,
      ATTN_6DB: 2,
      ATTN_11DB: 3,
      WIDTH_9BIT: 9,
      WIDTH_10BIT: 10,
      WIDTH_11BIT: 11,
      WIDTH_12BIT: 12,
    },
  )
  const Timer = nativeClass(
    'Timer',
    (self, args, named) => {
      if (named.size > 0) startTimer(self, args, named)
    },
    {
      init: (self, args, named) => {
        startTimer(self, args, named)
        return null
      },
      deinit: (self) => {
        self.on = false
        return null
      },
    },
    { ONE_SHOT: 0, PERIODIC: 1 },
  )
  function startTimer(self: Native, _: readonly Py[], named: Named): void {
    const handler = named.get('callback')
    const hertz = named.get('freq')
    const each = hertz === undefined ? asNumber(named.get('period') ?? 1000) * 1000 : 1e6 / asNumber(hertz)
    const again = named.get('mode') !== 0
    self.on = true
    const tick = (): void => {
      if (!self.on) return
      if (handler) invoke(handler, [self])
      if (again) board.later(each, tick)
    }
    board.later(each, tick)
  }
  const bytesOf = (value: Py): number[] => (value instanceof PyBytes ? value.bytes : listed(value).map(asIndex))
  const ask = (self: Native, address: number, bytes: readonly number[]): null => {
    wait(costs.bus * (bytes.length + 1))
    if (!hardware.bus.write(self.bus, address, bytes, machine.at)) raise('OSError', 5)
    return null
  }
  const answer = (self: Native, address: number, count: number): PyBytes => {
    wait(costs.bus * (count + 1))
    const found = hardware.bus.read(self.bus, address, count, machine.at)
    if (found.length === 0 && count > 0) raise('OSError', 5)
    return new PyBytes([...found], false)
  }
  const I2C = nativeClass(
    'I2C',
    (self, args, named) => {
      self.bus = args[0] === 1 ? 'Wire1' : 'Wire'
      const pin = (name: string): number | undefined => (named.has(name) ? pinFrom(named.get(name)) : undefined)
      hardware.bus.begin(self.bus, [pin('sda'), pin('scl')], machine.at)
    },
    {
      scan: (self) => {
        const found: number[] = []
        for (let address = 8; address < 120; address += 1) {
          wait(costs.bus)
          if (hardware.bus.write(self.bus, address, [], machine.at)) found.push(address)
        }
        return new PyList(found)
      },
      writeto: (self, [address, bytes]) => {
        ask(self, asIndex(address), bytesOf(bytes))
        return bytesOf(bytes).length
      },
      readfrom: (self, [address, count]) => answer(self, asIndex(address), asIndex(count)),
      readfrom_into: () => null,
      writeto_mem: (self, [address, , bytes]) => {
        ask(self, asIndex(address), bytesOf(bytes))
        return null
      },
      readfrom_mem: (self, [address, , count]) => answer(self, asIndex(address), asIndex(count)),
      readfrom_mem_into: (self, [address, , into]) => {
        answer(self, asIndex(address), (into as PyBytes).bytes.length)
        return null
      },
    },
  )
  const quiet = (name: string): PyClass =>
    nativeClass(name, () => undefined, {
      write: () => 0,
      read: () => null,
      readline: () => null,
      any: () => 0,
      init: () => null,
      deinit: () => null,
      readinto: () => 0,
      write_readinto: () => null,
      feed: () => null,
    })
  const ticks = 2 ** 30
  const time: [string, Py][] = [
    ['sleep', fn('sleep', ([s]) => wait(asNumber(s) * 1e6))],
    ['sleep_ms', fn('sleep_ms', ([ms]) => wait(asNumber(ms) * 1000))],
    ['sleep_us', fn('sleep_us', ([us]) => wait(asNumber(us)))],
    ['ticks_ms', fn('ticks_ms', () => Math.floor(clock() / 1000) % ticks)],
    ['ticks_us', fn('ticks_us', () => Math.floor(clock()) % ticks)],
    ['ticks_cpu', fn('ticks_cpu', () => Math.floor(machine.now) % ticks)],
    [
      'ticks_diff',
      fn('ticks_diff', ([a, b]) => ((((Number(a) - Number(b) + ticks / 2) % ticks) + ticks) % ticks) - ticks / 2),
    ],
    ['ticks_add', fn('ticks_add', ([a, b]) => (((Number(a) + Number(b)) % ticks) + ticks) % ticks)],
    ['time', fn('time', () => new Float(Math.floor(machine.now) / 1e6))],
    ['time_ns', fn('time_ns', () => Math.floor(machine.now) * 1000)],
    ['monotonic', fn('monotonic', () => new Float(Math.floor(machine.now) / 1e6))],
    ['monotonic_ns', fn('monotonic_ns', () => Math.floor(machine.now) * 1000)],
    ['perf_counter', fn('perf_counter', () => new Float(machine.now / 1e6))],
    ['localtime', fn('localtime', () => new PyTuple([2026, 1, 1, 0, 0, Math.floor(machine.now / 1e6) % 60, 3, 1]))],
  ]
  const machineModule: [string, Py][] = [
    ['Pin', Pin],
    ['PWM', PWM],
    ['ADC', ADC],
    ['Timer', Timer],
    ['I2C', I2C],
    ['SoftI2C', I2C],
    ['SPI', quiet('SPI')],
    ['SoftSPI', quiet('SoftSPI')],
    ['UART', quiet('UART')],
    ['WDT', quiet('WDT')],
    ['RTC', new Unknown()],
    ['freq', fn('freq', () => 133_000_000)],
    ['reset', fn('reset', () => raise('SystemExit'))],
    ['idle', fn('idle', () => null)],
    ['unique_id', fn('unique_id', () => new PyBytes([1, 2, 3, 4], false))],
    [
      'disable_irq',
      fn('disable_irq', () => {
        hardware.masked = true
        return 1
      }),
    ],
    [
      'enable_irq',
      fn('enable_irq', () => {
        hardware.masked = false
        return null
      }),
    ],
    [
      'time_pulse_us',
      fn('time_pulse_us', ([pin, level, timeout]) => {
        const found = hardware.pulseIn(
          pinFrom(pin),
          isTrue(level),
          timeout === undefined ? 1e6 : asNumber(timeout),
          machine.at,
        )
        return found === 0 ? -2 : found
      }),
    ],
  ]

  // CircuitPython: board, digitalio, analogio, pwmio, busio
  const [INPUT, OUTPUT] = ['in', 'out'].map((name) => new PyObject(new PyClass(`Direction.${name}`, [objectClass])))
  const [UP, DOWN] = ['up', 'down'].map((name) => new PyObject(new PyClass(`Pull.${name}`, [objectClass])))
  const InOut = nativeClass(
    'DigitalInOut',
    (self, args) => {
      self.pin = pinFrom(args[0])
      apply(self)
    },
    {
      switch_to_output: (self, args, names) => {
        self.settled.mode = 'out'
        hardware.write(self.pin, isTrue(arg(args, names, 0, 'value') ?? false), machine.at)
        apply(self)
        return null
      },
      switch_to_input: (self, args, names) => {
        const pull = arg(args, names, 0, 'pull')
        self.settled = { mode: 'in', pull: pull === UP ? 'up' : pull === DOWN ? 'down' : '' }
        apply(self)
        return null
      },
      deinit: () => null,
    },
  )
  property(
    InOut,
    'direction',
    (self) => (self.settled.mode === 'out' ? OUTPUT : INPUT),
    (self, value) => {
      self.settled.mode = value === OUTPUT ? 'out' : 'in'
      apply(self)
    },
  )
  property(
    InOut,
    'pull',
    (self) => (self.settled.pull === 'up' ? UP : self.settled.pull === 'down' ? DOWN : null),
    (self, value) => {
      self.settled.pull = value === UP ? 'up' : value === DOWN ? 'down' : ''
      apply(self)
    },
  )
  property(
    InOut,
    'value',
    (self) => read(self) === 1,
    (self, value) => {
      if (self.settled.mode !== 'out') raise('AttributeError', 'Cannot set value when direction is input.')
      write(self, value)
    },
  )
  const AnalogIn = nativeClass(
    'AnalogIn',
    (self, args) => {
      self.pin = pinFrom(args[0])
    },
    { deinit: () => null },
  )
  property(AnalogIn, 'value', (self) => analog(self, 16))
  property(AnalogIn, 'reference_voltage', () => new Float(3.3))
  const PWMOut = nativeClass(
    'PWMOut',
    (self, args, names) => {
      self.pin = pinFrom(args[0])
      self.hertz = asNumber(names.get('frequency') ?? 500)
      self.duty = asNumber(names.get('duty_cycle') ?? 0) / 65535
      pulse(self)
    },
    { deinit: () => null },
  )
  property(
    PWMOut,
    'duty_cycle',
    (self) => Math.round(self.duty * 65535),
    (self, value) => {
      self.duty = asNumber(value) / 65535
      pulse(self)
    },
  )
  property(
    PWMOut,
    'frequency',
    (self) => Math.round(self.hertz),
    (self, value) => {
      self.hertz = asNumber(value)
      pulse(self)
    },
  )
  const busio = new PyModule(
    'busio',
    new Map<string, Py>([
      [
        'I2C',
        nativeClass(
          'I2C',
          (self, [scl, sda]) => {
            self.bus = 'Wire'
            hardware.bus.begin('Wire', [pinFrom(sda), pinFrom(scl)], machine.at)
          },
          {
            try_lock: () => true,
            unlock: () => null,
            scan: (self) => I2C.attrs.get('scan').call([self], none),
            writeto: (self, [address, bytes]) => ask(self, asIndex(address), bytesOf(bytes)),
            readfrom_into: (self, [address, into]) => {
              answer(self, asIndex(address), into.bytes.length)
              return null
            },
            deinit: () => null,
          },
        ),
      ],
      ['SPI', quiet('SPI')],
      ['UART', quiet('UART')],
    ]),
  )

  // Single-board computers
  const gpio = new Map<number, Native>()
  const gpioPin = (number: Py): Native => {
    const pin = pinFrom(number)
    let known = gpio.get(pin)
    if (!known) {
      known = new Native(Pin)
      known.pin = pin
      gpio.set(pin, known)
    }
    return known
  }
  const each = (pins: Py, run: (pin: Native) => void): null => {
    for (const one of pins instanceof PyList || pins instanceof PyTuple ? pins.items : [pins]) run(gpioPin(one))
    return null
  }
  const setShare = (self: Native, [share]: readonly Py[]): null => {
    self.duty = asNumber(share) / 100
    return pulse(self)
  }
  const rpi = (): PyModule =>
    new PyModule(
      'RPi.GPIO',
      new Map<string, Py>([
        ['BCM', 11],
        ['BOARD', 10],
        ['OUT', 0],
        ['IN', 1],
        ['HIGH', 1],
        ['LOW', 0],
        ['PUD_OFF', 20],
        ['PUD_DOWN', 21],
        ['PUD_UP', 22],
        ['RISING', 31],
        ['FALLING', 32],
        ['BOTH', 33],
        [
          'setmode',
          fn('setmode', ([mode]) =>
            mode === 10 ? raise('ValueError', 'numbers of the header are not understood; expected BCM') : null,
          ),
        ],
        ['setwarnings', fn('setwarnings', () => null)],
        ['cleanup', fn('cleanup', () => null)],
        [
          'setup',
          fn('setup', ([pins, how], names) =>
            each(pins, (pin) => {
              pin.settled = {
                mode: how === 0 ? 'out' : 'in',
                pull: names.get('pull_up_down') === 22 ? 'up' : names.get('pull_up_down') === 21 ? 'down' : '',
              }
              if (names.has('initial')) hardware.write(pin.pin, isTrue(names.get('initial')), machine.at)
              apply(pin)
            }),
          ),
        ],
        ['output', fn('output', ([pins, value]) => each(pins, (pin) => write(pin, value)))],
        ['input', fn('input', ([pin]) => read(gpioPin(pin)))],
        [
          'add_event_detect',
          fn('add_event_detect', ([pin, edge], names) => {
            const handler = names.get('callback')
            const one = gpioPin(pin)
            hardware.onEdge(
              one.pin,
              edge === 31 ? 'rising' : edge === 32 ? 'falling' : 'change',
              new Callable('event', () => (handler ? invoke(handler, [pin]) : null)),
              machine.at,
            )
            return null
          }),
        ],
        [
          'PWM',
          nativeClass(
            'PWM',
            (self, [pin, hertz]) => {
              self.pin = pinFrom(pin)
              self.hertz = asNumber(hertz)
            },
            {
              start: setShare,
              ChangeDutyCycle: setShare,
              ChangeFrequency: (self, [hertz]) => {
                self.hertz = asNumber(hertz)
                return pulse(self)
              },
              stop: (self) => {
                hardware.write(self.pin, false, machine.at)
                return null
              },
            },
          ),
        ],
      ]),
    )
  const out = (self: Native, on: boolean): null => {
    self.on = on
    return write(self, on)
  }
  const SMBus = nativeClass(
    'SMBus',
    (self) => {
      self.bus = 'Wire'
    },
    {
      write_byte: (self, [address, byte]) => ask(self, asIndex(address), [asIndex(byte)]),
      write_quick: (self, [address]) => ask(self, asIndex(address), []),
      write_byte_data: (self, [address, from, byte]) => ask(self, asIndex(address), [asIndex(from), asIndex(byte)]),
      write_i2c_block_data: (self, [address, from, bytes]) =>
        ask(self, asIndex(address), [asIndex(from), ...bytesOf(bytes)]),
      read_byte: (self, [address]) => answer(self, asIndex(address), 1).bytes[0],
      read_byte_data: (self, [address]) => answer(self, asIndex(address), 1).bytes[0],
      read_word_data: (self, [address]) => answer(self, asIndex(address), 2).bytes[0],
      read_i2c_block_data: (self, [address, , count]) =>
        new PyList(answer(self, asIndex(address), asIndex(count)).bytes),
      close: () => null,
    },
  )
  const lamp = {
    on: (self: Native) => out(self, true),
    off: (self: Native) => out(self, false),
    toggle: (self: Native) => out(self, !self.on),
    close: () => null,
  }
  const startOut = (self: Native, args: readonly Py[]): void => {
    self.pin = pinFrom(args[0])
    self.settled.mode = 'out'
    apply(self)
  }
  const LED = nativeClass('LED', startOut, {
    ...lamp,
    blink: (self, args, names) => {
      const [on, off] = [asNumber(arg(args, names, 0, 'on_time') ?? 1), asNumber(arg(args, names, 1, 'off_time') ?? 1)]
      const turn = (): void => {
        out(self, !self.on)
        board.later((self.on ? on : off) * 1e6, turn)
      }
      turn()
      return null
    },
  })
  property(
    LED,
    'value',
    (self) => (self.on ? 1 : 0),
    (self, value) => void out(self, isTrue(value)),
  )
  property(LED, 'is_lit', (self) => self.on)
  const PWMLED = nativeClass('PWMLED', startOut, {
    on: (self) => setShare(self, [100]),
    off: (self) => setShare(self, [0]),
    close: () => null,
  })
  property(
    PWMLED,
    'value',
    (self) => new Float(self.duty),
    (self, value) => {
      self.hertz = 100
      self.duty = asNumber(value)
      pulse(self)
    },
  )
  const Button = nativeClass(
    'Button',
    (self, args, names) => {
      self.pin = pinFrom(args[0])
      const up = names.get('pull_up')
      self.settled = { mode: 'in', pull: up === undefined || isTrue(up) ? 'up' : up === null ? '' : 'down' }
      self.on = self.settled.pull !== 'down'
      apply(self)
    },
    {
      wait_for_press: (self) => {
        while (read(self) === (self.on ? 1 : 0)) wait(1000)
        return null
      },
      wait_for_release: (self) => {
        while (read(self) !== (self.on ? 1 : 0)) wait(1000)
        return null
      },
      close: () => null,
    },
  )
  property(Button, 'is_pressed', (self) => read(self) === (self.on ? 0 : 1))
  property(Button, 'value', (self) => (read(self) === (self.on ? 0 : 1) ? 1 : 0))
  const whenButton = (name: string): void =>
    property(
      Button,
      name,
      (self) => self.attrs.get(`_${name}`) ?? null,
      (self, handler) => {
        self.attrs.set(`_${name}`, handler)
        // One watch serves both: which of them is meant, the level tells.
        const turned = (): Py => {
          const isPressed = hardware.read(self.pin, machine.at) !== self.on
          const wanted = self.attrs.get(isPressed ? '_when_pressed' : '_when_released')
          return wanted ? invoke(wanted, []) : null
        }
        hardware.onEdge(self.pin, 'change', new Callable(name, turned), machine.at)
      },
    )
  whenButton('when_pressed')
  whenButton('when_released')

  // Tasks that take turns
  interface Task {
    readonly from: PyIterator
    due: number
    done: boolean
    value: Py
  }
  const tasks: Task[] = []
  const sleeping = (seconds: number): PyIterator => {
    let said = false
    return new PyIterator(() => {
      if (said) return { done: true, value: null }
      said = true
      return { done: false, value: new Float(seconds) }
    }, 'coroutine')
  }
  const start = (from: Py): Task => {
    const task: Task = { from, due: machine.now, done: false, value: null }
    tasks.push(task)
    return task
  }
  const runUntil = (ends: () => boolean): void => {
    while (!ends()) {
      const next = tasks.filter(({ done }) => !done).sort((a, b) => a.due - b.due)[0]
      if (!next) return
      if (next.due > machine.now) wait(next.due - machine.now)
      const step = next.from.next(null)
      if (step.done) {
        next.done = true
        next.value = step.value
      } else next.due = machine.now + Math.max(1, asNumber(step.value) * 1e6)
    }
  }
  const awaiting = (task: Task): PyIterator =>
    new PyIterator(
      () => (task.done ? { done: true, value: task.value } : { done: false, value: new Float(0.0005) }),
      'coroutine',
    )
  const TaskClass = nativeClass('Task', () => undefined, { cancel: () => null, done: () => false })
  const taskObject = (task: Task): PyObject => {
    const made = new Native(TaskClass)
    made.attrs.set(
      '__await__',
      fn('__await__', () => awaiting(task)),
    )
    return made
  }
  TaskClass.attrs.set(
    '__await__',
    new PyFunction('__await__', ([self]) => (self as Native).attrs.get('__await__').call([], none)),
  )
  const asyncio: [string, Py][] = [
    ['sleep', fn('sleep', ([s]) => sleeping(asNumber(s)))],
    ['sleep_ms', fn('sleep_ms', ([ms]) => sleeping(asNumber(ms) / 1000))],
    [
      'run',
      fn('run', ([main]) => {
        const task = start(main)
        runUntil(() => task.done)
        return task.value
      }),
    ],
    ['create_task', fn('create_task', ([from]) => taskObject(start(from)))],
    [
      'gather',
      fn('gather', (all) => {
        const own = all.map((one) => (one instanceof PyIterator ? start(one) : undefined))
        return new PyIterator(
          () =>
            own.every((one) => !one || one.done)
              ? { done: true, value: new PyList(own.map((one) => one?.value ?? null)) }
              : { done: false, value: new Float(0.0005) },
          'coroutine',
        )
      }),
    ],
    [
      'get_event_loop',
      fn('get_event_loop', () => {
        const made = new Native(nativeClass('Loop', () => undefined, {}))
        made.attrs.set(
          'create_task',
          fn('create_task', ([from]) => taskObject(start(from))),
        )
        made.attrs.set(
          'run_until_complete',
          fn('run_until_complete', ([main]) => {
            const task = start(main)
            runUntil(() => task.done)
            return task.value
          }),
        )
        made.attrs.set(
          'run_forever',
          fn('run_forever', () => {
            runUntil(() => false)
            return null
          }),
        )
        return made
      }),
    ],
  ]
  const module = (name: string, attrs: readonly (readonly [string, Py])[]): [string, () => PyModule] => [
    name,
    () => new PyModule(name, new Map(attrs)),
  ]
  return new Map<string, () => PyModule>([
    module('machine', machineModule),
    module('umachine', machineModule),
    module('time', time),
    module('utime', time),
    module('asyncio', asyncio),
    module('uasyncio', asyncio),
    [
      'board',
      () => {
        const pins = new Pins('board')
        const usual = (): Py => {
          const made = new Native(busio.attrs.get('I2C'))
          made.bus = 'Wire'
          return made
        }
        pins.set('I2C', fn('I2C', usual)).set('STEMMA_I2C', fn('STEMMA_I2C', usual))
        return new PyModule('board', pins)
      },
    ],
    [
      'microcontroller',
      () => new PyModule('microcontroller', new Map([['pin', new PyModule('pin', new Pins('microcontroller.pin'))]])),
    ],
    module('digitalio', [
      ['DigitalInOut', InOut],
      [
        'Direction',
        new PyModule(
          'Direction',
          new Map([
            ['INPUT', INPUT],
            ['OUTPUT', OUTPUT],
          ]),
        ),
      ],
      [
        'Pull',
        new PyModule(
          'Pull',
          new Map([
            ['UP', UP],
            ['DOWN', DOWN],
          ]),
        ),
      ],
    ]),
    module('analogio', [['AnalogIn', AnalogIn]]),
    module('pwmio', [['PWMOut', PWMOut]]),
    ['busio', () => busio],
    ['RPi.GPIO', rpi],
    ['RPi', () => new PyModule('RPi', new Map<string, Py>([['GPIO', rpi()]]))],
    module('gpiozero', [
      ['LED', LED],
      ['PWMLED', PWMLED],
      ['Buzzer', LED],
      ['DigitalOutputDevice', LED],
      ['Button', Button],
    ]),
    module('smbus', [['SMBus', SMBus]]),
    module('smbus2', [['SMBus', SMBus]]),
    module('signal', [
      [
        'pause',
        fn('pause', () => {
          for (;;) wait(100_000)
        }),
      ],
    ]),
  ])
}
