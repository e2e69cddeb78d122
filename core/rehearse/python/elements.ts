import { asIndex, iterate, typeName } from './protocols.ts'
import {
  DefaultDict,
  type Py,
  PyBytes,
  PyClass,
  PyDict,
  PyList,
  PyObject,
  PyRange,
  PySlice,
  PyTuple,
  raise,
  Unknown,
} from './values.ts'

/** Places of a slice in something of a length. */
export function placesOf({ from, to, step }: PySlice, length: number): number[] {
  const by = step === null ? 1 : asIndex(step)
  if (by === 0) raise('ValueError', 'slice step cannot be zero')
  const clamp = (value: Py, otherwise: number): number => {
    if (value === null) return otherwise
    const at = asIndex(value)
    const moved = at < 0 ? at + length : at
    return by > 0 ? Math.min(length, Math.max(0, moved)) : Math.min(length - 1, Math.max(-1, moved))
  }
  const first = clamp(from, by > 0 ? 0 : length - 1)
  const last = clamp(to, by > 0 ? length : -1)
  const found: number[] = []
  for (let at = first; by > 0 ? at < last : at > last; at += by) found.push(at)
  return found
}

/** `of[by]`. */
export function element(of: Py, by: Py): Py {
  if (of instanceof PyDict) {
    const found = of.get(by)
    if (found !== undefined) return found
    if (!(of instanceof DefaultDict)) return raise('KeyError', by)
    const made = of.make()
    if (of.keeps) of.set(by, made)
    return made
  }
  if (of instanceof Unknown) return of
  if (of instanceof PyClass) {
    const own = of.find('__class_getitem__')
    if (own) return own.call([of, by], new Map())
  }
  if (by instanceof PySlice) {
    if (typeof of === 'string') {
      const letters = [...of]
      return placesOf(by, letters.length)
        .map((at) => letters[at])
        .join('')
    }
    if (of instanceof PyList) return new PyList(placesOf(by, of.items.length).map((at) => of.items[at]))
    if (of instanceof PyTuple) return new PyTuple(placesOf(by, of.items.length).map((at) => of.items[at]))
    if (of instanceof PyBytes)
      return new PyBytes(
        placesOf(by, of.bytes.length).map((at) => of.bytes[at]!),
        of.mutable,
      )
    if (of instanceof PyRange) return new PyList(placesOf(by, of.length).map((at) => of.from + at * of.step))
  }
  const own = of instanceof PyObject ? of.cls.find('__getitem__') : undefined
  if (own) return own.call([of, by], new Map())
  const get = (length: number, at: (index: number) => Py): Py => {
    const index = asIndex(by)
    const moved = index < 0 ? index + length : index
    return moved < 0 || moved >= length ? raise('IndexError', `${typeName(of)} index out of range`) : at(moved)
  }
  if (of instanceof PyList || of instanceof PyTuple) return get(of.items.length, (at) => of.items[at])
  if (typeof of === 'string') return get([...of].length, (at) => [...of][at])
  if (of instanceof PyBytes) return get(of.bytes.length, (at) => of.bytes[at])
  if (of instanceof PyRange) return get(of.length, (at) => of.from + at * of.step)
  return raise('TypeError', `'${typeName(of)}' object is not subscriptable`)
}

/** `of[by] = value`. */
export function putElement(of: Py, by: Py, value: Py): void {
  if (of instanceof Unknown) return
  if (of instanceof PyDict) {
    of.set(by, value)
    return
  }
  const own = of instanceof PyObject ? of.cls.find('__setitem__') : undefined
  if (own) {
    own.call([of, by, value], new Map())
    return
  }
  const items: Py[] | undefined =
    of instanceof PyList ? of.items : of instanceof PyBytes && of.mutable ? of.bytes : undefined
  if (!items) raise('TypeError', `'${typeName(of)}' object does not support item assignment`)
  const held = (one: Py): Py => {
    if (!(of instanceof PyBytes)) return one
    const byte = asIndex(one)
    return byte < 0 || byte > 255 ? raise('ValueError', 'byte must be in range(0, 256)') : byte
  }
  if (by instanceof PySlice) {
    const places = placesOf(by, items!.length)
    const values: Py[] = []
    const from = iterate(value)
    for (let one = from.next(); !one.done; one = from.next()) values.push(held(one.value))
    if (by.step === null || by.step === 1) {
      const first = places[0] ?? placesOf(new PySlice(by.from, null, null), items!.length)[0] ?? items!.length
      items!.splice(first, places.length, ...values)
    } else if (values.length !== places.length)
      raise(
        'ValueError',
        `attempt to assign sequence of size ${values.length} to extended slice of size ${places.length}`,
      )
    else
      places.forEach((at, index) => {
        items![at] = values[index]
      })
    return
  }
  const index = asIndex(by)
  const moved = index < 0 ? index + items!.length : index
  if (moved < 0 || moved >= items!.length) raise('IndexError', `${typeName(of)} assignment index out of range`)
  items![moved] = held(value)
}

export function dropElement(of: Py, by: Py): void {
  if (of instanceof PyDict) {
    if (!of.delete(by)) raise('KeyError', by)
    return
  }
  if (of instanceof PyList) {
    const places =
      by instanceof PySlice
        ? placesOf(by, of.items.length)
        : [asIndex(by) < 0 ? asIndex(by) + of.items.length : asIndex(by)]
    for (const at of [...places].sort((a, b) => b - a)) {
      if (at < 0 || at >= of.items.length) raise('IndexError', 'list assignment index out of range')
      of.items.splice(at, 1)
    }
    return
  }
  const own = of instanceof PyObject ? of.cls.find('__delitem__') : undefined
  if (own) own.call([of, by], new Map())
  else raise('TypeError', `'${typeName(of)}' object doesn't support item deletion`)
}
