import {
  Float,
  type Py,
  PyBytes,
  PyClass,
  PyDict,
  PyError,
  PyFunction,
  PyIterator,
  PyList,
  PyModule,
  PyObject,
  PyRange,
  PySet,
  PyTuple,
  raise,
  Unknown,
} from './values.ts'

export function typeName(value: Py): string {
  if (value === null || value === undefined) return 'NoneType'
  switch (typeof value) {
    case 'boolean':
      return 'bool'
    case 'number':
    case 'bigint':
      return 'int'
    case 'string':
      return 'str'
  }
  if (value instanceof Float) return 'float'
  if (value instanceof PyList) return 'list'
  if (value instanceof PyTuple) return 'tuple'
  if (value instanceof PyDict) return 'dict'
  if (value instanceof PySet) return 'set'
  if (value instanceof PyBytes) return value.mutable ? 'bytearray' : 'bytes'
  if (value instanceof PyRange) return 'range'
  if (value instanceof PyFunction) return 'function'
  if (value instanceof PyClass) return 'type'
  if (value instanceof PyModule) return 'module'
  if (value instanceof PyIterator) return value.kind
  if (value instanceof PyObject) return value.cls.name
  return 'object'
}

export const isInt = (value: Py): value is number | bigint | boolean =>
  typeof value === 'number' || typeof value === 'bigint' || typeof value === 'boolean'
export const isNumeric = (value: Py): boolean => isInt(value) || value instanceof Float

/** A whole number in the smallest form that holds it. */
export const shrunk = (value: bigint): number | bigint =>
  value >= -9007199254740991n && value <= 9007199254740991n ? Number(value) : value
export const asNumber = (value: Py): number => (value instanceof Float ? value.v : Number(value))

export function asIndex(value: Py): number {
  if (isInt(value)) return Number(value)
  const own = value instanceof PyObject ? value.cls.find('__index__') : undefined
  if (own instanceof PyFunction) return Number(own.call([value], new Map()))
  return raise('TypeError', `'${typeName(value)}' object cannot be interpreted as an integer`)
}

export function isTrue(value: Py): boolean {
  if (value === null || value === undefined || value === false || value === 0 || value === '' || value === 0n)
    return false
  if (value instanceof Float) return value.v !== 0
  if (value instanceof PyList || value instanceof PyTuple) return value.items.length > 0
  if (value instanceof PyDict) return value.entries.size > 0
  if (value instanceof PySet) return value.members.size > 0
  if (value instanceof PyBytes) return value.bytes.length > 0
  if (value instanceof PyRange) return value.length > 0
  if (value instanceof PyObject) {
    const own = value.cls.find('__bool__') ?? value.cls.find('__len__')
    if (own) return isTrue(own.call([value], new Map()))
  }
  return true
}

/** Values one after the other. */
export function iterate(value: Py): Iterator<Py, Py> {
  if (value instanceof PyList) {
    // A list may grow while it is gone through.
    let at = 0
    return {
      next: () => (at < value.items.length ? { done: false, value: value.items[at++] } : { done: true, value: null }),
    }
  }
  if (value instanceof PyTuple) return value.items[Symbol.iterator]()
  if (value instanceof Unknown) return [][Symbol.iterator]()
  // A class of an enumeration is gone through by its members.
  if (value instanceof PyClass && value.find('_members')) return iterate(value.find('_members'))
  if (typeof value === 'string') return [...value][Symbol.iterator]()
  if (value instanceof PyRange) {
    let at = 0
    return {
      next: () =>
        at < value.length ? { done: false, value: value.from + at++ * value.step } : { done: true, value: null },
    }
  }
  if (value instanceof PyDict) return [...value.entries.values()].map(([key]) => key)[Symbol.iterator]()
  if (value instanceof PySet) return [...value.members.values()][Symbol.iterator]()
  if (value instanceof PyBytes) return value.bytes[Symbol.iterator]()
  if (value instanceof PyIterator) return value
  if (value instanceof PyObject) {
    const iter = value.cls.find('__iter__')
    if (iter) {
      const made = iter.call([value], new Map())
      if (made instanceof PyObject && made.cls.find('__next__')) {
        const next = made.cls.find('__next__')
        return {
          next: () => {
            try {
              return { done: false, value: next.call([made], new Map()) }
            } catch (error) {
              if (error instanceof PyError && error.value.cls.name === 'StopIteration')
                return { done: true, value: null }
              throw error
            }
          },
        }
      }
      return iterate(made)
    }
    if (value.cls.find('__getitem__')) {
      let at = 0
      return {
        next: () => {
          try {
            return { done: false, value: value.cls.find('__getitem__').call([value, at++], new Map()) }
          } catch (error) {
            if (error instanceof PyError && error.value.cls.name === 'IndexError') return { done: true, value: null }
            throw error
          }
        },
      }
    }
  }
  return raise('TypeError', `'${typeName(value)}' object is not iterable`)
}

export function listed(value: Py): Py[] {
  if (value instanceof PyList) return [...value.items]
  const from = iterate(value)
  const found: Py[] = []
  for (let one = from.next(); !one.done; one = from.next()) found.push(one.value)
  return found
}
