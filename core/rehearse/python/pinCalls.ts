import { type Named, Native, type PythonBoard } from './native.ts'
import { asIndex, isTrue, listed } from './protocols.ts'
import { objectClass, type Py, PyBytes, PyClass, PyList, raise } from './values.ts'

/** What the modules of all dialects do with pins, pulses, the converter and two-wire buses. */
export type PinCalls = ReturnType<typeof pinCalls>

export function pinCalls(board: PythonBoard) {
  const { hardware, machine, costs } = board
  const wait = (microseconds: number): null => {
    hardware.wait(microseconds, machine.at)
    return null
  }
  /** Reads the clock, which takes its time: in whole steps of so many microseconds. */
  const clock = (step: number): number => {
    wait(costs.call)
    return machine.wholeSteps(machine.now - machine.born, step)
  }
  const arg = (args: readonly Py[], named: Named, at: number, name: string): Py => args[at] ?? named.get(name)
  const pinFrom = (value: Py): number => {
    if (value instanceof Native) return value.pin
    const found = board.pinOf(typeof value === 'string' ? value : Number(value), false)
    if (found === undefined) {
      board.noPin(String(value))
      return raise('ValueError', 'invalid pin')
    }
    return found
  }

  /** Names of pins, each made when it is asked for. */
  class Pins extends Map<string, Py> {
    readonly #path: string
    constructor(path: string) {
      super()
      this.#path = path
    }
    override get(name: string): Py {
      const own = super.get(name)
      if (own !== undefined) return own
      const pin = board.pinOf(`${this.#path}.${name}`, true)
      if (pin === undefined) return undefined
      const made = new Native(new PyClass('Pin', [objectClass]))
      made.pin = pin
      return made
    }
  }

  const apply = (self: Native): void => {
    const { mode, pull } = self.settled
    hardware.setting(
      self.pin,
      mode === 'out'
        ? 'out'
        : mode === 'open-drain'
          ? 'open-drain'
          : pull === 'up'
            ? 'pull-up'
            : pull === 'down'
              ? 'pull-down'
              : 'in',
      machine.at,
    )
  }
  const write = (self: Native, value: Py): null => {
    hardware.write(self.pin, isTrue(value), machine.at)
    wait(costs.call)
    return null
  }
  const read = (self: Native): number => {
    wait(costs.call)
    return hardware.read(self.pin, machine.at) ? 1 : 0
  }
  const pulseBy =
    (maker: 'timer' | 'library') =>
    (self: Native): null => {
      hardware.pulse(self.pin, Math.min(1, Math.max(0, self.duty)), self.hertz, machine.at, maker)
      wait(costs.call)
      return null
    }
  const analog = (self: Native, bits: number): number => {
    wait(costs.analog)
    return Math.round(hardware.readAnalog(self.pin, machine.at) * ((2 ** bits - 1) / (2 ** 16 - 1)))
  }
  const bytesOf = (value: Py): number[] => (value instanceof PyBytes ? value.bytes : listed(value).map(asIndex))
  const ask = (self: Native, address: number, bytes: readonly number[]): null => {
    wait(costs.bus * (bytes.length + 1))
    if (!hardware.bus.write(self.bus, address, bytes, machine.at)) raise('OSError', 5)
    return null
  }
  const answer = (self: Native, address: number, count: number): PyBytes => {
    wait(costs.bus * (count + 1))
    const found = hardware.bus.read(self.bus, address, count, machine.at)
    if (found.length === 0 && count > 0) raise('OSError', 5)
    return new PyBytes([...found], false)
  }
  /** Fills a buffer with what a device answers. */
  const fill = (into: PyBytes, self: Native, address: number): null => {
    into.bytes.splice(0, into.bytes.length, ...answer(self, address, into.bytes.length).bytes)
    return null
  }
  /** What stands in a device from a register on. */
  const register = (self: Native, address: Py, from: Py, count: number): number[] => {
    ask(self, asIndex(address), [asIndex(from)])
    return [...answer(self, asIndex(address), count).bytes]
  }
  const scan = (self: Native): PyList => {
    const found: number[] = []
    for (let address = 8; address < 120; address += 1) {
      wait(costs.bus)
      if (hardware.bus.write(self.bus, address, [], machine.at)) found.push(address)
    }
    return new PyList(found)
  }
  return {
    wait,
    clock,
    arg,
    pinFrom,
    Pins,
    apply,
    write,
    read,
    /** Pulses of a timer, at pins that have one, and such as a program on a large computer makes at any pin. */
    pulse: pulseBy('timer'),
    softPulse: pulseBy('library'),
    analog,
    bytesOf,
    ask,
    answer,
    fill,
    register,
    scan,
  }
}
