import type { Driver } from '../../catalog/driverSchema.ts'
import type { Machine } from '../cpp/machine.ts'
import type { Hardware } from '../platform/hardware.ts'
import type { Said } from '../platform/standInSays.ts'
import { type StandInStage, standInClass } from '../platform/standIns.ts'
import { Native } from './native.ts'
import { asNumber, isInt } from './protocols.ts'
import {
  Float,
  objectClass,
  type Py,
  PyClass,
  PyFunction,
  PyList,
  PyModule,
  PyObject,
  PyProperty,
  PyTuple,
  raise,
} from './values.ts'

/** An object of a driver, as a stand-in keeps it. */
class Driven extends PyObject {
  own: object = {}
}

/** What a stand-in reads: pins as their numbers, colours as one number, texts and numbers as they are. */
function plain(value: Py): number | string | undefined {
  if (value instanceof Native) return value.pin < 0 ? undefined : value.pin
  if (value instanceof PyTuple || value instanceof PyList)
    return value.items.reduce((sum: number, one: Py) => sum * 256 + asNumber(one), 0)
  if (typeof value === 'string') return value
  return value instanceof Float || isInt(value) ? asNumber(value) : undefined
}

/** What a stand-in gives, as Python has it; a part that does not answer ends in an error, as drivers do. */
function given(value: unknown): Py {
  if (value === undefined) return null
  if (typeof value !== 'number') return value
  if (Number.isNaN(value)) return raise('OSError', 110)
  return Number.isInteger(value) ? value : new Float(Number(value.toPrecision(7)))
}

/** Modules of drivers: the classes of `catalog/drivers` that programs of Python import. */
export function driverModules(
  drivers: readonly Driver[],
  hardware: Hardware,
  machine: Machine,
  stage: StandInStage,
): Map<string, () => PyModule> {
  const modules = new Map<string, Map<string, Py>>()
  for (const driver of drivers) {
    const { module } = driver.python!
    const attrs = modules.get(module) ?? new Map<string, Py>()
    modules.set(module, attrs)
    for (const name of driver.classes) attrs.set(name, driverClass(driver, name, hardware, machine, stage))
  }
  return new Map([...modules].map(([name, attrs]) => [name, () => new PyModule(name, attrs)]))
}

function driverClass(driver: Driver, name: string, hardware: Hardware, machine: Machine, stage: StandInStage): PyClass {
  const nothing = { types: new Map(), printing: () => ({}) }
  const { make, methods } = standInClass(driver, name, hardware, machine, stage, nothing)
  const cls: PyClass = new PyClass(name, [objectClass], (args, named) => {
    const made = new Driven(cls)
    const own = make(args.map(plain) as never, [], machine.at) as { readonly said: Said }
    for (const [key, pin] of Object.entries(driver.make.pins ?? {})) {
      const number = plain(named.get(key))
      if (typeof number === 'number') own.said.pins[pin] = number
    }
    const address = plain(named.get('addr') ?? named.get('address'))
    if (typeof address === 'number') own.said.address = address
    made.own = own
    return made
  })
  for (const [key, call] of Object.entries(driver.calls)) {
    const method = methods[key]!
    const run = new PyFunction(key, ([self, ...args]) =>
      given(method.run((self as Driven).own as never, args.map(plain) as never, [], machine.at)),
    )
    cls.attrs.set(key, call.property ? new PyProperty(run, undefined) : run)
  }
  return cls
}
