import { isNumber } from './arithmetic.ts'
import { Calls, wordsOf } from './calls.ts'
import type { Code } from './code.ts'
import { fittest, isBase } from './overloads.ts'
import { type FunctionInfo, GO } from './program.ts'
import { FunctionScope } from './scope.ts'
import { printedText } from './strings.ts'
import type { Expr, FunctionNode } from './syntax.ts'
import { type Parameter, type StructType, sameType, type Type, VOID } from './types.ts'
import { Callable, type Frame, type Get, type Value } from './values.ts'

/** Calls that are not written as such: operators, conversions and constructors of a class; and lambdas. */
export abstract class OwnCalls extends Calls {
  protected override operatorCall(
    op: string,
    a: Code,
    b: Expr | undefined,
    scope: FunctionScope,
    at: number,
  ): Code | undefined {
    const name = `operator${op}`
    const right = b ? [b] : []
    const codes = right.map((one) => this.expression(one, scope))
    if (a.type.is === 'struct') {
      const own = this.methodOf(a.type.struct, name, codes)
      if (own) return this.invoke(own, a.get, right, codes, scope, at)
    }
    const free = this.functions.get(name)
    const chosen = free && fittest(free, [a, ...codes], this.library.widths.int)
    if (!chosen) return undefined
    const here: Expr = { e: 'null', at }
    return this.invoke(chosen, undefined, [here, ...right], [a, ...codes], scope, at)
  }

  protected override turnedInto(code: Code, to: string, at: number, scope: FunctionScope): Code | undefined {
    if (code.type.is !== 'struct') return undefined
    const { struct } = code.type
    for (let one: StructType | undefined = struct; one; one = one.base)
      for (const [name, [info]] of one.methods)
        if (info && /^operator [A-Za-z]/.test(name) && (to === '' || name === `operator ${to}`))
          return this.invoke(info, code.get, [], [], scope, at)
    return undefined
  }

  protected override turnedTo(code: Code, to: Type, at: number, scope: FunctionScope): Code | undefined {
    if (code.type.is !== 'struct') return undefined
    const all: FunctionInfo[] = []
    for (let one: StructType | undefined = code.type.struct; one; one = one.base)
      for (const [name, [info]] of one.methods) if (info && /^operator [A-Za-z]/.test(name)) all.push(info)
    const found =
      all.find(({ returns }) => returns && sameType(returns, to)) ??
      all.find(({ returns }) => returns && isNumber(returns) && isNumber(to) && returns.is === to.is) ??
      all.find(({ returns }) => returns && isNumber(returns) && isNumber(to) && returns.is !== 'bool')
    return found && this.invoke(found, code.get, [], [], scope, at)
  }

  protected override convertingConstructor(
    code: Code,
    to: StructType,
    at: number,
    scope: FunctionScope,
  ): Code | undefined {
    const info = fittest(to.constructors, [code], this.library.widths.int)
    if (!info) return undefined
    const [get] = this.argumentsFor(info.params.slice(0, 1), [{ e: 'null', at }], [code], scope, at)
    const blank = this.blank(to, info)
    return {
      type: { is: 'struct', struct: to },
      get: (f) => {
        const made = blank()
        this.run(info, made, [get!(f)], at)
        return made
      },
    }
  }

  protected override construct(type: StructType, args: readonly Expr[], scope: FunctionScope, at: number): Get {
    const codes = args.map((one) => this.expression(one, scope))
    const blank = this.blank(type)
    const [first] = codes
    if (codes.length === 1 && first?.type.is === 'struct' && isBase(type, first.type.struct)) return this.kept(first)
    const info = fittest(type.constructors, codes, this.library.widths.int)
    if (!info) {
      if (codes.length === 0 && type.constructors.length === 0) return blank
      return this.fail(
        codes.length === 0
          ? `${type.name} cannot be made without arguments`
          : `${type.name} is not made of ${wordsOf(codes)}`,
        at,
      )
    }
    const gets = this.argumentsFor(info.params, args, codes, scope, at)
    const bare = this.blank(type, info)
    return (f) => {
      const made = bare()
      this.run(
        info,
        made,
        gets.map((get) => get(f)),
        at,
      )
      return made
    }
  }

  protected override printed(value: Value, type: Type, how: number | undefined): string {
    return printedText(value, type, how)
  }

  protected override lambda(node: Expr & { e: 'lambda' }, scope: FunctionScope): Code {
    const { captures, all, at } = node
    const byReference = (name: string): boolean => captures.find((one) => one.name === name)?.byReference ?? all !== '='
    const inner = new FunctionScope(scope.self, scope, byReference)
    const params = this.params(node.function.params, scope, at)
    const given = captures.flatMap(({ name, value, byReference: isReference }) => {
      if (!value) return []
      const code = this.expression(value, scope)
      const local = inner.declare(name, code.type, isReference)
      return [
        {
          to: local.slot,
          get: isReference
            ? (code.place?.ptr ?? this.fail('expected something that lies somewhere', at))
            : this.kept(code),
        },
      ]
    })
    const info = this.functionInfo(node.function, params, undefined)
    if (node.function.returns.t !== 'auto') {
      const { type, byReference: isReference } = this.resolve(node.function.returns, scope, at)
      info.returns = type
      info.returnsReference = isReference
    }
    // What was named before takes the first places; the arguments come after them.
    const firstSlot = inner.size
    this.compileBody(info, inner)
    const { machine } = this
    const captured = inner.captured
    const type: Type = { is: 'function', returns: info.returns ?? VOID, params }
    const takes = captured.map(({ from, to, byReference: isReference }) => {
      const code = this.localCode(from, at)
      return { to, get: isReference ? code.place!.ptr : this.kept(code) }
    })
    return {
      type,
      get: (f) => {
        const self = f[0]
        const taken = [...given, ...takes].map(({ to, get }): [number, Value] => [to, get(f)])
        const made = new Callable(
          'a lambda',
          (args) => {
            const frame: Frame = new Array(info.size)
            frame[0] = self
            for (const [to, value] of taken) frame[to] = value
            for (let index = 0; index < params.length; index += 1) frame[firstSlot + index] = args[index]
            machine.enter(at, 'a lambda')
            machine.ret = undefined
            info.run(frame)
            machine.depth -= 1
            // What it has taken along is its own, and stays as it leaves it.
            for (const one of taken) one[1] = frame[one[0]]
            return machine.ret
          },
          [self, taken],
        )
        // One that takes nothing along is a function like any other, and may be a task.
        if (taken.length === 0 && !scope.self) this.canBeHeld(info, made)
        return made
      },
    }
  }

  protected functionInfo(
    node: FunctionNode,
    params: readonly Parameter[],
    owner: StructType | undefined,
  ): FunctionInfo {
    return {
      name: node.name,
      node,
      params,
      owner,
      isStatic: node.isStatic,
      isVirtual: node.isVirtual,
      returns: undefined,
      returnsReference: false,
      size: params.length + 1,
      run: () => GO,
      value: undefined,
    }
  }
}
