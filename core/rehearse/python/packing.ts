import { asNumber, shrunk } from './protocols.ts'
import { Float, type Py, PyBytes, PyTuple, raise } from './values.ts'

/** Bytes of each kind of place. */
const widths: Readonly<Record<string, number>> = {
  x: 1,
  b: 1,
  B: 1,
  '?': 1,
  h: 2,
  H: 2,
  i: 4,
  I: 4,
  l: 4,
  L: 4,
  f: 4,
  q: 8,
  Q: 8,
  d: 8,
}

/** Places of a layout of bytes as `struct` writes it, without the gaps of a machine. */
export function layout(how: string): {
  readonly size: number
  readonly little: boolean
  readonly fields: readonly string[]
} {
  const fields: string[] = []
  for (const [, count, kind = ''] of how.matchAll(/(\d*)([xbB?hHiIlLqQfd])/g))
    for (let at = 0; at < (count === '' ? 1 : Number(count)); at += 1) fields.push(kind)
  return { size: fields.reduce((sum, kind) => sum + widths[kind]!, 0), little: !/^[>!]/.test(how), fields }
}

/** Values as the bytes of a layout. */
export function packed([how, ...values]: readonly Py[]): Py {
  const { size, little, fields } = layout(how)
  const view = new DataView(new ArrayBuffer(size))
  let at = 0
  let next = 0
  for (const kind of fields) {
    if (kind === 'f') view.setFloat32(at, asNumber(values[next++]), little)
    else if (kind === 'd') view.setFloat64(at, asNumber(values[next++]), little)
    else if (kind !== 'x') {
      const bits = BigInt.asUintN(8 * widths[kind]!, BigInt(Number(values[next++])))
      for (let byte = 0; byte < widths[kind]!; byte += 1)
        view.setUint8(at + (little ? byte : widths[kind]! - 1 - byte), Number((bits >> BigInt(8 * byte)) & 255n))
    }
    at += widths[kind]!
  }
  return new PyBytes([...new Uint8Array(view.buffer)], false)
}

/** The values that stand in bytes of a layout; a `ValueError` where their number is another. */
export function unpacked([how, from]: readonly Py[]): Py {
  const { size, little, fields } = layout(how)
  const bytes: readonly number[] = from.bytes
  if (bytes.length !== size) raise('ValueError', `unpack requires a buffer of ${size} bytes`)
  const view = new DataView(Uint8Array.from(bytes).buffer)
  const found: Py[] = []
  let at = 0
  for (const kind of fields) {
    const width = widths[kind]!
    if (kind === 'f') found.push(new Float(view.getFloat32(at, little)))
    else if (kind === 'd') found.push(new Float(view.getFloat64(at, little)))
    else if (kind !== 'x') {
      let bits = 0n
      for (let byte = 0; byte < width; byte += 1)
        bits |= BigInt(view.getUint8(at + (little ? byte : width - 1 - byte))) << BigInt(8 * byte)
      found.push(kind === '?' ? bits !== 0n : shrunk(/[bhilq]/.test(kind) ? BigInt.asIntN(8 * width, bits) : bits))
    }
    at += width
  }
  return new PyTuple(found)
}
