import { calculating, comparing, conversion, inverted, isNumber, promoted, truth } from './arithmetic.ts'
import { type Code, decayed, type Place, pointedCode } from './code.ts'
import { Conversions } from './conversions.ts'
import type { FunctionScope } from './scope.ts'
import type { Expr } from './syntax.ts'
import { BOOL, type IntType, pointerTo, STRING, type Type, typeWords } from './types.ts'
import { type Get, Ptr, samePtr, type Value } from './values.ts'

/** Compiles what stands between values and before them: signs, comparisons, assignments, choices. */
export abstract class Operators extends Conversions {
  /** `a + b` where one of them is an object with such an operator of its own. */
  protected abstract operatorCall(
    op: string,
    a: Code,
    b: Expr | undefined,
    scope: FunctionScope,
    at: number,
  ): Code | undefined

  protected coerceWhole(code: Code, at: number): Code {
    if (code.type.is === 'int' || code.type.is === 'bool') return code
    return this.fail(`${typeWords(code.type)} cannot be an index`, at)
  }

  protected unary(node: Expr & { e: 'unary' }, scope: FunctionScope): Code {
    const { op, at } = node
    const of = this.expression(node.of, scope)
    const { type } = of
    if (op === '&') {
      if (type.is === 'function') return of
      const { place } = of
      if (!place) return type.is === 'native' ? of : this.fail('only what lies somewhere has an address', at)
      return { type: pointerTo(type), get: place.ptr }
    }
    if (op === '*') {
      if (type.is === 'function') return of
      const ptr = decayed(of)
      if (ptr.type.is === 'pointer') return pointedCode(ptr.type.to, ptr.get, this.machine, at)
      return this.operatorCall('*', of, undefined, scope, at) ?? this.fail(`${typeWords(type)} points at nothing`, at)
    }
    if (type.is === 'struct') {
      const own = this.operatorCall(op, of, undefined, scope, at)
      if (own) return own
    }
    if (op === '!') {
      const asked = this.coerce(of, BOOL, at, scope)
      return folded(BOOL, [asked], (f) => (asked.get(f) ? 0 : 1))
    }
    if (!isNumber(type)) return this.fail(`${op} wants a number, not ${typeWords(type)}`, at)
    const wide = promoted(type, this.library.widths)
    const value = this.coerce(of, wide, at, scope)
    if (op === '+') return { ...value, place: undefined }
    if (wide.is === 'float') {
      if (op === '~') return this.fail('~ wants a whole number', at)
      return folded(wide, [value], (f) => -value.get(f))
    }
    const zero: Value = wide.is === 'int' && wide.bits > 32 ? 0n : 0
    const get =
      op === '-'
        ? calculating('-', wide, () => zero, value.get, at, this.machine)!
        : inverted(wide as IntType, value.get)
    return folded(wide, [value], get)
  }

  protected step(node: Expr & { e: 'step' }, scope: FunctionScope): Code {
    const { op, before, at } = node
    const of = this.expression(node.of, scope)
    const { type, place } = of
    if (type.is === 'struct') {
      const own = this.operatorCall(op, of, undefined, scope, at)
      if (own) return own
    }
    if (!place) return this.fail(`${op} wants something that can be changed`, at)
    if (type.is === 'pointer') {
      const by = op === '++' ? 1 : -1
      return {
        type,
        get: (f) => {
          const to: Ptr = place.ptr(f)
          const old: Ptr = to.base[to.at]
          const next = new Ptr(old.base, old.at + by)
          to.base[to.at] = next
          return before ? next : old
        },
        ...(before ? { place } : {}),
      }
    }
    if (!isNumber(type)) return this.fail(`${op} wants a number, not ${typeWords(type)}`, at)
    let x: Value
    const wide = type.is === 'int' && type.bits > 32
    const one: Value = wide ? 1n : 1
    const common = this.common(type, this.basic.get('int')!)
    const up = conversion(type, common)
    const raise = calculating(
      op === '++' ? '+' : '-',
      common,
      () => x,
      () => one,
      at,
      this.machine,
    )!
    const down = conversion(common, type)
    return {
      type,
      get: (f) => {
        const to: Ptr = place.ptr(f)
        const old = to.base[to.at]
        x = up ? up(old) : old
        const next = raise(f)
        const kept = down ? down(next) : next
        to.base[to.at] = kept
        return before ? kept : old
      },
      ...(before ? { place } : {}),
    }
  }

  protected binary(node: Expr & { e: 'binary' }, scope: FunctionScope): Code {
    const { op, at } = node
    if (op === ',') {
      const [a, b] = [this.expression(node.a, scope), this.expression(node.b, scope)]
      return {
        ...b,
        get: (f) => {
          a.get(f)
          return b.get(f)
        },
        known: undefined,
        place: undefined,
      }
    }
    const a = this.expression(node.a, scope)
    if (op === '&&' || op === '||') {
      const [left, right] = [
        this.coerce(a, BOOL, at, scope),
        this.coerce(this.expression(node.b, scope), BOOL, at, scope),
      ]
      const [x, y] = [truth(BOOL, left.get), truth(BOOL, right.get)]
      return folded(BOOL, [left, right], op === '&&' ? (f) => (x(f) ? y(f) : 0) : (f) => (x(f) ? 1 : y(f)))
    }
    if (a.type.is === 'struct') {
      const own = this.operatorCall(op, a, node.b, scope, at)
      if (own) return own
    }
    const b = this.expression(node.b, scope)
    if (b.type.is === 'struct') {
      const own = this.operatorCall(op, a, node.b, scope, at)
      if (own) return own
    }
    return this.combined(op, a, b, at, scope)
  }

  /** Two values and a sign between them. */
  protected combined(op: string, a: Code, b: Code, at: number, scope: FunctionScope): Code {
    if (a.type.is === 'string' || b.type.is === 'string') return this.#texts(op, a, b, at)
    const pointers = this.#pointers(op, decayed(a), decayed(b), at)
    if (pointers) return pointers
    const turned = (code: Code): Code =>
      code.type.is === 'struct'
        ? (this.turnedInto(code, '', at, scope) ?? code)
        : code.type.is === 'native'
          ? this.coerce(code, this.basic.get('int')!, at, scope)
          : code
    const [one, two] = [turned(a), turned(b)]
    if (!isNumber(one.type) || !isNumber(two.type))
      return this.fail(`${op} does not go between ${typeWords(a.type)} and ${typeWords(b.type)}`, at)
    if (op === '<<' || op === '>>') {
      const type = promoted(one.type, this.library.widths)
      const left = this.coerce(one, type, at, scope)
      if (type.is !== 'int' || two.type.is === 'float') return this.fail(`${op} wants whole numbers`, at)
      return folded(type, [left, two], calculating(op, type, left.get, two.get, at, this.machine)!)
    }
    const type = this.common(one.type, two.type)
    const [left, right] = [this.coerce(one, type, at, scope), this.coerce(two, type, at, scope)]
    const asked = comparing(op, left.get, right.get)
    if (asked) return folded(BOOL, [left, right], asked)
    const get = calculating(op, type, left.get, right.get, at, this.machine)
    return get ? folded(type, [left, right], get) : this.fail(`${op} wants whole numbers`, at)
  }

  #texts(op: string, a: Code, b: Code, at: number): Code {
    const [x, y] = [this.text(a, at).get, this.text(b, at).get]
    if (op === '+') return { type: STRING, get: (f) => x(f) + y(f) }
    const asked = comparing(op, x, y)
    return asked ? { type: BOOL, get: asked } : this.fail(`${op} does not go between texts`, at)
  }

  #pointers(op: string, a: Code, b: Code, at: number): Code | undefined {
    const isPtr = (type: Type): boolean => type.is === 'pointer' || type.is === 'null' || type.is === 'function'
    if (!isPtr(a.type) && !isPtr(b.type)) return undefined
    const [x, y] = [a.get, b.get]
    if (op === '+' || op === '-') {
      if (a.type.is === 'pointer' && b.type.is === 'int') {
        const sign = op === '+' ? 1 : -1
        return {
          type: a.type,
          get: (f) => {
            const ptr: Ptr = x(f)
            return new Ptr(ptr.base, ptr.at + sign * Number(y(f)))
          },
        }
      }
      if (a.type.is === 'int' && b.type.is === 'pointer' && op === '+')
        return {
          type: b.type,
          get: (f) => {
            const ptr: Ptr = y(f)
            return new Ptr(ptr.base, ptr.at + Number(x(f)))
          },
        }
      if (a.type.is === 'pointer' && b.type.is === 'pointer')
        return { type: this.basic.get('ptrdiff_t')!, get: (f) => x(f).at - y(f).at }
    }
    const same = (left: Value, right: Value): boolean =>
      left instanceof Ptr || right instanceof Ptr
        ? samePtr(left instanceof Ptr ? left : null, right instanceof Ptr ? right : null)
        : (left || null) === (right || null)
    if (op === '==') return { type: BOOL, get: (f) => (same(x(f), y(f)) ? 1 : 0) }
    if (op === '!=') return { type: BOOL, get: (f) => (same(x(f), y(f)) ? 0 : 1) }
    const asked = comparing(
      op,
      (f) => x(f)?.at ?? -1,
      (f) => y(f)?.at ?? -1,
    )
    return asked ? { type: BOOL, get: asked } : this.fail(`${op} does not go between pointers`, at)
  }

  protected assign(node: Expr & { e: 'assign' }, scope: FunctionScope): Code {
    const a = this.expression(node.a, scope)
    const { place, type } = a
    if (type.is === 'struct') {
      const own = this.operatorCall('=', a, node.b, scope, node.at)
      if (own) return own
    }
    if (!place) return this.fail('only what lies somewhere can be given a value', node.at)
    const value = this.beginning(type, { value: node.b, args: undefined }, scope, node.at).get
    const { set } = place
    return {
      type,
      place,
      isShared: true,
      get: (f) => {
        const now = value(f)
        set(f, now)
        return now
      },
    }
  }

  protected assignWith(node: Expr & { e: 'assign' }, scope: FunctionScope): Code {
    const { at } = node
    const op = node.op.slice(0, -1)
    const a = this.expression(node.a, scope)
    const { place, type } = a
    if (type.is === 'struct') {
      const own = this.operatorCall(node.op, a, node.b, scope, at) ?? this.operatorCall(op, a, node.b, scope, at)
      if (own && place) return own
    }
    if (!place) return this.fail('only what lies somewhere can be changed', at)
    const b = this.expression(node.b, scope)
    if (type.is === 'string') {
      const added = this.text(b, at).get
      if (op !== '+') return this.fail(`${node.op} does not go with texts`, at)
      return {
        type,
        place,
        get: (f) => {
          const more = added(f)
          const text = a.get(f) + more
          place.set(f, text)
          return text
        },
      }
    }
    let x: Value
    let y: Value
    // The right side comes first, then what stands there is read and changed (ISO C++17, 8.18).
    const left: Code = { type, get: () => x }
    const right: Code = { type: b.type, get: () => y }
    const result = this.combined(op, left, b.known === undefined ? right : b, at, scope)
    const kept = this.coerce({ ...result, known: undefined }, type, at, scope)
    return {
      type,
      place,
      get: (f) => {
        const now = b.get(f)
        const to: Ptr = place.ptr(f)
        x = to.base[to.at]
        y = now
        const value = kept.get(f)
        to.base[to.at] = value
        return value
      },
    }
  }

  protected choose(node: Expr & { e: 'choose' }, scope: FunctionScope): Code {
    const asked = this.coerce(this.expression(node.if, scope), BOOL, node.at, scope).get
    const [a, b] = [this.expression(node.then, scope), this.expression(node.else, scope)]
    let [one, two] = [a, b]
    if (isNumber(a.type) && isNumber(b.type)) {
      const type =
        a.type.is === b.type.is && a.type.is === 'bool'
          ? BOOL
          : same(a.type, b.type)
            ? a.type
            : this.common(a.type, b.type)
      if (!same(a.type, b.type)) {
        one = this.coerce(a, type, node.at, scope)
        two = this.coerce(b, type, node.at, scope)
      }
    } else if (a.type.is === 'string' || b.type.is === 'string') {
      one = this.text(a, node.at)
      two = this.text(b, node.at)
    } else if (a.type.is !== 'void') {
      one = decayed(a)
      two = this.coerce(decayed(b), one.type.is === 'null' ? decayed(b).type : one.type, node.at, scope)
      if (one.type.is === 'null') one = this.coerce(one, two.type, node.at, scope)
    }
    const [here, there] = [one.place, two.place]
    const place: Place | undefined =
      here && there && one === a && two === b
        ? {
            ptr: (f) => (asked(f) ? here.ptr(f) : there.ptr(f)),
            set: (f, value) => (asked(f) ? here.set(f, value) : there.set(f, value)),
          }
        : undefined
    return { type: one.type, get: (f) => (asked(f) ? one.get(f) : two.get(f)), place, isShared: true }
  }
}

export const same = (a: Type, b: Type): boolean => a.is === b.is && typeWords(a) === typeWords(b)

/** Worked out at once where all that it is made of is known. */
export function folded(type: Type, of: readonly Code[], get: Get): Code {
  if (of.every(({ known }) => known !== undefined)) {
    const value = get([])
    return { type, get: () => value, known: value }
  }
  return { type, get }
}
