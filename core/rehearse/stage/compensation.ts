/**
 * Sensors of pressure that give raw counts, of which a program reckons the values with numbers burnt into each of them.
 * Ours have the numbers of the examples in their data sheets. Which counts give a wanted value is found by halving, since
 * each formula only rises or only falls.
 */

const lowHigh = (value: number): number[] => [value & 255, (value >> 8) & 255]
const highLow = (value: number): number[] => [(value >> 8) & 255, value & 255]

/** Counts from 0 up to 2^bits − 1 at which a function that rises (or falls) comes nearest to a value. */
export function countsFor(bits: number, value: number, of: (counts: number) => number): number {
  const rises = of(2 ** bits - 1) > of(0)
  let [low, high] = [0, 2 ** bits - 1]
  while (low < high) {
    const middle = Math.floor((low + high) / 2)
    if (of(middle) < value === rises) low = middle + 1
    else high = middle
  }
  const before = Math.max(0, low - 1)
  return Math.abs(of(before) - value) < Math.abs(of(low) - value) ? before : low
}

/** Degrees Celsius and hectopascals, per cent where it senses them. */
export interface Air {
  readonly temperature: number
  readonly pressure: number
  readonly humidity: number
}

/** Numbers of the example in the data sheet of the BMP280 (3.12), and of a BME280 for humidity. */
const T = [27_504, 26_435, -1000] as const
const P = [36_477, -10_685, 3024, 2855, 140, -7, 15_500, -14_600, 6000] as const
const H = [75, 370, 0, 313, 50, 30] as const

/** Fine temperature of raw counts, 5120 a degree. Source: data sheet of the BMP280, 8.1. */
export function fineOf(counts: number): number {
  const [t1, t2, t3] = T
  return (counts / 16_384 - t1 / 1024) * t2 + (counts / 131_072 - t1 / 8192) ** 2 * t3
}

/** Pressure of raw counts in pascals. Source: data sheet of the BMP280, 8.1. */
export function pascalsOf(counts: number, fine: number): number {
  const [p1, p2, p3, p4, p5, p6, p7, p8, p9] = P
  const off = fine / 2 - 64_000
  const second = (off * off * p6) / 32_768 + off * p5 * 2
  const span = (1 + ((p3 * off * off) / 524_288 + p2 * off) / 524_288 / 32_768) * p1
  const raw = ((1_048_576 - counts - (second / 4 + p4 * 65_536) / 4096) * 6250) / span
  return raw + ((p9 * raw * raw) / 2_147_483_648 + (raw * p8) / 32_768 + p7) / 16
}

/** Humidity of raw counts in per cent. Source: data sheet of the BME280, appendix A. */
export function percentOf(counts: number, fine: number): number {
  const [h1, h2, h3, h4, h5, h6] = H
  const off = fine - 76_800
  const wet =
    (counts - (h4 * 64 + (h5 / 16_384) * off)) *
    ((h2 / 65_536) * (1 + (h6 / 67_108_864) * off * (1 + (h3 / 67_108_864) * off)))
  return wet * (1 - (h1 * wet) / 524_288)
}

const [CALIBRATION, MORE, LAST, CONTROL, DATA] = [0x88, 0xa1, 0xe1, 0xf4, 0xf7] as const

/** Byte of a register of a BMP280 or BME280; undefined for those that only keep what is written. */
export function compensatedByte(
  place: number,
  air: Air,
  written: ReadonlyMap<number, number>,
  isHumid: boolean,
): number | undefined {
  const burnt = [...T, ...P].flatMap(lowHigh)
  if (place >= CALIBRATION && place < CALIBRATION + burnt.length) return burnt[place - CALIBRATION]
  const [h1, h2, h3, h4, h5, h6] = H
  if (isHumid && place === MORE) return h1
  const humid = [...lowHigh(h2), h3, h4 >> 4, (h4 & 15) | ((h5 & 15) << 4), h5 >> 4, h6]
  if (isHumid && place >= LAST && place < LAST + humid.length) return humid[place - LAST]
  if (place < DATA || place >= DATA + 8) return undefined
  // Until it is told to measure it holds what it held at power-on.
  const isAwake = ((written.get(CONTROL) ?? 0) & 3) !== 0
  const fine = fineOf(countsFor(20, air.temperature, (counts) => fineOf(counts) / 5120))
  const warm = isAwake ? countsFor(20, air.temperature, (counts) => fineOf(counts) / 5120) : 0x80000
  const pressed = isAwake ? countsFor(20, air.pressure * 100, (counts) => pascalsOf(counts, fine)) : 0x80000
  const wet = isAwake ? countsFor(16, air.humidity, (counts) => percentOf(counts, fine)) : 0x8000
  const twenty = (counts: number): number[] => [(counts >> 12) & 255, (counts >> 4) & 255, (counts << 4) & 255]
  return [...twenty(pressed), ...twenty(warm), ...(isHumid ? highLow(wet) : [0, 0])][place - DATA]
}

/** Numbers of the example in the data sheet of the BMP180 (3.5): AC1 to AC6, B1, B2, MB, MC, MD. */
const OLD = [408, -72, -14_383, 32_741, 32_757, 23_153, 6190, 4, -32_768, -8711, 2868] as const

/** B5 of raw counts, sixteen a tenth of a degree. Source: data sheet of the BMP180, 3.5. */
export function oldFineOf(counts: number): number {
  const [, , , , ac5, ac6, , , , mc, md] = OLD
  const x1 = Math.trunc(((counts - ac6) * ac5) / 32_768)
  return x1 + Math.trunc((mc * 2048) / (x1 + md))
}

/** Pascals of raw counts taken `2^oversampling` times. Source: data sheet of the BMP180, 3.5. */
export function oldPascalsOf(counts: number, b5: number, oversampling: number): number {
  const [ac1, ac2, ac3, ac4, , , b1, b2] = OLD
  const b6 = b5 - 4000
  const x3 = Math.floor((b2 * Math.floor((b6 * b6) / 4096)) / 2048) + Math.floor((ac2 * b6) / 2048)
  const b3 = Math.floor(((ac1 * 4 + x3) * 2 ** oversampling + 2) / 4)
  const y3 = Math.floor(
    (Math.floor((ac3 * b6) / 8192) + Math.floor((b1 * Math.floor((b6 * b6) / 4096)) / 65_536) + 2) / 4,
  )
  const b4 = Math.floor((ac4 * (y3 + 32_768)) / 32_768)
  const p = Math.trunc(((counts - b3) * (50_000 / 2 ** oversampling) * 2) / b4)
  const x = Math.floor((Math.floor(p / 256) ** 2 * 3038) / 65_536) + Math.floor((-7357 * p) / 65_536)
  return p + Math.floor((x + 3791) / 16)
}

const [OLD_CALIBRATION, OLD_CONTROL, OLD_DATA] = [0xaa, 0xf4, 0xf6] as const
const TEMPERATURE = 0x2e

/** Byte of a register of a BMP180: what the last command asked for. */
export function oldCompensatedByte(
  place: number,
  { temperature, pressure }: Air,
  written: ReadonlyMap<number, number>,
): number | undefined {
  const burnt = OLD.flatMap(highLow)
  if (place >= OLD_CALIBRATION && place < OLD_CALIBRATION + burnt.length) return burnt[place - OLD_CALIBRATION]
  if (place === OLD_CONTROL) return (written.get(OLD_CONTROL) ?? 0) & ~0x20
  if (place < OLD_DATA || place >= OLD_DATA + 3) return undefined
  const asked = written.get(OLD_CONTROL)
  const raw = countsFor(16, temperature * 10, (counts) => (oldFineOf(counts) + 8) / 16)
  if (asked === undefined) return 0
  if (asked === TEMPERATURE) return [...highLow(raw), 0][place - OLD_DATA]
  const oversampling = asked >> 6
  const b5 = oldFineOf(raw)
  const counts = countsFor(16 + oversampling, pressure * 100, (one) => oldPascalsOf(one, b5, oversampling))
  const held = counts << (8 - oversampling)
  return [(held >> 16) & 255, (held >> 8) & 255, held & 255][place - OLD_DATA]
}
