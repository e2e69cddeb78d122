import { encode } from 'uqr'
import { type Markup, markup } from './markup.ts'

/** Modules around a QR code that stay white (ISO/IEC 18004). */
const QUIET = 4

/** The dark modules of a QR code (ISO/IEC 18004) as one path, a unit each, and the breadth of the whole. */
export function qrPath(text: string): { readonly path: string; readonly size: number } {
  const { data, size } = encode(text, { border: QUIET, ecc: 'M' })
  const path = data.flatMap((row, y) => row.flatMap((dark, x) => (dark ? [`M${x} ${y}h1v1h-1z`] : []))).join('')
  return { path, size }
}

/** A QR code to be printed, with its text below. */
export function writeQr(text: string): Markup {
  const { path, size } = qrPath(text)
  return markup`<figure class="mp-qr"><svg viewBox="0 0 ${size} ${size}" role="img" aria-label="QR code of ${text}"><path d="${path}"/></svg><figcaption>${text}</figcaption></figure>`
}
