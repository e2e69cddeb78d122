type Keep = <V>(value: V) => V

let keep: Keep = (value) => value

/**
 * Worked out once for each object: the same object gives the same answer, which is forgotten with the object. The answer
 * belongs to everybody who asks, so nobody may change it; see {@link freezeKept}.
 */
export function memo<K extends object, V>(work: (of: K) => V): (of: K) => V {
  const known = new WeakMap<K, V>()
  return (of) => {
    const before = known.get(of)
    if (before !== undefined || known.has(of)) return before as V
    const value = keep(work(of))
    known.set(of, value)
    return value
  }
}

/** As {@link memo}, for each object and a second key beside it, such as a reference or another object. */
export function memoIn<K extends object, S, V>(work: (of: K, key: S) => V): (of: K, key: S) => V {
  const all = memo((_of: K) => new Map<S, V>())
  return (of, key) => {
    const known = all(of)
    const before = known.get(key)
    if (before !== undefined || known.has(key)) return before as V
    const value = keep(work(of, key))
    known.set(key, value)
    return value
  }
}

/**
 * In development and tests: what is kept is frozen, with all arrays and plain objects in it, so that code that changes an
 * answer of somebody else's fails where it does so. Costs time; the application at work leaves it off.
 */
export function freezeKept(): void {
  keep = frozen
}

function frozen<V>(value: V): V {
  const rest: unknown[] = [value]
  while (rest.length > 0) {
    const one = rest.pop()
    if (!isPlain(one) || Object.isFrozen(one)) continue
    Object.freeze(one)
    for (const inner of Object.values(one)) if (typeof inner === 'object') rest.push(inner)
  }
  return value
}

const isPlain = (value: unknown): value is object =>
  typeof value === 'object' &&
  value !== null &&
  (Array.isArray(value) || Object.getPrototypeOf(value) === Object.prototype || Object.getPrototypeOf(value) === null)
