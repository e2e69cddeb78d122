import type { Code } from './code.ts'
import type { Machine } from './machine.ts'
import type { FunctionInfo, Library, Refusal } from './program.ts'
import type { FunctionScope } from './scope.ts'
import { type Expr, type FunctionNode, isExpr, type StructNode, type TypeNode } from './syntax.ts'
import { SourceError } from './tokens.ts'
import { basicTypes, type Parameter, pointerTo, type StructType, type Type, typeWords, VOID } from './types.ts'

const LISTS: ReadonlySet<string> = new Set(['std::initializer_list', 'initializer_list'])

/** A type, and whether what has it stands for something that lies elsewhere. */
export interface Resolved {
  readonly type: Type
  readonly byReference: boolean
}

/** Finds what types of a program mean; makes those of templates when they are asked for. */
export abstract class TypeResolver {
  readonly machine: Machine
  readonly library: Library
  readonly refusals: Refusal[] = []
  /** Classes that nobody has described, by name, where they were first used. */
  readonly unknown = new Map<string, number>()
  protected readonly basic: ReadonlyMap<string, Type>
  protected readonly types = new Map<string, Type>()
  protected readonly functions = new Map<string, FunctionInfo[]>()
  protected readonly templates = new Map<string, FunctionNode[]>()
  /** Methods of classes that leave types open, by class and name. */
  protected readonly methodTemplates = new Map<StructType, Map<string, FunctionNode[]>>()
  protected readonly structTemplates = new Map<string, StructNode>()

  constructor(machine: Machine, library: Library) {
    this.machine = machine
    this.library = library
    this.basic = basicTypes(library.widths)
  }

  protected abstract expression(node: Expr, scope: FunctionScope): Code
  /** Fields and methods of a struct that has its name. */
  protected abstract completeStruct(type: StructType, node: StructNode): void

  protected fail(message: string, at: number): never {
    throw new SourceError(message, at)
  }

  protected resolve(node: TypeNode, scope: FunctionScope, at: number): Resolved {
    if (node.t === 'reference') return { type: this.type(node.to, scope, at), byReference: true }
    // The list itself is handed on, however long it is.
    if (node.t === 'name' && LISTS.has(node.name)) return { type: this.type(node, scope, at), byReference: true }
    return { type: this.type(node, scope, at), byReference: false }
  }

  protected type(node: TypeNode, scope: FunctionScope, at: number): Type {
    switch (node.t) {
      case 'name':
        return node.inner === undefined
          ? this.#named(node.name, node.args, scope, at)
          : this.#inner(this.#named(node.name, node.args, scope, at), node.inner, at)
      case 'pointer': {
        const to = this.type(node.to, scope, at)
        return to.is === 'function' ? to : pointerTo(to)
      }
      case 'reference':
        return this.type(node.to, scope, at)
      case 'array': {
        const of = this.type(node.of, scope, at)
        const length = node.length === undefined ? -1 : this.number(node.length, scope)
        return { is: 'array', of, length }
      }
      case 'function':
        return {
          is: 'function',
          returns: this.type(node.returns, scope, at),
          params: this.params(node.params, scope, at),
        }
      case 'auto':
        return this.fail('auto has nothing here that says its type', at)
    }
  }

  protected params(params: FunctionNode['params'], scope: FunctionScope, at: number): Parameter[] {
    return params.map(({ name, type: node, otherwise }) => {
      const { type, byReference } = this.resolve(node, scope, at)
      // An array as a parameter is a pointer to its first element.
      return { name, type: type.is === 'array' && !byReference ? pointerTo(type.of) : type, byReference, otherwise }
    })
  }

  /** A number that is known before the program runs, such as the length of an array. */
  protected number(node: Expr, scope: FunctionScope): number {
    const { known } = this.expression(node, scope)
    if (typeof known !== 'number' && typeof known !== 'bigint')
      return this.fail('expected a number that is known before the program runs', node.at)
    return Number(known)
  }

  #named(name: string, args: readonly (TypeNode | Expr)[] | undefined, scope: FunctionScope, at: number): Type {
    const found = this.typeNamed(name, scope)
    if (found && !args) return found
    if (args) {
      const made = this.#fromTemplate(name, args, scope, at)
      if (made) return made
    }
    if (name === '') return VOID
    if (this.library.classes.has(name)) return { is: 'native', name }
    if (!this.unknown.has(name)) this.unknown.set(name, at)
    return { is: 'native', name }
  }

  /** A type that a class names inside of it, or one that it builds on. */
  #inner(of: Type, name: string, at: number): Type {
    for (let one = of.is === 'struct' ? of.struct : undefined; one; one = one.base) {
      const found = this.types.get(`${one.scope}::${name}`)
      if (found) return found
    }
    return this.fail(`${typeWords(of)} has no type ${name}`, at)
  }

  /** A type by its name: of the block, of the class and those around it, of the program, of the platform. */
  protected typeNamed(name: string, scope: FunctionScope): Type | undefined {
    const local = scope.type(name)
    if (local) return local
    for (let self = scope.self; self; self = self.base) {
      const inner = this.types.get(`${self.scope}::${name}`)
      if (inner) return inner
    }
    const bare = name.replace(/^std::/, '')
    return (
      this.types.get(name) ??
      this.library.types.get(name) ??
      this.basic.get(name) ??
      this.types.get(bare) ??
      this.basic.get(bare) ??
      this.#inNamespace(name)
    )
  }

  /** `shed::Lamp`: a type of a namespace is known by its last name, one inside a class is not. */
  #inNamespace(name: string): Type | undefined {
    const cut = name.lastIndexOf('::')
    if (cut < 0 || this.types.has(name.slice(0, cut))) return undefined
    return this.types.get(name.slice(cut + 2))
  }

  #fromTemplate(name: string, args: readonly (TypeNode | Expr)[], scope: FunctionScope, at: number): Type | undefined {
    const typeAt = (index: number): Type => {
      const arg = args[index]
      if (arg === undefined || isExpr(arg)) return this.fail(`expected a type as argument ${index + 1} of ${name}`, at)
      return this.type(arg, scope, at)
    }
    if (name === 'std::array' && args[1]) {
      const length = args[1]
      return {
        is: 'array',
        of: typeAt(0),
        length: isExpr(length) ? this.number(length, scope) : this.fail('expected a number', at),
      }
    }
    if (name === 'std::function') return typeAt(0)
    if (LISTS.has(name)) return { is: 'array', of: typeAt(0), length: -1 }
    // Of a namespace a template is known by its last name, as a type is.
    const node = this.structTemplates.get(name) ?? this.structTemplates.get(name.slice(name.lastIndexOf('::') + 2))
    if (!node) return undefined
    const values = node.open.map((one, index): Type | number => {
      const arg = args[index] ?? one.otherwise
      if (arg === undefined) return this.fail(`${name} needs ${node.open.length} arguments`, at)
      if (one.isType) return isExpr(arg) ? this.fail(`expected a type for ${one.name}`, at) : this.type(arg, scope, at)
      // A number may have been read as the name of a type.
      const value: Expr = isExpr(arg) ? arg : { e: 'name', name: arg.t === 'name' ? arg.name : '', at }
      return this.number(value, scope)
    })
    const key = `${name}<${values.map((one) => (typeof one === 'number' ? one : typeWords(one))).join(', ')}>`
    const known = this.types.get(key)
    if (known) return known
    const type = this.newStruct(key)
    node.open.forEach((one, index) => {
      const value = values[index]!
      if (typeof value === 'number') this.constants.set(`${key}::${one.name}`, { type: this.basic.get('int')!, value })
      else this.types.set(`${key}::${one.name}`, value)
    })
    this.types.set(`${key}::${name}`, { is: 'struct', struct: type })
    this.completeStruct(type, node)
    return { is: 'struct', struct: type }
  }

  protected readonly constants = new Map<string, { readonly type: Type; readonly value: unknown }>()

  protected newStruct(name: string): StructType {
    const struct: StructType = {
      name,
      base: undefined,
      fields: [],
      methods: new Map(),
      constructors: [],
      isUnion: false,
      isPacked: false,
      statics: new Map(),
      scope: name,
      complete: false,
    }
    this.types.set(name, { is: 'struct', struct })
    return struct
  }
}
