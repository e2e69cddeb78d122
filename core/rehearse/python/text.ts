import { asIndex, asNumber, isInt, typeName } from './protocols.ts'
import {
  Float,
  type Py,
  PyBytes,
  PyClass,
  PyDict,
  PyFunction,
  PyList,
  PyModule,
  PyObject,
  PyRange,
  PySet,
  PyTuple,
  raise,
} from './values.ts'

/** A number with a point as Python writes it: as short as it stays the same, with a point or an exponent. */
export function floatRepr(value: number): string {
  if (Number.isNaN(value)) return 'nan'
  if (!Number.isFinite(value)) return value < 0 ? '-inf' : 'inf'
  if (Object.is(value, -0)) return '-0.0'
  const text = String(value)
  const [, sign = '', digits = '', fraction = '', power = '0'] =
    /^(-?)(\d+)(?:\.(\d+))?(?:e([-+]\d+))?$/.exec(text) ?? []
  const all = (digits + fraction).replace(/^0+(?=\d)/, '')
  const point = digits === '0' ? -(/^0*/.exec(fraction)?.[0].length ?? 0) : digits.length
  const bare = all.replace(/^0+/, '') || '0'
  const exponent = Number(power) + (value === 0 ? 1 : point) - 1
  if (exponent < -4 || exponent >= 16) {
    const shown = bare.replace(/0+$/, '') || '0'
    const rest = shown.slice(1)
    const size = String(Math.abs(exponent)).padStart(2, '0')
    return `${sign}${shown[0]}${rest === '' ? '' : `.${rest}`}e${exponent < 0 ? '-' : '+'}${size}`
  }
  if (!text.includes('e')) return text.includes('.') ? text : `${text}.0`
  const plain = BigInt(Math.round(Math.abs(value)))
  return `${sign}${plain}.0`
}

/** `repr()`: a value as it would be written in a program. */
export function reprOf(value: Py): string {
  if (value === null || value === undefined) return 'None'
  if (typeof value === 'boolean') return value ? 'True' : 'False'
  if (isInt(value)) return String(value)
  if (value instanceof Float) return floatRepr(value.v)
  if (typeof value === 'string') return quoted(value)
  if (value instanceof PyList) return `[${value.items.map(reprOf).join(', ')}]`
  if (value instanceof PyTuple) return `(${value.items.map(reprOf).join(', ')}${value.items.length === 1 ? ',' : ''})`
  if (value instanceof PyDict)
    return `{${[...value.entries.values()].map(([key, one]) => `${reprOf(key)}: ${reprOf(one)}`).join(', ')}}`
  if (value instanceof PySet)
    return value.members.size === 0 ? 'set()' : `{${[...value.members.values()].map(reprOf).join(', ')}}`
  if (value instanceof PyBytes) {
    const text = value.bytes
      .map((byte) =>
        byte === 39
          ? "\\'"
          : byte === 92
            ? '\\\\'
            : byte === 10
              ? '\\n'
              : byte === 13
                ? '\\r'
                : byte === 9
                  ? '\\t'
                  : byte >= 32 && byte < 127
                    ? String.fromCharCode(byte)
                    : `\\x${byte.toString(16).padStart(2, '0')}`,
      )
      .join('')
    const bare = text.includes("\\'") && !text.includes('"') ? `b"${text.replaceAll("\\'", "'")}"` : `b'${text}'`
    return value.mutable ? `bytearray(${bare})` : bare
  }
  if (value instanceof PyRange) return `range(${value.from}, ${value.to}${value.step === 1 ? '' : `, ${value.step}`})`
  if (value instanceof PyClass) return `<class '${value.name}'>`
  if (value instanceof PyModule) return `<module '${value.name}'>`
  if (value instanceof PyFunction) return `<function ${value.name}>`
  if (value instanceof PyObject) {
    const own = value.cls.find('__repr__')
    if (own) return own.call([value], new Map())
    const args = value.attrs.get('args')
    if (args instanceof PyTuple && value.cls.order.some(({ name }) => name === 'BaseException'))
      return `${value.cls.name}(${args.items.map(reprOf).join(', ')})`
    return `<${value.cls.name} object>`
  }
  return `<${typeName(value)}>`
}

/** `str()`: a value as it is shown. */
export function strOf(value: Py): string {
  if (typeof value === 'string') return value
  if (value instanceof PyObject) {
    const own = value.cls.find('__str__')
    if (own) return own.call([value], new Map())
    const args = value.attrs.get('args')
    if (
      args instanceof PyTuple &&
      value.cls.order.some(({ name }) => name === 'BaseException') &&
      !value.cls.find('__repr__')
    ) {
      if (args.items.length === 0) return ''
      if (args.items.length === 1) return value.cls.name === 'KeyError' ? reprOf(args.items[0]) : strOf(args.items[0])
      return reprOf(args)
    }
  }
  return reprOf(value)
}

function quoted(text: string): string {
  const quote = text.includes("'") && !text.includes('"') ? '"' : "'"
  let made = ''
  for (const letter of text) {
    const code = letter.codePointAt(0)!
    if (letter === '\\' || letter === quote) made += `\\${letter}`
    else if (letter === '\n') made += '\\n'
    else if (letter === '\r') made += '\\r'
    else if (letter === '\t') made += '\\t'
    else if (code < 32 || code === 127) made += `\\x${code.toString(16).padStart(2, '0')}`
    else made += letter
  }
  return quote + made + quote
}

const SPEC = /^(?:(.)?([<>=^]))?([-+ ])?(#)?(0)?(\d+)?([,_])?(?:\.(\d+))?([bcdeEfFgGnosxX%])?$/u

/** A value by a format specification (Python library reference, "Format Specification Mini-Language"). */
export function formatPy(value: Py, spec: string): string {
  if (value instanceof PyObject && value.cls.find('__format__'))
    return value.cls.find('__format__').call([value, spec], new Map())
  if (spec === '') return strOf(value)
  const found = SPEC.exec(spec)
  if (!found) return raise('ValueError', 'Invalid format specifier')
  const [, fill, align, sign = '-', alternate, zero, width, group, precision, type] = found
  const digits = precision === undefined ? undefined : Number(precision)
  const isNumber = isInt(value) || value instanceof Float
  let body: string
  let negative = false
  if (isNumber && type !== 's') {
    const isWhole = isInt(value)
    const kind = type ?? (isWhole ? 'd' : undefined)
    if (kind !== undefined && 'bcdoxXn'.includes(kind)) {
      if (!isWhole) return raise('ValueError', `Unknown format code '${kind}' for object of type 'float'`)
      const whole = BigInt(value)
      negative = whole < 0n
      const size = negative ? -whole : whole
      if (kind === 'c') body = String.fromCodePoint(Number(whole))
      else {
        const base = kind === 'b' ? 2 : kind === 'o' ? 8 : kind === 'x' || kind === 'X' ? 16 : 10
        body = size.toString(base)
        if (kind === 'X') body = body.toUpperCase()
        if (alternate)
          body = (kind === 'b' ? '0b' : kind === 'o' ? '0o' : kind === 'x' ? '0x' : kind === 'X' ? '0X' : '') + body
      }
    } else {
      const number = asNumber(value)
      negative = number < 0 || Object.is(number, -0)
      body = realText(Math.abs(number), kind, digits)
    }
    if (group !== undefined) body = body.replace(/^\d+/, (run) => run.replace(/\B(?=(\d{3})+(?!\d))/g, group))
    const shown = negative ? '-' : sign === '+' ? '+' : sign === ' ' ? ' ' : ''
    const wide = Number(width ?? 0)
    const way = align ?? (zero ? '=' : '>')
    const with0 = fill ?? (zero ? '0' : ' ')
    const missing = Math.max(0, wide - shown.length - body.length)
    if (way === '=') {
      const prefix = /^0[xXob]/.exec(body)?.[0] ?? ''
      return shown + prefix + with0.repeat(missing) + body.slice(prefix.length)
    }
    return padded(shown + body, wide, way, with0)
  }
  body = strOf(value)
  if (digits !== undefined) body = [...body].slice(0, digits).join('')
  return padded(body, Number(width ?? 0), align ?? '<', fill ?? (zero ? '0' : ' '))
}

function padded(text: string, width: number, align: string, fill: string): string {
  const missing = width - [...text].length
  if (missing <= 0) return text
  if (align === '<') return text + fill.repeat(missing)
  if (align === '^') return fill.repeat(Math.floor(missing / 2)) + text + fill.repeat(Math.ceil(missing / 2))
  return fill.repeat(missing) + text
}

function realText(value: number, kind: string | undefined, digits: number | undefined): string {
  if (Number.isNaN(value)) return 'nan'
  if (!Number.isFinite(value)) return 'inf'
  const lower = kind?.toLowerCase()
  const exponent = (text: string): string => text.replace(/e([-+])(\d)$/, 'e$10$2')
  let text: string
  if (lower === 'f') text = fixed(value, digits ?? 6)
  else if (lower === '%') text = `${fixed(value * 100, digits ?? 6)}%`
  else if (lower === 'e') text = exponent(scientific(value, digits ?? 6))
  else if (lower === undefined && digits === undefined) text = floatRepr(value)
  else {
    const precise = digits === 0 ? 1 : (digits ?? 6)
    const power = value === 0 ? 0 : Number(/e([-+]\d+)$/.exec(scientific(value, precise - 1))![1])
    if (power < -4 || power >= precise) text = exponent(scientific(value, precise - 1)).replace(/\.?0+e/, 'e')
    else {
      text = fixed(value, Math.max(0, precise - 1 - power))
      if (text.includes('.')) text = text.replace(/\.?0+$/, '')
      if (lower === undefined && !text.includes('.')) text += '.0'
    }
  }
  return kind !== undefined && kind !== lower ? text.toUpperCase() : text
}

/** So many digits behind the point, half-way to the even one. */
export function fixed(value: number, digits: number): string {
  if (value >= 1e21) return `${BigInt(Math.round(value))}${digits > 0 ? `.${'0'.repeat(digits)}` : ''}`
  const text = value.toFixed(Math.min(100, digits))
  if (digits > 50 || value >= 1e15) return text
  const whole = value.toFixed(digits + 40)
  if (!/^50*$/.test(whole.slice(whole.length - 40))) return text
  const down = digits === 0 ? whole.slice(0, -41) : whole.slice(0, -40)
  return Number(down.at(-1)) % 2 === 0 ? down : text
}

/** With an exponent and so many digits behind the point, half-way to the even one. */
function scientific(value: number, digits: number): string {
  const text = value.toExponential(digits)
  if (digits > 50) return text
  const whole = value.toExponential(digits + 40)
  const [mantissa = '', power = ''] = whole.split('e')
  if (!/^50*$/.test(mantissa.slice(-40))) return text
  const down = digits === 0 ? mantissa.slice(0, -41) : mantissa.slice(0, -40)
  return Number(down.at(-1)) % 2 === 0 ? `${down}e${power}` : text
}

const OLD = /%(?:\((\w+)\))?([-+ #0]*)(\*|\d+)?(?:\.(\d+))?([diouxXeEfFgGcrsa%])/g

/** `"%d of %s" % (n, name)`. */
export function percentPy(form: string, given: Py): string {
  const args = given instanceof PyTuple ? given.items : [given]
  let next = 0
  const take = (): Py =>
    next < args.length ? args[next++] : raise('TypeError', 'not enough arguments for format string')
  const made = form.replace(
    OLD,
    (
      _,
      name: string | undefined,
      flags: string,
      width: string | undefined,
      precision: string | undefined,
      kind: string,
    ) => {
      if (kind === '%') return '%'
      const wide = width === '*' ? asIndex(take()) : Number(width ?? 0)
      const value = name === undefined ? take() : (given as PyDict).get(name)
      const left = flags.includes('-')
      let text: string
      if (kind === 's' || kind === 'r' || kind === 'a') {
        text = kind === 's' ? strOf(value) : reprOf(value)
        if (precision !== undefined) text = text.slice(0, Number(precision))
        return left ? text.padEnd(wide) : text.padStart(wide)
      }
      if (kind === 'c') return typeof value === 'string' ? value : String.fromCodePoint(Number(value))
      if (!isInt(value) && !(value instanceof Float))
        return raise('TypeError', `%${kind} format: a real number is required, not ${typeName(value)}`)
      const whole = 'diu'.includes(kind) ? Math.trunc(asNumber(value)) : value
      const number = typeof value === 'bigint' ? value : whole
      const sign = flags.includes('+') ? '+' : flags.includes(' ') ? ' ' : ''
      const type = 'diu'.includes(kind) ? 'd' : kind
      const spec = `${left ? '<' : ''}${sign}${flags.includes('#') ? '#' : ''}${flags.includes('0') && !left ? '0' : ''}${wide > 0 ? wide : ''}${precision !== undefined && type !== 'd' ? `.${precision}` : ''}${type}`
      return formatPy(number, spec)
    },
  )
  if (next < args.length && !(given instanceof PyDict))
    raise('TypeError', 'not all arguments converted during string formatting')
  return made
}
