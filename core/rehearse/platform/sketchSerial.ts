import type { Machine } from '../cpp/machine.ts'
import type { NativeClass, NativeFunction } from '../cpp/program.ts'
import { formatted, printedText } from '../cpp/strings.ts'
import { numberOf, wholeOf } from '../cpp/textMethods.ts'
import { STRING, type Type, VOID } from '../cpp/types.ts'
import { Ptr, textAt, type Value } from '../cpp/values.ts'
import type { Hardware, SerialLine } from './hardware.ts'
import type { Costs } from './platform.ts'
import { type Printing, READ_TIMEOUT } from './sketchBuses.ts'

type Method = NativeFunction<never>

/** Printing of text to whatever `write` does with it; `isLarge` where whole numbers have thirty-two bits. */
export function printingWays(size: Type, isLarge: boolean): Printing {
  return (write) => {
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
            isLarge,
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
}

interface Reader {
  waiting: number[]
  timeout: number
}

/** Reading of what has come and waits. */
export function readingWays(
  machine: Machine,
  hardware: Hardware,
  { clock }: Pick<Costs, 'clock'>,
  t: (name: string) => Type,
): Record<string, Method> {
  const [int, ulong, size] = [t('int'), t('unsigned long'), t('size_t')]
  const bytes: Type = { is: 'pointer', to: t('char') }
  return {
    available: {
      params: [],
      returns: int,
      reads: true,
      run: (self: Reader, _a, _t, at) => {
        hardware.wait(clock, at)
        return self.waiting.length
      },
    },
    read: { params: [], returns: int, run: (self: Reader) => self.waiting.shift() ?? -1 },
    peek: { params: [], returns: int, reads: true, run: (self: Reader) => self.waiting[0] ?? -1 },
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
}

/** A serial line of a sketch. */
export class Serial {
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

/** Classes of serial lines: of the board, of two pins of choice, through the air. */
export function serialClasses(
  hardware: Hardware,
  costs: Costs,
  t: (name: string) => Type,
  printing: Printing,
  reading: Record<string, Method>,
): readonly (readonly [string, NativeClass])[] {
  const [int, bool] = [t('int'), t('bool')]
  const serialClass: NativeClass = {
    // A line by its number, as large platforms count them.
    make: ([number = 0]) => new Serial(hardware.serial(Number(number) === 0 ? 'Serial' : `Serial${Number(number)}`)),
    methods: {
      ...printing((self: Serial, text, at) => {
        self.line.write(text, at)
        if (text.length > 0) hardware.wait(costs.serialByte * text.length, at)
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
  return [
    ['HardwareSerial', serialClass],
    ['SoftwareSerial', softwareClass],
    ['Stream', serialClass],
    ['Print', serialClass],
    ['BluetoothSerial', airClass],
  ]
}
