import { bytesOf, Ptr, type Value } from './values.ts'

/** A method of `String`: what it wants, what it gives, and how the text is afterwards where it changes it. */
interface TextMethod {
  readonly params: readonly ('text' | 'number' | 'any')[]
  readonly returns: 'text' | 'int' | 'bool' | 'char' | 'float' | 'double' | 'long' | 'unsigned int' | 'void' | 'bytes'
  readonly run: (
    self: string,
    args: readonly Value[],
    charSigned: boolean,
  ) => { readonly value?: Value; readonly self?: string }
}

const asks = (
  params: TextMethod['params'],
  returns: TextMethod['returns'],
  value: (self: string, args: readonly Value[]) => Value,
): TextMethod => ({
  params,
  returns,
  run: (self, args) => ({ value: value(self, args) }),
})
const changes = (params: TextMethod['params'], self: (self: string, args: readonly Value[]) => string): TextMethod => ({
  params,
  returns: 'void',
  run: (before, args) => ({ self: self(before, args) }),
})

const truth = (value: boolean): number => (value ? 1 : 0)
const space = /^[\s]+|[\s]+$/g

/** The whole number with which a text begins. */
export const wholeOf = (text: string): number => Number(/^\s*[-+]?\d+/.exec(text)?.[0] ?? 0)
/** The number with which a text begins. */
export const numberOf = (text: string): number =>
  Number(/^\s*[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?/.exec(text)?.[0] ?? 0)

const compare = (a: string, b: string): number => {
  for (let at = 0; at <= Math.max(a.length, b.length); at += 1) {
    const by = (a.charCodeAt(at) || 0) - (b.charCodeAt(at) || 0)
    if (by !== 0) return by
  }
  return 0
}

/** What a `String` can be asked and told, after the platforms' reference of that class. */
export const textMethods: Readonly<Record<string, TextMethod>> = {
  length: asks([], 'unsigned int', (self) => self.length),
  isEmpty: asks([], 'bool', (self) => truth(self.length === 0)),
  charAt: asks(['number'], 'char', (self, [at]) => self.charCodeAt(at) || 0),
  equals: asks(['text'], 'bool', (self, [other]) => truth(self === other)),
  equalsIgnoreCase: asks(['text'], 'bool', (self, [other]) => truth(self.toLowerCase() === other.toLowerCase())),
  compareTo: asks(['text'], 'int', (self, [other]) => compare(self, other)),
  startsWith: asks(['text', 'number'], 'bool', (self, [other, from]) => truth(self.startsWith(other, from ?? 0))),
  endsWith: asks(['text'], 'bool', (self, [other]) => truth(self.endsWith(other))),
  indexOf: asks(['text', 'number'], 'int', (self, [other, from]) => self.indexOf(other, from ?? 0)),
  lastIndexOf: asks(['text', 'number'], 'int', (self, [other, from]) =>
    self.lastIndexOf(other, from ?? Number.POSITIVE_INFINITY),
  ),
  substring: asks(['number', 'number'], 'text', (self, [a, b]) => {
    const [from, to] = [Math.min(a, b ?? self.length), Math.max(a, b ?? self.length)]
    return self.slice(Math.max(0, from), Math.max(0, to))
  }),
  toInt: asks([], 'long', (self) => wholeOf(self) | 0),
  toFloat: asks([], 'float', (self) => Math.fround(numberOf(self))),
  toDouble: asks([], 'double', numberOf),
  c_str: { params: [], returns: 'bytes', run: (self, _, signed) => ({ value: new Ptr(bytesOf(self, signed), 0) }) },
  begin: { params: [], returns: 'bytes', run: (self, _, signed) => ({ value: new Ptr(bytesOf(self, signed), 0) }) },
  concat: { params: ['text'], returns: 'bool', run: (self, [more]) => ({ self: self + more, value: 1 }) },
  reserve: asks(['number'], 'bool', () => 1),
  trim: changes([], (self) => self.replace(space, '')),
  toUpperCase: changes([], (self) => self.toUpperCase()),
  toLowerCase: changes([], (self) => self.toLowerCase()),
  replace: changes(['text', 'text'], (self, [from, to]) => (from === '' ? self : self.split(from).join(to))),
  remove: changes(['number', 'number'], (self, [at, count]) =>
    at >= self.length ? self : self.slice(0, at) + (count === undefined ? '' : self.slice(at + count)),
  ),
  clear: changes([], () => ''),
  setCharAt: changes(['number', 'any'], (self, [at, letter]) =>
    at < 0 || at >= self.length ? self : self.slice(0, at) + String.fromCharCode(letter & 255) + self.slice(at + 1),
  ),
  toCharArray: {
    params: ['any', 'number'],
    returns: 'void',
    run: (self, [to, size]) => {
      const ptr: Ptr = to
      const text = self.slice(0, Math.max(0, size - 1))
      for (let at = 0; at <= text.length; at += 1) ptr.base[ptr.at + at] = at < text.length ? text.charCodeAt(at) : 0
      return {}
    },
  },
}
