import { type Named, type Native, nativeClass, type PythonBoard, property } from './native.ts'
import type { PinCalls } from './pinCalls.ts'
import { asIndex, isTrue } from './protocols.ts'
import { Float, type Py, PyBytes, type PyClass, PyList } from './values.ts'

/** Clocks that programs have unless they ask for another, in hertz. */
const USUAL = { micro: 1_000_000, circuit: 100_000, desk: 500_000 } as const
/** What MicroPython calls `SPI.LSB`. */
const LOWEST_FIRST = 1
const CONVERTER_COUNTS = 1024

export type FourWire = ReturnType<typeof fourWire>

/** The four-wire bus in all dialects of Python. */
export function fourWire(board: PythonBoard, { pinFrom, bytesOf }: PinCalls) {
  const { hardware, machine } = board
  const { spi } = hardware
  /** Sends bytes and takes in as many. */
  const exchange = (self: Native, bytes: readonly number[]): number[] =>
    bytes.map((byte) => spi.transfer(self.bus, byte & 255, machine.at))
  const fillWith = (into: Py, bytes: readonly number[]): null => {
    if (into instanceof PyBytes) into.bytes.splice(0, into.bytes.length, ...bytes)
    return null
  }
  const many = (count: number, byte: Py): number[] => new Array(count).fill(byte === undefined ? 0 : asIndex(byte))
  const lengthOf = (buffer: Py): number => bytesOf(buffer).length
  /** Polarity is the level at rest, phase the edge at which a bit is taken. */
  const settle = (self: Native, named: Named, baud: Py = named.get('baudrate')): void => {
    const mode = (isTrue(named.get('polarity') ?? 0) ? 2 : 0) + (isTrue(named.get('phase') ?? 0) ? 1 : 0)
    const hertz = baud === undefined ? {} : { hertz: asIndex(baud) }
    spi.settings(self.bus, { mode, lowestFirst: named.get('firstbit') === LOWEST_FIRST, ...hertz }, machine.at)
  }
  const pinOf = (named: Named, name: string): number | undefined => {
    const pin = named.get(name)
    return pin === undefined || pin === null ? undefined : pinFrom(pin)
  }
  const transfers: Record<string, (self: Native, args: readonly Py[], named: Named) => Py> = {
    write: (self, [bytes]) => {
      exchange(self, bytesOf(bytes))
      return null
    },
    readinto: (self, [into, byte], named) =>
      fillWith(into, exchange(self, many(lengthOf(into), byte ?? named.get('write_value')))),
    write_readinto: (self, [bytes, into]) => fillWith(into, exchange(self, bytesOf(bytes))),
    deinit: () => null,
  }
  const micro: PyClass = nativeClass(
    'SPI',
    (self, args, named) => {
      self.bus = args[0] === 1 ? 'SPI1' : 'SPI'
      spi.begin(self.bus, [pinOf(named, 'sck'), pinOf(named, 'miso'), pinOf(named, 'mosi')], machine.at)
      settle(self, named, args[1] ?? named.get('baudrate') ?? USUAL.micro)
    },
    {
      ...transfers,
      init: (self, _, named) => {
        settle(self, named)
        return null
      },
      read: (self, [count, byte]) => new PyBytes(exchange(self, many(asIndex(count), byte)), false),
    },
    { MSB: 0, LSB: LOWEST_FIRST },
  )
  const circuit = nativeClass(
    'SPI',
    (self, [clock, mosi, miso], named) => {
      self.bus = 'SPI'
      const pin = (given: Py, name: string): number | undefined =>
        given === undefined || given === null ? pinOf(named, name) : pinFrom(given)
      spi.begin(self.bus, [pin(clock, 'clock'), pin(miso, 'MISO'), pin(mosi, 'MOSI')], machine.at)
      spi.settings(self.bus, { hertz: USUAL.circuit }, machine.at)
    },
    {
      ...transfers,
      try_lock: () => true,
      unlock: () => null,
      configure: (self, _, named) => {
        settle(self, named)
        return null
      },
    },
  )
  /** What a program has opened: a bus of a system, whose driver moves the select by itself. */
  interface Opened {
    device: number
    mode: number
    lowestFirst: boolean
    hertz: number
    selects: boolean
    /** Channel of a converter. */
    channel: number
  }
  const opened = new WeakMap<Native, Opened>()
  const of = (self: Native): Opened => {
    const known = opened.get(self) ?? {
      device: 0,
      mode: 0,
      lowestFirst: false,
      hertz: USUAL.desk,
      selects: true,
      channel: 0,
    }
    opened.set(self, known)
    return known
  }
  const tell = (self: Native): void => spi.settings(self.bus, of(self), machine.at)
  const selected = (self: Native, bytes: readonly number[]): number[] => {
    const { device, selects } = of(self)
    if (!selects) return exchange(self, bytes)
    spi.select(self.bus, device, true, machine.at)
    const got = exchange(self, bytes)
    spi.select(self.bus, device, false, machine.at)
    return got
  }
  const open = (self: Native, bus: number, device: number): null => {
    self.bus = bus === 1 ? 'SPI1' : 'SPI'
    of(self).device = device
    spi.begin(self.bus, [], machine.at)
    tell(self)
    spi.select(self.bus, device, false, machine.at)
    return null
  }
  const swap: (self: Native, args: readonly Py[]) => Py = (self, [bytes]) => new PyList(selected(self, bytesOf(bytes)))
  const desk = nativeClass(
    'SpiDev',
    (self, [bus, device]) => {
      if (bus !== undefined) open(self, asIndex(bus), asIndex(device ?? 0))
    },
    {
      open: (self, [bus, device]) => open(self, asIndex(bus), asIndex(device)),
      xfer: swap,
      xfer2: swap,
      xfer3: swap,
      writebytes: (self, [bytes]) => {
        selected(self, bytesOf(bytes))
        return null
      },
      readbytes: (self, [count]) => new PyList(selected(self, many(asIndex(count), 0))),
      close: () => null,
    },
  )
  const setting = (name: string, get: (of: Opened) => Py, set: (of: Opened, value: Py) => void): void =>
    property(
      desk,
      name,
      (self) => get(of(self)),
      (self, value) => {
        set(of(self), value)
        tell(self)
      },
    )
  setting(
    'mode',
    ({ mode }) => mode,
    (one, to) => {
      one.mode = asIndex(to) & 3
    },
  )
  setting(
    'lsbfirst',
    ({ lowestFirst }) => lowestFirst,
    (one, to) => {
      one.lowestFirst = isTrue(to)
    },
  )
  setting(
    'max_speed_hz',
    ({ hertz }) => hertz,
    (one, to) => {
      one.hertz = asIndex(to)
    },
  )
  setting(
    'no_cs',
    ({ selects }) => !selects,
    (one, without) => {
      one.selects = !isTrue(without)
    },
  )
  /** A converter as the library for beginners has it: asked for a channel, it gives a share of its supply. */
  const converter = nativeClass(
    'MCP3008',
    (self, [channel], named) => {
      of(self).channel = asIndex(channel ?? named.get('channel') ?? 0)
      open(self, 0, asIndex(named.get('device') ?? 0))
    },
    { close: () => null },
  )
  const counts = (self: Native): number => {
    const [, high = 0, low = 0] = selected(self, [1, 0x80 | (of(self).channel << 4), 0])
    return ((high & 3) << 8) | low
  }
  property(converter, 'value', (self) => new Float(counts(self) / (CONVERTER_COUNTS - 1)))
  property(converter, 'raw_value', counts)
  return { micro, circuit, desk, converter }
}
