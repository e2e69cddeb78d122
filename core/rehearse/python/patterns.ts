import { attribute, isError } from './attributes.ts'
import { isInstance } from './builtins.ts'
import { element } from './elements.ts'
import type { Get } from './expressions.ts'
import { equal } from './operators.ts'
import { listed } from './protocols.ts'
import type { PyFrame, PyScope } from './scope.ts'
import type { PyExpr, PyPattern } from './syntax.ts'
import { type Py, PyClass, PyDict, PyList, PyObject, PyTuple } from './values.ts'

/** Whether a value is what a pattern says; names of it are given on the way. */
export type Matches = (f: PyFrame, value: Py) => boolean

interface Compiler {
  readonly get: (node: PyExpr, scope: PyScope) => Get
  readonly putOf: (target: PyExpr, scope: PyScope) => (f: PyFrame, value: Py) => void
}

/** Compiles a pattern of `case` (Python reference, 8.6.4). */
export function matcher(pattern: PyPattern, scope: PyScope, at: number, by: Compiler): Matches {
  const inner = (one: PyPattern): Matches => matcher(one, scope, at, by)
  const put = (name: string): ((f: PyFrame, value: Py) => void) => by.putOf({ e: 'name', name, at }, scope)
  switch (pattern.p) {
    case 'value': {
      const get = by.get(pattern.value, scope)
      return pattern.isSame ? (f, value) => get(f) === (value ?? null) : (f, value) => equal(get(f), value)
    }
    case 'name': {
      if (pattern.name === undefined) return () => true
      const give = put(pattern.name)
      return (f, value) => {
        give(f, value)
        return true
      }
    }
    case 'as': {
      const [of, give] = [inner(pattern.of), put(pattern.name)]
      return (f, value) => {
        if (!of(f, value)) return false
        give(f, value)
        return true
      }
    }
    case 'or': {
      const all = pattern.all.map(inner)
      return (f, value) => all.some((one) => one(f, value))
    }
    case 'list': {
      const items = pattern.items.map(inner)
      const { star } = pattern
      return (f, value) => {
        if (!(value instanceof PyList || value instanceof PyTuple)) return false
        const all = listed(value)
        if (star < 0) return all.length === items.length && items.every((one, index) => one(f, all[index]))
        const after = items.length - star - 1
        if (all.length < star + after) return false
        const rest = all.slice(star, all.length - after)
        return items.every((one, index) =>
          one(
            f,
            index < star ? all[index] : index === star ? new PyList(rest) : all[all.length - items.length + index],
          ),
        )
      }
    }
    case 'map': {
      const items = pattern.items.map(({ key, of }) => ({ key: by.get(key, scope), of: inner(of) }))
      const give = pattern.rest === undefined ? undefined : put(pattern.rest)
      return (f, value) => {
        if (!(value instanceof PyDict)) return false
        const keys = items.map(({ key }) => key(f))
        if (!items.every(({ of }, index) => value.has(keys[index]) && of(f, element(value, keys[index])))) return false
        if (give) {
          const rest = new PyDict()
          for (const [key, one] of value.entries.values()) if (!keys.some((own) => equal(own, key))) rest.set(key, one)
          give(f, rest)
        }
        return true
      }
    }
    case 'class': {
      const cls = by.get(pattern.of, scope)
      const [plain, named] = [pattern.plain.map(inner), pattern.named.map(({ name, of }) => ({ name, of: inner(of) }))]
      return (f, value) => {
        const kind = cls(f)
        if (!isInstance(value, kind)) return false
        const names = kind instanceof PyClass ? namesOf(kind) : undefined
        const has = (name: string, of: Matches): boolean => {
          const part = partOf(value, name)
          return part !== undefined && of(f, part)
        }
        // What the language brings along is matched as it is: `int(x)`.
        if (!names)
          return plain.length <= 1 && plain.every((of) => of(f, value)) && named.every(({ name, of }) => has(name, of))
        return (
          plain.every((of, index) => names[index] !== undefined && has(names[index], of)) &&
          named.every(({ name, of }) => has(name, of))
        )
      }
    }
  }
}

/** Names that places in a pattern of a class stand for; undefined for a class of the language. */
function namesOf(cls: PyClass): readonly string[] | undefined {
  const own = cls.find('__match_args__')
  if (own !== undefined) return listed(own)
  if (cls.noted.length > 0) return cls.noted
  return cls.make ? undefined : []
}

function partOf(value: Py, name: string): Py | undefined {
  try {
    return value instanceof PyObject || value instanceof PyTuple ? attribute(value, name) : undefined
  } catch (error) {
    if (isError(error, 'AttributeError')) return undefined
    throw error
  }
}
