import { checkOf, type OneWireLine } from '../stage/oneWire.ts'
import { type GivenModule, module, Native, nativeClass, type PythonBoard } from './native.ts'
import type { PinCalls } from './pinCalls.ts'
import { asIndex, isTrue } from './protocols.ts'
import { errorClasses, errorOf, Float, type Py, PyBytes, PyClass, PyError, PyList, raise } from './values.ts'

/** Microseconds of a reset with its answer, and of a byte on the line (data sheet of the DS18B20, time slots). */
const RESET = 960
const BYTE = 560
/** Families of thermometers, by the first byte of their numbers, as the module takes them. */
const THERMOMETERS = [0x10, 0x22, 0x28]

/** `onewire` and `ds18x20`, which MicroPython has in its firmware. */
export function wireModules(board: PythonBoard, { wait, bytesOf, pinFrom }: PinCalls): GivenModule[] {
  const LineError = new PyClass('OneWireError', [errorClasses.get('Exception')!])
  const lines = new WeakMap<Native, OneWireLine>()
  const lineOf = (value: Py | undefined): OneWireLine => {
    const line = value instanceof Native ? lines.get(value) : undefined
    return line ?? raise('TypeError', 'expected a OneWire')
  }
  const reset = (line: OneWireLine, required: boolean): boolean => {
    wait(RESET)
    if (line.reset()) return true
    if (required) throw new PyError(errorOf(LineError, []))
    return false
  }
  const write = (line: OneWireLine, bytes: readonly number[]): null => {
    for (const byte of bytes) {
      wait(BYTE)
      line.write(byte)
    }
    return null
  }
  const read = (line: OneWireLine, count: number): number[] =>
    Array.from({ length: count }, () => {
      wait(BYTE)
      return line.read()
    })
  const roms = (line: OneWireLine): PyBytes[] => {
    wait(RESET + 10 * BYTE)
    return line.roms.map((rom) => new PyBytes([...rom], true))
  }
  const select = (line: OneWireLine, rom: Py | undefined): null => {
    reset(line, false)
    return write(line, [0x55, ...bytesOf(rom ?? null)])
  }
  const OneWire = nativeClass(
    'OneWire',
    (self, args) => {
      self.pin = pinFrom(args[0])
      lines.set(self, board.oneWire(self.pin))
    },
    {
      reset: (self, args) => reset(lineOf(self), args[0] !== undefined && isTrue(args[0])),
      writebyte: (self, args) => write(lineOf(self), [asIndex(args[0] ?? null)]),
      write: (self, args) => write(lineOf(self), bytesOf(args[0] ?? null)),
      readbyte: (self) => read(lineOf(self), 1)[0]!,
      readinto: (self, args) => {
        const [buffer] = args
        if (!(buffer instanceof PyBytes) || !buffer.mutable) return raise('TypeError', 'expected a bytearray')
        const found = read(lineOf(self), buffer.bytes.length)
        buffer.bytes.splice(0, found.length, ...found)
        return null
      },
      select_rom: (self, args) => select(lineOf(self), args[0]),
      scan: (self) => new PyList(roms(lineOf(self))),
      crc8: (_, args) => checkOf(bytesOf(args[0] ?? null)),
    },
    { SEARCH_ROM: 0xf0, MATCH_ROM: 0x55, SKIP_ROM: 0xcc },
  )
  const pad = (self: Native, rom: Py | undefined): number[] => {
    const line = lineOf(self)
    select(line, rom)
    write(line, [0xbe])
    const bytes = read(line, 9)
    return checkOf(bytes) === 0 ? bytes : raise('Exception', 'CRC error')
  }
  const Thermometers = nativeClass(
    'DS18X20',
    (self, args) => {
      lines.set(self, lineOf(args[0]))
    },
    {
      scan: (self) => new PyList(roms(lineOf(self)).filter(({ bytes }) => THERMOMETERS.includes(bytes[0] ?? 0))),
      convert_temp: (self) => {
        const line = lineOf(self)
        reset(line, true)
        return write(line, [0xcc, 0x44])
      },
      read_scratch: (self, args) => new PyBytes(pad(self, args[0]), true),
      write_scratch: (self, args) => {
        select(lineOf(self), args[0])
        return write(lineOf(self), [0x4e, ...bytesOf(args[1] ?? null)])
      },
      read_temp: (self, args) => {
        const [low = 0, high = 0] = pad(self, args[0])
        const raw = low | (high << 8)
        return new Float((raw & 0x8000 ? raw - 0x10000 : raw) / 16)
      },
    },
  )
  return [
    module('onewire', [
      ['OneWire', OneWire],
      ['OneWireError', LineError],
    ]),
    module('ds18x20', [['DS18X20', Thermometers]]),
  ]
}
