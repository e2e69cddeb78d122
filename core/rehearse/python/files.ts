import { fn, Native, nativeClass } from './native.ts'
import { asIndex, iterate } from './protocols.ts'
import { type Py, PyBytes, PyIterator, PyList, PyTuple, raise } from './values.ts'

/** Numbers of errors, as the systems give them. */
const MISSING = 2
const CLOSED = 9

/** An open file: its name, whether it is read as text, and where it stands. */
interface Open {
  readonly name: string
  readonly isText: boolean
  readonly isWritten: boolean
  at: number
  isClosed: boolean
}

const encode = (text: string): number[] => [...new TextEncoder().encode(text)]
const decode = (bytes: readonly number[]): string => new TextDecoder().decode(Uint8Array.from(bytes))

/** Files of a board while a program runs: what it writes it can read again, also after a new start. */
export function files(): { readonly open: Py; readonly os: [string, Py][] } {
  const kept = new Map<string, number[]>()
  const bare = (name: Py): string => String(name).replace(/^\/?(flash\/|sd\/)?/, '')
  const opened = new Map<Native, Open>()
  const of = (self: Native): { readonly file: Open; readonly bytes: number[] } => {
    const file = opened.get(self)
    if (!file || file.isClosed) return raise('OSError', CLOSED)
    return { file, bytes: kept.get(file.name) ?? [] }
  }
  const shown = (file: Open, bytes: readonly number[]): Py =>
    file.isText ? decode(bytes) : new PyBytes([...bytes], false)
  const take = (self: Native, to: number): Py => {
    const { file, bytes } = of(self)
    const piece = bytes.slice(file.at, to)
    file.at = Math.min(bytes.length, to)
    return shown(file, piece)
  }
  const line = (self: Native): Py => {
    const { file, bytes } = of(self)
    const end = bytes.indexOf(10, file.at)
    return take(self, end < 0 ? bytes.length : end + 1)
  }
  const isEmpty = (piece: Py): boolean => (piece instanceof PyBytes ? piece.bytes.length === 0 : piece === '')
  const lines = (self: Native): PyIterator =>
    new PyIterator(() => {
      const next = line(self)
      return isEmpty(next) ? { done: true, value: null } : { done: false, value: next }
    })
  const put = (self: Native, what: Py): number => {
    const { file, bytes } = of(self)
    if (!file.isWritten) return raise('OSError', CLOSED)
    const more = what instanceof PyBytes ? what.bytes : encode(String(what))
    bytes.splice(file.at, more.length, ...more)
    file.at += more.length
    kept.set(file.name, bytes)
    return what instanceof PyBytes ? more.length : String(what).length
  }
  const shut = (self: Native): null => {
    const file = opened.get(self)
    if (file) file.isClosed = true
    return null
  }
  const File = nativeClass('TextIOWrapper', () => undefined, {
    read: (self, [count]) => {
      const { file, bytes } = of(self)
      return take(self, count === undefined || asIndex(count) < 0 ? bytes.length : file.at + asIndex(count))
    },
    readline: (self) => line(self),
    readlines: (self) => new PyList([...bound(lines(self))]),
    write: (self, [what]) => put(self, what),
    writelines: (self, [all]) => {
      for (const one of bound(iterate(all))) put(self, one)
      return null
    },
    seek: (self, [to, from]) => {
      const { file, bytes } = of(self)
      file.at = from === 2 ? bytes.length + asIndex(to) : from === 1 ? file.at + asIndex(to) : asIndex(to)
      return file.at
    },
    tell: (self) => of(self).file.at,
    flush: () => null,
    close: shut,
    __exit__: shut,
    __iter__: (self) => lines(self),
  })
  const open = fn('open', ([name, how], named) => {
    const mode = String(how ?? named.get('mode') ?? 'r')
    const known = bare(name)
    if (mode.startsWith('r') && !kept.has(known)) return raise('FileNotFoundError', MISSING)
    if (mode.startsWith('w') || !kept.has(known)) kept.set(known, [])
    const made = new Native(File)
    opened.set(made, {
      name: known,
      isText: !mode.includes('b'),
      isWritten: !mode.startsWith('r') || mode.includes('+'),
      at: mode.startsWith('a') ? kept.get(known)!.length : 0,
      isClosed: false,
    })
    return made
  })
  const needed = (name: Py): number[] => kept.get(bare(name)) ?? raise('OSError', MISSING)
  return {
    open,
    os: [
      ['listdir', fn('listdir', () => new PyList([...kept.keys()].sort()))],
      [
        'remove',
        fn('remove', ([name]) => {
          needed(name)
          kept.delete(bare(name))
          return null
        }),
      ],
      [
        'rename',
        fn('rename', ([from, to]) => {
          kept.set(bare(to), needed(from))
          kept.delete(bare(from))
          return null
        }),
      ],
      ['stat', fn('stat', ([name]) => new PyTuple([0x8000, 0, 0, 0, 0, 0, needed(name).length, 0, 0, 0]))],
      ['mkdir', fn('mkdir', () => null)],
      ['sync', fn('sync', () => null)],
      ['uname', fn('uname', () => new PyTuple([]))],
    ],
  }
}

function* bound(from: Iterator<Py, Py>): Generator<Py, void> {
  for (let next = from.next(); !next.done; next = from.next()) yield next.value
}
