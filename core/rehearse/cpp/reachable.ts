import { MOST_VALUES } from '../idle.ts'
import { isElsewhere } from './code.ts'
import { Callable, Ptr, Struct, type Value } from './values.ts'

/** All that a program can reach of its variables, in the order in which it is found; undefined where that is much. */
export function valuesOf(roots: readonly Value[]): unknown[] | undefined {
  const out: unknown[] = []
  const known = new Map<object, number>()
  const walk = (value: Value): void => {
    if (typeof value !== 'object' || value === null) {
      out.push(value)
      return
    }
    // The same thing twice is not the same as two alike.
    const before = known.get(value)
    out.push(before)
    if (before !== undefined || out.length > MOST_VALUES) return
    known.set(value, known.size)
    if (Array.isArray(value) || value instanceof Uint8Array) {
      out.push(value.length)
      // What lies in a register is read by reading it, which does something.
      if (Array.isArray(value) && isElsewhere(value)) out.push(value)
      else for (let at = 0; at < value.length && out.length <= MOST_VALUES; at += 1) walk(value[at])
    } else if (value instanceof Ptr) {
      out.push(value.at)
      walk(value.base)
    } else if (value instanceof Struct) {
      out.push(value.type)
      walk(value.bytes ?? value.f)
    } else {
      out.push(value)
      if (value instanceof Callable) for (const taken of value.taken) walk(taken)
    }
  }
  for (const root of roots) walk(root)
  return out.length > MOST_VALUES ? undefined : out
}
