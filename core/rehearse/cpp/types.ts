import type { FunctionInfo } from './program.ts'
import type { Expr } from './syntax.ts'

/** A type as the program has it, widths fixed by its platform. */
export type Type =
  | { readonly is: 'void' }
  | { readonly is: 'bool' }
  | IntType
  | { readonly is: 'float'; readonly bits: 32 | 64 }
  | PointerType
  | { readonly is: 'array'; readonly of: Type; readonly length: number }
  | { readonly is: 'struct'; readonly struct: StructType }
  | FunctionType
  | { readonly is: 'string' }
  /** A class of the platform or of a driver. */
  | { readonly is: 'native'; readonly name: string }
  | { readonly is: 'null' }
  | { readonly is: 'list' }

export interface IntType {
  readonly is: 'int'
  /** 1 to 32, or 64. */
  readonly bits: number
  readonly signed: boolean
  /** `char`, which is printed as a letter. */
  readonly char: boolean
  /** The names of an enumeration class are no numbers by themselves. */
  readonly scope?: string
}

export interface PointerType {
  readonly is: 'pointer'
  readonly to: Type
}

export interface FunctionType {
  readonly is: 'function'
  readonly returns: Type
  readonly params: readonly Parameter[]
}

export interface Parameter {
  readonly name: string
  readonly type: Type
  readonly byReference: boolean
  readonly otherwise: Expr | undefined
}

export interface Field {
  readonly name: string
  readonly type: Type
  readonly value: Expr | undefined
  readonly args: readonly Expr[] | undefined
  readonly byReference: boolean
}

/** A struct or class; its fields begin with those of its base. */
export interface StructType {
  readonly name: string
  readonly base: StructType | undefined
  readonly fields: Field[]
  readonly methods: Map<string, FunctionInfo[]>
  readonly constructors: FunctionInfo[]
  /** Its fields lie over one another. */
  isUnion: boolean
  /** No room is left between its fields. */
  isPacked: boolean
  /** Names of what is static: `Lamp::count`. */
  readonly statics: Map<string, string>
  /** Type names made inside it. */
  readonly scope: string
  complete: boolean
}

export const VOID: Type = { is: 'void' }
export const BOOL: Type = { is: 'bool' }
export const STRING: Type = { is: 'string' }
export const NULL: Type = { is: 'null' }
export const LIST: Type = { is: 'list' }

export const intType = (bits: number, signed: boolean, char = false): IntType => ({ is: 'int', bits, signed, char })
export const pointerTo = (to: Type): PointerType => ({ is: 'pointer', to })

/** Widths of a platform, in bits; whether a plain `char` has a sign. */
export interface Widths {
  readonly int: 16 | 32
  readonly double: 32 | 64
  readonly pointer: 16 | 32 | 64
  readonly charSigned: boolean
}

/** Types of the language and of `<stdint.h>`, by name. */
export function basicTypes(widths: Widths): ReadonlyMap<string, Type> {
  const { int, double } = widths
  const float = (bits: 32 | 64): Type => ({ is: 'float', bits })
  return new Map<string, Type>([
    ['void', VOID],
    ['bool', BOOL],
    ['boolean', BOOL],
    ['char', intType(8, widths.charSigned, true)],
    ['signed char', intType(8, true)],
    ['unsigned char', intType(8, false)],
    ['byte', intType(8, false)],
    ['short', intType(16, true)],
    ['unsigned short', intType(16, false)],
    ['word', intType(int === 16 ? 16 : 32, false)],
    ['int', intType(int, true)],
    ['unsigned int', intType(int, false)],
    ['signed int', intType(int, true)],
    ['uint', intType(int, false)],
    ['long', intType(32, true)],
    ['unsigned long', intType(32, false)],
    ['long long', intType(64, true)],
    ['unsigned long long', intType(64, false)],
    ['float', float(32)],
    ['double', float(double)],
    ['long double', float(double)],
    ['size_t', intType(widths.pointer === 16 ? 16 : 32, false)],
    ['ssize_t', intType(widths.pointer === 16 ? 16 : 32, true)],
    ['ptrdiff_t', intType(widths.pointer === 16 ? 16 : 32, true)],
    ['uintptr_t', intType(widths.pointer === 16 ? 16 : 32, false)],
    ['wchar_t', intType(int, true)],
    ['String', STRING],
    ...[8, 16, 32, 64].flatMap((bits): [string, Type][] => [
      [`int${bits}_t`, intType(bits, true)],
      [`uint${bits}_t`, intType(bits, false)],
      [`int_fast${bits}_t`, intType(bits, true)],
      [`uint_fast${bits}_t`, intType(bits, false)],
      [`int_least${bits}_t`, intType(bits, true)],
      [`uint_least${bits}_t`, intType(bits, false)],
    ]),
  ])
}

export function sameType(a: Type, b: Type): boolean {
  if (a.is !== b.is) return false
  switch (a.is) {
    case 'int': {
      const other = b as IntType
      return a.bits === other.bits && a.signed === other.signed && a.char === other.char && a.scope === other.scope
    }
    case 'float':
      return a.bits === (b as typeof a).bits
    case 'pointer':
      return sameType(a.to, (b as PointerType).to)
    case 'array':
      return a.length === (b as typeof a).length && sameType(a.of, (b as typeof a).of)
    case 'struct':
      return a.struct === (b as typeof a).struct
    case 'native':
      return a.name === (b as typeof a).name
    case 'function': {
      const other = b as FunctionType
      return (
        sameType(a.returns, other.returns) &&
        a.params.length === other.params.length &&
        a.params.every((one, at) => sameType(one.type, other.params[at]!.type))
      )
    }
    default:
      return true
  }
}

/** A type as a person writes it. */
export function typeWords(type: Type): string {
  switch (type.is) {
    case 'int':
      if (type.scope !== undefined) return type.scope
      return type.char ? 'char' : `${type.signed ? '' : 'u'}int${type.bits}_t`
    case 'float':
      return type.bits === 32 ? 'float' : 'double'
    case 'pointer':
      return `${typeWords(type.to)}*`
    case 'array':
      return `${typeWords(type.of)}[${type.length}]`
    case 'struct':
      return type.struct.name
    case 'function':
      return 'a function'
    case 'string':
      return 'String'
    case 'native':
      return type.name
    case 'null':
      return 'nullptr'
    case 'list':
      return 'a list'
    default:
      return type.is
  }
}

/** Bytes that a value takes on the platform. */
export function sizeOf(type: Type, widths: Widths): number {
  switch (type.is) {
    case 'bool':
      return 1
    case 'int':
      return Math.max(1, type.bits / 8)
    case 'float':
      return type.bits / 8
    case 'pointer':
    case 'function':
    case 'null':
      return widths.pointer / 8
    case 'array':
      return type.length * sizeOf(type.of, widths)
    case 'struct': {
      // Each field at a multiple of its own size, on platforms that ask for it.
      let size = 0
      let most = 1
      for (const field of type.struct.fields) {
        const own = sizeOf(field.type, widths)
        const step = type.struct.isPacked ? 1 : stepOf(field.type, widths)
        most = Math.max(most, step)
        size = type.struct.isUnion ? Math.max(size, own) : Math.ceil(size / step) * step + own
      }
      return Math.max(1, Math.ceil(size / most) * most)
    }
    case 'string':
      return widths.int === 16 ? 6 : 16
    default:
      return 1
  }
}

/** Bytes of which the address of a field is a multiple: those of the field itself, and one on boards of eight bits. */
export const stepOf = (type: Type, widths: Widths): number =>
  widths.int === 16 ? 1 : Math.min(8, alignOf(type, widths))

function alignOf(type: Type, widths: Widths): number {
  if (type.is === 'array') return alignOf(type.of, widths)
  if (type.is === 'struct')
    return type.struct.isPacked ? 1 : Math.max(1, ...type.struct.fields.map((field) => alignOf(field.type, widths)))
  return sizeOf(type, widths)
}
