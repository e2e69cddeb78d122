import type { NativeClass, NativeFunction } from '../cpp/program.ts'
import { type Type, VOID } from '../cpp/types.ts'
import { Ptr, type Value } from '../cpp/values.ts'
import type { Hardware, SpiSettings } from './hardware.ts'

/** Number that sketches know as LSBFIRST. */
const LOWEST_FIRST = 0

interface Bus {
  readonly name: string
}

/** Settings as they are made: a clock in hertz, the order of bits, the mode. */
const settingsOf = ([hertz, order, mode]: readonly Value[]): SpiSettings => ({
  lowestFirst: order !== undefined && Number(order) === LOWEST_FIRST,
  mode: Number(mode ?? 0) & 3,
  ...(hertz === undefined ? {} : { hertz: Number(hertz) }),
})

/** The four-wire bus as sketches speak to it. */
export function spiClasses(
  hardware: Hardware,
  { int, byte, word }: Readonly<Record<'int' | 'byte' | 'word', Type>>,
): readonly [string, NativeClass][] {
  const { spi } = hardware
  const send = ({ name }: Bus, value: number, at: number): number => spi.transfer(name, value & 255, at)
  const sendMany = (self: Bus, from: Ptr, count: number, at: number): void => {
    for (let index = 0; index < count; index += 1)
      from.base[from.at + index] = send(self, Number(from.base[from.at + index] ?? 0), at)
  }
  /** A pin of the bus that is chosen before it is begun, in the order clock, data in, data out. */
  const chosen = new Map<string, (number | undefined)[]>()
  const choose = (place: number): NativeFunction<never> => ({
    params: [int],
    returns: { is: 'bool' },
    run: ({ name }: Bus, [pin]) => {
      const pins = chosen.get(name) ?? [undefined, undefined, undefined]
      pins[place] = Number(pin)
      chosen.set(name, pins)
      return 1
    },
  })
  const quiet: NativeFunction<never> = { params: ['any'], least: 0, returns: VOID, run: () => undefined }
  const of: NativeClass = {
    make: () => ({ name: 'SPI1' }),
    methods: {
      begin: {
        returns: VOID,
        run: (self: Bus, args, _t, at) =>
          spi.begin(self.name, args.length > 0 ? args.slice(0, 3).map(Number) : (chosen.get(self.name) ?? []), at),
      },
      setSCK: choose(0),
      setMISO: choose(1),
      setRX: choose(1),
      setMOSI: choose(2),
      setTX: choose(2),
      setCS: quiet,
      end: quiet,
      usingInterrupt: quiet,
      setFrequency: {
        params: [int],
        returns: VOID,
        run: (self: Bus, [hertz], _t, at) => spi.settings(self.name, { hertz: Number(hertz) }, at),
      },
      setClockDivider: quiet,
      beginTransaction: {
        params: ['any'],
        returns: VOID,
        run: (self: Bus, [settings], _t, at) => spi.settings(self.name, settings as SpiSettings, at),
      },
      endTransaction: quiet,
      setDataMode: {
        params: [int],
        returns: VOID,
        run: (self: Bus, [mode], _t, at) => spi.settings(self.name, { mode: Number(mode) & 3 }, at),
      },
      setBitOrder: {
        params: [int],
        returns: VOID,
        run: (self: Bus, [order], _t, at) => spi.settings(self.name, { lowestFirst: order === LOWEST_FIRST }, at),
      },
      transfer: {
        params: ['any', int],
        least: 1,
        returns: byte,
        run: (self: Bus, [value, count], _t, at) => {
          if (!(value instanceof Ptr)) return send(self, Number(value), at)
          sendMany(self, value, Number(count ?? 0), at)
          return 0
        },
      },
      transfer16: {
        params: [word],
        returns: word,
        run: (self: Bus, [value], _t, at) => send(self, value >> 8, at) * 256 + send(self, value, at),
      },
      write: {
        params: [int],
        returns: VOID,
        run: (self: Bus, [value], _t, at) => {
          send(self, value, at)
        },
      },
      writeBytes: {
        params: ['any', int],
        returns: VOID,
        run: (self: Bus, [from, count], _t, at) => {
          if (from instanceof Ptr)
            for (let index = 0; index < count; index += 1) send(self, Number(from.base[from.at + index] ?? 0), at)
        },
      },
    },
  }
  return [
    ['SPIClass', of],
    ['SPISettings', { make: settingsOf, methods: {} }],
  ]
}
