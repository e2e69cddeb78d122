import { wrapping } from '../cpp/arithmetic.ts'
import type { Machine } from '../cpp/machine.ts'
import type { NativeClass, NativeFunction } from '../cpp/program.ts'
import { type Type, VOID } from '../cpp/types.ts'
import { Callable, copied, type Ptr, type Value } from '../cpp/values.ts'
import type { Hardware } from './hardware.ts'
import type { Platform } from './platform.ts'

type Method = NativeFunction<never>

/** Microseconds for which the reading of a line waits when nothing is said. */
export const READ_TIMEOUT = 1_000_000

/** Methods that write, made for what they write to. */
export type Printing = (write: (self: never, text: string, at: number) => void) => Record<string, Method>

/** The two-wire bus as sketches speak to it. */
export function twoWire(
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
          // Two pins and perhaps a clock; or an address of its own, alone or before all of these.
          const isDevice = args.length === 1 || args.length === 4
          const pins = args.slice(isDevice ? 1 : 0).map(Number)
          hardware.bus.begin(self.name, pins.length >= 2 ? pins.slice(0, 2) : [], at)
          if (isDevice) hardware.bus.listen(self.name, Number(args[0]))
          return 1
        },
      },
      end: { params: [], returns: VOID, run: () => undefined },
      onReceive: {
        params: ['any'],
        returns: VOID,
        run: (self: Wire, [handler]) =>
          hardware.bus.onReceive(self.name, (bytes) => {
            self.waiting = [...bytes]
            if (handler instanceof Callable) handler.call([bytes.length])
          }),
      },
      onRequest: {
        params: ['any'],
        returns: VOID,
        run: (self: Wire, [handler]) =>
          hardware.bus.onRequest(self.name, () => {
            self.sending = []
            if (handler instanceof Callable) handler.call([])
            return self.sending
          }),
      },
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

/** Bytes that outlast a reset, `size` of them where the chip has so many; beyond its last one it begins again with the first. */
export function eepromClass(
  hardware: Hardware,
  machine: Machine,
  { int, byte }: Readonly<Record<'int' | 'byte', Type>>,
  size = hardware.kept.length,
): NativeClass {
  const within = (asked: number, place: number): number => {
    if (asked >= size || asked < 0) machine.beyond(place, asked, size)
    return ((asked % size) + size) % size
  }
  const read = (from: number, place: number): number => hardware.kept[within(from, place)] ?? 255
  const write = (to: number, value: number, place: number): void => {
    const at = within(to, place)
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
      get: (_, at, place) => read(at, place),
      set: (_, at, value, place) => write(at, value, place),
    },
    methods: {
      begin: { params: ['any'], least: 0, returns: { is: 'bool' }, run: () => 1 },
      commit: { params: [], returns: { is: 'bool' }, run: () => 1 },
      read: { params: [int], returns: byte, run: (_, [at], _types, place) => read(at, place) },
      write: { params: [int, byte], returns: VOID, run: (_, [at, value], _types, place) => write(at, value, place) },
      update: { params: [int, byte], returns: VOID, run: (_, [at, value], _types, place) => write(at, value, place) },
      length: { params: [], returns: int, run: () => size },
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
        run: (_, [at, to], types, place) => {
          const type = types[1]!
          const view = new DataView(new ArrayBuffer(8))
          for (let index = 0; index < bytesOf(type); index += 1) view.setUint8(index, read(at + index, place))
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
