import { element, putElement } from './elements.ts'
import { binary, compare, equal } from './operators.ts'
import { asIndex, isInt, isTrue, listed } from './protocols.ts'
import { reprOf } from './text.ts'
import { places, text } from './textMethods.ts'
import {
  Float,
  keyOf,
  type Py,
  PyBytes,
  PyDict,
  type PyFunction,
  PyList,
  PySet,
  PySlice,
  PyTuple,
  raise,
} from './values.ts'

export type Method = (self: Py, args: readonly Py[], named: ReadonlyMap<string, Py>) => Py
export type Methods = Readonly<Record<string, Method>>

/** Sorts as Python does: what is equal keeps its order. */
export function sorted(items: readonly Py[], named: ReadonlyMap<string, Py>): Py[] {
  const key = named.get('key')
  const keyed = items.map((item) => ({
    item,
    by: key === undefined || key === null ? item : (key as PyFunction).call([item], new Map()),
  }))
  const way = isTrue(named.get('reverse')) ? -1 : 1
  keyed.sort((a, b) => (isTrue(compare('<', a.by, b.by)) ? -way : isTrue(compare('<', b.by, a.by)) ? way : 0))
  return keyed.map(({ item }) => item)
}

const list: Methods = {
  append: (s, [item]) => {
    s.items.push(item)
    return null
  },
  extend: (s, [more]) => {
    s.items.push(...listed(more))
    return null
  },
  insert: (s, [at, item]) => {
    const index = asIndex(at)
    s.items.splice(index < 0 ? Math.max(0, index + s.items.length) : index, 0, item)
    return null
  },
  pop: (s, [at]) => {
    if (s.items.length === 0) raise('IndexError', 'pop from empty list')
    const index = places(at, -1)
    const moved = index < 0 ? index + s.items.length : index
    if (moved < 0 || moved >= s.items.length) raise('IndexError', 'pop index out of range')
    return s.items.splice(moved, 1)[0]
  },
  remove: (s, [item]) => {
    const at = s.items.findIndex((one: Py) => equal(one, item))
    if (at < 0) raise('ValueError', 'list.remove(x): x not in list')
    s.items.splice(at, 1)
    return null
  },
  clear: (s) => {
    s.items.length = 0
    return null
  },
  index: (s, [item]) => {
    const at = s.items.findIndex((one: Py) => equal(one, item))
    return at < 0 ? raise('ValueError', `${reprOf(item)} is not in list`) : at
  },
  count: (s, [item]) => s.items.filter((one: Py) => equal(one, item)).length,
  reverse: (s) => {
    s.items.reverse()
    return null
  },
  sort: (s, _, named) => {
    s.items.splice(0, s.items.length, ...sorted(s.items, named))
    return null
  },
  copy: (s) => new PyList([...s.items]),
}

const dict: Methods = {
  get: (s, [key, otherwise]) => s.get(key) ?? otherwise ?? null,
  keys: (s) => new PyList([...s.entries.values()].map(([key]: [Py, Py]) => key)),
  values: (s) => new PyList([...s.entries.values()].map(([, value]: [Py, Py]) => value)),
  items: (s) => new PyList([...s.entries.values()].map(([key, value]: [Py, Py]) => new PyTuple([key, value]))),
  pop: (s, args) => {
    const found = s.get(args[0])
    s.delete(args[0])
    return found ?? (args.length > 1 ? args[1] : raise('KeyError', args[0]))
  },
  popitem: (s) => {
    const last = [...s.entries.values()].at(-1)
    if (!last) return raise('KeyError', 'popitem(): dictionary is empty')
    s.delete(last[0])
    return new PyTuple(last)
  },
  setdefault: (s, [key, value]) => {
    if (!s.has(key)) s.set(key, value ?? null)
    return s.get(key)
  },
  update: (s, [more], named) => {
    if (more instanceof PyDict) for (const [key, value] of more.entries.values()) s.set(key, value)
    else if (more !== undefined) for (const pair of listed(more)) s.set(element(pair, 0), element(pair, 1))
    for (const [key, value] of named) s.set(key, value)
    return null
  },
  clear: (s) => {
    s.entries.clear()
    return null
  },
  copy: (s) => {
    const made = new PyDict()
    for (const [key, value] of s.entries.values()) made.set(key, value)
    return made
  },
}

const set: Methods = {
  add: (s, [item]) => {
    s.members.set(keyOf(item), item)
    return null
  },
  discard: (s, [item]) => {
    s.members.delete(keyOf(item))
    return null
  },
  remove: (s, [item]) => (s.members.delete(keyOf(item)) ? null : raise('KeyError', item)),
  pop: (s) => {
    const first = s.members.entries().next()
    if (first.done) return raise('KeyError', 'pop from an empty set')
    s.members.delete(first.value[0])
    return first.value[1]
  },
  clear: (s) => {
    s.members.clear()
    return null
  },
  copy: (s) => new PySet(s.members.values()),
  update: (s, all) => {
    for (const more of all) for (const item of listed(more)) s.members.set(keyOf(item), item)
    return null
  },
  union: (s, [other]) => binary('|', s, new PySet(listed(other))),
  intersection: (s, [other]) => binary('&', s, new PySet(listed(other))),
  difference: (s, [other]) => binary('-', s, new PySet(listed(other))),
  symmetric_difference: (s, [other]) => binary('^', s, new PySet(listed(other))),
  issubset: (s, [other]) => compare('<=', s, new PySet(listed(other))),
  isdisjoint: (s, [other]) => listed(other).every((one) => !s.members.has(keyOf(one))),
  issuperset: (s, [other]) => compare('>=', s, new PySet(listed(other))),
}

const bytes: Methods = {
  decode: (s) => new TextDecoder().decode(Uint8Array.from(s.bytes)),
  hex: (s, [by]) => s.bytes.map((one: number) => one.toString(16).padStart(2, '0')).join(by ?? ''),
  append: (s, [byte]) => {
    s.bytes.push(asIndex(byte))
    return null
  },
  extend: (s, [more]) => {
    s.bytes.push(...listed(more))
    return null
  },
  find: (s, [what]) => String.fromCharCode(...s.bytes).indexOf(String.fromCharCode(...what.bytes)),
  startswith: (s, [what]) => what.bytes.every((one: number, at: number) => s.bytes[at] === one),
  endswith: (s, [what]) =>
    what.bytes.every((one: number, at: number) => s.bytes[s.bytes.length - what.bytes.length + at] === one),
  strip: (s) =>
    new PyBytes([...new TextEncoder().encode(new TextDecoder().decode(Uint8Array.from(s.bytes)).trim())], s.mutable),
  split: (s, [by]) =>
    new PyList(
      String.fromCharCode(...s.bytes)
        .split(by ? String.fromCharCode(...by.bytes) : /\s+/)
        .map(
          (one) =>
            new PyBytes(
              [...one].map((letter) => letter.charCodeAt(0)),
              false,
            ),
        ),
    ),
  count: (s, [what]) => (isInt(what) ? s.bytes.filter((one: number) => one === what).length : 0),
}

const tuple: Methods = {
  index: (s, [item]) => {
    const at = s.items.findIndex((one: Py) => equal(one, item))
    return at < 0 ? raise('ValueError', 'tuple.index(x): x not in tuple') : at
  },
  count: (s, [item]) => s.items.filter((one: Py) => equal(one, item)).length,
}

const whole: Methods = {
  to_bytes: (s, args, named) => {
    const length = asIndex(args[0] ?? named.get('length') ?? 1)
    const order = args[1] ?? named.get('byteorder') ?? 'big'
    let left = BigInt(s)
    if (left < 0n) left += 1n << BigInt(8 * length)
    const made = Array.from({ length }, () => {
      const byte = Number(left & 255n)
      left >>= 8n
      return byte
    })
    return new PyBytes(order === 'big' ? made.reverse() : made, false)
  },
  bit_length: (s) => (BigInt(s) < 0n ? -BigInt(s) : BigInt(s)).toString(2).replace(/^0$/, '').length,
}

const real: Methods = { is_integer: (s) => Number.isInteger(s.v) }

/** Methods of what the language brings along. */
export function methodsOf(value: Py): Methods | undefined {
  if (typeof value === 'string') return text
  if (value instanceof PyList) return list
  if (value instanceof PyDict) return dict
  if (value instanceof PySet) return set
  if (value instanceof PyTuple) return tuple
  if (value instanceof PyBytes) return bytes
  if (isInt(value)) return whole
  if (value instanceof Float) return real
  return undefined
}

export { PySlice, putElement }
