import { literal } from './arithmetic.ts'
import {
  type Code,
  constant,
  elementCode,
  fieldCode,
  globalCode,
  localCode,
  type Place,
  pointedCode,
  registerCode,
} from './code.ts'
import { Making } from './making.ts'
import type { FunctionInfo } from './program.ts'
import type { FunctionScope, Local } from './scope.ts'
import type { Expr } from './syntax.ts'
import { BOOL, LIST, NULL, pointerTo, type StructType, type Type, typeWords, VOID } from './types.ts'
import { type Get, Ptr, type Struct } from './values.ts'

/** Compiles values to closures. */
export abstract class Expressions extends Making {
  protected readonly globals = new Map<string, Local>()

  protected abstract call(node: Expr & { e: 'call' }, scope: FunctionScope): Code
  protected abstract lambda(node: Expr & { e: 'lambda' }, scope: FunctionScope): Code
  protected abstract functionValue(info: FunctionInfo, at: number): Code
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
        return this.unary(node, scope)
      case 'step':
        return this.step(node, scope)
      case 'binary':
        return this.binary(node, scope)
      case 'assign':
        return node.op === '=' ? this.assign(node, scope) : this.assignWith(node, scope)
      case 'choose':
        return this.choose(node, scope)
      case 'call':
        return this.call(node, scope)
      case 'member':
        return this.#member(node, scope)
      case 'index':
        return this.#index(node, scope)
      case 'part':
        return this.#part(node, scope)
      case 'cast':
        return this.cast(node.type, node.of, scope, at)
      case 'make':
        return this.made(node, scope)
      case 'size':
        return this.sizeCode(node, scope)
      case 'new':
        return this.newed(node, scope)
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
      const register = this.library.registers.get(one)
      if (register)
        return registerCode(this.basic.get(register.bits === 8 ? 'uint8_t' : 'uint16_t')!, register, this.machine, at)
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

  #part({ of: whole, index, at }: Expr & { e: 'part' }, scope: FunctionScope): Code {
    const of = this.expression(whole, scope)
    const count = of.type.is === 'struct' ? of.type.struct.fields.length : of.type.is === 'array' ? of.type.length : 0
    if (index >= count) return this.fail(`${typeWords(of.type)} does not fall into so many parts`, at)
    if (of.type.is === 'struct') return this.fieldOf(of.type.struct, index, of.get, at)
    return elementCode((of.type as Type & { is: 'array' }).of, of.get, () => index, this.machine, at)
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
}
