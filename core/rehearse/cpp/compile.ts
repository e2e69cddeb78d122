import { isNumber } from './arithmetic.ts'
import { isPlain } from './bytes.ts'
import type { Code } from './code.ts'
import { deduced } from './deduced.ts'
import { Flows } from './flows.ts'
import type { Machine } from './machine.ts'
import { bareName } from './objects.ts'
import { parseCpp } from './parser.ts'
import { preprocess, type SourceFile } from './preprocess.ts'
import type { FunctionInfo, Library, Refusal } from './program.ts'
import { FunctionScope } from './scope.ts'
import type { Expr, FunctionNode, Item, StructNode, TypeNode, Variable } from './syntax.ts'
import { SourceError } from './tokens.ts'
import { intType, type StructType, type Type, typeWords } from './types.ts'
import type { Value } from './values.ts'

/** A program that is ready to run. */
export interface Compiled {
  /** What is not understood, each with its line; the rest runs. */
  readonly refusals: readonly Refusal[]
  /** Classes that nobody has described, and where they are first used. */
  readonly unknown: ReadonlyMap<string, number>
  /** Headers that are none of the program's own. */
  readonly headers: readonly { readonly name: string; readonly at: number }[]
  /** Gives every variable outside of functions what it begins with. */
  readonly begin: () => void
  /** A function without arguments, to be called; undefined where there is none. */
  readonly entry: (name: string) => (() => void) | undefined
}

/**
 * Compiles a program of one or more files to closures that run on a machine.
 * @throws SourceError for a text whose syntax cannot be read: then nothing of it can run.
 */
export function compileCpp(files: readonly SourceFile[], library: Library, machine: Machine): Compiled {
  const { tokens, headers } = preprocess(files, library.macros)
  const types = new Set([...library.types.keys(), ...library.classes.keys()])
  const compiler = new Compiler(machine, library, types)
  const items = parseCpp(tokens, compiler.typeNames)
  return { ...compiler.compile(items), headers }
}

interface Pending {
  readonly info: FunctionInfo
  readonly self: StructType | undefined
  readonly space: string
}

class Compiler extends Flows {
  protected override readonly outside = new FunctionScope(undefined)
  readonly typeNames: ReadonlySet<string>
  readonly #pending: Pending[] = []
  readonly #begins: ((f: Value[]) => void)[] = []
  readonly #structNodes = new Map<StructType, StructNode>()
  readonly #made = new Map<string, FunctionInfo>()
  /** Names of variables that are those of a namespace, as long as nothing outside is called so. */
  readonly #lent = new Set<string>()

  constructor(machine: Machine, library: Library, types: ReadonlySet<string>) {
    super(machine, library)
    this.typeNames = new Set([...types, ...this.basic.keys()].filter((name) => !name.includes(' ')))
  }

  compile(items: readonly Item[]): Omit<Compiled, 'headers'> {
    this.#types(items)
    this.#guarded(items, (item) => this.#members(item))
    this.#guarded(items, (item) => this.#functions(item, ''))
    this.#guarded(items, (item) => this.#variables(item, ''))
    this.#drain()
    return {
      refusals: this.refusals,
      unknown: this.unknown,
      begin: () => {
        for (const begin of this.#begins) begin([])
      },
      entry: (name) => {
        const info = this.functions.get(name)?.find(({ params, node }) => params.length === 0 && node.body)
        return info && (() => void this.run(info, undefined, []))
      },
    }
  }

  /** Does something with each item; what one of them is refused for is said, and the others go on. */
  #guarded(items: readonly Item[], work: (item: Item) => void): void {
    for (const item of items) {
      try {
        work(item)
      } catch (error) {
        if (!(error instanceof SourceError)) throw error
        this.refusals.push({ at: error.at, message: error.message })
      }
    }
  }

  #types(items: readonly Item[]): void {
    this.#guarded(items, (item) => {
      if (item.i === 'struct') {
        if (item.struct.open.length > 0) this.structTemplates.set(item.struct.name, item.struct)
        else this.#structNodes.set(this.newStruct(item.struct.name), item.struct)
      } else if (item.i === 'namespace') this.#types(item.items)
    })
    // Names of types may stand for one another, in the order in which they are written.
    this.#guarded(items, (item) => this.#named(item, this.outside, ''))
  }

  #named(item: Item, scope: FunctionScope, owner: string): void {
    const prefix = owner === '' ? '' : `${owner}::`
    if (item.i === 'enum') this.#enum(item, scope, prefix)
    if (item.i === 'alias') {
      const type = this.type(item.type, scope, item.at)
      if (owner === '' && scope !== this.outside) scope.nameType(item.name, type)
      else this.types.set(`${prefix}${item.name}`, type)
    }
    // A number that lengths of arrays are made of.
    if (item.i === 'variables' && owner === '')
      for (const one of item.variables) if (one.isConst && one.value) this.#constant(one, scope)
  }

  #constant(one: Variable, scope: FunctionScope): void {
    if (one.type.t !== 'name') return
    try {
      const type = this.type(one.type, scope, one.at)
      if (!isNumber(type)) return
      const code = this.coerce(this.expression(one.value!, scope), type, one.at, scope)
      if (code.known !== undefined) this.constants.set(one.name, { type, value: code.known })
    } catch (error) {
      // It is no constant yet; as a variable it is looked at again, and refused there if need be.
      if (!(error instanceof SourceError)) throw error
    }
  }

  #enum(item: Item & { i: 'enum' }, scope: FunctionScope, prefix: string): void {
    const base = item.base ? this.type(item.base, scope, item.at) : intType(this.library.widths.int, true)
    const { bits, signed } = base.is === 'int' ? base : intType(8, false)
    const type: Type = { is: 'int', bits, signed, char: false, ...(item.scoped ? { scope: item.name } : {}) }
    const isLocal = scope !== this.outside && prefix === ''
    if (isLocal) scope.nameType(item.name, type)
    this.types.set(`${prefix}${item.name}`, type)
    let next = 0n
    for (const { name, value } of item.values) {
      if (value) next = BigInt(this.number(value, scope))
      const known = { type, value: bits > 32 ? next : Number(next) }
      if (!item.scoped) this.constants.set(`${prefix}${name}`, known)
      this.constants.set(`${prefix}${item.name}::${name}`, known)
      next += 1n
    }
  }

  #members(item: Item): void {
    if (item.i === 'namespace') this.#guarded(item.items, (one) => this.#members(one))
    if (item.i !== 'struct' || item.struct.open.length > 0) return
    const type = this.types.get(item.struct.name)
    if (type?.is === 'struct') this.completeStruct(type.struct, item.struct)
  }

  protected override completeStruct(struct: StructType, node: StructNode): void {
    if (struct.complete) return
    struct.complete = true
    const scope = new FunctionScope(struct)
    for (const item of node.types) {
      if (item.i === 'struct') {
        const inner = this.newStruct(`${struct.scope}::${item.struct.name}`)
        this.types.set(item.struct.name, { is: 'struct', struct: inner })
        this.completeStruct(inner, item.struct)
      } else this.#named(item, scope, struct.scope)
    }
    if (node.base) this.#inherit(struct, node.base, scope, node.at)
    for (const field of node.fields) this.#field(struct, field, scope)
    for (const method of node.methods) this.#addMethod(struct, method, scope)
    struct.isUnion = node.isUnion
    struct.isPacked = node.isPacked
    const strange = node.isUnion && struct.fields.find(({ type, byReference }) => byReference || !isPlain(type))
    if (strange)
      this.fail(
        `${strange.name} of ${node.name} is ${typeWords(strange.type)}, which in a union is not understood`,
        node.at,
      )
  }

  #inherit(struct: StructType, base: TypeNode, scope: FunctionScope, at: number): void {
    const type = this.type(base, scope, at)
    if (type.is !== 'struct') this.fail(`${struct.name} builds on ${typeWords(type)}, which is not understood`, at)
    const { struct: parent } = type as Type & { is: 'struct' }
    const node = this.#structNodes.get(parent)
    if (node) this.completeStruct(parent, node)
    ;(struct as { base: StructType | undefined }).base = parent
    struct.fields.push(...parent.fields)
  }

  #field(struct: StructType, field: Variable & { bits?: Expr | undefined }, scope: FunctionScope): void {
    const { name, at } = field
    if (field.isStatic) {
      const type = this.type(field.type, scope, at)
      if (field.value && field.isConst && isNumber(type)) {
        const { known } = this.coerce(this.expression(field.value, scope), type, at, scope)
        if (known !== undefined) {
          this.constants.set(`${struct.scope}::${name}`, { type, value: known })
          return
        }
      }
      this.#global(`${struct.scope}::${name}`, field, scope)
      struct.statics.set(name, `${struct.scope}::${name}`)
      return
    }
    const { type: said, byReference } = this.resolve(field.type, scope, at)
    let type = said
    if (type.is === 'array' && type.length < 0) this.fail(`the length of ${name} is missing`, at)
    if (field.bits && type.is === 'int') type = { ...type, bits: this.number(field.bits, scope) }
    if (type.is === 'struct' && !type.struct.complete) {
      const node = this.#structNodes.get(type.struct)
      if (node) this.completeStruct(type.struct, node)
    }
    struct.fields.push({ name, type, value: field.value, args: field.args, byReference })
  }

  #addMethod(struct: StructType, node: FunctionNode, scope: FunctionScope): void {
    if (node.open.length > 0) {
      const own = this.methodTemplates.get(struct) ?? new Map<string, FunctionNode[]>()
      this.methodTemplates.set(struct, own.set(node.name, [...(own.get(node.name) ?? []), node]))
      return
    }
    if (node.name.startsWith('~')) {
      this.#destructor(struct, node)
      return
    }
    const info = this.#info(node, struct, scope)
    if (node.name === bareName(struct.name)) {
      struct.constructors.push(info)
      info.returns = { is: 'void' }
    } else {
      for (let one = struct.base; one; one = one.base)
        if (
          one.methods.get(node.name)?.some(({ isVirtual, params }) => isVirtual && params.length === info.params.length)
        )
          info.isVirtual = true
      struct.methods.set(node.name, [...(struct.methods.get(node.name) ?? []), info])
    }
    if (node.body) this.#later(info, struct)
  }

  #info(node: FunctionNode, owner: StructType | undefined, scope: FunctionScope): FunctionInfo {
    const info = this.functionInfo(node, this.params(node.params, scope, node.at), owner)
    if (node.returns.t !== 'auto') {
      const { type, byReference } = this.resolve(node.returns, scope, node.at)
      info.returns = type
      info.returnsReference = byReference
    }
    return info
  }

  #later(info: FunctionInfo, self: StructType | undefined, space = ''): void {
    this.#pending.push({ info, self, space })
  }

  #drain(): void {
    for (let next = this.#pending.shift(); next; next = this.#pending.shift()) {
      const { info, self, space } = next
      const scope = new FunctionScope(self)
      scope.space = space
      try {
        this.compileBody(info, scope)
      } catch (error) {
        if (!(error instanceof SourceError)) throw error
        this.refusals.push({ at: error.at, message: error.message })
      }
    }
  }

  #functions(item: Item, prefix: string): void {
    if (item.i === 'namespace') this.#guarded(item.items, (one) => this.#functions(one, `${prefix}${item.name}::`))
    if (item.i !== 'function') return
    const { function: node } = item
    const cut = node.name.lastIndexOf('::')
    if (cut > 0) {
      const owner = this.types.get(node.name.slice(0, cut))
      if (owner?.is === 'struct') {
        this.#outsideMethod(owner.struct, { ...node, name: node.name.slice(cut + 2) })
        return
      }
    }
    if (node.open.length > 0) {
      this.templates.set(node.name, [...(this.templates.get(node.name) ?? []), node])
      return
    }
    const info = this.#info(node, undefined, this.outside)
    const all = this.functions.get(node.name) ?? []
    const before = all.find((one) => sameParams(one, info))
    if (before && !node.body) return
    // What was announced may say what is left out.
    const params = info.params.map((param, at) => ({
      ...param,
      otherwise: param.otherwise ?? before?.params[at]?.otherwise,
    }))
    const whole = { ...info, params }
    const bare = prefix === '' || !this.functions.has(node.name) ? [node.name] : []
    for (const name of new Set([...bare, `${prefix}${node.name}`])) {
      const known = this.functions.get(name) ?? []
      this.functions.set(name, [...known.filter((one) => one !== before), whole])
    }
    if (node.body) this.#later(whole, undefined, prefix)
  }

  /** What an object does when it goes is left out, and said where it does something. */
  #destructor(struct: StructType, { body, at }: FunctionNode): void {
    if (body?.s !== 'block' || body.body.length > 0)
      this.refusals.push({
        at,
        message: `what an object of ${bareName(struct.name)} does when it goes is not understood, and left out`,
      })
  }

  #outsideMethod(struct: StructType, node: FunctionNode): void {
    if (node.name.startsWith('~')) {
      this.#destructor(struct, node)
      return
    }
    const scope = new FunctionScope(struct)
    const info = this.#info(node, struct, scope)
    const all = node.name === bareName(struct.name) ? struct.constructors : (struct.methods.get(node.name) ?? [])
    const announced = all.find((one) => sameParams(one, info))
    if (!announced) this.fail(`${struct.name} announces no ${node.name} with these parameters`, node.at)
    const known = announced!
    ;(known as { node: FunctionNode }).node = { ...node, isStatic: known.isStatic }
    ;(known as { params: FunctionInfo['params'] }).params = info.params.map((param, at) => ({
      ...param,
      otherwise: param.otherwise ?? known.params[at]?.otherwise,
    }))
    this.#later(known, struct)
  }

  #variables(item: Item, prefix: string): void {
    if (item.i === 'namespace') this.#guarded(item.items, (one) => this.#variables(one, `${prefix}${item.name}::`))
    if (item.i !== 'variables') return
    for (const one of item.variables) {
      if (one.isExtern && !one.value) {
        if (!this.globals.has(one.name)) this.#global(one.name, { ...one, isExtern: false }, this.outside)
        continue
      }
      this.constants.delete(one.name)
      const name = `${prefix}${one.name}`
      // What a namespace has lent its name to gets one of its own.
      if (this.#lent.delete(name)) this.globals.delete(name)
      this.#global(name, one, this.outside)
      if (prefix !== '' && !this.globals.has(one.name)) {
        this.globals.set(one.name, this.globals.get(name)!)
        this.#lent.add(one.name)
      }
    }
  }

  /** A variable outside of functions. */
  #global(name: string, node: Variable, scope: FunctionScope): void {
    const { globals } = this.machine
    const { type: written, byReference } = this.typeOf(node, scope)
    if (byReference)
      this.fail(`${name} stands for something else, which outside of functions is not understood`, node.at)
    const before = this.globals.get(name)
    const slot = before?.slot ?? globals.length
    if (!before) globals.push(undefined)
    // Its own name is known while it begins: an object may hand itself on.
    this.globals.set(name, { where: 'global', slot, type: written, isReference: false })
    const { type, get, known } = this.beginning(written, node, scope, node.at)
    const isKnown = node.isConst && known !== undefined && isNumber(type)
    this.globals.set(name, { where: 'global', slot, type, isReference: false, ...(isKnown ? { known } : {}) })
    if (node.isLasting) this.machine.lasting.add(slot)
    this.#begins.push((f) => {
      if (node.isLasting && globals[slot] !== undefined) return
      this.machine.step(node.at)
      globals[slot] = get(f)
    })
  }

  protected override fromTemplate(
    name: string,
    given: readonly (Type | number)[],
    args: readonly Code[],
    self?: StructType,
  ): FunctionInfo | undefined {
    const nodes = self ? this.methodTemplates.get(self)?.get(name) : this.templates.get(name)
    for (const node of nodes ?? []) {
      const types = deduced(node, given, args)
      if (!types) continue
      const key = `${self?.scope ?? ''} ${name} ${node.at} ${[...types].map(([one, is]) => `${one}=${typeof is === 'number' ? is : typeWords(is)}`).join()}`
      let info = this.#made.get(key)
      if (!info) {
        info = this.#info(node, self, this.#scopeOf(types, self))
        this.#made.set(key, info)
        this.compileBody(info, this.#scopeOf(types, self))
      }
      return info
    }
    return self?.base && this.fromTemplate(name, given, args, self.base)
  }

  /** A scope in which what a template leaves open is known. */
  #scopeOf(open: ReadonlyMap<string, Type | number>, self?: StructType): FunctionScope {
    const scope = new FunctionScope(self)
    const type = this.basic.get('int')!
    for (const [name, is] of open)
      if (typeof is !== 'number') scope.nameType(name, is)
      else scope.name(name, { where: 'global', slot: -1, type, isReference: false, known: is })
    return scope
  }

  protected override localItem(item: Item, scope: FunctionScope): void {
    if (item.i === 'struct') {
      const struct = this.newStruct(item.struct.name)
      this.completeStruct(struct, item.struct)
      scope.nameType(item.struct.name, { is: 'struct', struct })
    } else this.#named(item, scope, '')
  }
}

const sameParams = (a: FunctionInfo, b: FunctionInfo): boolean =>
  a.params.length === b.params.length &&
  a.params.every((one, at) => typeWords(one.type) === typeWords(b.params[at]!.type))
