import {
  type BuildKind,
  buildKinds,
  guessUse,
  type LevelKind,
  levelKinds,
  type PinUse,
  useIds,
  uses,
} from './pinUses.ts'

/**
 * A part of the maker's own as a form: the few things that most modules need, read out of an entry's text and written
 * into it. Whatever else stands in the text stays as it is.
 */

export interface FormPin {
  readonly name: string
  readonly use: PinUse
  /** May stay without a wire. */
  readonly optional: boolean
}

export interface PartForm {
  readonly title: string
  readonly category: string
  readonly pins: readonly FormPin[]
  readonly least: number | undefined
  readonly most: number | undefined
  /** Usual and highest current in milliamperes. */
  readonly typical: number | undefined
  readonly peak: number | undefined
  /** `other` where the text says something that the form does not offer. */
  readonly levels: LevelKind | 'other'
  /** I2C addresses, the usual one first. */
  readonly addresses: readonly number[]
  /** Resistors of the module from the bus to its supply in ohms; 0 for none. */
  readonly pullUpOhms: number
  readonly build: BuildKind | 'other'
  /** Distance between two rows in pitches of 2.54 mm. */
  readonly rowsApart: number
}

export const emptyForm: PartForm = {
  title: '',
  category: 'sensor',
  pins: [],
  least: 3,
  most: 3.6,
  typical: undefined,
  peak: undefined,
  levels: 'supply',
  addresses: [],
  pullUpOhms: 0,
  build: 'in-line',
  rowsApart: 6,
}

export type Raw = Readonly<Record<string, unknown>>

export const isRecord = (value: unknown): value is Raw =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

export const list = (value: unknown): readonly Raw[] => (Array.isArray(value) ? value.filter(isRecord) : [])

export const text = (value: unknown): string => (typeof value === 'string' ? value : '')

const figure = (value: unknown): number | undefined => (typeof value === 'number' ? value : undefined)

export const same = (one: unknown, other: unknown): boolean => JSON.stringify(one) === JSON.stringify(other)

/** Names of pins as somebody types them off a print: parted by blanks or commas, each but once. */
export function readPinNames(typed: string): string[] {
  const seen = new Map<string, number>()
  return typed
    .split(/[\s,;]+/)
    .filter((name) => name !== '')
    .map((name) => {
      const count = (seen.get(name) ?? 0) + 1
      seen.set(name, count)
      return count === 1 ? name : `${name}.${count}`
    })
}

/** Pins of a form after its list of names was typed anew: those that stay keep what they are. */
export function renamedPins(pins: readonly FormPin[], typed: string): FormPin[] {
  const names = readPinNames(typed)
  return names.map(
    (name) => pins.find((pin) => pin.name === name) ?? { name, use: guessUse(name, names), optional: false },
  )
}

/**
 * True where the form can say all that an entry says of its signals: one for each pin, and no modes but one for each bus.
 * In others pins and bus are changed in the text, and the form leaves them alone.
 */
export function isPlain(raw: unknown): boolean {
  if (!isRecord(raw)) return true
  const modes = list(raw.modes)
  const buses = modes.map((mode) => busIds.find((bus) => isRecord(mode[bus])))
  const used = signalsOf(raw).map(({ pin }) => pin)
  // What stands in one of several modes alone would come to stand in all of them.
  const apart = modes.length > 1 && modes.some((mode) => list(mode.ties).length > 0 || list(mode.signals).some(isNoBus))
  const known = modes.length === 0 || (!buses.includes(undefined) && new Set(buses).size === modes.length)
  return known && !apart && new Set(used).size === used.length
}

export const busIds = ['i2c', 'spi', 'uart'] as const

const isNoBus = (signal: Raw): boolean => !busIds.some((bus) => text(signal.needs).startsWith(`${bus}.`))

export function signalsOf(raw: Raw): readonly Raw[] {
  return [...list(raw.signals), ...list(raw.modes).flatMap((mode) => list(mode.signals))]
}

/** Reads the form out of an entry, of which any key may be missing or wrong. */
export function formOf(raw: unknown): PartForm {
  if (!isRecord(raw)) return emptyForm
  const signals = signalsOf(raw)
  const [supply] = list(raw.supplies)
  const pins = list(raw.pins).map((pin): FormPin => {
    const signal = signals.find((one) => one.pin === pin.id)
    const found = useIds.find(
      (id) =>
        uses[id].role === pin.role &&
        uses[id].signal?.needs === signal?.needs &&
        uses[id].signal?.direction === signal?.direction,
    )
    const near =
      signal === undefined ? (pin.role === 'supply' || pin.role === 'ground' ? pin.role : 'free') : nearUse(signal)
    return { name: text(pin.id), use: found ?? near, optional: signal?.required === false }
  })
  const levels = isRecord(raw.levels) ? raw.levels.logic : undefined
  const kind = (Object.keys(levelKinds) as LevelKind[]).find((id) => same(levelKinds[id].levels, levels))
  const foot = isRecord(raw.footprint) ? raw.footprint : {}
  const i2c = list(raw.modes).find((mode) => isRecord(mode.i2c))?.i2c
  return {
    title: text(raw.title),
    category: text(raw.category),
    pins,
    least: supply === undefined ? emptyForm.least : figure(supply.least),
    most: supply === undefined ? emptyForm.most : figure(supply.most),
    typical: figure(supply?.typicalMilliamps),
    peak: figure(supply?.peakMilliamps),
    levels: kind ?? (levels === undefined ? 'supply' : 'other'),
    addresses: addressesOf(raw, isRecord(i2c) ? i2c : undefined),
    pullUpOhms: isRecord(i2c) ? (figure(i2c.pullUpOhms) ?? 0) : 0,
    build:
      text(foot.kind) in buildKinds ? (text(foot.kind) as BuildKind) : foot.kind === undefined ? 'in-line' : 'other',
    rowsApart: figure(foot.rowsApart) ?? emptyForm.rowsApart,
  }
}

/** A use for a signal that the form does not offer just so. */
const nearUse = (signal: Raw): PinUse => (signal.direction === 'in' ? 'driven' : 'level')

function addressesOf(raw: Raw, i2c: Raw | undefined): number[] {
  const addresses = isRecord(i2c?.addresses) ? i2c.addresses : {}
  const option = list(raw.options).find((one) => one.id !== undefined && one.id === addresses.option)
  const values = list(option?.values).flatMap(({ value }) => figure(value) ?? [])
  const usual = figure(option?.usual)
  const fixed = Array.isArray(addresses.fixed) ? addresses.fixed.flatMap((one) => figure(one) ?? []) : []
  return [...new Set([...(usual === undefined ? [] : [usual]), ...values, ...fixed])]
}

/** An id that a title gives: small letters, digits and hyphens. */
export const idOf = (title: string): string =>
  title
    .toLowerCase()
    .normalize('NFKD')
    .replace(/\p{Mark}/gu, '')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 60) || 'my-part'

export const summaryOf = (title: string): string => `${title || 'A part'}, an entry of my own`

/** A stem for references that a title gives: its first word in capitals. */
export const stemOf = (title: string): string => {
  const word = title
    .toUpperCase()
    .normalize('NFKD')
    .replace(/[^A-Z0-9 ]/g, '')
    .split(' ')
    .find((one) => /^[A-Z]/.test(one))
  return (word ?? 'MINE').slice(0, 20)
}
