import { MOST_VALUES } from '../idle.ts'
import type { PyFrame } from './scope.ts'
import {
  doings,
  Float,
  type Py,
  PyBytes,
  PyClass,
  PyDict,
  PyFunction,
  PyIterator,
  PyList,
  PyModule,
  PyObject,
  PyRange,
  PySet,
  PySlice,
  PyTuple,
} from './values.ts'

/**
 * All that a program can reach of its variables, in the order in which it is found, and how much was done so far; undefined
 * where that is much, or where something lies among it whose state cannot be seen, as that of a generator.
 */
export function valuesOf(globals: ReadonlyMap<string, Py>, from: PyFrame): unknown[] | undefined {
  const out: unknown[] = [doings.count]
  const known = new Map<object, number>()
  let isHidden = false
  const isNew = (value: object): boolean => {
    // The same thing twice is not the same as two alike.
    const before = known.get(value)
    out.push(before)
    known.set(value, before ?? known.size)
    return before === undefined
  }
  const all = (items: Iterable<Py>): void => {
    for (const item of items) {
      if (isHidden || out.length > MOST_VALUES) return
      walk(item)
    }
  }
  const names = (of: ReadonlyMap<unknown, Py>): void => {
    if (!isNew(of)) return
    out.push(of.size)
    for (const [name, value] of of) {
      if (isHidden || out.length > MOST_VALUES) return
      out.push(name)
      walk(value)
    }
  }
  const frames = (frame: PyFrame | null): void => {
    for (let at = frame; at && isNew(at); at = at.up) {
      all(at.v)
      if (at.attrs) names(at.attrs)
    }
  }
  const walk = (value: Py): void => {
    if (typeof value !== 'object' || value === null) {
      out.push(value)
      return
    }
    if (value instanceof Float) {
      out.push(Float, value.v)
      return
    }
    if (value instanceof PyIterator) isHidden = true
    if (isHidden || !isNew(value)) return
    if (value instanceof PyList || value instanceof PyTuple) {
      out.push(value.constructor, value.items.length)
      all(value.items)
    } else if (value instanceof PyDict) {
      out.push(PyDict, value.entries.size)
      for (const [key, one] of value.entries.values()) all([key, one])
    } else if (value instanceof PySet) {
      out.push(PySet, value.members.size)
      all(value.members.values())
    } else if (value instanceof PyBytes) {
      out.push(PyBytes, value.mutable, value.bytes.length)
      all(value.bytes)
    } else if (value instanceof PyRange || value instanceof PySlice) {
      out.push(value.constructor)
      all([value.from, value.to, value.step])
    } else if (value instanceof PyFunction) {
      if (!value.home) {
        out.push(value)
        return
      }
      out.push(value.call)
      names(value.home.globals)
      frames(value.home.frame)
      all(value.home.kept)
    } else if (value instanceof PyModule) {
      // Those that the platform gives stay as they are.
      if (value.attrs.constructor === Map) names(value.attrs)
      else out.push(value)
    } else if (value instanceof PyClass) {
      out.push(value)
      all(value.bases)
      names(value.attrs)
    } else if (value instanceof PyObject) {
      // What is kept in it by the platform changes by calls alone, and those are counted.
      out.push(value)
      walk(value.cls)
      names(value.attrs)
    } else out.push(value)
  }
  names(globals)
  frames(from)
  return isHidden || out.length > MOST_VALUES ? undefined : out
}
