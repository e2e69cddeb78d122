import { type Named, type Native, nativeClass, type PythonBoard, property } from './native.ts'
import type { PinCalls } from './pinCalls.ts'
import { asIndex, Float, isTrue, type Py, PyBytes, type PyClass, PyList } from './values.ts'

/** Microseconds of a byte at 1 MHz. */
const BYTE_MICROSECONDS = 8
/** What MicroPython calls `SPI.LSB`. */
const LOWEST_FIRST = 1
const CONVERTER_COUNTS = 1024

export type FourWire = ReturnType<typeof fourWire>

/** The four-wire bus in all dialects of Python. */
export function fourWire(board: PythonBoard, { wait, pinFrom, bytesOf }: PinCalls) {
  const { hardware, machine } = board
  const { spi } = hardware
  /** Sends bytes and takes in as many. */
  const exchange = (self: Native, bytes: readonly number[]): number[] =>
    bytes.map((byte) => {
      wait(BYTE_MICROSECONDS)
      return spi.transfer(self.bus, byte & 255, machine.at)
    })
  const fillWith = (into: Py, bytes: readonly number[]): null => {
    if (into instanceof PyBytes) into.bytes.splice(0, into.bytes.length, ...bytes)
    return null
  }
  const many = (count: number, byte: Py): number[] => new Array(count).fill(byte === undefined ? 0 : asIndex(byte))
  const lengthOf = (buffer: Py): number => bytesOf(buffer).length
  /** Polarity is the level at rest, phase the edge at which a bit is taken. */
  const settle = (self: Native, named: Named): void => {
    const mode = (isTrue(named.get('polarity') ?? 0) ? 2 : 0) + (isTrue(named.get('phase') ?? 0) ? 1 : 0)
    spi.settings(self.bus, { mode, lowestFirst: named.get('firstbit') === LOWEST_FIRST }, machine.at)
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
      settle(self, named)
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
  /** A bus of a single-board computer, whose driver moves the select by itself; `pin` is the number of the select. */
  const selected = (self: Native, bytes: readonly number[]): number[] => {
    if (!self.on) return exchange(self, bytes)
    spi.select(self.bus, self.pin, true, machine.at)
    const got = exchange(self, bytes)
    spi.select(self.bus, self.pin, false, machine.at)
    return got
  }
  const open = (self: Native, bus: number, device: number): null => {
    self.bus = bus === 1 ? 'SPI1' : 'SPI'
    self.pin = device
    self.on = true
    spi.begin(self.bus, [], machine.at)
    spi.select(self.bus, device, false, machine.at)
    return null
  }
  const desk = nativeClass(
    'SpiDev',
    (self, [bus, device]) => {
      if (bus !== undefined) open(self, asIndex(bus), asIndex(device ?? 0))
    },
    {
      open: (self, [bus, device]) => open(self, asIndex(bus), asIndex(device)),
      xfer: (self, [bytes]) => new PyList(selected(self, bytesOf(bytes))),
      xfer2: (self, [bytes]) => new PyList(selected(self, bytesOf(bytes))),
      xfer3: (self, [bytes]) => new PyList(selected(self, bytesOf(bytes))),
      writebytes: (self, [bytes]) => {
        selected(self, bytesOf(bytes))
        return null
      },
      readbytes: (self, [count]) => new PyList(selected(self, many(asIndex(count), 0))),
      close: () => null,
    },
  )
  property(
    desk,
    'mode',
    (self) => self.duty,
    (self, mode) => {
      self.duty = asIndex(mode)
      spi.settings(self.bus, { mode: self.duty & 3 }, machine.at)
    },
  )
  property(
    desk,
    'lsbfirst',
    () => false,
    (self, lowest) => spi.settings(self.bus, { lowestFirst: isTrue(lowest) }, machine.at),
  )
  property(
    desk,
    'no_cs',
    (self) => !self.on,
    (self, without) => {
      self.on = !isTrue(without)
    },
  )
  /** A converter as the library for beginners has it: asked for a channel, it gives a share of its supply. */
  const converter = nativeClass(
    'MCP3008',
    (self, [channel], named) => {
      open(self, 0, asIndex(named.get('device') ?? 0))
      self.hertz = asIndex(channel ?? named.get('channel') ?? 0)
    },
    { close: () => null },
  )
  const counts = (self: Native): number => {
    const [, high = 0, low = 0] = selected(self, [1, 0x80 | (self.hertz << 4), 0])
    return ((high & 3) << 8) | low
  }
  property(converter, 'value', (self) => new Float(counts(self) / (CONVERTER_COUNTS - 1)))
  property(converter, 'raw_value', counts)
  return { micro, circuit, desk, converter }
}
