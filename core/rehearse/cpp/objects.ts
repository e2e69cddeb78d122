import { unionOf } from './bytes.ts'
import type { FunctionInfo } from './program.ts'
import { FunctionScope } from './scope.ts'
import { Statements } from './statements.ts'
import type { Expr } from './syntax.ts'
import { type Field, type StructType, sizeOf } from './types.ts'
import { copied, type Get, Struct, type Value } from './values.ts'

/** Compiles how objects begin: their fields, and what a constructor says before its body. */
export abstract class Objects extends Statements {
  readonly #blanks = new Map<StructType, Map<string, () => Struct>>()

  protected override blank(type: StructType, by?: FunctionInfo): () => Struct {
    let make: (() => Struct) | undefined
    // Its fields are all known only when the program has been read to its end.
    return () => {
      make ??= this.#blankFor(type, by)
      return make()
    }
  }

  #blankFor(type: StructType, by: FunctionInfo | undefined): () => Struct {
    const said = new Set(by?.node.first.map(({ name }) => name))
    // Objects that the constructor makes itself are not made before.
    const left = type.fields.map(({ name, type: of }) => of.is === 'struct' && said.has(name))
    const key = left.map(Number).join('')
    const all = this.#blanks.get(type) ?? new Map<string, () => Struct>()
    const known = all.get(key) ?? this.#blank(type, left)
    this.#blanks.set(type, all.set(key, known))
    return known
  }

  #blank(type: StructType, left: readonly boolean[]): () => Struct {
    const scope = new FunctionScope(type)
    const gets = type.fields.map((field, at): Get => {
      return left[at] ? this.empty(field.type, 0) : this.#fieldBegins(field, scope)
    })
    const { widths } = this.library
    const size = sizeOf({ is: 'struct', struct: type }, widths)
    return () => {
      const made = type.isUnion ? unionOf(type, widths, new Uint8Array(size)) : new Struct(type, new Array(gets.length))
      const frame = [made]
      // The last of a union's fields would hide the first.
      for (let at = 0; at < (type.isUnion ? 1 : gets.length); at += 1) made.f[at] = gets[at]!(frame)
      return made
    }
  }

  #fieldBegins(field: Field, scope: FunctionScope): Get {
    if (field.byReference) return () => null
    const at = 0
    if (field.value || field.args) return this.beginning(field.type, field, scope, field.value?.at ?? at).get
    const { type } = field
    // One that wants arguments gets them from the constructor that holds it.
    if (
      type.is === 'struct' &&
      !type.struct.constructors.some(({ params }) => params.every(({ otherwise }) => otherwise !== undefined))
    )
      return this.empty(type, at)
    return this.begun(type, at)
  }

  protected override firsts(info: FunctionInfo, scope: FunctionScope): ((f: Value[]) => void) | undefined {
    const { owner, node } = info
    if (!owner?.constructors.includes(info)) return undefined
    const steps: ((f: Value[]) => void)[] = []
    const said = new Set(node.first.map(({ name }) => name))
    if (owner.base && ![...said].some((name) => this.#isBaseName(owner, name)) && owner.base.constructors.length > 0)
      steps.push(this.#baseStep(owner.base, [], scope, node.at))
    for (const { name, args } of node.first) {
      if (this.#isBaseName(owner, name)) {
        if (name === bareName(owner.name)) steps.push(this.#baseStep(owner, args, scope, node.at))
        else steps.push(this.#baseStep(owner.base!, args, scope, node.at))
        continue
      }
      const index = owner.fields.findIndex((field) => field.name === name)
      const field = owner.fields[index] ?? this.fail(`${owner.name} has no field ${name}`, node.at)
      if (field.byReference) {
        const code = args[0]
          ? this.expression(args[0], scope)
          : this.fail(`${name} stands for something else and does not say for what`, node.at)
        const ptr = code.place?.ptr ?? ((f: Value[]) => ({ base: [code.get(f)], at: 0 }))
        steps.push((f) => {
          f[0].f[index] = ptr(f)
        })
        continue
      }
      const { get } = this.beginning(
        field.type,
        args.length === 0 ? { value: undefined, args: undefined } : { value: undefined, args },
        scope,
        node.at,
      )
      steps.push((f) => {
        f[0].f[index] = copied(get(f))
      })
    }
    return steps.length === 0
      ? undefined
      : (f) => {
          for (const step of steps) step(f)
        }
  }

  #isBaseName(owner: StructType, name: string): boolean {
    return name === bareName(owner.name) || (owner.base !== undefined && name === bareName(owner.base.name))
  }

  /** The constructor of what a class builds on, run on the same object. */
  #baseStep(base: StructType, args: readonly Expr[], scope: FunctionScope, at: number): (f: Value[]) => void {
    const codes = args.map((one) => this.expression(one, scope))
    const info = base.constructors.find(
      ({ params }) => codes.length <= params.length && params.slice(codes.length).every(({ otherwise }) => otherwise),
    )
    if (!info)
      return args.length === 0 ? () => undefined : this.fail(`${base.name} is not made of ${args.length} arguments`, at)
    const gets = this.argumentsFor(info.params, args, codes, scope, at)
    return (f) => {
      this.run(
        info,
        f[0],
        gets.map((get) => get(f)),
        at,
      )
    }
  }
}

/** The name of a class without what it lies in and what it is made for. */
export const bareName = (name: string): string => name.replace(/<.*$/, '').replace(/^.*::/, '')
