import type { BusKind } from '../../catalog/common.ts'
import {
  argOf,
  bitMethods,
  collectMade,
  cppBus,
  lastOf,
  type Mode,
  modeOf,
  namesOf,
  pullOf,
  pythonPath,
  withPull,
} from './callArguments.ts'
import type { Followed } from './follow.ts'
import { Gathering } from './gathering.ts'
import type { SourceLanguage } from './ir.ts'
import {
  cppFunctions,
  gpiozero,
  pigpioMethods,
  pythonBuses,
  pythonFunctions,
  setters,
  slot,
  takers,
} from './platformCalls.ts'
import type { Doing, Uses } from './uses.ts'
import type { Call, Made } from './values.ts'

/** What a program does with pins, buses, addresses and rates, from its calls. */
export function usesOf({ calls }: Pick<Followed, 'calls'>, language: SourceLanguage): Uses {
  const collector = new Collector(language)
  for (const call of calls) collector.take(call)
  return collector.uses()
}

class Collector extends Gathering {
  take(call: Call): void {
    for (const { value } of call.args) collectMade(value, this.passed)
    if (this.language === 'cpp') this.#cpp(call)
    else this.#python(call)
    this.address(call)
  }

  #cpp(call: Call): void {
    const { path, of, args } = call
    const last = lastOf(path)
    const owner = of?.name ?? path.split('.').slice(0, -1).join('.')
    const known = path.includes('.') ? undefined : cppFunctions[path]
    if (known) {
      const mode = path === 'pinMode' || path === 'gpio_set_direction' ? modeOf(args[1]?.value) : undefined
      for (const one of known) this.pin(call, one, mode)
      return
    }
    const setter = setters[last]
    if (setter && owner !== '') {
      this.given.add(owner)
      this.bus(call, owner, setter[0], slot(0, 'bus', { signal: setter[1] }))
      return
    }
    const kind = cppBus(of, owner)
    if (kind && (last === 'begin' || last === 'setPins')) {
      this.#beginBus(call, owner, kind)
      return
    }
    if (lastOf(path) === 'SoftwareSerial' && call.made) {
      this.bus(call, call.made.name ?? path, 'uart', slot(0, 'bus', { signal: 'rx' }))
      this.bus(call, call.made.name ?? path, 'uart', slot(1, 'bus', { signal: 'tx' }))
      return
    }
    if (call.made || takers.has(last)) this.library(call, last === 'attach')
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
      this.bauds.push({ object, baud: first.value.number, at: call.at })
    // `Wire.begin(address)` makes the board a device on the bus.
    const hasPins = kind === 'uart' && !setPins ? args.length >= 4 : args.length >= 2
    if (!hasPins) {
      if (!setPins) this.begins.push({ object, kind, at: call.at })
      return
    }
    this.given.add(object)
    order.forEach((signal, at) => {
      if (signal === 'baud' || signal === 'settings') return
      const arg = args[at]
      // A pin of -1 is left as it was.
      if (arg && !(arg.value.is === 'number' && arg.value.number < 0))
        this.bus(call, object, kind, slot(at, 'bus', { signal }))
    })
  }

  #python(call: Call): void {
    const { of, args } = call
    const path = pythonPath(call.path)
    const last = lastOf(path)
    if (path === 'GPIO.setmode') {
      const [mode] = args
      if (mode?.value.is === 'symbol' && lastOf(mode.value.path) === 'BOARD') this.counting = 'position'
      return
    }
    const bus = pythonBuses[path]
    if (bus && call.made) {
      const object = call.made.name ?? path
      const found = bus.slots.filter((one) => argOf(args, one) !== undefined)
      for (const one of found) this.bus(call, object, bus.kind, one)
      if (bus.kind === 'uart') {
        const rate = argOf(args, { names: ['baudrate'], ...(path === 'machine.UART' ? { at: 1 } : {}), doing: 'bus' })
        if (rate?.value.is === 'number') this.bauds.push({ object, baud: rate.value.number, at: call.at })
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
        this.pin(call, one, { doing: one.doing, pull }, one.names?.[0] === 'pin' ? [] : (one.names ?? []))
      }
      return
    }
    if (of && pythonPath(of.of) === 'pigpio.pi') {
      const pulls: Mode = { doing: 'input', pull: pullOf(args) }
      const mode = last === 'set_mode' ? modeOf(args[1]?.value) : last === 'set_pull_up_down' ? pulls : undefined
      for (const one of pigpioMethods[last] ?? []) this.pin(call, one, mode)
      return
    }
    if (last === 'SMBus' || last === 'SpiDev') {
      this.begins.push({ object: call.made?.name ?? last, kind: last === 'SMBus' ? 'i2c' : 'spi', at: call.at })
      return
    }
    if (path === 'serial.Serial') {
      const rate = argOf(args, { names: ['baudrate'], at: 1, doing: 'bus' })
      if (rate?.value.is === 'number')
        this.bauds.push({ object: call.made?.name ?? path, baud: rate.value.number, at: call.at })
      this.begins.push({ object: call.made?.name ?? path, kind: 'uart', at: call.at })
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
      for (const one of known) this.pin(call, one, mode)
      return
    }
    const bit = /^microbit\.(pin\d+)\.(\w+)$/.exec(path)
    if (bit) {
      const doing = bitMethods[bit[2] as string]
      if (doing)
        this.use(
          call,
          { is: 'symbol', path: `microbit.${bit[1]}`, via: call.via },
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
    if (call.made) this.library(call, false)
  }

  /** A method of a pin object of Python changes what the pin is for. */
  #method(call: Call, of: Made, last: string): void {
    const path = pythonPath(of.of)
    const [pin] = of.args
    if (!pin) return
    const say = (doing: Doing, pull?: 'up' | 'down'): void =>
      this.use(call, pin.value, { doing, pull }, namesOf(call, of), 'pin', true)
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
    } else if (takers.has(last)) this.library(call, false)
  }
}
