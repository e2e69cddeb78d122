import { wrapping } from './arithmetic.ts'
import type { Machine } from './machine.ts'
import { pointerTo, type Type } from './types.ts'
import { type Frame, type Get, Ptr, type Value } from './values.ts'

/** Where a value can be put. */
export interface Place {
  /** A pointer to it. */
  readonly ptr: Get
  readonly set: (frame: Frame, value: Value) => void
}

/** A value that is compiled: its type, how to get it, where it lies if it lies anywhere. */
export interface Code {
  readonly type: Type
  readonly get: Get
  readonly place?: Place | undefined
  /** It is the same whenever it is asked. */
  readonly known?: Value
  /** A copy has to be made before it is kept elsewhere. */
  readonly isShared?: boolean
}

export const constant = (type: Type, value: Value): Code => ({ type, get: () => value, known: value })

export const localCode = (type: Type, slot: number): Code => ({
  type,
  get: (f) => f[slot],
  place: {
    ptr: (f) => new Ptr(f, slot),
    set: (f, value) => {
      f[slot] = value
    },
  },
  isShared: true,
})

export const globalCode = (type: Type, globals: Frame, slot: number): Code => ({
  type,
  get: () => globals[slot],
  place: {
    ptr: () => new Ptr(globals, slot),
    set: (_, value) => {
      globals[slot] = value
    },
  },
  isShared: true,
})

/** A register of a chip: what reading it gives, and what writing to it does. */
export interface Register {
  readonly bits: 8 | 16
  /** It is lines of the board: whatever moves them says so itself. */
  readonly isLine?: boolean
  readonly read: (at: number) => number
  readonly write: (value: number, at: number) => void
}

const elsewhere = new WeakSet<Value[]>()

/** What is read of it is asked of the chip each time. */
export const isElsewhere = (base: Value[]): boolean => elsewhere.has(base)

/** A pointer to a register: what reads and writes through it reads and writes the register. */
export function registerAt(register: Register, machine: Machine): Ptr {
  const { read, write } = seen(register, machine)
  const base: Value[] = [0]
  elsewhere.add(base)
  Object.defineProperty(base, 0, {
    get: () => read(machine.at),
    set: (value: Value) => write(Number(value), machine.at),
  })
  return new Ptr(base, 0)
}

/** Registers change by themselves, and by being read. */
function seen(register: Register, machine: Machine): Pick<Register, 'read' | 'write'> {
  if (register.isLine) return register
  const { read, write } = register
  return {
    read: (at) => {
      machine.acts += 1
      return read(at)
    },
    write: (value, at) => {
      machine.acts += 1
      write(value, at)
    },
  }
}

/** A register where a program names it. */
export function registerCode(type: Type, register: Register, machine: Machine, at: number): Code {
  const { read, write } = seen(register, machine)
  const ptr = registerAt(register, machine)
  return {
    type,
    get: () => read(at),
    place: { ptr: () => ptr, set: (_, value) => write(Number(value), at) },
  }
}

/** Bytes that are read through a pointer to bytes of the other kind get the sign that this one has. */
const asRead = (type: Type): ((value: Value) => Value) | undefined =>
  type.is === 'int' && type.bits === 8 ? wrapping(type) : undefined

/** What a pointer points at. */
export function pointedCode(type: Type, ptr: Get, machine: Machine, at: number): Code {
  const turn = asRead(type)
  const checked = (f: Frame): Ptr => {
    const to: Ptr | null = ptr(f)
    if (to === null || to === undefined) return machine.nothing(at)
    if (to.at < 0 || to.at >= to.base.length) machine.beyond(at, to.at, to.base.length)
    return to
  }
  const read: Get = (f) => {
    const to = checked(f)
    return to.base[to.at] ?? 0
  }
  return {
    type,
    get: turn ? (f) => turn(read(f)) : read,
    place: {
      ptr: checked,
      set: (f, value) => {
        const to = checked(f)
        if (to.at >= 0 && to.at < to.base.length) to.base[to.at] = value
      },
    },
    isShared: true,
  }
}

/** A field of a struct, by its number. */
export function fieldCode(type: Type, of: Get, index: number): Code {
  return {
    type,
    get: (f) => of(f).f[index],
    place: {
      ptr: (f) => new Ptr(of(f).f, index),
      set: (f, value) => {
        of(f).f[index] = value
      },
    },
    isShared: true,
  }
}

/** An element of an array. */
export function elementCode(type: Type, of: Get, by: Get, machine: Machine, at: number): Code {
  const turn = asRead(type)
  const read: Get = (f) => {
    const array: Value[] = of(f)
    const index = Number(by(f))
    if (index >= 0 && index < array.length) return array[index]
    machine.beyond(at, index, array.length)
    return 0
  }
  return {
    type,
    get: turn ? (f) => turn(read(f)) : read,
    place: {
      ptr: (f) => {
        const array: Value[] = of(f)
        const index = Number(by(f))
        if (index < 0 || index >= array.length) machine.beyond(at, index, array.length)
        return new Ptr(array, index)
      },
      set: (f, value) => {
        const array: Value[] = of(f)
        const index = Number(by(f))
        if (index >= 0 && index < array.length) array[index] = value
        else machine.beyond(at, index, array.length)
      },
    },
    isShared: true,
  }
}

/** An array where a pointer is wanted: its first element. */
export function decayed(code: Code): Code {
  if (code.type.is !== 'array') return code
  const { get } = code
  return { type: pointerTo(code.type.of), get: (f) => new Ptr(get(f), 0) }
}
