import * as v from 'valibot'

/** Schema pieces that boards and parts share. Voltages are in volts, currents in milliamperes, lengths in 2.54 mm pitches. */

export const Id = v.pipe(
  v.string(),
  v.maxLength(80, 'expected at most 80 characters'),
  v.regex(/^[a-z0-9][a-z0-9-]*$/, 'expected an id of small letters, digits and hyphens'),
)
export const PinId = v.pipe(
  v.string(),
  v.maxLength(60, 'expected at most 60 characters'),
  v.regex(/^[A-Za-z0-9+-][A-Za-z0-9_+\-.~/]*$/, 'expected a pin id of letters, digits and . _ + - ~ /'),
)
export const Text = v.pipe(
  v.string(),
  v.nonEmpty('expected some text'),
  v.maxLength(4000, 'expected at most 4000 characters'),
)
/** Largest figure of a fact in its base unit; beyond it arithmetic on facts would overflow. */
const MOST = 1e12
export const Amount = v.pipe(
  v.number(),
  v.minValue(-MOST, 'expected a number that a fact can be'),
  v.maxValue(MOST, 'expected a number that a fact can be'),
)
export const NotNegative = v.pipe(Amount, v.minValue(0, 'expected 0 or more'))
/** Millimetres from one hole, post or pin of the grid to the next. */
export const PITCH_MM = 2.54

/** A length on the grid in pitches of 2.54 mm: no board or part is longer than half a metre. */
export const Millimetres = v.pipe(NotNegative, v.maxValue(500, 'expected at most 500 millimetres'))
export const Pitches = v.pipe(NotNegative, v.maxValue(200, 'expected at most 200 pitches'))

export const Source = v.strictObject({
  /** Title of a datasheet, standard or drawing, without its maker's name. */
  title: Text,
  /** Section, table or figure in it. */
  section: v.optional(Text),
  /** What was taken from it. */
  for: v.optional(Text),
})
export type Source = v.InferOutput<typeof Source>

/**
 * A voltage, fixed (`3.3`) or relative to a supply, written as `0.7 VDD`, `VDD + 0.3` or `0.2 VDD - 0.1`.
 * Kept as factor and offset: volts = factor · VDD + offset.
 */
export interface Voltage {
  readonly factor: number
  readonly offset: number
}
const voltagePattern = /^(?:(\d+(?:\.\d+)?)\s*)?VDD(?:\s*([+-])\s*(\d+(?:\.\d+)?))?$/
export const Voltage = v.pipe(
  v.union([v.number(), v.string()], 'expected a voltage: a number, or text such as "0.7 VDD" or "VDD + 0.3"'),
  v.rawTransform(({ dataset, addIssue, NEVER }): Voltage => {
    const written = dataset.value
    if (typeof written === 'number') return { factor: 0, offset: written }
    const found = voltagePattern.exec(written.trim())
    if (!found) {
      addIssue({ message: 'expected a voltage: a number, or text such as "0.7 VDD" or "VDD + 0.3"' })
      return NEVER
    }
    const offset = found[3] === undefined ? 0 : Number(found[3]) * (found[2] === '-' ? -1 : 1)
    return { factor: found[1] === undefined ? 1 : Number(found[1]), offset }
  }),
)

/** Volts at a given supply; undefined when it depends on a supply that is not known. */
export function volts(voltage: Voltage | undefined, vdd: number | undefined): number | undefined {
  if (voltage === undefined) return undefined
  if (voltage.factor === 0) return voltage.offset
  return vdd === undefined ? undefined : voltage.factor * vdd + voltage.offset
}

/** Input and output levels of a pin. Every fact may be left out when its source does not give it. */
export const Levels = v.strictObject({
  /** Lowest input voltage that surely reads high. */
  vih: v.optional(Voltage),
  /** Highest input voltage that surely reads low. */
  vil: v.optional(Voltage),
  /** Lowest output voltage when driving high at the rated current. */
  voh: v.optional(Voltage),
  /** Highest output voltage when driving low at the rated current. */
  vol: v.optional(Voltage),
  /** Highest output voltage when driving high without load; the supply when left out. */
  high: v.optional(Voltage),
  /** Highest voltage that the pin bears. */
  most: v.optional(Voltage),
  /** The same while the pin is read as analog, where that is less. */
  mostAnalog: v.optional(Voltage),
  /** Lowest voltage that the pin bears. */
  least: v.optional(Voltage),
  /** Resistance of the output stage in ohms. */
  outputOhms: v.optional(NotNegative),
  note: v.optional(Text),
})
export type Levels = v.InferOutput<typeof Levels>

/** Current through one pin in milliamperes, into or out of it. */
export const PinCurrent = v.strictObject({
  recommended: v.optional(NotNegative),
  absolute: v.optional(NotNegative),
  /** Where sourcing and sinking differ. */
  source: v.optional(NotNegative),
  sink: v.optional(NotNegative),
})
export type PinCurrent = v.InferOutput<typeof PinCurrent>

/** What a pin can do by itself; bus signals come from controllers. */
export const plainFunctions = [
  'digital-in',
  'digital-out',
  'pull-up',
  'pull-down',
  'open-drain',
  'analog-in',
  'analog-out',
  'pwm',
  'interrupt',
  'pin-change',
  'touch',
  'sink',
  'source',
  'bridge',
] as const
export const PlainFunction = v.picklist(plainFunctions)
export type PlainFunction = v.InferOutput<typeof PlainFunction>

/** Kinds of controller and the signals each of them has, seen from the board. */
export const busSignals = {
  i2c: ['sda', 'scl'],
  spi: ['sck', 'mosi', 'miso', 'cs'],
  uart: ['tx', 'rx', 'rts', 'cts'],
  i2s: ['bck', 'ws', 'dout', 'din', 'mck'],
  onewire: ['dq'],
  can: ['tx', 'rx'],
} as const
export type BusKind = keyof typeof busSignals
export const BusKindSchema = v.picklist(Object.keys(busSignals) as BusKind[])

/** `i2c.sda`, `spi.cs` … or a plain function. */
export const Need = v.pipe(
  v.string(),
  v.check(
    (need) => isBusNeed(need) || (plainFunctions as readonly string[]).includes(need),
    'expected a plain function such as digital-out or a bus signal such as i2c.sda',
  ),
)

export function isBusNeed(need: string): boolean {
  const [kind, signal] = need.split('.')
  return (
    kind !== undefined &&
    Object.hasOwn(busSignals, kind) &&
    (busSignals[kind as BusKind] as readonly string[]).includes(signal ?? '')
  )
}

/** True for what a load asks of an output: to switch its ground, its supply, or both. */
export const isLoad = (need: string): boolean => loadNeeds.includes(need)
export const loadNeeds: readonly string[] = ['sink', 'source', 'bridge']
