import { element } from './elements.ts'
import type { Methods } from './methods.ts'
import { asIndex, listed } from './protocols.ts'
import { formatPy, reprOf, strOf } from './text.ts'
import { type Py, PyBytes, PyList, PyTuple, raise } from './values.ts'

export const space = /^\s+/
export const places = (value: Py, otherwise: number): number =>
  value === undefined || value === null ? otherwise : asIndex(value)
export const strip = (text: string, signs: Py, left: boolean, right: boolean): string => {
  if (signs === undefined || signs === null)
    return left ? (right ? text.trim() : text.replace(space, '')) : text.trimEnd()
  let [from, to] = [0, text.length]
  while (left && from < to && signs.includes(text[from])) from += 1
  while (right && to > from && signs.includes(text[to - 1])) to -= 1
  return text.slice(from, to)
}

/** `"{:>5} {name}".format(…)`. */
export function formatted(form: string, args: readonly Py[], named: ReadonlyMap<string, Py>): string {
  let next = 0
  return form.replace(
    /\{\{|\}\}|\{([^{}!:]*)(?:!([rsa]))?(?::((?:[^{}]|\{[^{}]*\})*))?\}/g,
    (all, field: string | undefined, turn, spec: string | undefined) => {
      if (all === '{{') return '{'
      if (all === '}}') return '}'
      const [, head = '', rest = ''] = /^([^.[]*)(.*)$/.exec(field ?? '') ?? []
      let value: Py = head === '' ? args[next++] : /^\d+$/.test(head) ? args[Number(head)] : named.get(head)
      if (value === undefined) raise(head === '' || /^\d+$/.test(head) ? 'IndexError' : 'KeyError', head)
      for (const [, index] of rest.matchAll(/\[([^\]]+)\]/g))
        value = element(value, /^\d+$/.test(index!) ? Number(index) : index)
      if (turn === 'r') value = reprOf(value)
      if (turn === 's') value = strOf(value)
      const wide = (spec ?? '').replace(/\{([^{}]*)\}/g, (_, name: string) =>
        strOf(name === '' ? args[next++] : /^\d+$/.test(name) ? args[Number(name)] : named.get(name)),
      )
      return formatPy(value, wide)
    },
  )
}

export const text: Methods = {
  upper: (s) => s.toUpperCase(),
  lower: (s) => s.toLowerCase(),
  title: (s) => s.replace(/\p{L}+/gu, (one: string) => one[0]!.toUpperCase() + one.slice(1).toLowerCase()),
  capitalize: (s) => (s === '' ? '' : s[0].toUpperCase() + s.slice(1).toLowerCase()),
  swapcase: (s) => [...s].map((one) => (one === one.toUpperCase() ? one.toLowerCase() : one.toUpperCase())).join(''),
  strip: (s, [signs]) => strip(s, signs, true, true),
  lstrip: (s, [signs]) => strip(s, signs, true, false),
  rstrip: (s, [signs]) => strip(s, signs, false, true),
  split: (s, args, named) => {
    const [by] = args
    const most = places(args[1] ?? named.get('maxsplit'), -1)
    const parts: string[] = []
    let rest: string = s
    if (by === undefined || by === null) {
      rest = rest.replace(space, '')
      while (rest !== '' && (most < 0 || parts.length < most)) {
        const found = /\s+/.exec(rest)
        if (!found) break
        parts.push(rest.slice(0, found.index))
        rest = rest.slice(found.index + found[0].length)
      }
      if (rest !== '') parts.push(parts.length === most ? rest : rest.trimEnd())
      return new PyList(parts.filter((one, at) => one !== '' || at < parts.length - 1))
    }
    if (by === '') raise('ValueError', 'empty separator')
    while (most < 0 || parts.length < most) {
      const at = rest.indexOf(by)
      if (at < 0) break
      parts.push(rest.slice(0, at))
      rest = rest.slice(at + by.length)
    }
    return new PyList([...parts, rest])
  },
  rsplit: (s, [by, most]) => {
    const all = s.split(by ?? /\s+/)
    const count = places(most, -1)
    return new PyList(
      count < 0 || all.length <= count + 1
        ? all
        : [all.slice(0, all.length - count).join(by ?? ' '), ...all.slice(all.length - count)],
    )
  },
  splitlines: (s) => new PyList(s === '' ? [] : s.replace(/\r?\n$/, '').split(/\r?\n/)),
  join: (s, [all]) =>
    listed(all)
      .map((one, at) =>
        typeof one === 'string' ? one : raise('TypeError', `sequence item ${at}: expected str instance`),
      )
      .join(s),
  replace: (s, [from, to, count]) => {
    if (count === undefined) return s.split(from).join(to)
    const parts = s.split(from)
    const keep = Math.min(asIndex(count), parts.length - 1)
    return parts.slice(0, keep + 1).join(to) + (parts.length > keep + 1 ? from + parts.slice(keep + 1).join(from) : '')
  },
  startsWith: (s, [what]) => s.startsWith(what),
  startswith: (s, [what, from]) =>
    what instanceof PyTuple
      ? what.items.some((one) => s.startsWith(one, places(from, 0)))
      : s.startsWith(what, places(from, 0)),
  endswith: (s, [what]) => (what instanceof PyTuple ? what.items.some((one) => s.endsWith(one)) : s.endsWith(what)),
  find: (s, [what, from, to]) => {
    const at = s.slice(0, places(to, s.length)).indexOf(what, places(from, 0))
    return at
  },
  rfind: (s, [what]) => s.lastIndexOf(what),
  index: (s, [what]) => (s.includes(what) ? s.indexOf(what) : raise('ValueError', 'substring not found')),
  count: (s, [what]) => s.split(what).length - 1,
  isdigit: (s) => /^\d+$/.test(s),
  isalpha: (s) => /^\p{L}+$/u.test(s),
  isalnum: (s) => /^[\p{L}\d]+$/u.test(s),
  isspace: (s) => /^\s+$/.test(s),
  isupper: (s) => s !== s.toLowerCase() && s === s.toUpperCase(),
  islower: (s) => s !== s.toUpperCase() && s === s.toLowerCase(),
  isdecimal: (s) => /^\d+$/.test(s),
  isnumeric: (s) => /^\d+$/.test(s),
  zfill: (s, [width]) => {
    const sign = /^[-+]/.exec(s)?.[0] ?? ''
    return sign + s.slice(sign.length).padStart(asIndex(width) - sign.length, '0')
  },
  ljust: (s, [width, fill]) => s.padEnd(asIndex(width), fill ?? ' '),
  rjust: (s, [width, fill]) => s.padStart(asIndex(width), fill ?? ' '),
  center: (s, [width, fill]) => {
    const missing = Math.max(0, asIndex(width) - s.length)
    const left = Math.floor(missing / 2) + ((missing % 2) & (asIndex(width) % 2))
    return (fill ?? ' ').repeat(left) + s + (fill ?? ' ').repeat(missing - left)
  },
  format: (s, args, named) => formatted(s, args, named),
  encode: (s) => new PyBytes([...new TextEncoder().encode(s)], false),
  partition: (s, [by]) => {
    const at = s.indexOf(by)
    return new PyTuple(at < 0 ? [s, '', ''] : [s.slice(0, at), by, s.slice(at + by.length)])
  },
  rpartition: (s, [by]) => {
    const at = s.lastIndexOf(by)
    return new PyTuple(at < 0 ? ['', '', s] : [s.slice(0, at), by, s.slice(at + by.length)])
  },
}
