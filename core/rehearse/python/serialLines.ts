import type { SerialLine } from '../platform/hardware.ts'
import { type Named, type Native, nativeClass, type PythonBoard, property } from './native.ts'
import type { PinCalls } from './pinCalls.ts'
import { asIndex, asNumber } from './protocols.ts'
import { type Py, PyBytes, type PyClass } from './values.ts'

const NEWLINE = 10
/** Microseconds between two looks at a line on which nothing has come. */
const LOOK = 200

export type SerialLines = ReturnType<typeof serialLines>

/** Serial lines in all dialects of Python. */
export function serialLines(board: PythonBoard, { wait, pinFrom }: PinCalls) {
  const { hardware, machine, costs } = board
  /** How many seconds each waits for what has not come. */
  const patience = new WeakMap<Native, number>()
  const lineOf = ({ bus }: Native): SerialLine => hardware.serial(bus)
  const begin = (self: Native, baud: Py, tx: Py, rx: Py): void => {
    const pin = (given: Py): number | undefined => (given === undefined || given === null ? undefined : pinFrom(given))
    lineOf(self).begin(baud === undefined ? 9600 : asIndex(baud), machine.at, { rx: pin(rx), tx: pin(tx) })
  }
  const lettersOf = (value: Py): string =>
    typeof value === 'string'
      ? String.fromCharCode(...new TextEncoder().encode(value))
      : value instanceof PyBytes
        ? String.fromCharCode(...value.bytes)
        : ''
  const write = (self: Native, [value]: readonly Py[]): number => {
    const letters = lettersOf(value)
    wait(costs.call)
    lineOf(self).write(letters, machine.at)
    return letters.length
  }
  /** Waits as long as the line has patience until enough has come. */
  const waitFor = (self: Native, isEnough: (waiting: readonly number[]) => boolean): void => {
    const until = machine.now + (patience.get(self) ?? 0) * 1e6
    wait(costs.call)
    while (!isEnough(lineOf(self).waiting) && machine.now < until) wait(LOOK)
  }
  const take = (self: Native, count: number): PyBytes => new PyBytes(lineOf(self).waiting.splice(0, count), false)
  const readLine = (self: Native): PyBytes => {
    waitFor(self, (waiting) => waiting.includes(NEWLINE))
    const { waiting } = lineOf(self)
    const end = waiting.indexOf(NEWLINE)
    return take(self, end < 0 ? waiting.length : end + 1)
  }
  const readSome = (self: Native, count: Py): PyBytes => {
    if (count === undefined || count === null) {
      waitFor(self, (waiting) => waiting.length > 0)
      return take(self, lineOf(self).waiting.length)
    }
    waitFor(self, ({ length }) => length >= asIndex(count))
    return take(self, asIndex(count))
  }
  /** MicroPython and CircuitPython say None where nothing has come. */
  const orNone = (bytes: PyBytes): Py => (bytes.bytes.length === 0 ? null : bytes)
  const fill = (self: Native, into: Py): Py => {
    if (!(into instanceof PyBytes)) return null
    const { bytes } = readSome(self, into.bytes.length)
    into.bytes.splice(0, bytes.length, ...bytes)
    return bytes.length === 0 ? null : bytes.length
  }
  const shared: Record<string, (self: Native, args: readonly Py[], named: Named) => Py> = {
    write,
    read: (self, [count]) => orNone(readSome(self, count)),
    readline: (self) => orNone(readLine(self)),
    readinto: (self, [into]) => fill(self, into),
    deinit: () => null,
  }
  const micro: PyClass = nativeClass(
    'UART',
    (self, [number, baud], named) => {
      self.bus = `UART ${number === undefined ? asIndex(named.get('id') ?? 0) : asIndex(number)}`
      patience.set(self, asNumber(named.get('timeout') ?? 0) / 1000)
      begin(self, baud ?? named.get('baudrate'), named.get('tx'), named.get('rx'))
    },
    {
      ...shared,
      any: (self) => {
        wait(costs.call)
        return lineOf(self).waiting.length
      },
      init: (self, [baud], named) => {
        begin(self, baud ?? named.get('baudrate'), named.get('tx'), named.get('rx'))
        return null
      },
      flush: () => null,
    },
  )
  const circuit = nativeClass(
    'UART',
    (self, [tx, rx], named) => {
      self.bus = 'UART 0'
      patience.set(self, asNumber(named.get('timeout') ?? 1))
      begin(self, named.get('baudrate'), tx ?? named.get('tx'), rx ?? named.get('rx'))
    },
    {
      ...shared,
      reset_input_buffer: (self) => {
        lineOf(self).waiting.length = 0
        return null
      },
    },
  )
  /** A serial device of a system: its path says which, and without a timeout reading waits for ever. */
  const desk = nativeClass(
    'Serial',
    (self, [path, baud, ...rest], named) => {
      const device = String(path ?? named.get('port') ?? '')
      // What hangs on a USB socket lies on no pin.
      const isUsb = /USB|ACM/.test(device)
      self.bus = isUsb ? device : `UART ${/\d+$/.exec(device)?.[0] ?? 0}`
      const timeout = named.has('timeout') ? named.get('timeout') : rest[3]
      patience.set(self, timeout === undefined || timeout === null ? Number.POSITIVE_INFINITY : asNumber(timeout))
      if (!isUsb) begin(self, baud ?? named.get('baudrate'), undefined, undefined)
    },
    {
      write,
      read: (self, [count]) => readSome(self, count ?? 1),
      readline: (self) => readLine(self),
      flush: () => null,
      reset_input_buffer: (self) => {
        lineOf(self).waiting.length = 0
        return null
      },
      reset_output_buffer: () => null,
      close: () => null,
      open: () => null,
    },
  )
  const waiting = (self: Native): number => {
    wait(costs.call)
    return lineOf(self).waiting.length
  }
  property(circuit, 'in_waiting', waiting)
  property(desk, 'in_waiting', waiting)
  property(desk, 'is_open', () => true)
  return { micro, circuit, desk }
}
