import type { Register } from '../../catalog/driverSchema.ts'

/** What is said at a register, or without one. */
export type Held = Omit<Register, 'at'>

const BYTE = 8

/** Bytes of what is held. */
export const lengthOf = ({ is, bits, left }: Held): number => is?.length ?? Math.ceil((bits + left) / BYTE)

/** Counts of what is sensed, within what the bits hold; below nought as a complement of two. */
function countsOf(
  { per, plus, bits, unsigned, range }: Held,
  sensed: number,
  written: ReadonlyMap<number, number>,
): number {
  const chosen = range ? (written.get(range.at) ?? 0) : 0
  const step = range && (chosen & (range.unless ?? 0)) === 0 ? (chosen >> range.left) & range.mask : 0
  const divided = range?.by?.[step] ?? 2 ** step
  const [least, most] = unsigned ? [0, 2 ** bits - 1] : [-(2 ** (bits - 1)), 2 ** (bits - 1) - 1]
  return Math.min(most, Math.max(least, Math.round((sensed * per) / divided + plus))) & (2 ** bits - 1)
}

/** Bytes of a register; undefined of what is sensed while the part sleeps. */
export function heldBytes(held: Held, sensed: number | undefined, written: ReadonlyMap<number, number>): number[] {
  if (held.is) return [...held.is]
  const value = sensed === undefined ? 0 : countsOf(held, sensed, written) * 2 ** held.left
  const length = lengthOf(held)
  const bytes = Array.from({ length }, (_, at) => Math.floor(value / 2 ** (BYTE * (length - 1 - at))) & 255)
  return held.low ? bytes.reverse() : bytes
}

/** Several values bit after bit, filled up to whole bytes. */
export function packedBytes(all: readonly Held[], sensed: (held: Held) => number): number[] {
  const bits = all.flatMap((held) =>
    held.is
      ? held.is.flatMap((byte) => bitsOf(byte, BYTE))
      : bitsOf(countsOf(held, sensed(held), new Map()), held.bits),
  )
  return Array.from({ length: Math.ceil(bits.length / BYTE) }, (_, at) =>
    Array.from({ length: BYTE }, (_, bit) => bits[at * BYTE + bit] ?? 0).reduce((sum, one) => sum * 2 + one, 0),
  )
}

const bitsOf = (value: number, count: number): number[] =>
  Array.from({ length: count }, (_, at) => Math.floor(value / 2 ** (count - 1 - at)) & 1)

/** Check byte of x^8 + x^5 + x^4 + 1, as climate sensors send it. Source: data sheets of the SHT3x and HTU21D. */
export function checkByte(bytes: readonly number[], start: number): number {
  return bytes.reduce((sum, byte) => {
    let crc = sum ^ byte
    for (let bit = 0; bit < BYTE; bit += 1) crc = crc & 0x80 ? ((crc << 1) ^ 0x31) & 255 : (crc << 1) & 255
    return crc
  }, start)
}
