import { registerAt } from '../cpp/code.ts'
import type { Machine } from '../cpp/machine.ts'
import type { NativeFunction } from '../cpp/program.ts'
import { type Type, VOID } from '../cpp/types.ts'
import { Callable, type Value } from '../cpp/values.ts'
import type { Chip } from './avr/chip.ts'
import type { Edge, Hardware, PinSetting } from './hardware.ts'
import type { Platform } from './platform.ts'

/** Numbers behind the words of the platforms' headers. */
export const LOW = 0
export const HIGH = 1
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

/** Calls that do no more than read, but where the hardware says so. */
const READS: ReadonlySet<string> = new Set([
  'digitalRead',
  'digitalWrite',
  'analogRead',
  'millis',
  'micros',
  'yield',
  'digitalPinToInterrupt',
  'digitalPinToPort',
  'digitalPinToBitMask',
])

/** What calls of a sketch are made of. */
interface Calls {
  readonly platform: Platform
  readonly hardware: Hardware
  readonly machine: Machine
  readonly chip: Chip | undefined
  /** A type by its name. */
  readonly t: (name: string) => Type
  readonly add: (
    name: string,
    params: readonly (Type | 'any')[],
    returns: Type,
    run: (args: readonly Value[], at: number, types: readonly Type[]) => Value,
    least?: number,
  ) => void
  readonly spend: (microseconds: number, at: number) => void
}

/** Functions for pins, time and interrupts, by their names. */
export function sketchCalls(
  platform: Platform,
  hardware: Hardware,
  machine: Machine,
  t: Calls['t'],
  chip: Chip | undefined,
): Map<string, NativeFunction> {
  const functions = new Map<string, NativeFunction>()
  const calls: Calls = {
    platform,
    hardware,
    machine,
    chip,
    t,
    spend: (microseconds, at) => {
      if (microseconds > 0) hardware.wait(microseconds, at)
    },
    add: (name, params, returns, run, least) => {
      functions.set(name, {
        params,
        returns,
        run: (_, args, given, at) => run(args, at, given),
        reads: READS.has(name),
        ...(least === undefined ? {} : { least }),
      })
    },
  }
  levels(calls)
  volts(calls)
  clocks(calls)
  pulses(calls)
  edges(calls)
  shifts(calls)
  if (chip) registers(calls, chip)
  functions.set('pulseInLong', functions.get('pulseIn')!)
  // A table of keys goes on as it is.
  functions.set('makeKeymap', { params: ['any'], returns: ([type]) => type ?? VOID, run: (_, [keys]) => keys })
  return functions
}

function levels({ platform: { costs }, hardware, t, add, spend }: Calls): void {
  const int = t('int')
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
}

/** Converters, and pulses by their duty. */
function volts({ platform, hardware, chip, t, add, spend }: Calls): void {
  const { costs, ledc } = platform
  const int = t('int')
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
  add('analogReference', ['any'], VOID, ([which]) => {
    const number = Number(which)
    hardware.reference(number === sketchConstants.EXTERNAL ? 'outside' : platform.references.get(number))
  })
  add('analogWrite', [int, int], VOID, ([pin, value], at) => {
    const duty = Math.min(1, Math.max(0, value / (2 ** writeBits - 1)))
    chip?.pulsed(pin, duty)
    hardware.pulse(pin, duty, chip?.hertzAt(pin), at)
    spend(costs.digital, at)
  })
  add('dacWrite', [int, int], VOID, ([pin, value], at) => hardware.writeAnalog(pin, (value & 255) / 255, at))
  for (const [name, count] of [
    ['ledcSetup', 3],
    ['ledcAttachPin', 2],
    ['ledcWrite', 2],
    ['ledcAttach', 3],
  ] as const)
    if (ledc)
      add(name, Array(count).fill('any'), t('unsigned long'), (args, at) => ledc[name](args.map(Number), hardware, at))
}

function clocks({ platform, hardware, machine, chip, t, add, spend }: Calls): void {
  const { costs } = platform
  const ulong = t('unsigned long')
  const speed = (): number => chip?.speed() ?? 1
  /** Whole steps of so many microseconds on the board's own clock. */
  const steps = (each: number): number => machine.wholeSteps(machine.now - machine.born, each / speed())
  add('millis', [], ulong, (_, at) => {
    spend(costs.clock, at)
    return steps(1000) >>> 0
  })
  add('micros', [], ulong, (_, at) => {
    spend(costs.clock, at)
    return (steps(platform.microStep) * platform.microStep) >>> 0
  })
  add('delay', [ulong], VOID, ([ms], at) => hardware.wait((ms * 1000) / speed(), at))
  add('delayMicroseconds', [t('unsigned int')], VOID, ([us], at) => hardware.wait(us, at))
  add('yield', [], VOID, (_, at) => spend(1, at))
}

function pulses({ hardware, t, add }: Calls): void {
  const [int, ulong] = [t('int'), t('unsigned long')]
  add('tone', [int, t('unsigned int'), ulong], VOID, ([pin, hertz, ms], at) => hardware.tone(pin, hertz, ms, at), 2)
  add('noTone', [int], VOID, ([pin], at) => hardware.noTone(pin, at))
  add(
    'pulseIn',
    [int, int, ulong],
    ulong,
    ([pin, level, timeout], at) => hardware.pulseIn(pin, level !== 0, timeout ?? PULSE_TIMEOUT, at),
    2,
  )
}

function edges({ platform, hardware, t, add, spend }: Calls): void {
  const int = t('int')
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
  add('holdHandlers', [], t('bool'), () => {
    hardware.masked = true
    return 1
  })
  add('freeHandlers', [], t('bool'), () => {
    hardware.masked = false
    return 0
  })
  for (const name of ['interrupts', 'sei', 'portENABLE_INTERRUPTS'])
    add(name, [], VOID, (_, at) => {
      hardware.masked = false
      spend(0.0625, at)
    })
}

function shifts({ platform: { costs }, hardware, t, add, spend }: Calls): void {
  const [int, byte] = [t('int'), t('byte')]
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
}

/** What programs ask of ports, and the waits of the chip's own library. */
function registers({ hardware, machine, t, add }: Calls, chip: Chip): void {
  const [byte, double] = [t('uint8_t'), t('double')]
  for (const [name, unit] of [
    ['_delay_ms', 1000],
    ['_delay_us', 1],
  ] as const)
    add(name, [double], VOID, ([time], at) => hardware.wait(Number(time) * unit, at))
  const place = (pin: number): { readonly letter: string; readonly bit: number } | undefined => {
    const [, letter, bit] = /^P([A-L])([0-7])$/.exec(chip.portOf(pin) ?? '') ?? []
    return letter === undefined ? undefined : { letter, bit: Number(bit) }
  }
  // Ports are counted from A, which is 1.
  add('digitalPinToPort', [byte], byte, ([pin]) => (place(pin)?.letter.charCodeAt(0) ?? 64) - 64)
  add('digitalPinToBitMask', [byte], byte, ([pin]) => 1 << (place(pin)?.bit ?? 0))
  for (const [name, kind] of [
    ['portOutputRegister', 'PORT'],
    ['portInputRegister', 'PIN'],
    ['portModeRegister', 'DDR'],
  ] as const)
    add(name, [byte], { is: 'pointer', to: byte }, ([port]) => {
      const register = chip.registers.get(`${kind}${String.fromCharCode(64 + port)}`)
      return register ? registerAt(register, machine) : null
    })
}

/** Words of the headers that stand for numbers. */
export const sketchConstants: Readonly<Record<string, number>> = {
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
}
