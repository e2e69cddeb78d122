import { arithmetic } from './arithmetic.ts'
import type { Argument, Expr } from './ir.ts'
import { Objects } from './objects.ts'
import type { FunctionValue, GivenValue, Value } from './values.ts'
import { Scope } from './values.ts'
import { either, keyOf, MOST_OPTIONS, MOST_STEPS, MOST_TURNS, named, unknown } from './valueTools.ts'

/** Functions of Python that make lists and numbers of others. */
const pythonOwn = new Set('range enumerate zip len list tuple reversed sorted int super const'.split(' '))

/** Expressions of a program that is followed. */
export abstract class Evaluator extends Objects {
  protected value(expr: Expr, scope: Scope): Value {
    this.steps += 1
    if (this.steps > MOST_STEPS) return unknown('the program is too large to be followed')
    switch (expr.kind) {
      case 'number':
        return { is: 'number', number: expr.number, hex: expr.hex, via: [] }
      case 'text':
        return { is: 'text', text: expr.text, via: [] }
      case 'name':
        return this.name(expr.name, scope)
      case 'member':
        return this.member(this.value(expr.of, scope), expr.name)
      case 'index':
        return this.index(expr, scope)
      case 'list':
        return { is: 'list', items: expr.items.map((one) => this.value(one.value, scope)), via: [] }
      case 'map': {
        const entries = new Map<string, Value>()
        for (const [key, value] of expr.entries) {
          const text = keyOf(this.value(key, scope))
          const item = this.value(value, scope)
          if (text !== undefined) entries.set(text, named(item, text))
        }
        return { is: 'map', entries, via: [] }
      }
      case 'choice': {
        const test = this.value(expr.test, scope)
        if (test.is === 'number') return this.value(test.number !== 0 ? expr.yes : expr.no, scope)
        return either([this.value(expr.yes, scope), this.value(expr.no, scope)])
      }
      case 'operation':
        return arithmetic(
          expr.operator,
          expr.parts.map((one) => this.value(one, scope)),
        )
      case 'each': {
        const items = this.items(this.value(expr.over, scope))
        const inner = new Scope(scope)
        const { key } = expr
        if (key && items) {
          const entries = new Map<string, Value>()
          for (const item of items) {
            this.bind(expr.names, item, inner)
            const text = keyOf(this.value(key, inner))
            const value = this.value(expr.value, inner)
            if (text !== undefined) entries.set(text, named(value, text))
          }
          return { is: 'map', entries, via: [] }
        }
        const made = (items ?? [unknown('items of a list that cannot be followed')]).map((item) => {
          this.bind(expr.names, item, inner)
          return this.value(expr.value, inner)
        })
        return items ? { is: 'list', items: made, via: [] } : unknown('a list that cannot be followed')
      }
      case 'assign':
        return this.assign(expr, scope)
      case 'function': {
        const made: FunctionValue = { name: 'a handler', params: expr.params, body: expr.body, at: expr.at, scope }
        this.functions.push(made)
        return { is: 'function', made, self: undefined, via: [] }
      }
      case 'call':
        return this.callExpr(expr, scope)
      case 'unknown':
        for (const part of expr.parts) this.value(part, scope)
        return unknown('an expression that is not followed')
    }
  }

  protected name(name: string, scope: Scope): Value {
    if (name === 'this' || (name === 'self' && scope.self && !scope.get('self'))) {
      const { self } = scope
      if (self) return { is: 'object', made: self, via: [] }
    }
    const value = scope.get(name)
    if (value) return value
    if (this.isPython && (name === 'True' || name === 'False'))
      return { is: 'number', number: name === 'True' ? 1 : 0, hex: false, via: [] }
    if (name === 'true' || name === 'false')
      return { is: 'number', number: name === 'true' ? 1 : 0, hex: false, via: [] }
    // A name that came in with everything of a module of the platform.
    const star = this.isPython ? [...scope.file.names().keys()].find((one) => one.startsWith('* ')) : undefined
    return { is: 'symbol', path: star === undefined ? name : `${star.slice(2)}.${name}`, via: [] }
  }

  protected index(expr: Expr & { kind: 'index' }, scope: Scope): Value {
    const of = this.value(expr.of, scope)
    const index = this.value(expr.index, scope)
    const key = keyOf(index)
    if (of.is === 'list') {
      if (index.is === 'number') {
        const item = of.items.at(index.number)
        return item ?? unknown(`the list has no item ${index.number}`)
      }
      return of.items.length > 0 && of.items.length <= MOST_OPTIONS
        ? either(of.items)
        : unknown('an item whose number cannot be followed')
    }
    if (of.is === 'map') {
      const found = key === undefined ? undefined : of.entries.get(key)
      return (
        found ??
        (of.entries.size <= MOST_OPTIONS && key === undefined
          ? either([...of.entries.values()])
          : unknown('an entry that cannot be followed'))
      )
    }
    return unknown('an item of something that cannot be followed')
  }

  protected assign(expr: Expr & { kind: 'assign' }, scope: Scope): Value {
    const given = this.value(expr.value, scope)
    const { target } = expr
    const value =
      expr.operator === '=' || expr.operator === ':='
        ? given
        : arithmetic(expr.operator.slice(0, -1), [this.value(target, scope), given])
    if (target.kind === 'name') scope.set(target.name, named(value, target.name))
    else if (target.kind === 'member') {
      const of = this.value(target.of, scope)
      if (of.is === 'object') this.setField(of.made, target.name, value, expr.at)
      else if (of.is === 'symbol')
        this.emit(`${of.path}.${target.name}=`, undefined, [{ name: undefined, value, at: expr.at }], expr.at)
    } else if (target.kind === 'index') {
      const of = this.value(target.of, scope)
      const index = this.value(target.index, scope)
      if (of.is === 'list' && target.of.kind === 'name') {
        const items = of.items.map((item, at) =>
          index.is !== 'number' ? unknown('an item that changes') : at === index.number ? value : item,
        )
        scope.set(target.of.name, { ...of, items })
      } else if (of.is === 'map' && target.of.kind === 'name') {
        const key = keyOf(index)
        if (key !== undefined)
          scope.set(target.of.name, { ...of, entries: new Map([...of.entries, [key, named(value, key)]]) })
      }
    }
    return value
  }

  protected callExpr(expr: Expr & { kind: 'call' }, scope: Scope): Value {
    const { callee } = expr
    const of = callee.kind === 'member' ? this.value(callee.of, scope) : undefined
    const given = expr.args.map((one) => this.given(one, scope))
    const known =
      callee.kind === 'member' && of
        ? this.listMethod(callee, of, given, scope)
        : this.isPython && callee.kind === 'name'
          ? this.builtIn(callee.name, given, scope)
          : undefined
    if (known) return known
    const target = callee.kind === 'member' && of ? this.member(of, callee.name) : this.value(callee, scope)
    switch (target.is) {
      case 'function':
        return this.call(target.made, target.self, given)
      case 'class':
        return this.make(target.made, given, expr.at)
      case 'symbol': {
        const owner = of?.is === 'object' ? of.made : undefined
        return this.emit(target.path, owner, given, expr.at, { makes: expr.made, via: of?.via ?? [] })
      }
      case 'either': {
        for (const one of target.options) if (one.is === 'function') this.call(one.made, one.self, given)
        return unknown('one of several functions')
      }
      case 'object':
        // An object that is called: `pin()` or `pin(1)`.
        return this.emit(`${target.made.of}.()`, target.made, given, expr.at)
      default: {
        if (of?.is === 'either' && callee.kind === 'member')
          for (const one of of.options)
            if (one.is === 'object') {
              const method = one.made.own && this.method(one.made.own, callee.name)
              if (method) this.call(method, one.made, given)
              else this.emit(`${one.made.of}.${callee.name}`, one.made, given, expr.at)
            }
        return unknown('the result of a call that cannot be followed')
      }
    }
  }

  protected given(one: Argument, scope: Scope): GivenValue {
    return { name: one.name, value: this.value(one.value, scope), at: one.value.at }
  }

  /** What Python brings for lists and numbers. */
  protected builtIn(name: string, args: readonly GivenValue[], scope: Scope): Value | undefined {
    if (scope.get(name) || !pythonOwn.has(name)) return undefined
    if (name === 'super') {
      const { self } = scope
      return self ? { is: 'object', made: self, via: [] } : unknown('super')
    }
    const values = args.map((one) => one.value)
    const [first] = values
    const numbers = values.map((one) => (one.is === 'number' ? one.number : undefined))
    if (name === 'range') {
      if (numbers.some((one) => one === undefined) || numbers.length === 0) return unknown('a range without known ends')
      const [a, b, step = 1] = numbers as number[]
      const [from, to] = b === undefined ? [0, a as number] : [a as number, b]
      const items: Value[] = []
      for (let at = from; step > 0 ? at < to : at > to; at += step || 1) {
        items.push({ is: 'number', number: at, hex: false, via: [] })
        if (items.length > MOST_TURNS || step === 0) break
      }
      return { is: 'list', items, via: [] }
    }
    if (name === 'int' || name === 'const') return first ?? unknown(name)
    const lists = values.map((one) => this.items(one))
    if (lists.some((one) => one === undefined) || !first) return unknown(`${name} of what cannot be followed`)
    const [one = []] = lists as (readonly Value[])[]
    if (name === 'len') return { is: 'number', number: one.length, hex: false, via: [] }
    if (name === 'enumerate')
      return {
        is: 'list',
        items: one.map(
          (item, at): Value => ({
            is: 'list',
            items: [{ is: 'number', number: at, hex: false, via: [] }, item],
            via: [],
          }),
        ),
        via: [],
      }
    if (name === 'zip')
      return {
        is: 'list',
        items: one.map(
          (_, at): Value => ({
            is: 'list',
            items: (lists as (readonly Value[])[]).map((list) => list[at] ?? unknown('a shorter list')),
            via: [],
          }),
        ),
        via: [],
      }
    return { is: 'list', items: name === 'reversed' ? [...one].reverse() : one, via: [] }
  }

  /** Methods of lists and maps. */
  protected listMethod(
    callee: Expr & { kind: 'member' },
    of: Value,
    args: readonly GivenValue[],
    scope: Scope,
  ): Value | undefined {
    if (of.is === 'map' && ['items', 'values', 'keys', 'get'].includes(callee.name)) {
      const entries = [...of.entries]
      if (callee.name === 'get') {
        const [key] = args
        return (key?.value.is === 'text' ? of.entries.get(key.value.text) : undefined) ?? unknown('an entry')
      }
      const text = (key: string): Value => ({ is: 'text', text: key, via: [] })
      return {
        is: 'list',
        items: entries.map(
          ([key, value]): Value =>
            callee.name === 'values'
              ? value
              : callee.name === 'keys'
                ? text(key)
                : { is: 'list', items: [text(key), value], via: [] },
        ),
        via: [],
      }
    }
    if (of.is === 'list') {
      if (callee.name === 'size' || callee.name === 'length')
        return { is: 'number', number: of.items.length, hex: false, via: [] }
      if ((callee.name === 'append' || callee.name === 'push_back') && callee.of.kind === 'name') {
        const [item] = args
        if (item) scope.set(callee.of.name, { ...of, items: [...of.items, item.value] })
        return unknown('nothing')
      }
      if (callee.name === 'append' && callee.of.kind === 'member') {
        const [item] = args
        const owner = this.value(callee.of.of, scope)
        if (item && owner.is === 'object')
          owner.made.fields.set(callee.of.name, { ...of, items: [...of.items, item.value] })
        return unknown('nothing')
      }
    }
    return undefined
  }

  /** Items of a list that is known; undefined for what is none. */
  protected items(value: Value): readonly Value[] | undefined {
    if (value.is === 'list') return value.items.slice(0, MOST_TURNS)
    if (value.is === 'map') return [...value.entries.keys()].map((key): Value => ({ is: 'text', text: key, via: [] }))
    return undefined
  }

  protected bind(names: readonly string[], item: Value, scope: Scope): void {
    names.forEach((name, index) => {
      const one = names.length === 1 ? item : (this.items(item)?.[index] ?? unknown(`${name} cannot be followed`))
      scope.declare(name, named(one, name))
    })
  }
}
