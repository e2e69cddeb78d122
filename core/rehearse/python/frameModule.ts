import { type GivenModule, module, type Native, nativeClass } from './native.ts'
import { asIndex, asNumber, isTrue } from './protocols.ts'
import { type Py, PyBytes, raise } from './values.ts'

/** How colours lie in the bytes of a picture: where one of a place stands, and in how many bits. */
interface Format {
  readonly bits: number
  /** Byte and shift of a place, `stride` places to a row. */
  readonly place: (x: number, y: number, stride: number) => readonly [byte: number, shift: number]
}

const rows = (stride: number, bits: number): number => Math.ceil((stride * bits) / 8)
/** Formats of the platform's frame buffer, by their numbers (MicroPython reference, framebuf). */
const FORMATS: Readonly<Record<number, Format>> = {
  0: { bits: 1, place: (x, y, stride) => [(y >> 3) * stride + x, y & 7] },
  1: { bits: 16, place: (x, y, stride) => [(y * stride + x) * 2, 0] },
  2: { bits: 4, place: (x, y, stride) => [y * rows(stride, 4) + (x >> 1), x % 2 === 0 ? 4 : 0] },
  3: { bits: 1, place: (x, y, stride) => [y * rows(stride, 1) + (x >> 3), 7 - (x & 7)] },
  4: { bits: 1, place: (x, y, stride) => [y * rows(stride, 1) + (x >> 3), x & 7] },
  5: { bits: 2, place: (x, y, stride) => [y * rows(stride, 2) + (x >> 2), 2 * (x & 3)] },
  6: { bits: 8, place: (x, y, stride) => [y * stride + x, 0] },
}
const NAMES = { MVLSB: 0, MONO_VLSB: 0, RGB565: 1, GS4_HMSB: 2, MONO_HLSB: 3, MONO_HMSB: 4, GS2_HMSB: 5, GS8: 6 }

/** A picture in the bytes of a program. */
class Picture {
  readonly bytes: number[]
  readonly width: number
  readonly height: number
  readonly stride: number
  readonly format: Format

  constructor(bytes: number[], width: number, height: number, format: Format, stride: number) {
    this.bytes = bytes
    this.width = width
    this.height = height
    this.format = format
    this.stride = stride
  }

  has(x: number, y: number): boolean {
    return x >= 0 && y >= 0 && x < this.width && y < this.height
  }

  get(x: number, y: number): number {
    const [byte, shift] = this.format.place(x, y, this.stride)
    if (this.format.bits === 16) return (this.bytes[byte] ?? 0) | ((this.bytes[byte + 1] ?? 0) << 8)
    return ((this.bytes[byte] ?? 0) >> shift) & (2 ** this.format.bits - 1)
  }

  put(x: number, y: number, colour: number): void {
    if (!this.has(x, y)) return
    const [byte, shift] = this.format.place(x, y, this.stride)
    const { bits } = this.format
    if (bits === 16) {
      this.bytes[byte] = colour & 255
      this.bytes[byte + 1] = (colour >> 8) & 255
      return
    }
    const mask = (2 ** bits - 1) << shift
    const value = bits === 1 ? Math.min(1, Math.abs(colour)) : colour & (2 ** bits - 1)
    this.bytes[byte] = ((this.bytes[byte] ?? 0) & ~mask & 255) | (value << shift)
  }

  block(x: number, y: number, width: number, height: number, colour: number): void {
    for (let down = y; down < y + height; down += 1)
      for (let across = x; across < x + width; across += 1) this.put(across, down, colour)
  }

  line(x: number, y: number, toX: number, toY: number, colour: number): void {
    const steps = Math.max(Math.abs(toX - x), Math.abs(toY - y))
    for (let at = 0; at <= steps; at += 1)
      this.put(
        Math.round(x + ((toX - x) * at) / Math.max(1, steps)),
        Math.round(y + ((toY - y) * at) / Math.max(1, steps)),
        colour,
      )
  }

  take(from: Picture, x: number, y: number, without: number): void {
    for (let down = 0; down < from.height; down += 1)
      for (let across = 0; across < from.width; across += 1) {
        const colour = from.get(across, down)
        if (colour !== without) this.put(x + across, y + down, colour)
      }
  }

  scroll(right: number, down: number): void {
    const before = new Picture([...this.bytes], this.width, this.height, this.format, this.stride)
    for (let y = 0; y < this.height; y += 1)
      for (let x = 0; x < this.width; x += 1)
        if (before.has(x - right, y - down)) this.put(x, y, before.get(x - right, y - down))
  }
}

/** `framebuf`: pictures in bytes, drawn and put into one another. */
export function frameModule(): GivenModule {
  const pictures = new WeakMap<Native, Picture>()
  const of = (self: Native): Picture => pictures.get(self) as Picture
  const numbers = (args: readonly Py[]): number[] => args.map((one) => Math.trunc(asNumber(one)))
  const FrameBuffer = nativeClass(
    'FrameBuffer',
    (self, [buffer, width, height, kind, stride]) => {
      const format = FORMATS[asIndex(kind)]
      if (!(buffer instanceof PyBytes) || !buffer.mutable) raise('TypeError', 'object with buffer protocol required')
      if (!format) return raise('ValueError', 'invalid format')
      const [w, h] = [asIndex(width), asIndex(height)]
      const across = stride === undefined ? w : asIndex(stride)
      const needed = asIndex(kind) === 0 ? Math.ceil(h / 8) * across : h * rows(across, format.bits)
      if (buffer.bytes.length < needed) return raise('ValueError', 'buffer too small')
      pictures.set(self, new Picture(buffer.bytes, w, h, format, across))
      return undefined
    },
    {
      fill: (self, [colour]) => {
        of(self).block(0, 0, of(self).width, of(self).height, asIndex(colour))
        return null
      },
      pixel: (self, args) => {
        const [x, y, colour] = numbers(args) as [number, number, number | undefined]
        if (colour === undefined) return of(self).has(x, y) ? of(self).get(x, y) : null
        of(self).put(x, y, colour)
        return null
      },
      hline: (self, args) => {
        const [x, y, long, colour] = numbers(args) as [number, number, number, number]
        of(self).block(x, y, long, 1, colour)
        return null
      },
      vline: (self, args) => {
        const [x, y, long, colour] = numbers(args) as [number, number, number, number]
        of(self).block(x, y, 1, long, colour)
        return null
      },
      line: (self, args) => {
        const [x, y, toX, toY, colour] = numbers(args) as [number, number, number, number, number]
        of(self).line(x, y, toX, toY, colour)
        return null
      },
      rect: (self, args) => {
        const [x, y, w, h, colour] = numbers(args) as [number, number, number, number, number]
        const picture = of(self)
        if (isTrue(args[5] ?? false)) picture.block(x, y, w, h, colour)
        else
          for (const [left, top, wide, high] of [
            [x, y, w, 1],
            [x, y + h - 1, w, 1],
            [x, y, 1, h],
            [x + w - 1, y, 1, h],
          ] as const)
            picture.block(left, top, wide, high, colour)
        return null
      },
      fill_rect: (self, args) => {
        const [x, y, w, h, colour] = numbers(args) as [number, number, number, number, number]
        of(self).block(x, y, w, h, colour)
        return null
      },
      scroll: (self, args) => {
        const [right, down] = numbers(args) as [number, number]
        of(self).scroll(right, down)
        return null
      },
      blit: (self, [from, x, y, without]) => {
        const other = pictures.get(from as Native)
        if (!other) return raise('TypeError', 'expected a FrameBuffer')
        of(self).take(other, asIndex(x), asIndex(y), without === undefined ? -1 : asIndex(without))
        return null
      },
      // Its letters are not drawn: what a display shows of them, its own class says.
      text: () => null,
    },
  )
  return module('framebuf', [['FrameBuffer', FrameBuffer], ...Object.entries(NAMES)])
}
