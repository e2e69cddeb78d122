import type { BusKind } from '../../catalog/common.ts'
import type { Slot } from './platformCalls.ts'
import type { Doing } from './uses.ts'
import type { Call, GivenValue, Made, Value } from './values.ts'

/** The last name of a path. */
export const lastOf = (path: string): string => path.split('.').at(-1) ?? path

/** What a mode says. */
export interface Mode {
  readonly doing: Doing
  readonly pull: 'up' | 'down' | undefined
}

export const withPull = (mode: Mode | undefined, pull: Mode['pull']): Mode | undefined =>
  mode && { ...mode, pull: mode.pull ?? pull }

/** `OUTPUT`, `INPUT_PULLUP`, `Pin.OUT`, `GPIO.IN`, `pigpio.INPUT` …; undefined for what is none of these. */
export function modeOf(value: Value | undefined): Mode | undefined {
  const path = value?.is === 'symbol' ? lastOf(value.path) : undefined
  switch (path) {
    case 'OUTPUT':
    case 'OUT':
    case 'GPIO_MODE_OUTPUT':
    case 'OUTPUT_OPEN_DRAIN':
    case 'OPEN_DRAIN':
      return { doing: 'output', pull: undefined }
    case 'INPUT_PULLUP':
      return { doing: 'input', pull: 'up' }
    case 'INPUT_PULLDOWN':
      return { doing: 'input', pull: 'down' }
    case 'INPUT':
    case 'IN':
    case 'GPIO_MODE_INPUT':
      return { doing: 'input', pull: undefined }
    default:
      // A pin object that is made without a mode may be for either.
      return value === undefined ? { doing: 'given', pull: undefined } : undefined
  }
}

export function pullOf(args: readonly GivenValue[]): 'up' | 'down' | undefined {
  for (const { value } of args) {
    const name = value.is === 'symbol' ? lastOf(value.path) : ''
    if (/^(PULL_UP|PUD_UP|UP)$/.test(name)) return 'up'
    if (/^(PULL_DOWN|PUD_DOWN|DOWN)$/.test(name)) return 'down'
  }
  return undefined
}

export const bitMethods: Readonly<Record<string, Doing>> = {
  write_digital: 'output',
  read_digital: 'input',
  write_analog: 'pwm',
  read_analog: 'analog-in',
  is_touched: 'touch',
}

/** Modules under their usual short names, wherever they come from. */
export const pythonPath = (path: string): string => path.replace(/^(?:RPi|Jetson)\.GPIO/, 'GPIO')

export function argOf(args: readonly GivenValue[], { at, names }: Slot): GivenValue | undefined {
  const byName = args.find((one) => one.name !== undefined && names?.includes(one.name))
  if (byName) return byName
  const byPlace = args.filter((one) => one.name === undefined)
  return at === undefined ? undefined : byPlace[at]
}

/** Values of an argument that can be pins: those of a list, of either branch, and the pin inside a pin object. */
export function pinValues(value: Value, depth = 0): Value[] {
  if (depth > 4) return []
  switch (value.is) {
    case 'list':
      return value.items.flatMap((one) => pinValues(one, depth + 1))
    case 'either':
      return value.options.flatMap((one) => pinValues(one, depth + 1))
    case 'object': {
      const path = pythonPath(value.made.of)
      if (!/^(machine\.(Pin|Signal|PWM|ADC)|digitalio\.DigitalInOut)$/.test(path)) return []
      const [first] = value.made.args
      const { name } = value.made
      return first
        ? pinValues(first.value, depth + 1).map(
            (one): Value => (name === undefined ? one : ({ ...one, via: [...one.via, name] } as Value)),
          )
        : []
    }
    case 'map':
    case 'function':
    case 'class':
      return []
    default:
      return [value]
  }
}

export function collectMade(value: Value, into: Set<Made>): void {
  if (value.is === 'object') into.add(value.made)
  else if (value.is === 'list') for (const one of value.items) collectMade(one, into)
}

/** Names that tell what a call is about besides the pin's own: the object that is made or spoken to. */
export const namesOf = (_call: Call, made: Made | undefined): string[] => (made?.name === undefined ? [] : [made.name])

/** Kind of bus that an object of C++ is; undefined for what is none. */
export function cppBus(of: Made | undefined, owner: string): BusKind | undefined {
  const type = of?.of ?? owner
  if (/^(Wire\d?|TwoWire)$/.test(type)) return 'i2c'
  if (/^(SPI\d?|SPIClass\w*|SPIClass)$/.test(type)) return 'spi'
  if (/^(Serial\d?|SerialUSB|HardwareSerial|UART|SoftwareSerial)$/.test(type)) return 'uart'
  return undefined
}

export const valueKey = (value: Value): string =>
  value.is === 'number'
    ? `n${value.number}`
    : value.is === 'symbol'
      ? value.path
      : value.is === 'text'
        ? `"${value.text}"`
        : value.is

export function once<T>(list: readonly T[], key: (one: T) => string): T[] {
  const seen = new Set<string>()
  return list.filter((one) => {
    const text = key(one)
    if (seen.has(text)) return false
    seen.add(text)
    return true
  })
}
