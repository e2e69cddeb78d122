import type { BusKind } from '../../catalog/common.ts'
import type { Followed } from './follow.ts'
import type { At, SourceLanguage } from './ir.ts'
import type { Call, GivenValue, Made, Value } from './values.ts'

/** What a program does with a pin. */
export type Doing = 'output' | 'input' | 'analog-in' | 'analog-out' | 'pwm' | 'interrupt' | 'touch' | 'bus' | 'given'

/** A pin as a program means it, before it is known which pin of the board that is. */
export interface PinUse {
  readonly pin: Value
  readonly doing: Doing
  readonly pull: 'up' | 'down' | undefined
  /** Bus object that takes it and the line that it is: `Wire`, `sda`. */
  readonly bus: { readonly object: string; readonly kind: BusKind; readonly signal: string } | undefined
  /** Names that the number itself was given, the first at first. */
  readonly own: readonly string[]
  /** Those, and names of what it is given to. */
  readonly names: readonly string[]
  /** Which argument of a library it is, from 0. */
  readonly place: number | undefined
  /** The pin object that a call makes. */
  readonly made: Made | undefined
  /** The call as it is named: `pinMode`, `Servo.attach`. */
  readonly call: string
  /** False where a library is given a number that may be something else than a pin. */
  readonly sure: boolean
  /** The number is a channel of the converter, or a number of an interrupt, where the platform counts those apart. */
  readonly counts: 'pin' | 'analog' | 'interrupt'
  readonly at: At
}

/** A bus that is begun without pins: it takes those of the platform. */
export interface BusBegin {
  readonly object: string
  readonly kind: BusKind
  readonly at: At
}

export interface AddressUse {
  readonly address: number
  /** True where a call of the bus itself says so; a number given to a library may be something else. */
  readonly sure: boolean
  readonly names: readonly string[]
  readonly at: At
}

export interface BaudUse {
  /** Serial object, as the program calls it. */
  readonly object: string
  readonly baud: number
  readonly at: At
}

/** How a Python program counts: by GPIO numbers or by positions of the header. */
export type Counting = 'gpio' | 'position'

export interface Uses {
  readonly pins: readonly PinUse[]
  readonly begins: readonly BusBegin[]
  readonly addresses: readonly AddressUse[]
  readonly bauds: readonly BaudUse[]
  readonly counting: Counting
  /** Pin calls whose pin cannot be followed, and why. */
  readonly lost: readonly { readonly why: string; readonly call: string; readonly at: At }[]
}

interface Slot {
  readonly at?: number
  readonly names?: readonly string[]
  readonly doing: Doing
  readonly signal?: string
  readonly counts?: PinUse['counts']
}

const slot = (at: number, doing: Doing, more: Partial<Slot> = {}): Slot => ({ at, doing, ...more })

/** Functions and methods of the platforms that take pins: which argument is one, and what is done with it. */
const cppFunctions: Readonly<Record<string, readonly Slot[]>> = {
  pinMode: [slot(0, 'input')],
  digitalWrite: [slot(0, 'output')],
  digitalToggle: [slot(0, 'output')],
  digitalRead: [slot(0, 'input')],
  analogRead: [slot(0, 'analog-in', { counts: 'analog' })],
  analogReadMilliVolts: [slot(0, 'analog-in')],
  analogWrite: [slot(0, 'pwm')],
  ledcAttachPin: [slot(0, 'pwm')],
  ledcAttach: [slot(0, 'pwm')],
  ledcAttachChannel: [slot(0, 'pwm')],
  dacWrite: [slot(0, 'analog-out')],
  tone: [slot(0, 'output')],
  noTone: [slot(0, 'output')],
  pulseIn: [slot(0, 'input')],
  pulseInLong: [slot(0, 'input')],
  shiftOut: [slot(0, 'output'), slot(1, 'output')],
  shiftIn: [slot(0, 'input'), slot(1, 'output')],
  attachInterrupt: [slot(0, 'interrupt', { counts: 'interrupt' })],
  digitalPinToInterrupt: [slot(0, 'interrupt')],
  touchRead: [slot(0, 'touch')],
  gpio_set_direction: [slot(0, 'input')],
  gpio_set_level: [slot(0, 'output')],
  gpio_get_level: [slot(0, 'input')],
}

const pythonFunctions: Readonly<Record<string, readonly Slot[]>> = {
  'machine.Pin': [slot(0, 'input')],
  'machine.PWM': [slot(0, 'pwm')],
  'machine.ADC': [slot(0, 'analog-in')],
  'machine.DAC': [slot(0, 'analog-out')],
  'machine.TouchPad': [slot(0, 'touch')],
  'machine.time_pulse_us': [slot(0, 'input')],
  'digitalio.DigitalInOut': [slot(0, 'input')],
  'analogio.AnalogIn': [slot(0, 'analog-in')],
  'analogio.AnalogOut': [slot(0, 'analog-out')],
  'pwmio.PWMOut': [slot(0, 'pwm')],
  'touchio.TouchIn': [slot(0, 'touch')],
  'pulseio.PulseIn': [slot(0, 'input')],
  'pulseio.PulseOut': [slot(0, 'output')],
  'countio.Counter': [slot(0, 'input')],
  'rotaryio.IncrementalEncoder': [slot(0, 'input'), slot(1, 'input')],
  'GPIO.setup': [slot(0, 'input')],
  'GPIO.output': [slot(0, 'output')],
  'GPIO.input': [slot(0, 'input')],
  'GPIO.PWM': [slot(0, 'pwm')],
  'GPIO.add_event_detect': [slot(0, 'interrupt')],
  'GPIO.wait_for_edge': [slot(0, 'interrupt')],
  'lgpio.gpio_claim_output': [slot(1, 'output')],
  'lgpio.gpio_claim_input': [slot(1, 'input')],
  'lgpio.gpio_write': [slot(1, 'output')],
  'lgpio.gpio_read': [slot(1, 'input')],
}

const gpiozeroOut = 'LED PWMLED Buzzer TonalBuzzer OutputDevice DigitalOutputDevice PWMOutputDevice Servo AngularServo'
const gpiozeroIn = 'Button MotionSensor LineSensor LightSensor InputDevice DigitalInputDevice SmoothedInputDevice'

const gpiozero: Readonly<Record<string, readonly Slot[]>> = {
  ...Object.fromEntries(
    gpiozeroOut.split(' ').map((name) => [name, [{ at: 0, names: ['pin'], doing: 'output' as const }]]),
  ),
  ...Object.fromEntries(
    gpiozeroIn.split(' ').map((name) => [name, [{ at: 0, names: ['pin'], doing: 'input' as const }]]),
  ),
  RGBLED: ['red', 'green', 'blue'].map((name, at) => ({ at, names: [name], doing: 'output' as const })),
  Motor: ['forward', 'backward'].map((name, at) => ({ at, names: [name], doing: 'output' as const })),
  PhaseEnableMotor: ['phase', 'enable'].map((name, at) => ({ at, names: [name], doing: 'output' as const })),
  DistanceSensor: [
    { at: 0, names: ['echo'], doing: 'input' },
    { at: 1, names: ['trigger'], doing: 'output' },
  ],
  RotaryEncoder: ['a', 'b'].map((name, at) => ({ at, names: [name], doing: 'input' as const })),
}

/** Methods of the object that speaks to the pins of the processor over its own service. */
const pigpioMethods: Readonly<Record<string, readonly Slot[]>> = {
  set_mode: [slot(0, 'input')],
  write: [slot(0, 'output')],
  read: [slot(0, 'input')],
  set_pull_up_down: [slot(0, 'input')],
  set_servo_pulsewidth: [slot(0, 'pwm')],
  set_PWM_dutycycle: [slot(0, 'pwm')],
  callback: [slot(0, 'interrupt')],
}

const busLines = (
  kind: BusKind,
  ...lines: readonly (readonly [string, number | undefined, string])[]
): { kind: BusKind; slots: Slot[] } => ({
  kind,
  slots: lines.map(([signal, at, names]) => ({
    ...(at === undefined ? {} : { at }),
    names: names.split(' '),
    doing: 'bus',
    signal,
  })),
})

const pythonBuses: Readonly<Record<string, { kind: BusKind; slots: Slot[] }>> = {
  'machine.I2C': busLines('i2c', ['scl', undefined, 'scl'], ['sda', undefined, 'sda']),
  'machine.SoftI2C': busLines('i2c', ['scl', 0, 'scl'], ['sda', 1, 'sda']),
  'machine.SPI': busLines('spi', ['sck', undefined, 'sck'], ['mosi', undefined, 'mosi'], ['miso', undefined, 'miso']),
  'machine.SoftSPI': busLines(
    'spi',
    ['sck', undefined, 'sck'],
    ['mosi', undefined, 'mosi'],
    ['miso', undefined, 'miso'],
  ),
  'machine.UART': busLines('uart', ['tx', undefined, 'tx'], ['rx', undefined, 'rx']),
  'machine.I2S': busLines('i2s', ['bck', undefined, 'sck'], ['ws', undefined, 'ws'], ['dout', undefined, 'sd']),
  'busio.I2C': busLines('i2c', ['scl', 0, 'scl'], ['sda', 1, 'sda']),
  'bitbangio.I2C': busLines('i2c', ['scl', 0, 'scl'], ['sda', 1, 'sda']),
  'busio.SPI': busLines('spi', ['sck', 0, 'clock'], ['mosi', 1, 'MOSI'], ['miso', 2, 'MISO']),
  'busio.UART': busLines('uart', ['tx', 0, 'tx'], ['rx', 1, 'rx']),
}

const setters: Readonly<Record<string, readonly [BusKind, string]>> = {
  setSDA: ['i2c', 'sda'],
  setSCL: ['i2c', 'scl'],
  setSCK: ['spi', 'sck'],
  setMOSI: ['spi', 'mosi'],
  setMISO: ['spi', 'miso'],
  setCS: ['spi', 'cs'],
  setTX: ['uart', 'tx'],
  setRX: ['uart', 'rx'],
}

const addressMethods = new Set(
  'beginTransmission requestFrom writeto readfrom readfrom_into writeto_mem readfrom_mem readfrom_mem_into read_byte_data write_byte_data read_word_data write_word_data read_i2c_block_data write_i2c_block_data write_byte read_byte'.split(
    ' ',
  ),
)

/** Methods by which libraries take pins, addresses and buses. */
const takers = new Set('begin attach init setup setPins setup_pins addLeds setPin'.split(' '))

const lastOf = (path: string): string => path.split('.').at(-1) ?? path

/** What a program does with pins, buses, addresses and rates, from its calls. */
export function usesOf({ calls }: Pick<Followed, 'calls'>, language: SourceLanguage): Uses {
  const collector = new Collector(language)
  for (const call of calls) collector.take(call)
  return collector.uses()
}

class Collector {
  readonly #language: SourceLanguage
  readonly #pins: PinUse[] = []
  readonly #begins: BusBegin[] = []
  readonly #addresses: AddressUse[] = []
  readonly #bauds: BaudUse[] = []
  readonly #lost: { why: string; call: string; at: At }[] = []
  readonly #given = new Set<string>()
  /** Pin objects that are given to something. */
  readonly #passed = new Set<Made>()
  #counting: Counting = 'gpio'

  constructor(language: SourceLanguage) {
    this.#language = language
  }

  uses(): Uses {
    // A bus whose pins are set by their own calls is not begun without any.
    const begins = this.#begins.filter(({ object }) => !this.#given.has(object))
    // A pin object that is only made to be given away is what it is given to.
    const pins = this.#pins.filter(({ made, doing }) => !made || doing !== 'given' || !this.#passed.has(made))
    return {
      pins: once(pins, (use) => `${use.at.file} ${use.at.from} ${use.doing} ${valueKey(use.pin)} ${use.bus?.signal}`),
      begins: once(begins, (one) => one.object),
      addresses: once(this.#addresses, (one) => `${one.address} ${one.at.file} ${one.at.from}`),
      bauds: once(this.#bauds, (one) => `${one.object} ${one.baud}`),
      counting: this.#counting,
      lost: once(this.#lost, (one) => `${one.at.file} ${one.at.from}`),
    }
  }

  take(call: Call): void {
    for (const { value } of call.args) collectMade(value, this.#passed)
    if (this.#language === 'cpp') this.#cpp(call)
    else this.#python(call)
    this.#address(call)
  }

  #cpp(call: Call): void {
    const { path, of, args } = call
    const last = lastOf(path)
    const owner = of?.name ?? path.split('.').slice(0, -1).join('.')
    const known = path.includes('.') ? undefined : cppFunctions[path]
    if (known) {
      const mode = path === 'pinMode' || path === 'gpio_set_direction' ? modeOf(args[1]?.value) : undefined
      for (const one of known) this.#pin(call, one, mode)
      return
    }
    const setter = setters[last]
    if (setter && owner !== '') {
      this.#given.add(owner)
      this.#bus(call, owner, setter[0], slot(0, 'bus', { signal: setter[1] }))
      return
    }
    const kind = cppBus(of, owner)
    if (kind && (last === 'begin' || last === 'setPins')) {
      this.#beginBus(call, owner, kind)
      return
    }
    if (lastOf(path) === 'SoftwareSerial' && call.made) {
      this.#bus(call, call.made.name ?? path, 'uart', slot(0, 'bus', { signal: 'rx' }))
      this.#bus(call, call.made.name ?? path, 'uart', slot(1, 'bus', { signal: 'tx' }))
      return
    }
    if (call.made || takers.has(last)) this.#library(call, last === 'attach')
  }

  #beginBus(call: Call, object: string, kind: BusKind): void {
    const { args, path } = call
    const setPins = lastOf(path) === 'setPins'
    const orders: Readonly<Partial<Record<BusKind, readonly string[]>>> = {
      i2c: ['sda', 'scl'],
      spi: ['sck', 'miso', 'mosi', 'cs'],
      uart: setPins ? ['rx', 'tx'] : ['baud', 'settings', 'rx', 'tx'],
    }
    const order = orders[kind] ?? []
    const [first] = args
    if (kind === 'uart' && !setPins && first?.value.is === 'number')
      this.#bauds.push({ object, baud: first.value.number, at: call.at })
    // `Wire.begin(address)` makes the board a device on the bus.
    const hasPins = kind === 'uart' && !setPins ? args.length >= 4 : args.length >= 2
    if (!hasPins) {
      if (!setPins) this.#begins.push({ object, kind, at: call.at })
      return
    }
    this.#given.add(object)
    order.forEach((signal, at) => {
      if (signal === 'baud' || signal === 'settings') return
      const arg = args[at]
      // A pin of -1 is left as it was.
      if (arg && !(arg.value.is === 'number' && arg.value.number < 0))
        this.#bus(call, object, kind, slot(at, 'bus', { signal }))
    })
  }

  #python(call: Call): void {
    const { of, args } = call
    const path = pythonPath(call.path)
    const last = lastOf(path)
    if (path === 'GPIO.setmode') {
      const [mode] = args
      if (mode?.value.is === 'symbol' && lastOf(mode.value.path) === 'BOARD') this.#counting = 'position'
      return
    }
    const bus = pythonBuses[path]
    if (bus && call.made) {
      const object = call.made.name ?? path
      const found = bus.slots.filter((one) => argOf(args, one) !== undefined)
      for (const one of found) this.#bus(call, object, bus.kind, one)
      if (bus.kind === 'uart') {
        const rate = argOf(args, { names: ['baudrate'], ...(path === 'machine.UART' ? { at: 1 } : {}), doing: 'bus' })
        if (rate?.value.is === 'number') this.#bauds.push({ object, baud: rate.value.number, at: call.at })
      }
      return
    }
    const zero = path.startsWith('gpiozero.') ? gpiozero[last] : undefined
    if (zero && call.made) {
      for (const one of zero) {
        const up = argOf(args, { names: ['pull_up'], doing: 'input' })?.value
        const isIn = one.doing === 'input' && (last === 'Button' || up !== undefined)
        const pull = isIn
          ? up?.is === 'number' && up.number === 0
            ? 'down'
            : up?.is === 'symbol'
              ? undefined
              : 'up'
          : undefined
        this.#pin(call, one, { doing: one.doing, pull }, one.names?.[0] === 'pin' ? [] : (one.names ?? []))
      }
      return
    }
    if (of && pythonPath(of.of) === 'pigpio.pi') {
      const mode = last === 'set_mode' ? modeOf(args[1]?.value) : undefined
      for (const one of pigpioMethods[last] ?? []) this.#pin(call, one, mode)
      return
    }
    if (last === 'SMBus' || last === 'SpiDev') {
      this.#begins.push({ object: call.made?.name ?? last, kind: last === 'SMBus' ? 'i2c' : 'spi', at: call.at })
      return
    }
    if (path === 'serial.Serial') {
      const rate = argOf(args, { names: ['baudrate'], at: 1, doing: 'bus' })
      if (rate?.value.is === 'number')
        this.#bauds.push({ object: call.made?.name ?? path, baud: rate.value.number, at: call.at })
      this.#begins.push({ object: call.made?.name ?? path, kind: 'uart', at: call.at })
      return
    }
    const known = pythonFunctions[path]
    if (known) {
      const modeArg =
        path === 'machine.Pin' || path === 'GPIO.setup'
          ? argOf(args, { at: 1, names: ['mode'], doing: 'input' })
          : undefined
      const mode =
        path === 'machine.Pin' || path === 'GPIO.setup' ? withPull(modeOf(modeArg?.value), pullOf(args)) : undefined
      for (const one of known) this.#pin(call, one, mode)
      return
    }
    const bit = /^microbit\.(pin\d+)\.(\w+)$/.exec(path)
    if (bit) {
      const doing = bitMethods[bit[2] as string]
      if (doing)
        this.#use(
          call,
          { is: 'symbol', path: `microbit.${bit[1]}`, via: [] },
          { doing, pull: undefined },
          [],
          'pin',
          true,
        )
      return
    }
    if (of) {
      this.#method(call, of, last)
      return
    }
    if (call.made) this.#library(call, false)
  }

  /** A method of a pin object of Python changes what the pin is for. */
  #method(call: Call, of: Made, last: string): void {
    const path = pythonPath(of.of)
    const [pin] = of.args
    if (!pin) return
    const say = (doing: Doing, pull?: 'up' | 'down'): void =>
      this.#use(call, pin.value, { doing, pull }, namesOf(call, of), 'pin', true)
    if (path === 'digitalio.DigitalInOut') {
      if (last === 'direction=') {
        const [way] = call.args
        if (way?.value.is === 'symbol') say(lastOf(way.value.path) === 'OUTPUT' ? 'output' : 'input')
      } else if (last === 'switch_to_output' || (last === 'value=' && of.fields.size >= 0)) say('output')
      else if (last === 'switch_to_input') say('input', pullOf(call.args))
      else if (last === 'pull=') say('input', pullOf(call.args))
    } else if (path === 'machine.Pin') {
      if (last === 'irq') say('interrupt')
      else if (['on', 'off', 'high', 'low', 'toggle'].includes(last)) say('output')
      else if ((last === 'value' || last === '()') && call.args.length > 0) say('output')
      else if (last === 'init')
        say(
          modeOf(argOf(call.args, { at: 0, names: ['mode'], doing: 'input' })?.value)?.doing ?? 'input',
          pullOf(call.args),
        )
    } else if (takers.has(last)) this.#library(call, false)
  }

  #pin(call: Call, one: Slot, mode: Mode | undefined, names: readonly string[] = []): void {
    const arg = argOf(call.args, one)
    if (!arg) return
    const doing = mode ? mode.doing : one.doing
    this.#use(
      call,
      arg.value,
      { doing, pull: mode?.pull },
      [...names, ...namesOf(call, call.made)],
      one.counts ?? 'pin',
      true,
    )
  }

  #bus(call: Call, object: string, kind: BusKind, one: Slot): void {
    const arg = argOf(call.args, one)
    if (!arg) return
    const values = pinValues(arg.value)
    for (const pin of values)
      this.#pins.push({
        pin,
        doing: 'bus',
        pull: undefined,
        bus: { object, kind, signal: one.signal ?? '' },
        own: pin.via,
        names: pin.via,
        place: undefined,
        made: undefined,
        call: call.path,
        sure: true,
        counts: 'pin',
        at: arg.at,
      })
  }

  /** Objects and methods of libraries: which of their numbers are pins is theirs to know. */
  #library(call: Call, sure: boolean): void {
    call.args.forEach((arg, index) => {
      const values = pinValues(arg.value)
      const isObject = arg.value.is === 'object' && values.length > 0
      for (const pin of values) {
        if (pin.is === 'unknown' || pin.is === 'text') continue
        if (pin.is === 'number' && (pin.hex || pin.number < 0 || pin.number > 255 || !Number.isInteger(pin.number)))
          continue
        const told = isObject || (sure && index === 0)
        const keyword = arg.name === undefined ? [] : [arg.name]
        this.#use(
          call,
          pin,
          { doing: 'given', pull: undefined },
          [...keyword, ...namesOf(call, call.made ?? call.of)],
          'pin',
          told,
          index,
        )
      }
    })
  }

  #use(
    call: Call,
    value: Value,
    { doing, pull }: Mode,
    names: readonly string[],
    counts: PinUse['counts'],
    sure: boolean,
    place?: number,
  ): void {
    for (const pin of pinValues(value)) {
      if (pin.is === 'unknown') {
        if (sure) this.#lost.push({ why: pin.why, call: call.path, at: call.at })
        continue
      }
      const all = [...new Set([...pin.via, ...names, ...call.within.flatMap((one) => one.name ?? [])])]
      this.#pins.push({
        pin,
        doing,
        pull,
        bus: undefined,
        own: pin.via,
        names: all,
        place: doing === 'given' ? place : undefined,
        made: call.made,
        call: call.path,
        sure,
        counts,
        at: call.at,
      })
    }
  }

  #address(call: Call): void {
    const last = lastOf(call.path)
    const push = ({ value, at, name }: GivenValue, sure: boolean): void => {
      if (value.is !== 'number' || value.number < 0x08 || value.number > 0x77) return
      const names = [...value.via, ...(name === undefined ? [] : [name]), ...namesOf(call, call.made ?? call.of)]
      this.#addresses.push({ address: value.number, sure, names, at })
    }
    if (addressMethods.has(last)) {
      const [first] = call.args
      if (first) push(first, true)
      return
    }
    const isTaker = call.made !== undefined || takers.has(last)
    if (!isTaker) return
    for (const arg of call.args) {
      const told = arg.value.is === 'number' && (arg.value.hex || arg.value.via.some((name) => /addr/i.test(name)))
      if (told || (arg.name !== undefined && /addr/i.test(arg.name))) push(arg, false)
    }
  }
}

interface Mode {
  readonly doing: Doing
  readonly pull: 'up' | 'down' | undefined
}

const withPull = (mode: Mode | undefined, pull: Mode['pull']): Mode | undefined =>
  mode && { ...mode, pull: mode.pull ?? pull }

/** `OUTPUT`, `INPUT_PULLUP`, `Pin.OUT`, `GPIO.IN`, `pigpio.INPUT` …; undefined for what is none of these. */
function modeOf(value: Value | undefined): Mode | undefined {
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

function pullOf(args: readonly GivenValue[]): 'up' | 'down' | undefined {
  for (const { value } of args) {
    const name = value.is === 'symbol' ? lastOf(value.path) : ''
    if (/^(PULL_UP|PUD_UP|UP)$/.test(name)) return 'up'
    if (/^(PULL_DOWN|PUD_DOWN|DOWN)$/.test(name)) return 'down'
  }
  return undefined
}

const bitMethods: Readonly<Record<string, Doing>> = {
  write_digital: 'output',
  read_digital: 'input',
  write_analog: 'pwm',
  read_analog: 'analog-in',
  is_touched: 'touch',
}

/** Modules under their usual short names, wherever they come from. */
const pythonPath = (path: string): string => path.replace(/^(?:RPi|Jetson)\.GPIO/, 'GPIO')

function argOf(args: readonly GivenValue[], { at, names }: Slot): GivenValue | undefined {
  const byName = args.find((one) => one.name !== undefined && names?.includes(one.name))
  if (byName) return byName
  const byPlace = args.filter((one) => one.name === undefined)
  return at === undefined ? undefined : byPlace[at]
}

/** Values of an argument that can be pins: those of a list, of either branch, and the pin inside a pin object. */
function pinValues(value: Value, depth = 0): Value[] {
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

function collectMade(value: Value, into: Set<Made>): void {
  if (value.is === 'object') into.add(value.made)
  else if (value.is === 'list') for (const one of value.items) collectMade(one, into)
}

/** Names that tell what a call is about besides the pin's own: the object that is made or spoken to. */
const namesOf = (_call: Call, made: Made | undefined): string[] => (made?.name === undefined ? [] : [made.name])

/** Kind of bus that an object of C++ is; undefined for what is none. */
function cppBus(of: Made | undefined, owner: string): BusKind | undefined {
  const type = of?.of ?? owner
  if (/^(Wire\d?|TwoWire)$/.test(type)) return 'i2c'
  if (/^(SPI\d?|SPIClass\w*|SPIClass)$/.test(type)) return 'spi'
  if (/^(Serial\d?|SerialUSB|HardwareSerial|UART|SoftwareSerial)$/.test(type)) return 'uart'
  return undefined
}

const valueKey = (value: Value): string =>
  value.is === 'number'
    ? `n${value.number}`
    : value.is === 'symbol'
      ? value.path
      : value.is === 'text'
        ? `"${value.text}"`
        : value.is

function once<T>(list: readonly T[], key: (one: T) => string): T[] {
  const seen = new Set<string>()
  return list.filter((one) => {
    const text = key(one)
    if (seen.has(text)) return false
    seen.add(text)
    return true
  })
}
