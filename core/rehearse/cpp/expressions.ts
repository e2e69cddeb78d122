import { calculating, comparing, conversion, inverted, isNumber, literal, promoted, truth } from './arithmetic.ts'
import { bytesBehind, isPlain } from './bytes.ts'
import {
  type Code,
  constant,
  decayed,
  elementCode,
  fieldCode,
  globalCode,
  localCode,
  type Place,
  pointedCode,
} from './code.ts'
import { Conversions } from './conversions.ts'
import type { FunctionInfo } from './program.ts'
import type { FunctionScope, Local } from './scope.ts'
import type { Expr } from './syntax.ts'
import {
  BOOL,
  type IntType,
  LIST,
  NULL,
  pointerTo,
  STRING,
  type StructType,
  sizeOf,
  type Type,
  typeWords,
  VOID,
} from './types.ts'
import { type Get, Ptr, type Struct, samePtr, type Value } from './values.ts'

/** Compiles values to closures. */
export abstract class Expressions extends Conversions {
  protected readonly globals = new Map<string, Local>()

  protected abstract call(node: Expr & { e: 'call' }, scope: FunctionScope): Code
  protected abstract lambda(node: Expr & { e: 'lambda' }, scope: FunctionScope): Code
  protected abstract functionValue(info: FunctionInfo, at: number): Code
  /** `a + b` where one of them is an object with such an operator of its own. */
  protected abstract operatorCall(
    op: string,
    a: Code,
    b: Expr | undefined,
    scope: FunctionScope,
    at: number,
  ): Code | undefined

  protected override expression(node: Expr, scope: FunctionScope): Code {
    const { at } = node
    switch (node.e) {
      case 'number': {
        const found = literal(node.text, this.library.widths)
        return found ? constant(found.type, found.value) : this.fail(`"${node.text}" is no number`, at)
      }
      case 'text':
        return this.textCode(node.text)
      case 'letter': {
        const code = node.text.charCodeAt(0) & 255
        const { charSigned } = this.library.widths
        return constant(this.basic.get('char')!, charSigned && code > 127 ? code - 256 : code)
      }
      case 'truth':
        return constant(BOOL, node.value ? 1 : 0)
      case 'null':
        return constant(NULL, null)
      case 'this':
        if (!scope.self) return this.fail('"this" stands outside of a class', at)
        return {
          type: pointerTo({ is: 'struct', struct: scope.self }),
          get: this.#self(),
        }
      case 'name':
        return this.#name(node.name, scope, at)
      case 'unary':
        return this.#unary(node, scope)
      case 'step':
        return this.#step(node, scope)
      case 'binary':
        return this.#binary(node, scope)
      case 'assign':
        return node.op === '=' ? this.#assign(node, scope) : this.#assignWith(node, scope)
      case 'choose':
        return this.#choose(node, scope)
      case 'call':
        return this.call(node, scope)
      case 'member':
        return this.#member(node, scope)
      case 'index':
        return this.#index(node, scope)
      case 'cast':
        return this.#cast(node.type, node.of, scope, at)
      case 'make':
        return this.#make(node, scope)
      case 'size':
        return this.#size(node, scope)
      case 'new':
        return this.#new(node, scope)
      case 'delete': {
        const { get } = this.expression(node.of, scope)
        return { type: VOID, get }
      }
      case 'lambda':
        return this.lambda(node, scope)
      case 'list':
        return { type: LIST, get: () => this.fail('a list stands where no type is asked for', at) }
    }
  }

  #self(): Get {
    return (f) => {
      return new Ptr([f[0]], 0)
    }
  }

  /** What a name stands for: a variable, a member, a function, something of the platform. */
  #name(name: string, scope: FunctionScope, at: number): Code {
    const local = scope.find(name)
    if (local) return this.localCode(local, at)
    const member = this.#ownMember(name, scope, at)
    if (member) return member
    const bare = name.replace(/^std::|^::/, '')
    for (const one of this.spaced(name, bare, scope)) {
      const global = this.globals.get(one)
      if (global) return this.localCode(global, at)
      const known = this.constants.get(one) ?? this.library.constants.get(one)
      if (known) return constant(known.type, known.value)
      const [info] = this.functions.get(one) ?? []
      if (info) return this.functionValue(info, at)
      const object = this.library.objects.get(one)
      if (object) return constant({ is: 'native', name: object.of }, object.value)
    }
    return this.fail(`nothing here is called ${name}`, at)
  }

  /** Names under which something may be known, those of the namespace around it first. */
  protected spaced(name: string, bare: string, scope: FunctionScope): readonly string[] {
    let space = scope.space
    for (let around = scope.outer; around && space === ''; around = around.outer) space = around.space
    const names = name === bare ? [name] : [name, bare]
    if (space === '' || name.startsWith('::')) return names
    const pieces = space.split('::').slice(0, -1)
    return [...pieces.map((_, at) => `${pieces.slice(0, pieces.length - at).join('::')}::${name}`), ...names]
  }

  protected localCode(local: Local, at: number): Code {
    const { where, slot, type, isReference, known } = local
    if (known !== undefined) return { ...constant(type, known), ...(where === 'frame' ? {} : { place: undefined }) }
    const code = where === 'frame' ? localCode(type, slot) : globalCode(type, this.machine.globals, slot)
    return isReference ? pointedCode(type, code.get, this.machine, at) : code
  }

  /** A field or something static of the object whose method this is. */
  #ownMember(name: string, scope: FunctionScope, at: number): Code | undefined {
    const { self } = scope
    if (!self) return undefined
    for (let one: StructType | undefined = self; one; one = one.base) {
      const constantOf = this.constants.get(`${one.scope}::${name}`)
      if (constantOf) return constant(constantOf.type, constantOf.value)
      const global = one.statics.get(name)
      if (global !== undefined) return this.localCode(this.globals.get(global)!, at)
    }
    const index = self.fields.findIndex((field) => field.name === name)
    if (index >= 0) return this.fieldOf(self, index, (f) => f[0], at)
    return undefined
  }

  protected fieldOf(struct: StructType, index: number, of: Get, at: number): Code {
    const field = struct.fields[index]!
    const code = fieldCode(field.type, of, index)
    return field.byReference ? pointedCode(field.type, code.get, this.machine, at) : code
  }

  /** The object behind a value: itself, or what a pointer points at. */
  protected objectOf(code: Code, at: number): { struct: StructType; get: Get } | undefined {
    const { type, get } = code
    if (type.is === 'struct') return { struct: type.struct, get }
    if (type.is === 'pointer' && type.to.is === 'struct') {
      const { machine } = this
      return {
        struct: type.to.struct,
        get: (f): Struct => {
          const ptr: Ptr | null = get(f)
          return ptr === null || ptr === undefined ? machine.nothing(at) : ptr.base[ptr.at]
        },
      }
    }
    return undefined
  }

  #member(node: Expr & { e: 'member' }, scope: FunctionScope): Code {
    const of = this.expression(node.of, scope)
    const object = this.objectOf(of, node.at)
    if (!object) return this.fail(`${typeWords(of.type)} has no member ${node.name}`, node.at)
    const { struct, get } = object
    const index = struct.fields.findIndex((field) => field.name === node.name)
    if (index >= 0) return this.fieldOf(struct, index, get, node.at)
    for (let one: StructType | undefined = struct; one; one = one.base) {
      const global = one.statics.get(node.name)
      if (global !== undefined) return this.localCode(this.globals.get(global)!, node.at)
      const known = this.constants.get(`${one.scope}::${node.name}`)
      if (known) return constant(known.type, known.value)
    }
    return this.fail(`${struct.name} has no member ${node.name}`, node.at)
  }

  #index(node: Expr & { e: 'index' }, scope: FunctionScope): Code {
    const of = this.expression(node.of, scope)
    if (of.type.is === 'struct' || of.type.is === 'native') {
      const own = this.operatorCall('[]', of, node.by, scope, node.at) ?? this.#nativeElement(of, node, scope)
      if (own) return own
    }
    const by = this.coerceWhole(this.expression(node.by, scope), node.at)
    if (of.type.is === 'array') return elementCode(of.type.of, of.get, by.get, this.machine, node.at)
    if (of.type.is === 'pointer') {
      const { get } = of
      const { machine } = this
      const at: Get = (f) => {
        const ptr: Ptr | null = get(f)
        return ptr === null || ptr === undefined
          ? machine.nothing(node.at)
          : new Ptr(ptr.base, ptr.at + Number(by.get(f)))
      }
      return pointedCode(of.type.to, at, machine, node.at)
    }
    if (of.type.is === 'string') return this.#letterOf(of, by)
    return this.fail(`${typeWords(of.type)} has no elements`, node.at)
  }

  /** An element of something that the platform gives. */
  #nativeElement(of: Code, node: Expr & { e: 'index' }, scope: FunctionScope): Code | undefined {
    const element = of.type.is === 'native' ? this.library.classes.get(of.type.name)?.element : undefined
    if (!element) return undefined
    const by = this.coerceWhole(this.expression(node.by, scope), node.at).get
    const read: Get = (f) => element.get(of.get(f) as never, Number(by(f)), node.at)
    return {
      type: element.type,
      get: read,
      place: {
        ptr: (f) => new Ptr([read(f)], 0),
        set: (f, value) => element.set(of.get(f) as never, Number(by(f)), value, node.at),
      },
    }
  }

  /** One letter of a `String`, to be read or put. */
  #letterOf(of: Code, by: Code): Code {
    const char = this.basic.get('char')!
    const { place } = of
    const read: Get = (f) => {
      const text: string = of.get(f)
      const index = Number(by.get(f))
      return index >= 0 && index < text.length ? text.charCodeAt(index) : 0
    }
    const to: Place | undefined = place && {
      ptr: (f) => new Ptr([read(f)], 0),
      set: (f, value) => {
        const text: string = of.get(f)
        const index = Number(by.get(f))
        if (index >= 0 && index < text.length)
          place.set(f, text.slice(0, index) + String.fromCharCode(value & 255) + text.slice(index + 1))
      },
    }
    return { type: char, get: read, place: to }
  }

  protected coerceWhole(code: Code, at: number): Code {
    if (code.type.is === 'int' || code.type.is === 'bool') return code
    return this.fail(`${typeWords(code.type)} cannot be an index`, at)
  }

  #unary(node: Expr & { e: 'unary' }, scope: FunctionScope): Code {
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

  #step(node: Expr & { e: 'step' }, scope: FunctionScope): Code {
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

  #binary(node: Expr & { e: 'binary' }, scope: FunctionScope): Code {
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

  #assign(node: Expr & { e: 'assign' }, scope: FunctionScope): Code {
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

  #assignWith(node: Expr & { e: 'assign' }, scope: FunctionScope): Code {
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

  #choose(node: Expr & { e: 'choose' }, scope: FunctionScope): Code {
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

  #cast(node: Parameters<Conversions['type']>[0], of: Expr, scope: FunctionScope, at: number): Code {
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

  #make(node: Expr & { e: 'make' }, scope: FunctionScope): Code {
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
    return this.#cast(node.type, only, scope, at)
  }

  /** `String(value, HEX)`, `String(measured, 1)`. */
  #madeText(args: readonly Expr[], scope: FunctionScope): Code {
    const [value, how] = args.map((one) => this.expression(one, scope)) as [Code, Code]
    return { type: STRING, get: (f) => this.printed(value.get(f), value.type, Number(how.get(f))) }
  }

  protected abstract printed(value: Value, type: Type, how: number | undefined): string

  #size(node: Expr & { e: 'size' }, scope: FunctionScope): Code {
    const type = node.type ? this.resolve(node.type, scope, node.at).type : this.expression(node.of!, scope).type
    return constant(this.basic.get('size_t')!, sizeOf(type, this.library.widths))
  }

  #new(node: Expr & { e: 'new' }, scope: FunctionScope): Code {
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

const same = (a: Type, b: Type): boolean => a.is === b.is && typeWords(a) === typeWords(b)

/** Worked out at once where all that it is made of is known. */
export function folded(type: Type, of: readonly Code[], get: Get): Code {
  if (of.every(({ known }) => known !== undefined)) {
    const value = get([])
    return { type, get: () => value, known: value }
  }
  return { type, get }
}
