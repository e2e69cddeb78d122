import { wrapping } from '../cpp/arithmetic.ts'
import type { Machine } from '../cpp/machine.ts'
import type { Library, NativeClass, NativeFunction } from '../cpp/program.ts'
import { formatted, printedText } from '../cpp/strings.ts'
import { numberOf, wholeOf } from '../cpp/textMethods.ts'
import { basicTypes, STRING, type Type, VOID } from '../cpp/types.ts'
import { Callable, copied, Ptr, textAt, type Value } from '../cpp/values.ts'
import type { Edge, Hardware, PinSetting, SerialLine } from './hardware.ts'
import type { Platform } from './platform.ts'
import { largeFunctions, smallMacros, standardFunctions, standardMacros } from './standard.ts'

/** Numbers behind the words of the platforms' headers. */
const LOW = 0
const HIGH = 1
const EDGES: Readonly<Record<number, Edge>> = { 0: 'low', 1: 'change', 2: 'falling', 3: 'rising', 4: 'high' }
export const SETTINGS: Readonly<Record<number, PinSetting>> = {
  0: 'in',
  1: 'out',
  2: 'pull-up',
  3: 'pull-down',
  4: 'open-drain',
}

/** Microseconds for which `pulseIn` and the reading of a line wait when nothing is said. */
const PULSE_TIMEOUT = 1_000_000
const READ_TIMEOUT = 1_000_000

type Fn = NativeFunction
type Method = NativeFunction<never>

/** What a sketch finds without making it itself, on a board of a platform. */
export function sketchLibrary(platform: Platform, hardware: Hardware, machine: Machine): Library {
  const { widths } = platform
  const types = basicTypes(widths)
  const t = (name: string): Type => types.get(name)!
  const [int, ulong, byte, bool, size] = ['int', 'unsigned long', 'byte', 'bool', 'size_t'].map(t) as [
    Type,
    Type,
    Type,
    Type,
    Type,
  ]
  const bytes: Type = { is: 'pointer', to: t('char') }
  const functions = standardFunctions(widths, machine)
  if (widths.int === 32) for (const [name, one] of largeFunctions(widths)) functions.set(name, one)
  const { costs } = platform
  const spend = (microseconds: number, at: number): void => {
    if (microseconds > 0) hardware.wait(microseconds, at)
  }
  const add = (
    name: string,
    params: readonly (Type | 'any')[],
    returns: Type,
    run: (args: readonly Value[], at: number, types: readonly Type[]) => Value,
    least?: number,
  ): void => {
    functions.set(name, {
      params,
      returns,
      run: (_, args, given, at) => run(args, at, given),
      ...(least === undefined ? {} : { least }),
    } satisfies Fn)
  }

  add('pinMode', [int, int], VOID, ([pin, how], at) => {
    hardware.setting(pin, SETTINGS[how] ?? 'in', at)
    spend(costs.digital, at)
  })
  add('digitalWrite', [int, int], VOID, ([pin, level], at) => {
    hardware.write(pin, level !== 0, at)
    spend(costs.digital, at)
  })
  add('digitalRead', [int], int, ([pin], at) => {
    spend(costs.digital, at)
    return hardware.read(pin, at) ? HIGH : LOW
  })
  add('digitalToggle', [int], VOID, ([pin], at) => {
    hardware.write(pin, !hardware.read(pin, at), at)
    spend(costs.digital, at)
  })
  add('analogRead', [int], int, ([pin], at) => {
    spend(costs.analog, at)
    return hardware.readAnalog(pin, at)
  })
  let writeBits = 8
  add(
    'analogWriteResolution',
    ['any', 'any'],
    VOID,
    (args) => {
      writeBits = Number(args.at(-1))
    },
    1,
  )
  add('analogReadResolution', [int], VOID, ([bits]) => {
    platform.readBits = bits
  })
  add('analogReference', ['any'], VOID, () => undefined)
  add('analogWrite', [int, int], VOID, ([pin, value], at) => {
    hardware.pulse(pin, Math.min(1, Math.max(0, value / (2 ** writeBits - 1))), undefined, at)
    spend(costs.digital, at)
  })
  add('dacWrite', [int, int], VOID, ([pin, value], at) => hardware.writeAnalog(pin, (value & 255) / 255, at))
  add('millis', [], ulong, (_, at) => {
    spend(costs.clock, at)
    return Math.floor(machine.now / 1000) >>> 0
  })
  add('micros', [], ulong, (_, at) => {
    spend(costs.clock, at)
    return (Math.floor(machine.now / platform.microStep) * platform.microStep) >>> 0
  })
  add('delay', [ulong], VOID, ([ms], at) => hardware.wait(ms * 1000, at))
  add('delayMicroseconds', [t('unsigned int')], VOID, ([us], at) => hardware.wait(us, at))
  add('yield', [], VOID, (_, at) => spend(1, at))
  add('tone', [int, t('unsigned int'), ulong], VOID, ([pin, hertz, ms], at) => hardware.tone(pin, hertz, ms, at), 2)
  add('noTone', [int], VOID, ([pin], at) => hardware.noTone(pin, at))
  add(
    'pulseIn',
    [int, int, ulong],
    ulong,
    ([pin, level, timeout], at) => hardware.pulseIn(pin, level !== 0, timeout ?? PULSE_TIMEOUT, at),
    2,
  )
  // A table of keys goes on as it is.
  functions.set('makeKeymap', { params: ['any'], returns: ([type]) => type ?? VOID, run: (_, [keys]) => keys })
  functions.set('pulseInLong', functions.get('pulseIn')!)
  add('digitalPinToInterrupt', [int], int, ([pin]) => platform.interruptOf(pin))
  add('attachInterrupt', [int, 'any', int], VOID, ([number, handler, mode], at) => {
    hardware.onEdge(
      platform.pinOfInterrupt(number),
      EDGES[mode] ?? 'change',
      handler instanceof Callable ? handler : undefined,
      at,
    )
  })
  add('detachInterrupt', [int], VOID, ([number], at) =>
    hardware.onEdge(platform.pinOfInterrupt(number), undefined, undefined, at),
  )
  for (const name of ['noInterrupts', 'cli', 'portDISABLE_INTERRUPTS'])
    add(name, [], VOID, () => {
      hardware.masked = true
    })
  for (const name of ['interrupts', 'sei', 'portENABLE_INTERRUPTS'])
    add(name, [], VOID, (_, at) => {
      hardware.masked = false
      spend(0.0625, at)
    })
  add('shiftOut', [int, int, int, byte], VOID, ([data, clock, order, value], at) => {
    for (let bit = 0; bit < 8; bit += 1) {
      hardware.write(data, ((value >> (order === 0 ? bit : 7 - bit)) & 1) === 1, at)
      hardware.write(clock, true, at)
      spend(costs.digital, at)
      hardware.write(clock, false, at)
      spend(costs.digital, at)
    }
  })
  add('shiftIn', [int, int, int], byte, ([data, clock, order], at) => {
    let value = 0
    for (let bit = 0; bit < 8; bit += 1) {
      hardware.write(clock, true, at)
      spend(costs.digital, at)
      if (hardware.read(data, at)) value |= 1 << (order === 0 ? bit : 7 - bit)
      hardware.write(clock, false, at)
      spend(costs.digital, at)
    }
    return value
  })
  for (const [name, count] of [
    ['ledcSetup', 3],
    ['ledcAttachPin', 2],
    ['ledcWrite', 2],
    ['ledcAttach', 3],
  ] as const) {
    const ledc = platform.ledc
    if (ledc) add(name, Array(count).fill('any'), ulong, (args, at) => ledc[name](args.map(Number), hardware, at))
  }

  const constants = new Map<string, { type: Type; value: Value }>()
  const number = (name: string, value: number, type: Type = int): void => {
    constants.set(name, { type, value })
  }
  for (const [name, value] of Object.entries({
    LOW,
    HIGH,
    INPUT: 0,
    OUTPUT: 1,
    INPUT_PULLUP: 2,
    INPUT_PULLDOWN: 3,
    OUTPUT_OPEN_DRAIN: 4,
    CHANGE: 1,
    FALLING: 2,
    RISING: 3,
    ONLOW: 0,
    ONHIGH: 4,
    LSBFIRST: 0,
    MSBFIRST: 1,
    DEC: 10,
    HEX: 16,
    OCT: 8,
    BIN: 2,
    NO_KEY: 0,
    'AccelStepper::DRIVER': 1,
    'AccelStepper::FULL2WIRE': 2,
    'AccelStepper::FULL4WIRE': 4,
    'AccelStepper::HALF4WIRE': 8,
    SPI_MODE0: 0,
    SPI_MODE1: 1,
    SPI_MODE2: 2,
    SPI_MODE3: 3,
    SERIAL_8N1: 6,
    SERIAL_8E1: 38,
    DEFAULT: 1,
    EXTERNAL: 0,
    INTERNAL: 3,
  }))
    number(name, value)
  for (const [name, value] of platform.constants) number(name, value)
  for (const [name, pin] of platform.pinNames) number(name, pin, byte)

  const printing = (write: (self: never, text: string, at: number) => void): Record<string, Method> => {
    const text = (args: readonly Value[], given: readonly Type[]): string => {
      const [value, how] = args
      return args.length === 0 ? '' : printedText(value, given[0]!, how === undefined ? undefined : Number(how))
    }
    const method = (end: string): Method => ({
      returns: size,
      least: 0,
      most: 2,
      run: (self, args, given, at) => {
        const all = text(args, given) + end
        write(self, all, at)
        return all.length
      },
    })
    return {
      print: method(''),
      println: method('\r\n'),
      printf: {
        returns: size,
        run: (self, args, given, at) => {
          const all = formatted(
            given[0]?.is === 'string' ? args[0] : textAt(args[0]),
            args.slice(1),
            given.slice(1),
            widths.int === 32,
          )
          write(self, all, at)
          return all.length
        },
      },
      write: {
        returns: size,
        least: 1,
        most: 2,
        run: (self, [value, count], given, at) => {
          const all =
            value instanceof Ptr
              ? count === undefined
                ? textAt(value)
                : String.fromCharCode(
                    ...Array.from(
                      { length: Number(count) },
                      (_, index) => Number(value.base[value.at + index] ?? 0) & 255,
                    ),
                  )
              : given[0]?.is === 'string'
                ? value
                : String.fromCharCode(Number(value) & 255)
          write(self, all, at)
          return all.length
        },
      },
    }
  }

  interface Reader {
    waiting: number[]
    timeout: number
  }
  const reading: Record<string, Method> = {
    available: {
      params: [],
      returns: int,
      run: (self: Reader, _a, _t, at) => {
        spend(costs.clock, at)
        return self.waiting.length
      },
    },
    read: { params: [], returns: int, run: (self: Reader) => self.waiting.shift() ?? -1 },
    peek: { params: [], returns: int, run: (self: Reader) => self.waiting[0] ?? -1 },
    setTimeout: {
      params: [ulong],
      returns: VOID,
      run: (self: Reader, [ms]) => {
        self.timeout = ms * 1000
      },
    },
    readString: { params: [], returns: STRING, run: (self: Reader, _a, _t, at) => take(self, () => false, at) },
    readStringUntil: {
      params: [t('char')],
      returns: STRING,
      run: (self: Reader, [end], _t, at) => take(self, (code) => code === (end & 255), at),
    },
    readBytesUntil: {
      params: [t('char'), bytes, size],
      returns: size,
      run: (self: Reader, [end, to, most], _t, at) => {
        const text = take(self, (code) => code === (end & 255), at).slice(0, most)
        for (let index = 0; index < text.length; index += 1) to.base[to.at + index] = text.charCodeAt(index)
        return text.length
      },
    },
    readBytes: {
      params: [bytes, size],
      returns: size,
      run: (self: Reader, [to, most], _t, at) => {
        let count = 0
        const until = machine.now + self.timeout
        while (count < most && machine.now < until) {
          const next = self.waiting.shift()
          if (next === undefined) hardware.wait(Math.min(1000, until - machine.now), at)
          else to.base[to.at + count++] = next
        }
        return count
      },
    },
    parseInt: {
      params: [],
      returns: t('long'),
      run: (self: Reader, _a, _t, at) => wholeOf(skipped(self, /[-0-9]/, at)) | 0,
    },
    parseFloat: {
      params: [],
      returns: t('float'),
      run: (self: Reader, _a, _t, at) => Math.fround(numberOf(skipped(self, /[-0-9.]/, at))),
    },
  }
  /** Bytes until one ends them, or until none has come for as long as is waited. */
  function take(self: Reader, ends: (code: number) => boolean, at: number): string {
    let text = ''
    let until = machine.now + self.timeout
    while (machine.now < until) {
      const next = self.waiting.shift()
      if (next === undefined) {
        hardware.wait(Math.min(1000, until - machine.now), at)
        continue
      }
      if (ends(next)) return text
      text += String.fromCharCode(next)
      until = machine.now + self.timeout
    }
    return text
  }
  function skipped(self: Reader, wanted: RegExp, at: number): string {
    let text = ''
    let until = machine.now + self.timeout
    while (machine.now < until) {
      const [next] = self.waiting
      if (next === undefined) {
        hardware.wait(Math.min(1000, until - machine.now), at)
        continue
      }
      const letter = String.fromCharCode(next)
      if (!wanted.test(letter) || (letter === '-' && text !== '')) {
        if (text !== '') return text
      } else text += letter
      self.waiting.shift()
      until = machine.now + self.timeout
    }
    return text
  }

  class Serial {
    timeout = READ_TIMEOUT
    readonly line: SerialLine
    readonly pins: { readonly rx?: number | undefined; readonly tx?: number | undefined }
    constructor(line: SerialLine, pins: Serial['pins'] = {}) {
      this.line = line
      this.pins = pins
    }
    get waiting(): number[] {
      return this.line.waiting
    }
  }
  const serialClass: NativeClass = {
    // A line by its number, as large platforms count them.
    make: ([number = 0]) => new Serial(hardware.serial(Number(number) === 0 ? 'Serial' : `Serial${Number(number)}`)),
    methods: {
      ...printing((self: Serial, text, at) => {
        self.line.write(text, at)
        spend(costs.serialByte * text.length, at)
      }),
      ...reading,
      begin: {
        returns: VOID,
        least: 1,
        most: 4,
        run: (self: Serial, [baud, , rx, tx], _t, at) =>
          self.line.begin(Number(baud), at, {
            rx: rx === undefined ? self.pins.rx : Number(rx),
            tx: tx === undefined ? self.pins.tx : Number(tx),
          }),
      },
      end: { params: [], returns: VOID, run: () => undefined },
      flush: { returns: VOID, run: () => undefined },
      availableForWrite: { params: [], returns: int, run: () => 63 },
      setDebugOutput: { returns: VOID, run: () => undefined },
      'operator bool': { params: [], returns: bool, run: () => 1 },
    },
  }
  const softwareClass: NativeClass = {
    ...serialClass,
    make: ([rx, tx]) =>
      new Serial(hardware.serial(`serial of ${rx} and ${tx}`), { rx: Number(rx ?? -1), tx: Number(tx ?? -1) }),
    methods: {
      ...serialClass.methods,
      listen: { params: [], returns: bool, run: () => 1 },
      isListening: { params: [], returns: bool, run: () => 1 },
    },
  }
  const wire = twoWire(platform, hardware, { int, byte, size }, printing, reading)
  const spi = spiClass(hardware, byte)
  const eeprom = eepromClass(hardware, { int, byte })
  const classes = new Map<string, NativeClass>([
    ['HardwareSerial', serialClass],
    ['SoftwareSerial', softwareClass],
    ['Stream', serialClass],
    ['Print', serialClass],
    ['TwoWire', wire.of],
    ['SPIClass', spi],
    ['SPISettings', { make: () => ({}), methods: {} }],
    ['EEPROMClass', eeprom],
    ...platform.classes(hardware, machine, { types, printing, reading }),
  ])
  const objects = new Map<string, { of: string; value: object }>([
    ...['Serial', 'Serial1', 'Serial2', 'Serial3'].map((name): [string, { of: string; value: object }] => [
      name,
      { of: 'HardwareSerial', value: new Serial(hardware.serial(name)) },
    ]),
    ['Wire', { of: 'TwoWire', value: wire.make('Wire') }],
    ['Wire1', { of: 'TwoWire', value: wire.make('Wire1') }],
    ['SPI', { of: 'SPIClass', value: { name: 'SPI' } }],
    ['EEPROM', { of: 'EEPROMClass', value: {} }],
  ])
  return {
    widths,
    macros: { ...standardMacros, ...(widths.int === 16 ? smallMacros : {}), ...platform.macros },
    types: new Map(),
    constants,
    functions,
    asked: (name) => hardware.answer(name),
    classes,
    objects,
  }
}

export type Printing = (write: (self: never, text: string, at: number) => void) => Record<string, Method>

function twoWire(
  platform: Platform,
  hardware: Hardware,
  { int, byte, size }: Readonly<Record<'int' | 'byte' | 'size', Type>>,
  printing: Printing,
  reading: Record<string, Method>,
) {
  interface Wire {
    readonly name: string
    address: number
    sending: number[]
    waiting: number[]
    timeout: number
  }
  const make = (name: string): Wire => ({ name, address: -1, sending: [], waiting: [], timeout: READ_TIMEOUT })
  const of: NativeClass = {
    make: () => make('Wire1'),
    methods: {
      ...printing((self: Wire, text) => {
        for (const letter of text) self.sending.push(letter.charCodeAt(0))
      }),
      ...reading,
      begin: {
        returns: { is: 'bool' },
        run: (self: Wire, args, _t, at) => {
          hardware.bus.begin(self.name, args.length >= 2 ? args.slice(0, 2).map(Number) : [], at)
          return 1
        },
      },
      end: { params: [], returns: VOID, run: () => undefined },
      // As a device on somebody else's bus it waits for calls that no part of a plan makes.
      onReceive: { params: ['any'], returns: VOID, run: () => undefined },
      onRequest: { params: ['any'], returns: VOID, run: () => undefined },
      setClock: { params: ['any'], returns: VOID, run: () => undefined },
      setSDA: {
        params: ['any'],
        returns: { is: 'bool' },
        run: (self: Wire, [pin], _t, at) => {
          hardware.bus.begin(self.name, [Number(pin), undefined], at)
          return 1
        },
      },
      setSCL: {
        params: ['any'],
        returns: { is: 'bool' },
        run: (self: Wire, [pin], _t, at) => {
          hardware.bus.begin(self.name, [undefined, Number(pin)], at)
          return 1
        },
      },
      beginTransmission: {
        params: [int],
        returns: VOID,
        run: (self: Wire, [address]) => {
          self.address = address
          self.sending = []
        },
      },
      endTransmission: {
        params: ['any'],
        least: 0,
        returns: byte,
        run: (self: Wire, _a, _t, at) => {
          hardware.wait(platform.costs.busByte * (self.sending.length + 1), at)
          return hardware.bus.write(self.name, self.address, self.sending, at) ? 0 : 2
        },
      },
      requestFrom: {
        params: [int, int, 'any'],
        least: 2,
        returns: size,
        run: (self: Wire, [address, count], _t, at) => {
          hardware.wait(platform.costs.busByte * (count + 1), at)
          self.waiting = [...hardware.bus.read(self.name, address, count, at)]
          return self.waiting.length
        },
      },
    },
  }
  return { of, make }
}

function spiClass(hardware: Hardware, byte: Type): NativeClass {
  return {
    make: () => ({ name: 'SPI' }),
    methods: {
      begin: {
        returns: VOID,
        run: (self: { name: string }, args, _t, at) => hardware.spi.begin(self.name, args.map(Number), at),
      },
      end: { params: [], returns: VOID, run: () => undefined },
      beginTransaction: { params: ['any'], returns: VOID, run: () => undefined },
      endTransaction: { params: [], returns: VOID, run: () => undefined },
      setClockDivider: { params: ['any'], returns: VOID, run: () => undefined },
      setDataMode: { params: ['any'], returns: VOID, run: () => undefined },
      setBitOrder: { params: ['any'], returns: VOID, run: () => undefined },
      transfer: {
        params: [byte],
        returns: byte,
        run: (self: { name: string }, [value], _t, at) => hardware.spi.transfer(self.name, value, at),
      },
    },
  }
}

function eepromClass(hardware: Hardware, { int, byte }: Readonly<Record<'int' | 'byte', Type>>): NativeClass {
  const write = (at: number, value: number, place: number): void => {
    if (hardware.kept[at] === value) return
    hardware.kept[at] = value
    // A byte takes so long, in microseconds, by the data sheet of the small boards' chip.
    hardware.wait(3300, place)
  }
  /** What is no number is kept whole, by where it begins. */
  const whole = new Map<number, Value>()
  const bytesOf = (type: Type): number => (type.is === 'int' || type.is === 'float' ? Math.ceil(type.bits / 8) : 1)
  return {
    make: () => ({}),
    element: {
      type: byte,
      get: (_, at) => hardware.kept[at] ?? 255,
      set: (_, at, value, place) => write(at, value, place),
    },
    methods: {
      begin: { params: ['any'], least: 0, returns: { is: 'bool' }, run: () => 1 },
      commit: { params: [], returns: { is: 'bool' }, run: () => 1 },
      read: { params: [int], returns: byte, run: (_, [at]) => hardware.kept[at] ?? 255 },
      write: { params: [int, byte], returns: VOID, run: (_, [at, value], _types, place) => write(at, value, place) },
      update: { params: [int, byte], returns: VOID, run: (_, [at, value], _types, place) => write(at, value, place) },
      length: { params: [], returns: int, run: () => hardware.kept.length },
      put: {
        params: [int, 'any'],
        returns: VOID,
        run: (_, [at, value], types, place) => {
          const type = types[1]!
          const view = new DataView(new ArrayBuffer(8))
          if (type.is === 'int' || type.is === 'bool') view.setBigInt64(0, BigInt(value), true)
          else if (type.is === 'float')
            type.bits === 32 ? view.setFloat32(0, value, true) : view.setFloat64(0, value, true)
          else whole.set(at, copied(value))
          for (let index = 0; index < bytesOf(type); index += 1) write(at + index, view.getUint8(index), place)
        },
      },
      get: {
        params: [int, 'place'],
        returns: VOID,
        run: (_, [at, to], types) => {
          const type = types[1]!
          const view = new DataView(new ArrayBuffer(8))
          for (let index = 0; index < 8; index += 1)
            view.setUint8(index, index < bytesOf(type) ? (hardware.kept[at + index] ?? 255) : 0)
          const ptr: Ptr = to
          if (type.is === 'float')
            ptr.base[ptr.at] = type.bits === 32 ? view.getFloat32(0, true) : view.getFloat64(0, true)
          else if (type.is === 'int' && type.bits > 32)
            ptr.base[ptr.at] = type.signed ? view.getBigInt64(0, true) : view.getBigUint64(0, true)
          else if (type.is === 'int') ptr.base[ptr.at] = wrapping(type)(view.getInt32(0, true))
          else if (whole.has(at)) ptr.base[ptr.at] = copied(whole.get(at))
        },
      },
    },
  }
}
