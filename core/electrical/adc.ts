/** A converter's answer to a voltage; volts and bits. */
export interface AdcReading {
  /** counts = V / Vref · 2ⁿ, within the scale. */
  readonly counts: number
  /** Volts of one step. */
  readonly step: number
}

export function adcReading(volts: number, reference: number, bits: number): AdcReading {
  const scale = 2 ** bits
  return {
    counts: Math.max(0, Math.min(scale - 1, Math.floor((volts / reference) * scale))),
    step: reference / scale,
  }
}

/** Bits that a span of `volts` really uses of a converter: log2 of its steps; 0 for no span. */
export const usableBits = (volts: number, reference: number, bits: number): number =>
  volts <= 0 ? 0 : Math.max(0, Math.min(bits, Math.log2((volts / reference) * 2 ** bits)))
