import { SourceError } from '../cpp/tokens.ts'
import { setAttribute } from './attributes.ts'
import { dropElement, putElement } from './elements.ts'
import { type Put, PyExpressions } from './expressions.ts'
import { listed } from './protocols.ts'
import type { PyFrame, PyScope } from './scope.ts'
import type { PyExpr } from './syntax.ts'
import { PyList, raise } from './values.ts'

/** What values are put into, and taken out of. */
export abstract class PyTargets extends PyExpressions {
  protected override putOf(target: PyExpr, scope: PyScope): Put {
    switch (target.e) {
      case 'name': {
        const { name } = target
        const where = scope.find(name)
        if (where.is === 'class') return (f, value) => void f.attrs!.set(name, value)
        if (where.is === 'global') {
          const globals = this.globals
          return (_, value) => void globals.set(name, value)
        }
        const { depth, slot } = where
        if (depth === 0)
          return (f, value) => {
            f.v[slot] = value
          }
        return (f, value) => {
          let frame = f
          for (let at = 0; at < depth; at += 1) frame = frame.up!
          frame.v[slot] = value
        }
      }
      case 'member': {
        const of = this.get(target.of, scope)
        return (f, value) => setAttribute(of(f), target.name, value)
      }
      case 'index': {
        const [of, by] = [this.get(target.of, scope), this.get(target.by, scope)]
        return (f, value) => putElement(of(f), by(f), value)
      }
      case 'tuple':
      case 'list': {
        const star = target.items.findIndex((item) => item.e === 'star')
        const puts = target.items.map((item) => this.putOf(item.e === 'star' ? item.of : item, scope))
        return (f, value) => {
          const values = listed(value)
          if (star < 0) {
            if (values.length !== puts.length)
              raise(
                'ValueError',
                values.length > puts.length
                  ? `too many values to unpack (expected ${puts.length})`
                  : `not enough values to unpack (expected ${puts.length}, got ${values.length})`,
              )
            for (const [at, put] of puts.entries()) put(f, values[at])
            return
          }
          const after = puts.length - star - 1
          if (values.length < puts.length - 1)
            raise(
              'ValueError',
              `not enough values to unpack (expected at least ${puts.length - 1}, got ${values.length})`,
            )
          puts.forEach((put, at) => {
            if (at < star) put(f, values[at])
            else if (at === star) put(f, new PyList(values.slice(star, values.length - after)))
            else put(f, values[values.length - (puts.length - at)])
          })
        }
      }
      default:
        throw new SourceError('only what lies somewhere can be given a value', target.at)
    }
  }

  protected dropOf(target: PyExpr, scope: PyScope): (f: PyFrame) => void {
    if (target.e === 'index') {
      const [of, by] = [this.get(target.of, scope), this.get(target.by, scope)]
      return (f) => dropElement(of(f), by(f))
    }
    if (target.e === 'member') {
      const of = this.get(target.of, scope)
      return (f) => void of(f).attrs?.delete(target.name)
    }
    if (target.e !== 'name') throw new SourceError('this cannot be taken away', target.at)
    const where = scope.find(target.name)
    if (where.is === 'local')
      return (f) => {
        f.v[where.slot] = undefined
      }
    return (f) => void (f.attrs ?? this.globals).delete(target.name)
  }
}
