import { Callable } from '../cpp/values.ts'
import type { Edge } from '../platform/hardware.ts'
import { invoke } from './attributes.ts'
import type { BusClasses } from './boardModules.ts'
import { fn, type Named, type Native, nativeClass, type PythonBoard, reading } from './native.ts'
import type { PinCalls } from './pinCalls.ts'
import { asIndex, asNumber, isTrue } from './protocols.ts'
import type { Threads } from './threads.ts'
import { Float, type Py, PyBytes, PyModule } from './values.ts'

/** Microseconds of a reading of a touch pin, and what it gives: above a thousand at rest, some ten under a finger, as documented. */
const TOUCH_TIME = 500
const UNTOUCHED = 1200
const TOUCHED = 60

/** `machine` and `time` as MicroPython has them. */
export function microModules(board: PythonBoard, calls: PinCalls, buses: BusClasses, threads: Threads) {
  const { hardware, machine, costs } = board
  const {
    wait,
    clock,
    arg,
    pinFrom,
    Pins,
    apply,
    write,
    read,
    pulse,
    analog,
    bytesOf,
    ask,
    answer,
    fill,
    register,
    scan,
  } = calls
  const [IN, OUT, OPEN_DRAIN, PULL_UP, PULL_DOWN, RISING, FALLING] = [0, 1, 2, 1, 2, 1, 2]
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
    ['value', '__call__', 'on', 'off', 'high', 'low', 'toggle'],
  )
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
  const TouchPad = nativeClass(
    'TouchPad',
    (self, [of]) => {
      self.pin = pinFrom(of)
    },
    {
      read: (self) => {
        wait(TOUCH_TIME)
        return hardware.touched(self.pin, machine.at) ? TOUCHED : UNTOUCHED
      },
      config: () => null,
    },
    {},
    ['read'],
  )
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
    ['read', 'read_u16', 'read_uv'],
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
  const I2C = nativeClass(
    'I2C',
    (self, args, named) => {
      self.bus = args[0] === 1 ? 'Wire1' : 'Wire'
      const pin = (name: string): number | undefined => (named.has(name) ? pinFrom(named.get(name)) : undefined)
      hardware.bus.begin(self.bus, [pin('sda'), pin('scl')], machine.at)
    },
    {
      scan,
      writeto: (self, [address, bytes]) => {
        ask(self, asIndex(address), bytesOf(bytes))
        return bytesOf(bytes).length
      },
      readfrom: (self, [address, count]) => answer(self, asIndex(address), asIndex(count)),
      readfrom_into: (self, [address, into]) => fill(into as PyBytes, self, asIndex(address)),
      writeto_mem: (self, [address, from, bytes]) => {
        ask(self, asIndex(address), [asIndex(from), ...bytesOf(bytes)])
        return null
      },
      readfrom_mem: (self, [address, from, count]) => new PyBytes(register(self, address, from, asIndex(count)), false),
      readfrom_mem_into: (self, [address, from, into]) => {
        ask(self, asIndex(address), [asIndex(from)])
        return fill(into as PyBytes, self, asIndex(address))
      },
    },
  )
  const ticks = 2 ** 30
  /** Microseconds for which the program has run. */
  const sinceStart = (): number => machine.now - machine.born
  /** A clock of seconds that goes on in such steps; one of whole seconds gives whole numbers. */
  const seconds = (since: number, step: number): Py => {
    const whole = machine.wholeSteps(since, step)
    return step === 1e6 ? whole : new Float((whole * step) / 1e6)
  }
  const time: [string, Py][] = [
    ['sleep', threads.sleep('sleep', (s) => s)],
    ['sleep_ms', threads.sleep('sleep_ms', (ms) => ms / 1000)],
    ['sleep_us', threads.sleep('sleep_us', (us) => us / 1e6)],
    ['ticks_ms', reading('ticks_ms', () => clock(1000) % ticks)],
    ['ticks_us', reading('ticks_us', () => clock(1) % ticks)],
    ['ticks_cpu', fn('ticks_cpu', () => Math.floor(sinceStart()) % ticks)],
    [
      'ticks_diff',
      reading('ticks_diff', ([a, b]) => ((((Number(a) - Number(b) + ticks / 2) % ticks) + ticks) % ticks) - ticks / 2),
    ],
    ['ticks_add', reading('ticks_add', ([a, b]) => (((Number(a) + Number(b)) % ticks) + ticks) % ticks)],
    ['time', reading('time', () => seconds(machine.now, board.steps.time))],
    ['time_ns', fn('time_ns', () => Math.floor(machine.now) * 1000)],
    ['monotonic', reading('monotonic', () => seconds(sinceStart(), board.steps.monotonic))],
    ['monotonic_ns', fn('monotonic_ns', () => Math.floor(sinceStart()) * 1000)],
    ['perf_counter', fn('perf_counter', () => new Float(sinceStart() / 1e6))],
  ]
  const machineModule: [string, Py][] = [
    ['Pin', Pin],
    ['PWM', PWM],
    ['ADC', ADC],
    ['TouchPad', TouchPad],
    ['Timer', Timer],
    ['I2C', I2C],
    ['SoftI2C', I2C],
    ['SPI', buses.spi.micro],
    ['SoftSPI', buses.spi.micro],
    ['UART', buses.serial.micro],
    ['freq', reading('freq', () => 133_000_000)],
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
  return { machine: machineModule, time }
}
