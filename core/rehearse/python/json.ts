import { isInt, typeName } from './protocols.ts'
import { floatRepr, strOf } from './text.ts'
import { Float, type Py, PyDict, PyList, PyTuple, raise } from './values.ts'

/** A value as JSON writes it; a `TypeError` for one that JSON has no words for. */
export function jsonOf(value: Py): string {
  if (value === null) return 'null'
  if (typeof value === 'boolean' || isInt(value)) return String(value)
  if (value instanceof Float) return floatRepr(value.v)
  if (typeof value === 'string') return JSON.stringify(value)
  if (value instanceof PyList || value instanceof PyTuple) return `[${value.items.map(jsonOf).join(', ')}]`
  if (value instanceof PyDict)
    return `{${[...value.entries.values()].map(([key, one]) => `${JSON.stringify(strOf(key))}: ${jsonOf(one)}`).join(', ')}}`
  return raise('TypeError', `Object of type ${typeName(value)} is not JSON serializable`)
}

/** What JSON has read, as values of the language. */
export function fromJson(value: unknown): Py {
  if (typeof value === 'number') return Number.isInteger(value) ? value : new Float(value)
  if (Array.isArray(value)) return new PyList(value.map(fromJson))
  if (typeof value !== 'object' || value === null) return value
  const made = new PyDict()
  for (const [key, one] of Object.entries(value)) made.set(key, fromJson(one))
  return made
}
