import { type StructType, sizeOf, stepOf, type Type, type Widths } from './types.ts'
import { type Ptr, Struct, type Value } from './values.ts'

/**
 * Values as the bytes that they are in the memory of the platform, the lowest first: for what looks at a number as bytes,
 * copies memory between types, or lays several fields over one another.
 */

/** True for a type whose bytes say all of it: no addresses, texts or objects of the platform. */
export function isPlain(type: Type): boolean {
  switch (type.is) {
    case 'bool':
      return true
    case 'int':
      return type.bits % 8 === 0
    case 'float':
      return true
    case 'array':
      return isPlain(type.of)
    case 'struct':
      return type.struct.fields.every((field) => !field.byReference && isPlain(field.type))
    default:
      return false
  }
}

/** Where each field of a struct begins; all of a union at its beginning. */
export function offsetsOf(struct: StructType, widths: Widths): number[] {
  let end = 0
  return struct.fields.map(({ type }) => {
    if (struct.isUnion) return 0
    const step = struct.isPacked ? 1 : stepOf(type, widths)
    const from = Math.ceil(end / step) * step
    end = from + sizeOf(type, widths)
    return from
  })
}

/** Writes a value's bytes to a place. */
export function writeValue(value: Value, type: Type, widths: Widths, to: DataView, at: number): void {
  switch (type.is) {
    case 'bool':
      to.setUint8(at, value ? 1 : 0)
      return
    case 'int':
      for (let rest = BigInt.asUintN(64, BigInt(value ?? 0)), byte = 0; byte < type.bits / 8; byte += 1, rest >>= 8n)
        to.setUint8(at + byte, Number(rest & 255n))
      return
    case 'float':
      if (type.bits === 32) to.setFloat32(at, Number(value), true)
      else to.setFloat64(at, Number(value), true)
      return
    case 'array': {
      const size = sizeOf(type.of, widths)
      for (let index = 0; index < type.length; index += 1)
        writeValue(value[index], type.of, widths, to, at + index * size)
      return
    }
    case 'struct': {
      if (type.struct.isUnion && value.bytes) {
        value.bytes.forEach((byte: number, index: number) => {
          to.setUint8(at + index, byte)
        })
        return
      }
      const offsets = offsetsOf(type.struct, widths)
      type.struct.fields.forEach((field, index) => {
        writeValue(value.f[index], field.type, widths, to, at + offsets[index]!)
      })
    }
  }
}

/** The value that the bytes of a place are. */
export function readValue(type: Type, widths: Widths, from: DataView, at: number): Value {
  switch (type.is) {
    case 'bool':
      return from.getUint8(at) === 0 ? 0 : 1
    case 'int': {
      let value = 0n
      for (let byte = type.bits / 8 - 1; byte >= 0; byte -= 1) value = (value << 8n) | BigInt(from.getUint8(at + byte))
      const whole = type.signed ? BigInt.asIntN(type.bits, value) : value
      return type.bits > 32 ? whole : Number(whole)
    }
    case 'float':
      return type.bits === 32 ? from.getFloat32(at, true) : from.getFloat64(at, true)
    case 'array': {
      const size = sizeOf(type.of, widths)
      return Array.from({ length: type.length }, (_, index) => readValue(type.of, widths, from, at + index * size))
    }
    case 'struct': {
      if (type.struct.isUnion) {
        const bytes = new Uint8Array(sizeOf(type, widths)).map((_, index) => from.getUint8(at + index))
        return unionOf(type.struct, widths, bytes)
      }
      const offsets = offsetsOf(type.struct, widths)
      return new Struct(
        type.struct,
        type.struct.fields.map((field, index) => readValue(field.type, widths, from, at + offsets[index]!)),
      )
    }
    default:
      return 0
  }
}

/** What is written over a list so that its elements lie elsewhere. */
interface Elements {
  readonly length: number
  readonly get: (index: number) => Value
  readonly set: (index: number, value: Value) => void
}

/** A list whose elements are read from somewhere, and written there. */
function listOf({ length, get, set }: Elements): Value[] {
  const indexOf = (key: string | symbol): number =>
    typeof key === 'string' && /^\d+$/.test(key) ? Number(key) : Number.NaN
  return new Proxy<Value[]>([], {
    get: (target, key) => {
      if (key === 'length') return length
      const index = indexOf(key)
      return Number.isNaN(index) ? Reflect.get(target, key) : index < length ? get(index) : undefined
    },
    set: (_, key, value) => {
      const index = indexOf(key)
      if (index < length) set(index, value)
      return index < length
    },
    has: (target, key) => indexOf(key) < length || Reflect.has(target, key),
  })
}

/** The bytes of what lies at a place and behind it, as a list that can be read and written. */
export function bytesBehind({ base, at }: Ptr, type: Type, widths: Widths, signed: boolean): Value[] {
  const size = sizeOf(type, widths)
  const view = new DataView(new ArrayBuffer(size))
  const load = (element: number): void => writeValue(base[at + element], type, widths, view, 0)
  return listOf({
    length: (base.length - at) * size,
    get: (index) => {
      load(Math.floor(index / size))
      return signed ? view.getInt8(index % size) : view.getUint8(index % size)
    },
    set: (index, value) => {
      const element = Math.floor(index / size)
      load(element)
      view.setUint8(index % size, Number(value) & 255)
      put(base, at + element, readValue(type, widths, view, 0))
    },
  })
}

/** Puts a value into a place; an array or object stays the same one, since others may point into it. */
function put(base: Value[], at: number, value: Value): void {
  const old: Value = base[at]
  if (old instanceof Struct && value instanceof Struct && !old.bytes) {
    for (let index = 0; index < old.f.length; index += 1) put(old.f, index, value.f[index])
  } else if (old instanceof Struct && value instanceof Struct) old.bytes!.set(value.bytes ?? [])
  else if (Array.isArray(old) && Array.isArray(value))
    for (let index = 0; index < old.length; index += 1) put(old, index, value[index])
  else base[at] = value
}

/** A union: its fields are views of the same bytes. */
export function unionOf(struct: StructType, widths: Widths, bytes: Uint8Array<ArrayBuffer>): Struct {
  const view = new DataView(bytes.buffer)
  const fieldAt = (type: Type, at: number): Value => {
    if (type.is !== 'array') return readValue(type, widths, view, at)
    const size = sizeOf(type.of, widths)
    return listOf({
      length: type.length,
      get: (index) => fieldAt(type.of, at + index * size),
      set: (index, value) => writeValue(value, type.of, widths, view, at + index * size),
    })
  }
  const f = listOf({
    length: struct.fields.length,
    get: (index) => fieldAt(struct.fields[index]!.type, 0),
    set: (index, value) => writeValue(value, struct.fields[index]!.type, widths, view, 0),
  })
  return new Struct(struct, f, bytes, () => unionOf(struct, widths, bytes.slice()))
}

/**
 * Sets so many bytes of what lies at a place to one value.
 * @returns the first element that was to be set and is not there, or -1
 */
export function setBytes({ base, at }: Ptr, type: Type, widths: Widths, byte: number, count: number): number {
  const size = sizeOf(type, widths)
  const view = new DataView(new ArrayBuffer(size))
  for (let element = 0; element * size < count; element += 1) {
    if (at + element >= base.length) return at + element
    const least = Math.min(size, count - element * size)
    if (least < size) writeValue(base[at + element], type, widths, view, 0)
    for (let index = 0; index < least; index += 1) view.setUint8(index, byte & 255)
    put(base, at + element, readValue(type, widths, view, 0))
  }
  return -1
}
