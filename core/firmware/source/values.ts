import type { At, Param, Stmt } from './ir.ts'

/** What an expression comes to, as far as it can be followed without running the program. */
export type Value =
  | { readonly is: 'number'; readonly number: number; readonly hex: boolean; readonly via: Via }
  | { readonly is: 'text'; readonly text: string; readonly via: Via }
  | { readonly is: 'list'; readonly items: readonly Value[]; readonly via: Via }
  | { readonly is: 'map'; readonly entries: ReadonlyMap<string, Value>; readonly via: Via }
  /** A name that the program does not define: of the platform or a library, such as `A0`, `board.GP2`, `machine.Pin`. */
  | { readonly is: 'symbol'; readonly path: string; readonly via: Via }
  | { readonly is: 'object'; readonly made: Made; readonly via: Via }
  | { readonly is: 'function'; readonly made: FunctionValue; readonly self: Made | undefined; readonly via: Via }
  | { readonly is: 'class'; readonly made: ClassValue; readonly via: Via }
  /** One of several, by a branch that cannot be followed. */
  | { readonly is: 'either'; readonly options: readonly Value[]; readonly via: Via }
  | { readonly is: 'unknown'; readonly why: string; readonly via: Via }

/** Names through which a value came, the one it was given first at first: `RED_PIN`, `lamps[2]`, `pin`. */
export type Via = readonly string[]

export interface FunctionValue {
  readonly name: string
  readonly params: readonly Param[]
  readonly body: readonly Stmt[]
  readonly at: At
  /** Names that it sees from outside. */
  readonly scope: Scope
}

export interface ClassValue {
  readonly name: string
  readonly bases: readonly string[]
  readonly body: readonly Stmt[]
  readonly scope: Scope
  /** Members that belong to the class itself. */
  readonly statics: Map<string, Value>
}

/** An object that the program makes. */
export interface Made {
  /** Its class, as a path of the platform or the name of a class of the program. */
  readonly of: string
  readonly args: readonly GivenValue[]
  readonly at: At
  readonly fields: Map<string, Value>
  readonly own: ClassValue | undefined
  /** First name that it was given. */
  name: string | undefined
}

export interface GivenValue {
  readonly name: string | undefined
  readonly value: Value
  readonly at: At
}

/** A call of something that the program does not define itself. */
export interface Call {
  /** `digitalWrite`, `machine.Pin`, `Wire.begin`; for a method of an object its class and its name. */
  readonly path: string
  /** The object of which a method is called. */
  readonly of: Made | undefined
  /** Names of what a method is called of, where that is a thing of the platform. */
  readonly via: Via
  readonly args: readonly GivenValue[]
  readonly at: At
  /** Objects in whose methods it stands, the outermost first. */
  readonly within: readonly Made[]
  /** What the call makes, where it makes an object. */
  readonly made: Made | undefined
}

/** A name that the program gives a value that does not change. */
export interface Declared {
  readonly name: string
  readonly value: Value
  readonly at: At
}

export class Scope {
  readonly #outer: Scope | undefined
  readonly #names = new Map<string, Value>()
  readonly #globals = new Set<string>()
  /** Object whose fields are seen by their bare names, as in a method of C++. */
  readonly #self: Made | undefined

  constructor(outer?: Scope, self?: Made) {
    this.#outer = outer
    this.#self = self
  }

  get(name: string): Value | undefined {
    return this.#names.get(name) ?? this.#self?.fields.get(name) ?? this.#outer?.get(name)
  }

  /** The nearest object in whose method this is. */
  get self(): Made | undefined {
    return this.#self ?? this.#outer?.self
  }

  get file(): Scope {
    return this.#outer?.file ?? this
  }

  declare(name: string, value: Value): void {
    if (this.#globals.has(name)) this.file.declare(name, value)
    else this.#names.set(name, value)
  }

  global(name: string): void {
    this.#globals.add(name)
  }

  /** Gives a name that is known somewhere another value; here where it is known nowhere. */
  set(name: string, value: Value): void {
    const at = this.#holder(name)
    if (!at) this.declare(name, value)
    else if (at instanceof Scope) at.#names.set(name, value)
    else at.fields.set(name, value)
  }

  #holder(name: string): Scope | Made | undefined {
    if (this.#names.has(name)) return this
    if (this.#self?.fields.has(name)) return this.#self
    const outer = this.#outer
    return outer ? outer.#holder(name) : undefined
  }

  names(): ReadonlyMap<string, Value> {
    return this.#names
  }
}
