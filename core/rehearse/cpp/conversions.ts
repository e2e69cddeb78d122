import { commonType, conversion, isNumber } from './arithmetic.ts'
import { type Code, constant, decayed } from './code.ts'
import { takesList } from './overloads.ts'
import type { FunctionInfo } from './program.ts'
import type { FunctionScope } from './scope.ts'
import { floatText } from './strings.ts'
import type { Expr } from './syntax.ts'
import { TypeResolver } from './typeResolver.ts'
import { type Field, type IntType, STRING, type StructType, sameType, type Type, typeWords } from './types.ts'
import { bytesOf, bytesOfText, copied, type Frame, type Get, Ptr, type Struct, textAt, type Value } from './values.ts'

/** Turns values into what is wanted of them: other numbers, texts, copies, lists into arrays and structs. */
export abstract class Conversions extends TypeResolver {
  /** An object made with arguments. */
  protected abstract construct(type: StructType, args: readonly Expr[], scope: FunctionScope, at: number): Get
  /** One with nothing said: its fields as they begin. */
  protected abstract blank(type: StructType, by?: FunctionInfo): () => Struct
  protected abstract makeNative(name: string, args: readonly Expr[], scope: FunctionScope, at: number): Get

  /** A value as another type; what cannot be is refused. */
  protected coerce(code: Code, to: Type, at: number, scope: FunctionScope): Code {
    const from = code.type
    if (to.is === 'void') return code
    if (isNumber(from) && isNumber(to)) return this.#number(code, to, at)
    if (to.is === 'bool') {
      if (from.is === 'pointer' || from.is === 'function' || from.is === 'null')
        return { type: to, get: (f) => (code.get(f) ? 1 : 0) }
      if (from.is === 'array') return constant(to, 1)
      const operator = from.is === 'struct' ? this.turnedInto(code, 'bool', at, scope) : undefined
      if (operator) return operator
      if (from.is === 'native') return constant(to, 1)
    }
    if (to.is === 'string')
      return (from.is === 'struct' && this.turnedInto(code, 'String', at, scope)) || this.text(code, at)
    if (from.is === 'struct' && (isNumber(to) || to.is === 'pointer')) {
      const turned = this.turnedTo(code, to, at, scope)
      if (turned) return isNumber(to) ? this.coerce(turned, to, at, scope) : turned
    }
    if (to.is === 'pointer') {
      if (from.is === 'null' || (from.is === 'int' && code.known === 0)) return { type: to, get: () => null }
      if (from.is === 'pointer') return { ...code, type: to }
      if (from.is === 'array') return { ...decayed(code), type: to }
      // An address as a number, and a function where bytes are wanted, mean nothing here.
      if (from.is === 'native') return { ...code, type: to }
      if (from.is === 'function' && to.to.is === 'void') return { ...code, type: to }
    }
    if (
      to.is === 'function' &&
      (from.is === 'function' || from.is === 'null' || (from.is === 'int' && code.known === 0))
    )
      return from.is === 'function' ? code : { type: to, get: () => null }
    if (to.is === 'struct') return this.#struct(code, to.struct, at, scope)
    if (to.is === 'array' && from.is === 'array') {
      if (to.of.is === 'int' && to.of.bits === 8 && code.known === undefined && from.length >= 0 && isText(code))
        return { type: to, get: filled(code.get, to.length) }
      return { type: to, get: (f) => copied(code.get(f)) }
    }
    if (to.is === 'native') return { ...code, type: to }
    if (sameType(from, to)) return code
    if (to.is === 'int' && from.is === 'native') return { type: to, get: (f) => Number(code.get(f)) || 0 }
    return this.fail(`${typeWords(from)} is no ${typeWords(to)}`, at)
  }

  #number(code: Code, to: Type, at: number): Code {
    const { type: from, get, known } = code
    const turn = conversion(from, to)
    if (known !== undefined) {
      const value = turn ? turn(known) : known
      return { type: to, get: () => value, known: value }
    }
    if (!turn) return { type: to, get, ...(code.isShared ? { isShared: true } : {}) }
    // What is deliberately cut, bytes and unsigned numbers, is not said; a plain number that grows too large is.
    if (
      to.is === 'int' &&
      to.signed &&
      to.bits >= 16 &&
      !to.char &&
      from.is === 'int' &&
      (!from.signed || from.bits > to.bits) &&
      from.bits > to.bits
    ) {
      const { machine } = this
      const type: IntType = to
      return {
        type: to,
        get: (f) => {
          const value = get(f)
          const cut = turn(value)
          if (Number(value) !== cut) machine.lost(at, Number(value), type)
          return cut
        },
      }
    }
    return { type: to, get: (f) => turn(get(f)) }
  }

  /** A value as a `String`. */
  protected text(code: Code, at: number): Code {
    const { type, get } = code
    switch (type.is) {
      case 'string':
        return code
      case 'array':
        return { type: STRING, get: (f) => textAt(new Ptr(get(f), 0)) }
      case 'pointer':
        return { type: STRING, get: (f) => textAt(get(f)) }
      case 'null':
        return { type: STRING, get: () => '' }
      case 'int':
        return {
          type: STRING,
          get: type.char ? (f) => String.fromCharCode(get(f) & 255) : (f) => String(get(f)),
        }
      case 'bool':
        return { type: STRING, get: (f) => String(get(f)) }
      case 'float':
        return { type: STRING, get: (f) => floatText(get(f), 2) }
      case 'native':
        return { type: STRING, get: (f) => String(get(f)) }
      default:
        return this.fail(`${typeWords(type)} cannot be made into a text`, at)
    }
  }

  #struct(code: Code, to: StructType, at: number, scope: FunctionScope): Code {
    const { type: from, get } = code
    if (from.is === 'struct') {
      for (let one: StructType | undefined = from.struct; one; one = one.base)
        if (one === to) return code.isShared ? { type: { is: 'struct', struct: to }, get: (f) => copied(get(f)) } : code
    }
    const made = this.convertingConstructor(code, to, at, scope)
    return made ?? this.fail(`${typeWords(from)} is no ${to.name}`, at)
  }

  protected abstract convertingConstructor(
    code: Code,
    to: StructType,
    at: number,
    scope: FunctionScope,
  ): Code | undefined
  /** An object as a number or a pointer, by an operator of its own for that type, or for another number. */
  protected abstract turnedTo(code: Code, to: Type, at: number, scope: FunctionScope): Code | undefined
  protected abstract turnedInto(code: Code, to: string, at: number, scope: FunctionScope): Code | undefined

  /** A value of its own, to be kept. */
  protected kept(code: Code): Get {
    const { get, type } = code
    return code.isShared && (type.is === 'struct' || type.is === 'array') ? (f) => copied(get(f)) : get
  }

  /** How a variable begins when nothing is said. */
  protected empty(type: Type, at: number): Get {
    switch (type.is) {
      case 'int':
        return type.bits > 32 ? () => 0n : () => 0
      case 'bool':
      case 'float':
        return () => 0
      case 'string':
        return () => ''
      case 'array': {
        if (type.length < 0) return this.fail('the length of an array is missing', at)
        const { length } = type
        const one = this.empty(type.of, at)
        if (type.of.is === 'int' || type.of.is === 'float' || type.of.is === 'bool') {
          const value = one([])
          return () => new Array(length).fill(value)
        }
        return (f) => Array.from({ length }, () => one(f))
      }
      case 'struct':
        return this.blank(type.struct)
      case 'native':
        return this.makeNative(type.name, [], this.outside, at)
      default:
        return () => null
    }
  }

  /** Names of the program outside of all functions. */
  protected abstract readonly outside: FunctionScope

  /** How a variable begins: with a value, a list, arguments, or nothing; an array without a length gets it. */
  protected beginning(
    type: Type,
    said: Pick<Field, 'value' | 'args'>,
    scope: FunctionScope,
    at: number,
  ): { readonly type: Type; readonly get: Get; readonly known?: Value } {
    const { value, args } = said
    if (args && type.is === 'struct') return { type, get: this.construct(type.struct, args, scope, at) }
    if (args && type.is === 'native') return { type, get: this.makeNative(type.name, args, scope, at) }
    const [only] = args ?? []
    const one = value ?? (args?.length === 1 ? only : undefined)
    if (args && args.length > 1) return this.fail(`${typeWords(type)} begins with one value`, at)
    if (one === undefined) return { type, get: this.begun(type, at) }
    if (one.e === 'list') return this.#listed(type, one, scope)
    if (type.is === 'array' && one.e === 'text') {
      const bytes = bytesOf(one.text, this.library.widths.charSigned)
      const length = type.length < 0 ? bytes.length : type.length
      if (bytes.length - 1 > length)
        this.fail(`the text has ${bytes.length - 1} letters, and the array ${length} places`, at)
      return { type: { ...type, length }, get: filled(() => bytes, length) }
    }
    const code = this.expression(one, scope)
    if (type.is === 'native' && code.type.is !== 'native')
      return { type, get: this.makeNative(type.name, [one], scope, at) }
    const turned = this.coerce(code, type, at, scope)
    return { type, get: this.kept(turned), ...(turned.known === undefined ? {} : { known: turned.known }) }
  }

  /** A variable that begins with nothing said: an object is made by its constructor without arguments. */
  protected begun(type: Type, at: number): Get {
    if (type.is === 'struct') return this.construct(type.struct, [], this.outside, at)
    if (type.is === 'array' && type.of.is === 'struct') {
      const one = this.begun(type.of, at)
      const { length } = type
      return (f) => Array.from({ length }, () => one(f))
    }
    return this.empty(type, at)
  }

  #listed(type: Type, list: Expr & { e: 'list' }, scope: FunctionScope): { type: Type; get: Get } {
    const { items, names, at } = list
    switch (type.is) {
      case 'array': {
        const [first] = items
        // `char name[] = {"lamp"}`.
        if (type.of.is === 'int' && type.of.bits === 8 && items.length === 1 && first?.e === 'text')
          return this.beginning(type, { value: first, args: undefined }, scope, at)
        const flat =
          type.of.is === 'array' && items.every((one) => one.e !== 'list' && one.e !== 'text')
            ? this.#rows(items, type.of, at)
            : items
        const length = type.length < 0 ? flat.length : type.length
        if (flat.length > length) this.fail(`${flat.length} values for an array that has ${length} places`, at)
        const values = flat.map((item) => this.beginning(type.of, { value: item, args: undefined }, scope, item.at))
        // Rows without a length of their own have that of the list.
        const of = values[0]?.type ?? type.of
        const rest = this.empty(of, at)
        const gets = values.map(({ get }) => get)
        return {
          type: { is: 'array', of, length },
          get: (f) => Array.from({ length }, (_, index) => (gets[index] ?? rest)(f)),
        }
      }
      case 'struct': {
        const { struct } = type
        if (items.length > 0 && struct.constructors.some(takesList))
          return { type, get: this.construct(struct, [list], scope, at) }
        if (struct.constructors.length > 0) return { type, get: this.construct(struct, items, scope, at) }
        return { type, get: this.#fields(struct, items, names, scope, at) }
      }
      case 'native':
        return { type, get: this.makeNative(type.name, items, scope, at) }
      default: {
        if (items.length > 1) return this.fail(`${typeWords(type)} begins with one value`, at)
        const [item] = items
        if (!item) return { type, get: this.empty(type, at) }
        return this.beginning(type, { value: item, args: undefined }, scope, at)
      }
    }
  }

  /** Numbers in a row put into the rows of an array of arrays. */
  #rows(items: readonly Expr[], row: Type & { is: 'array' }, at: number): Expr[] {
    const rows: Expr[] = []
    for (let from = 0; from < items.length; from += row.length)
      rows.push({ e: 'list', items: items.slice(from, from + row.length), at })
    return rows
  }

  #fields(
    struct: StructType,
    items: readonly Expr[],
    names: readonly (string | undefined)[] | undefined,
    scope: FunctionScope,
    at: number,
  ): Get {
    if (items.length > struct.fields.length)
      this.fail(`${items.length} values for ${struct.name}, which has ${struct.fields.length} fields`, at)
    const blank = this.blank(struct)
    const sets = items.map((item, index): { index: number; get: Get } => {
      const name = names?.[index]
      const to = name === undefined ? index : struct.fields.findIndex((field) => field.name === name)
      const field = struct.fields[to]
      if (!field) return this.fail(`${struct.name} has no field ${name}`, item.at)
      if (field.byReference) {
        const { place } = this.expression(item, scope)
        return { index: to, get: place?.ptr ?? this.fail('expected something that lies somewhere', item.at) }
      }
      return { index: to, get: this.beginning(field.type, { value: item, args: undefined }, scope, item.at).get }
    })
    return (f) => {
      const made = blank()
      for (const { index, get } of sets) made.f[index] = get(f)
      return made
    }
  }

  protected textCode(text: string): Code {
    const { charSigned } = this.library.widths
    const bytes = bytesOfText(text, charSigned)
    return {
      type: { is: 'array', of: this.basic.get('char')!, length: bytes.length },
      get: () => bytes,
      known: undefined,
    }
  }

  protected common(a: Type, b: Type): Type {
    return commonType(a, b, this.library.widths)
  }
}

const isText = (code: Code): boolean => code.place === undefined

/** An array with the first values of another one, the rest noughts. */
const filled =
  (get: Get, length: number): Get =>
  (f: Frame) => {
    const from: Value[] = get(f)
    return Array.from({ length }, (_, at) => from[at] ?? 0)
  }
