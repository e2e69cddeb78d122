import type { Machine } from '../cpp/machine.ts'
import type { Library, NativeClass, NativeFunction } from '../cpp/program.ts'
import { formatted, printedText } from '../cpp/strings.ts'
import { numberOf, wholeOf } from '../cpp/textMethods.ts'
import { basicTypes, STRING, type Type, VOID } from '../cpp/types.ts'
import { Callable, Ptr, textAt, type Value } from '../cpp/values.ts'
import type { Edge, Hardware, PinSetting, SerialLine } from './hardware.ts'
import type { Platform } from './platform.ts'
import { eepromClass, READ_TIMEOUT, twoWire } from './sketchBuses.ts'
import { sleepFunctions } from './sketchSleep.ts'
import { spiClasses } from './sketchSpi.ts'
import { timerClasses } from './sketchTimers.ts'
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

/** Microseconds for which `pulseIn` waits when nothing is said. */
const PULSE_TIMEOUT = 1_000_000

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
    return Math.floor((machine.now - machine.born) / 1000) >>> 0
  })
  add('micros', [], ulong, (_, at) => {
    spend(costs.clock, at)
    return (Math.floor((machine.now - machine.born) / platform.microStep) * platform.microStep) >>> 0
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

  const sleeping = sleepFunctions(platform, hardware, { int, ulong })
  for (const [name, one] of sleeping.functions) functions.set(name, one)
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
  for (const [name, value] of Object.entries(sleeping.constants)) number(name, value)
  for (const [name, value] of platform.constants) number(name, value)
  for (const [name, pin] of platform.pinNames) number(name, pin, byte)

  const printing = (write: (self: never, text: string, at: number) => void): Record<string, Method> => {
    const text = (args: readonly Value[], given: readonly Type[]): string => {
      const [value, how] = args
      return args.length === 0 ? '' : printedText(value, given[0]!, how === undefined ? undefined : Number(how))
    }
    const method = (end: string): Method => ({
      params: ['shown', 'any'],
      returns: size,
      least: 0,
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
  /** A serial line through the air: its name is that of the device, and nobody has pins. */
  const airClass: NativeClass = {
    make: () => new Serial(hardware.serial('Bluetooth')),
    methods: {
      ...serialClass.methods,
      begin: { params: ['any', 'any'], least: 0, returns: bool, run: () => 1 },
      connected: { params: ['any'], least: 0, returns: bool, run: () => 1 },
      hasClient: { params: [], returns: bool, run: () => 1 },
    },
  }
  const wire = twoWire(platform, hardware, { int, byte, size }, printing, reading)
  const eeprom = eepromClass(hardware, { int, byte })
  const classes = new Map<string, NativeClass>([
    ['HardwareSerial', serialClass],
    ['SoftwareSerial', softwareClass],
    ['Stream', serialClass],
    ['Print', serialClass],
    ['TwoWire', wire.of],
    ...spiClasses(hardware, { int, byte, word: t('uint16_t') }),
    ...timerClasses(hardware, { bool, ulong }),
    ['BluetoothSerial', airClass],
    ['EEPROMClass', eeprom],
    ...sleeping.classes,
    ...platform.classes(hardware, machine, { types, printing, reading }),
  ])
  const objects = new Map<string, { of: string; value: object }>([
    ...['Serial', 'Serial1', 'Serial2', 'Serial3'].map((name): [string, { of: string; value: object }] => [
      name,
      { of: 'HardwareSerial', value: new Serial(hardware.serial(name)) },
    ]),
    ['Wire', { of: 'TwoWire', value: wire.make('Wire') }],
    ['Wire1', { of: 'TwoWire', value: wire.make('Wire1') }],
    ['Timer1', { of: 'TimerOne', value: classes.get('TimerOne')!.make([], [], 0) }],
    ['SPI', { of: 'SPIClass', value: { name: 'SPI' } }],
    ['SPI1', { of: 'SPIClass', value: { name: 'SPI1' } }],
    ['EEPROM', { of: 'EEPROMClass', value: {} }],
    ...sleeping.classes.map(([of]): [string, { of: string; value: object }] => [
      sleeping.objects[of] ?? of,
      { of, value: {} },
    ]),
  ])
  return {
    widths,
    macros: { ...standardMacros, ...(widths.int === 16 ? smallMacros : {}), ...platform.macros },
    types: new Map(sleeping.types.map((name) => [name, int])),
    constants,
    functions,
    asked: (name) => hardware.answer(name),
    classes,
    objects,
  }
}
