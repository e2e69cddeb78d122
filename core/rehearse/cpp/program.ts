import type { Register } from './code.ts'
import type { FunctionNode } from './syntax.ts'
import type { Parameter, StructType, Type, Widths } from './types.ts'
import type { Callable, Frame, Value } from './values.ts'

/** How a statement ended: it went on, or asked for something of what is around it. */
export const GO = 0
export const BREAK = 1
export const AGAIN = 2
export const RETURN = 3
export type Exec = (frame: Frame) => number

/** A function of the program, compiled when all is known that it may call. */
export interface FunctionInfo {
  readonly name: string
  readonly node: FunctionNode
  readonly params: readonly Parameter[]
  readonly owner: StructType | undefined
  readonly isStatic: boolean
  /** Found by what the object is, not by what it was called. */
  isVirtual: boolean
  returns: Type | undefined
  returnsReference: boolean
  /** Places of a call: the object, the arguments, then what is declared inside. */
  size: number
  run: Exec
  value: Callable | undefined
}

/** A function that the platform or a driver gives. */
export interface NativeFunction<Self = undefined> {
  readonly returns: Type | ((types: readonly Type[]) => Type)
  /**
   * Types that arguments are turned into, `place` for one that is written to, `shown` for one of which people read
   * something; what is beyond the list stays as it is.
   */
  readonly params?: readonly (Type | 'any' | 'place' | 'shown')[]
  /** Fewest and most arguments; as many as params where left out. */
  readonly least?: number
  readonly most?: number
  readonly run: (self: Self, args: readonly Value[], types: readonly Type[], at: number) => Value
  /** It reads and reckons, and tells the machine where it does more than that. */
  readonly reads?: boolean
  /** What a task that calls it waits for before it is run. */
  readonly waits?: (args: readonly Value[]) => Wait
}

/** A task lets others run: for so many microseconds, or until something is ready if that comes before. */
export interface Wait {
  readonly microseconds: number
  readonly ready?: (() => boolean) | undefined
}

/** A function that can be held at its waits and go on later. */
export type Flow = (frame: Frame) => Generator<Wait, number, void>

export interface NativeClass {
  /** Makes one; its arguments are turned into params where given. */
  readonly params?: readonly (Type | 'any')[]
  readonly make: (args: readonly Value[], types: readonly Type[], at: number) => object
  readonly methods: Readonly<Record<string, NativeFunction<never>>>
  /** What `[…]` reads and writes. */
  readonly element?: {
    readonly type: Type
    readonly get: (self: never, index: number, at: number) => Value
    readonly set: (self: never, index: number, value: Value, at: number) => void
  }
}

/** What a program may use without making it itself. */
export interface Library {
  readonly widths: Widths
  /** Macros that the platform defines, as written. */
  readonly macros: Readonly<Record<string, string>>
  readonly types: ReadonlyMap<string, Type>
  readonly constants: ReadonlyMap<string, { readonly type: Type; readonly value: Value }>
  /** Registers of the chip. */
  readonly registers: ReadonlyMap<string, Register>
  readonly functions: ReadonlyMap<string, NativeFunction>
  readonly classes: ReadonlyMap<string, NativeClass>
  /** What a call of a class that nobody has described gives, by its name: `Foo.reading`. */
  readonly asked: (name: string) => () => number
  /** Things that are there by themselves: `Serial`, `Wire`. */
  readonly objects: ReadonlyMap<string, { readonly of: string; readonly value: object }>
  /** So many waits of a statement are over: what is called next does not wait once more. */
  readonly waited?: ((count: number) => void) | undefined
}

/** Something that is not understood: which line, and why. */
export interface Refusal {
  readonly at: number
  readonly message: string
}
