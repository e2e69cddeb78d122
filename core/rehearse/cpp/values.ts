import type { Wait } from './program.ts'
import type { StructType } from './types.ts'

// biome-ignore lint/suspicious/noExplicitAny: a value has the type that the program gives it, checked when it was compiled
export type Value = any

/** Variables of one call; what is static and global lies in one of its own. */
export type Frame = Value[]
export type Get = (frame: Frame) => Value

/** A place among others: `base[at]`. Pointers and references are made of it; none is null. */
export class Ptr {
  readonly base: Value[]
  readonly at: number

  constructor(base: Value[], at: number) {
    this.base = base
    this.at = at
  }
}

/** A number that is handed on as an address, as tasks get theirs. */
export class Address extends Ptr {
  constructor(number: number) {
    super([number], 0)
  }
}

export const samePtr = (a: Ptr | null, b: Ptr | null): boolean => {
  if (a === null || b === null) return a === b
  if (a.base === b.base) return a.at === b.at
  // `this` has no place of its own: a thing is itself, wherever it is looked at from.
  const one = a.base[a.at]
  return one instanceof Struct && one === b.base[b.at]
}

/** A struct or object: its fields, those of its base first. */
export class Struct {
  readonly type: StructType
  readonly f: Value[]
  /** Of a union: what its fields are views of. */
  readonly bytes: Uint8Array | undefined
  /** Of a union: another of the same bytes. */
  readonly again: (() => Struct) | undefined

  constructor(type: StructType, f: Value[], bytes?: Uint8Array, again?: () => Struct) {
    this.type = type
    this.f = f
    this.bytes = bytes
    this.again = again
  }
}

/** A function as a value: of the program, or a lambda with what it took along. */
export class Callable {
  readonly call: (args: readonly Value[]) => Value
  readonly name: string
  /** Begins it so that it can be held at its waits. */
  begin: ((args: readonly Value[]) => Generator<Wait, unknown, void>) | undefined
  /** What a lambda took along. */
  readonly taken: readonly Value[]

  constructor(name: string, call: (args: readonly Value[]) => Value, taken: readonly Value[] = []) {
    this.name = name
    this.call = call
    this.taken = taken
  }
}

/** A value of its own: arrays and structs are copied, everything else is one already. */
export function copied(value: Value): Value {
  if (value instanceof Struct) return value.again?.() ?? new Struct(value.type, value.f.map(copied))
  // Not by `map`: the elements may lie elsewhere.
  return Array.isArray(value) ? Array.from({ length: value.length }, (_, at) => copied(value[at])) : value
}

const texts = new Map<string, Value[]>()

/** Bytes of a text with the nought behind it; the same text is the same bytes. */
export function bytesOfText(text: string, signed: boolean): Value[] {
  const key = `${signed} ${text}`
  let bytes = texts.get(key)
  if (!bytes) {
    bytes = bytesOf(text, signed)
    texts.set(key, bytes)
  }
  return bytes
}

export const bytesOf = (text: string, signed: boolean): number[] => [
  ...[...text].map((letter) => {
    const code = letter.charCodeAt(0) & 255
    return signed && code > 127 ? code - 256 : code
  }),
  0,
]

/** The text that begins at a place and goes to the next nought. */
export function textAt(ptr: Ptr | null): string {
  if (ptr === null) return ''
  let text = ''
  for (let at = ptr.at; at < ptr.base.length; at += 1) {
    const code = Number(ptr.base[at] ?? 0)
    if (code === 0) break
    text += String.fromCharCode(code & 255)
  }
  return text
}
