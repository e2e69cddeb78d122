import { conversion } from './arithmetic.ts'
import { type Code, constant, decayed } from './code.ts'
import { Expressions } from './expressions.ts'
import type { NativeFunction } from './program.ts'
import type { FunctionScope } from './scope.ts'
import { formatted } from './strings.ts'
import type { Expr } from './syntax.ts'
import { textMethods } from './textMethods.ts'
import { pointerTo, STRING, type Type, VOID } from './types.ts'
import { type Frame, type Get, Ptr, type Value } from './values.ts'

/** Compiles calls of what is no function of the program: what the platform and drivers give, texts, rows. */
export abstract class NativeCalls extends Expressions {
  /** The expression that is a statement of its own. */
  protected alone: Expr | undefined

  /** `sprintf(buffer, "%d", n)`: text into an array. */
  protected printedInto(name: string, codes: readonly Code[], at: number): Code {
    const first = name === 'sprintf' ? 1 : 2
    const to = decayed(codes[0]!)
    const limit = name === 'sprintf' ? undefined : codes[1]
    const form = this.text(codes[first]!, at).get
    const rest = codes.slice(first + 1).map(decayed)
    const types = rest.map(({ type }) => type)
    const floats = this.library.widths.int === 32
    const { machine } = this
    return {
      type: this.basic.get('int')!,
      get: (f) => {
        const text = formatted(
          form(f),
          rest.map(({ get }) => get(f)),
          types,
          floats,
        )
        const ptr: Ptr = to.get(f)
        const most = limit ? Number(limit.get(f)) : Number.POSITIVE_INFINITY
        const kept = text.slice(0, Math.max(0, most - 1))
        for (let index = 0; index <= kept.length; index += 1) {
          if (ptr.at + index >= ptr.base.length) {
            machine.beyond(at, ptr.at + index, ptr.base.length)
            break
          }
          ptr.base[ptr.at + index] = index < kept.length ? kept.charCodeAt(index) : 0
        }
        return text.length
      },
    }
  }

  protected arrayMethod(owner: Code, name: string, codes: readonly Code[], at: number): Code {
    const type = owner.type as Type & { is: 'array' }
    if (name === 'size') {
      const size = this.basic.get('size_t')!
      return type.length <= 0 ? { type: size, get: (f) => owner.get(f).length } : constant(size, type.length)
    }
    if (name === 'begin') return decayed(owner)
    if (name === 'end') {
      const { get } = owner
      return { type: pointerTo(type.of), get: (f) => new Ptr(get(f), get(f).length) }
    }
    const value = codes[0] ?? this.fail(`${name} wants a value`, at)
    // Texts of ours keep rows that grow in an array of no length: these two make it longer and shorter.
    if (name === '__add') {
      const own = this.kept(this.coerce(value, type.of, at, this.outside))
      return { type: VOID, get: (f) => owner.get(f).push(own(f)) }
    }
    if (name === '__keep')
      return {
        type: VOID,
        get: (f) => {
          const array: Value[] = owner.get(f)
          array.length = Math.max(0, Math.min(array.length, Number(value.get(f))))
        },
      }
    return { type: VOID, get: (f) => owner.get(f).fill(value.get(f)) }
  }

  protected textMethod(owner: Code, name: string, codes: readonly Code[], at: number): Code {
    const method = Object.hasOwn(textMethods, name) ? textMethods[name] : undefined
    if (!method) return this.fail(`String has no ${name} that is known here`, at)
    const gets = codes.map((code, index) => {
      const want = method.params[index]
      if (want === 'text') return this.text(code, at).get
      if (want === 'number') {
        const turn = conversion(code.type, this.basic.get('long')!)
        return turn ? (f: Frame) => turn(code.get(f)) : code.get
      }
      return decayed(code).get
    })
    const returns = this.#textReturns(method.returns)
    const { place } = owner
    const { charSigned } = this.library.widths
    return {
      type: returns,
      get: (f) => {
        const found = method.run(
          owner.get(f),
          gets.map((get) => get(f)),
          charSigned,
        )
        if (found.self !== undefined) place?.set(f, found.self)
        return found.value
      },
    }
  }

  #textReturns(returns: string): Type {
    if (returns === 'text') return STRING
    if (returns === 'bytes') return { is: 'pointer', to: this.basic.get('char')! }
    return this.basic.get(returns) ?? VOID
  }

  /** A call of what the platform or a driver gives; of a class that nobody has described it gives nought. */
  protected nativeCall(
    native: NativeFunction<never> | undefined,
    self: Get | undefined,
    name: string,
    args: readonly Expr[],
    codes: readonly Code[],
    scope: FunctionScope,
    at: number,
  ): Code {
    if (!native) {
      const gets = codes.map(({ get }) => get)
      // A call whose answer nobody takes is no question.
      const isAlone = this.alone?.e === 'call' && this.alone.args === args
      const answer = isAlone ? () => 0 : this.library.asked(name)
      return {
        type: this.basic.get('int')!,
        get: (f) => {
          for (const get of gets) get(f)
          return answer()
        },
      }
    }
    const params = native.params ?? []
    const least = native.least ?? params.length
    const most = native.most ?? (native.params ? params.length : Number.POSITIVE_INFINITY)
    if (codes.length < least || codes.length > most)
      this.fail(
        `${name} takes ${least === most ? least : `${least} to ${most === Number.POSITIVE_INFINITY ? 'any number of' : most}`} argument${most === 1 ? '' : 's'}, and has ${codes.length} here`,
        at,
      )
    const turned = codes.map((code, index) => {
      const want = params[index]
      if (want === 'shown') return this.#shown(code, name, at, scope)
      if (args[index]?.e === 'list' && want && want !== 'any' && want !== 'place')
        return { type: want, get: this.beginning(want, { value: args[index], args: undefined }, scope, at).get }
      if (want === 'place')
        return { type: code.type, get: code.place?.ptr ?? this.fail(`${name} writes to what lies somewhere`, at) }
      return want === undefined || want === 'any' ? decayed(code) : this.coerce(code, want, at, scope)
    })
    const types = turned.map(({ type }) => type)
    const gets = turned.map(({ get }) => get)
    const returns = typeof native.returns === 'function' ? native.returns(types) : native.returns
    const { run } = native
    const { machine } = this
    const of = self ?? (() => undefined)
    const acts = native.reads ? 0 : 1
    const get: Get = (f) => {
      const values = gets.map((one) => one(f))
      machine.at = at
      machine.acts += acts
      return run(of(f) as never, values, types, at)
    }
    return { type: returns, get }
  }

  /** What people read of a value: an object is what it turns itself into. */
  #shown(code: Code, name: string, at: number, scope: FunctionScope): Code {
    if (code.type.is !== 'struct') return decayed(code)
    const text = this.turnedInto(code, 'String', at, scope) ?? this.turnedInto(code, '', at, scope)
    return text ?? this.fail(`${code.type.struct.name} turns into nothing that ${name} writes`, at)
  }

  protected override makeNative(name: string, args: readonly Expr[], scope: FunctionScope, at: number): Get {
    const known = this.library.classes.get(name)
    const codes = args.map((one) => decayed(this.expression(one, scope)))
    if (!known) {
      if (!this.unknown.has(name)) this.unknown.set(name, at)
      return () => ({})
    }
    const turned = codes.map((code, index) => {
      const want = known.params?.[index]
      return want === undefined || want === 'any' ? code : this.coerce(code, want, at, scope)
    })
    const types = turned.map(({ type }) => type)
    return (f) => {
      this.machine.acts += 1
      return known.make(
        turned.map(({ get }) => get(f)),
        types,
        at,
      )
    }
  }
}
