import { conversion, isNumber } from './arithmetic.ts'
import { bytesBehind, isPlain } from './bytes.ts'
import { type Code, constant, decayed } from './code.ts'
import type { Conversions } from './conversions.ts'
import { folded, Operators, same } from './operators.ts'
import type { FunctionScope } from './scope.ts'
import type { Expr } from './syntax.ts'
import { pointerTo, STRING, sizeOf, type Type, typeWords } from './types.ts'
import { Address, Ptr, type Value } from './values.ts'

/** What an address reads as, as a number: somewhere in memory. */
const ANYWHERE = 0x3ffb_0000

/** Compiles what makes a value of another or of nothing: casts, `Type(...)`, `new`, `malloc`, `sizeof`. */
export abstract class Making extends Operators {
  protected cast(node: Parameters<Conversions['type']>[0], of: Expr, scope: FunctionScope, at: number): Code {
    const { type } = this.resolve(node, scope, at)
    const asked = type.is === 'pointer' && of.e === 'call' && of.of.e === 'name' ? of.of.name : ''
    if (type.is === 'pointer' && of.e === 'call' && (asked === 'malloc' || asked === 'calloc'))
      return this.#memory(type, of.args, scope, at)
    const code = this.expression(of, scope)
    if (type.is === 'void') return { type, get: code.get }
    if (isNumber(type) && isNumber(code.type)) {
      const turn = conversion(code.type, type)
      return folded(type, [code], turn ? (f) => turn(code.get(f)) : code.get)
    }
    if (type.is === 'int' && code.type.is === 'pointer' && code.type.to.is === 'void')
      return {
        type,
        get: (f) => {
          const of: Ptr | null = code.get(f)
          return of === null ? 0 : of instanceof Address ? of.base[0] : ANYWHERE
        },
      }
    if (type.is === 'pointer') {
      const ptr = decayed(code)
      if (ptr.type.is === 'pointer') {
        const [from, to] = [ptr.type.to, type.to]
        const bytes = (one: Type): boolean => one.is === 'int' && one.bits === 8
        if (bytes(to) && !bytes(from) && isPlain(from)) {
          const { widths } = this.library
          const signed = to.is === 'int' && to.signed
          return {
            type,
            get: (f) => {
              const of: Ptr | null = ptr.get(f)
              return of === null ? null : new Ptr(bytesBehind(of, from, widths, signed), 0)
            },
          }
        }
        const whole = (one: Type): boolean => one.is === 'struct' || one.is === 'native' || one.is === 'void'
        if (
          !same(from, to) &&
          !(bytes(from) && bytes(to)) &&
          !(whole(from) && whole(to)) &&
          from.is !== 'void' &&
          to.is !== 'void'
        )
          return this.fail(
            `the bytes of ${typeWords(from)} are looked at as ${typeWords(to)}, which is not understood`,
            at,
          )
        return { ...ptr, type }
      }
      if (ptr.type.is === 'int' && type.to.is === 'void')
        return {
          type,
          get: (f) => {
            const number = Number(ptr.get(f))
            return number === 0 ? null : new Address(number)
          },
        }
      if (ptr.type.is === 'int' && ptr.known !== 0)
        return this.fail('an address is written as a number, which is not understood', at)
    }
    return this.coerce(code, type, at, scope)
  }

  /** `(T *)malloc(count)`: so many things of the type as there is room for. */
  #memory(type: Type & { is: 'pointer' }, args: readonly Expr[], scope: FunctionScope, at: number): Code {
    const counts = args.map((one) => this.coerceWhole(this.expression(one, scope), at).get)
    const size = sizeOf(type.to, this.library.widths)
    const one = this.empty(type.to, at)
    return {
      type,
      get: (f) => {
        const bytes = counts.reduce((all, count) => all * Number(count(f)), 1)
        return new Ptr(
          Array.from({ length: Math.max(1, Math.floor(bytes / size)) }, () => one(f)),
          0,
        )
      },
    }
  }

  protected made(node: Expr & { e: 'make' }, scope: FunctionScope): Code {
    const { type } = this.resolve(node.type, scope, node.at)
    const { args, at } = node
    const [only] = args
    if (type.is === 'struct') {
      if (type.struct.constructors.length === 0 && args.length > 0)
        return {
          type,
          get: this.beginning(type, { value: { e: 'list', items: args, at }, args: undefined }, scope, at).get,
        }
      return { type, get: this.construct(type.struct, args, scope, at) }
    }
    if (type.is === 'native') return { type, get: this.makeNative(type.name, args, scope, at) }
    if (type.is === 'string' && args.length > 1) return this.#madeText(args, scope)
    if (args.length > 1) return this.fail(`${typeWords(type)} is made of one value`, at)
    if (!only) return { type, get: this.empty(type, at) }
    return this.cast(node.type, only, scope, at)
  }

  /** `String(value, HEX)`, `String(measured, 1)`. */
  #madeText(args: readonly Expr[], scope: FunctionScope): Code {
    const [value, how] = args.map((one) => this.expression(one, scope)) as [Code, Code]
    return { type: STRING, get: (f) => this.printed(value.get(f), value.type, Number(how.get(f))) }
  }

  protected abstract printed(value: Value, type: Type, how: number | undefined): string

  protected sizeCode(node: Expr & { e: 'size' }, scope: FunctionScope): Code {
    const type = node.type ? this.resolve(node.type, scope, node.at).type : this.expression(node.of!, scope).type
    return constant(this.basic.get('size_t')!, sizeOf(type, this.library.widths))
  }

  protected newed(node: Expr & { e: 'new' }, scope: FunctionScope): Code {
    const { type } = this.resolve(node.type, scope, node.at)
    if (node.count) {
      const count = this.coerceWhole(this.expression(node.count, scope), node.at).get
      const one = this.begun(type, node.at)
      return {
        type: pointerTo(type),
        get: (f) =>
          new Ptr(
            Array.from({ length: Number(count(f)) }, () => one(f)),
            0,
          ),
      }
    }
    const { get } = this.beginning(type, { value: undefined, args: node.args }, scope, node.at)
    if (type.is === 'native') return { type: pointerTo(type), get: (f) => new Ptr([get(f)], 0) }
    return { type: pointerTo(type), get: (f) => new Ptr([get(f)], 0) }
  }
}
