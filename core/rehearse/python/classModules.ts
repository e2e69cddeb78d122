import { invoke } from './attributes.ts'
import { fn, type GivenModule, module, type Named } from './native.ts'
import { equal } from './operators.ts'
import { asNumber, listed } from './protocols.ts'
import { reprOf, strOf } from './text.ts'
import {
  objectClass,
  type Py,
  PyClass,
  PyDict,
  PyFunction,
  PyList,
  PyObject,
  PyProperty,
  PyTuple,
  raise,
} from './values.ts'

/** `enum` and `dataclasses`: classes of which the library makes more than they say. */
export const classModules = (): GivenModule[] => [
  module('enum', [...enums()]),
  module('dataclasses', [...dataclasses()]),
]

const method = (cls: PyClass, name: string, call: (args: readonly Py[], named: Named) => Py): void =>
  void cls.attrs.set(name, new PyFunction(name, call))

const wholeOf = (one: Py): Py => (one instanceof PyObject && one.attrs.has('value') ? one.attrs.get('value') : one)

function enums(): Map<string, Py> {
  const auto = new PyClass('auto', [objectClass])
  const base = new PyClass('Enum', [objectClass])
  // What a class says becomes one object each, made as soon as the class is there.
  base.attrs.set(
    '__init_subclass__',
    fn('__init_subclass__', ([cls]) => {
      const members: PyObject[] = []
      for (const [name, said] of [...(cls as PyClass).attrs]) {
        if (name.startsWith('_') || said instanceof PyFunction || said instanceof PyProperty || said instanceof PyClass)
          continue
        const last = members.at(-1)?.attrs.get('value') ?? 0
        const value = said instanceof PyObject && said.cls === auto ? asNumber(last) + 1 : said
        const same = members.find((one) => equal(one.attrs.get('value'), value))
        const made = same ?? new PyObject(cls)
        if (!same) {
          made.attrs.set('name', name).set('value', value)
          members.push(made)
        }
        ;(cls as PyClass).attrs.set(name, made)
      }
      ;(cls as PyClass).attrs.set('_members', new PyList(members))
      return null
    }),
  )
  const membersOf = (cls: PyClass): PyObject[] => listed(cls.find('_members'))
  base.attrs.set(
    '__new__',
    new PyFunction(
      '__new__',
      ([cls, value]) =>
        membersOf(cls).find((one) => one === value || equal(one.attrs.get('value'), value)) ??
        raise('ValueError', `${reprOf(value)} is not a valid ${cls.name}`),
      'static',
    ),
  )
  base.attrs.set(
    '__class_getitem__',
    new PyFunction(
      '__class_getitem__',
      ([cls, name]) => membersOf(cls).find((one) => one.attrs.get('name') === name) ?? raise('KeyError', name),
      'class',
    ),
  )
  method(base, '__str__', ([self]) => `${self.cls.name}.${self.attrs.get('name')}`)
  method(
    base,
    '__repr__',
    ([self]) => `<${self.cls.name}.${self.attrs.get('name')}: ${reprOf(self.attrs.get('value'))}>`,
  )
  const whole = new PyClass('IntEnum', [base])
  method(whole, '__str__', ([self]) => strOf(self.attrs.get('value')))
  method(whole, '__int__', ([self]) => self.attrs.get('value'))
  method(whole, '__index__', ([self]) => self.attrs.get('value'))
  method(whole, '__eq__', ([self, other]) => equal(self.attrs.get('value'), wholeOf(other)))
  method(whole, '__hash__', ([self]) => self.attrs.get('value'))
  const compares = { __lt__: (a: number, b: number) => a < b, __le__: (a: number, b: number) => a <= b }
  for (const [name, by] of Object.entries(compares)) {
    method(whole, name, ([self, other]) => by(asNumber(wholeOf(self)), asNumber(wholeOf(other))))
    method(whole, name.replace('l', 'g'), ([self, other]) => by(asNumber(wholeOf(other)), asNumber(wholeOf(self))))
  }
  const sums = {
    add: (a: number, b: number) => a + b,
    sub: (a: number, b: number) => a - b,
    mul: (a: number, b: number) => a * b,
    and: (a: number, b: number) => a & b,
    or: (a: number, b: number) => a | b,
  }
  for (const [name, by] of Object.entries(sums)) {
    method(whole, `__${name}__`, ([self, other]) => by(asNumber(wholeOf(self)), asNumber(wholeOf(other))))
    method(whole, `__r${name}__`, ([self, other]) => by(asNumber(wholeOf(other)), asNumber(wholeOf(self))))
  }
  return new Map<string, Py>([
    ['Enum', base],
    ['IntEnum', whole],
    ['auto', auto],
    ['unique', fn('unique', ([cls]) => cls)],
  ])
}

/** A field of a class: its name, and what it is where nothing is given. */
interface Field {
  readonly name: string
  readonly make: (() => Py) | undefined
}

function dataclasses(): Map<string, Py> {
  const fieldClass = new PyClass('Field', [objectClass])
  const known = new WeakMap<PyClass, readonly Field[]>()
  const fieldsOf = (cls: PyClass): Field[] => {
    const fields = new Map<string, Field>()
    for (const one of [...cls.order].reverse()) for (const field of known.get(one) ?? []) fields.set(field.name, field)
    return [...fields.values()]
  }
  const own = (cls: PyClass): Field[] =>
    cls.noted.map((name): Field => {
      const said = cls.attrs.get(name)
      if (!(said instanceof PyObject && said.cls === fieldClass))
        return { name, make: said === undefined ? undefined : () => said }
      const [value, factory] = [said.attrs.get('default'), said.attrs.get('factory')]
      cls.attrs.delete(name)
      return {
        name,
        make: factory !== undefined ? () => invoke(factory, []) : value === undefined ? undefined : () => value,
      }
    })
  const dress = (cls: PyClass): PyClass => {
    known.set(cls, own(cls))
    const fields = fieldsOf(cls)
    const given = (name: string): boolean => cls.attrs.has(name)
    if (!given('__init__'))
      method(cls, '__init__', ([self, ...args], named) => {
        fields.forEach(({ name, make }, at) => {
          const value = args[at] ?? named.get(name) ?? make?.()
          if (value === undefined && !(at < args.length) && !named.has(name))
            raise('TypeError', `${cls.name}.__init__() missing 1 required positional argument: '${name}'`)
          self.attrs.set(name, value ?? null)
        })
        if (args.length > fields.length)
          raise(
            'TypeError',
            `${cls.name}.__init__() takes ${fields.length + 1} positional arguments but ${args.length + 1} were given`,
          )
        cls.find('__post_init__')?.call([self], new Map())
        return null
      })
    const values = (self: PyObject): Py[] => fields.map(({ name }) => self.attrs.get(name))
    if (!given('__repr__'))
      method(
        cls,
        '__repr__',
        ([self]) =>
          `${self.cls.name}(${fields.map(({ name }) => `${name}=${reprOf(self.attrs.get(name))}`).join(', ')})`,
      )
    if (!given('__eq__'))
      method(
        cls,
        '__eq__',
        ([self, other]) =>
          other instanceof PyObject &&
          other.cls === self.cls &&
          equal(new PyTuple(values(self)), new PyTuple(values(other))),
      )
    return cls
  }
  const asPlain = (value: Py): Py => {
    if (value instanceof PyObject && fieldsOf(value.cls).length > 0) {
      const made = new PyDict()
      for (const { name } of fieldsOf(value.cls)) made.set(name, asPlain(value.attrs.get(name)))
      return made
    }
    return value instanceof PyList ? new PyList(value.items.map(asPlain)) : value
  }
  return new Map<string, Py>([
    [
      'dataclass',
      fn('dataclass', ([cls]) => (cls instanceof PyClass ? dress(cls) : fn('dataclass', ([later]) => dress(later)))),
    ],
    [
      'field',
      fn('field', (_, named) => {
        const made = new PyObject(fieldClass)
        if (named.has('default')) made.attrs.set('default', named.get('default'))
        if (named.has('default_factory')) made.attrs.set('factory', named.get('default_factory'))
        return made
      }),
    ],
    ['asdict', fn('asdict', ([value]) => asPlain(value))],
    ['astuple', fn('astuple', ([value]) => new PyTuple(fieldsOf(value.cls).map(({ name }) => value.attrs.get(name))))],
  ])
}
