import { type Document, isCollection, isMap, isScalar, isSeq, parseDocument, visit } from 'yaml'

/**
 * A part of the maker's own as a form: the few things that most modules need, read out of an entry's text and written
 * into it. Whatever else stands in the text stays as it is.
 */

interface Use {
  readonly title: string
  readonly role: 'supply' | 'ground' | 'signal' | 'free'
  /** Bus to whose mode the signal belongs. */
  readonly bus?: 'i2c' | 'spi' | 'uart'
  readonly signal?: Readonly<Record<string, unknown>> & { readonly needs: string }
  /** Names that are printed beside such pins. */
  readonly printed: RegExp
}

/** What a pin can be, in the order in which the form offers it. */
export const pinUses = {
  supply: { title: 'supply in', role: 'supply', printed: /^(vcc|vdd|vin|vs|v\+|\+|3v3|3\.3v|5v|vbus)$/ },
  ground: { title: 'ground', role: 'ground', printed: /^(gnd|vss|g|-|0v|gnd\.\d)$/ },
  scl: use('I2C clock', 'i2c', { needs: 'i2c.scl', direction: 'in' }, /^scl$/),
  sda: use('I2C data', 'i2c', { needs: 'i2c.sda', direction: 'open-drain' }, /^sda$/),
  sck: use('SPI clock', 'spi', { needs: 'spi.sck', direction: 'in' }, /^(sck|sclk|clk)$/),
  mosi: use('SPI data into the part', 'spi', { needs: 'spi.mosi', direction: 'in' }, /^(mosi|sdi|din|si|copi)$/),
  miso: use('SPI data out of the part', 'spi', { needs: 'spi.miso', direction: 'out' }, /^(miso|sdo|dout|so|cipo)$/),
  cs: use('SPI select', 'spi', { needs: 'spi.cs', direction: 'in' }, /^(cs|csn|nss|ss|ce)$/),
  tx: use('serial, out of the part', 'uart', { needs: 'uart.rx', direction: 'out' }, /^(tx|txd|t)$/),
  rx: use('serial, into the part', 'uart', { needs: 'uart.tx', direction: 'in' }, /^(rx|rxd|r)$/),
  driven: use(
    'level from the board',
    undefined,
    { needs: 'digital-out', direction: 'in' },
    /^(en|rst|reset|res|dc|in\d?|trig|stby|dir|step)$/,
  ),
  pulses: use(
    'pulses from the board (PWM)',
    undefined,
    { needs: 'pwm', orElse: 'digital-out', direction: 'in' },
    /^(pwm|sig|bl|led)$/,
  ),
  level: use('level to the board', undefined, { needs: 'digital-in', direction: 'out' }, /^(do|out|sw|echo|busy|dt)$/),
  edge: use(
    'level that wakes the board',
    undefined,
    { needs: 'interrupt', orElse: 'digital-in', direction: 'out' },
    /^(int|irq|int1|int2|drdy|rdy|alert|gpio1)$/,
  ),
  analog: use(
    'voltage to the board',
    undefined,
    { needs: 'analog-in', direction: 'out' },
    /^(ao|aout|a|vo|adc|sense)$/,
  ),
  line: use(
    'one line both ways',
    undefined,
    { needs: 'digital-out', direction: 'open-drain', pull: 'up' },
    /^(dq|data|dat|s)$/,
  ),
  free: { title: 'left alone', role: 'free', printed: /^(nc|n\/c)$/ },
} as const satisfies Record<string, Use>

function use(title: string, bus: Use['bus'], signal: Use['signal'], printed: RegExp): Use {
  return { title, role: 'signal', ...(bus ? { bus } : {}), ...(signal ? { signal } : {}), printed }
}

export type PinUse = keyof typeof pinUses
const useIds = Object.keys(pinUses) as PinUse[]
const uses: Readonly<Record<PinUse, Use>> = pinUses

/** What the levels of a part are said to be, in plain words; the figures are those of ordinary CMOS logic. */
export const levelKinds = {
  supply: {
    title: 'as its supply',
    levels: { vih: '0.7 VDD', vil: '0.3 VDD', voh: 'VDD - 0.4', vol: 0.4, most: 'VDD + 0.3', least: -0.3 },
  },
  regulated: {
    title: '3.3 V, whatever its supply',
    logicVolts: 3.3,
    levels: { vih: 2.31, vil: 0.99, voh: 2.9, vol: 0.4, high: 3.3, most: 3.6, least: -0.3 },
  },
  tolerant: {
    title: '3.3 V, and bears 5 V',
    logicVolts: 3.3,
    levels: { vih: 2.31, vil: 0.99, voh: 2.9, vol: 0.4, high: 3.3, most: 5.5, least: -0.3 },
  },
} as const
export type LevelKind = keyof typeof levelKinds

export const buildKinds = {
  'in-line': 'one row of posts',
  'two-row': 'two rows of posts',
  beside: 'posts that do not fit a breadboard',
  leads: 'leads of its own',
} as const
export type BuildKind = keyof typeof buildKinds

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

type Raw = Readonly<Record<string, unknown>>
const isRecord = (value: unknown): value is Raw => typeof value === 'object' && value !== null && !Array.isArray(value)
const list = (value: unknown): readonly Raw[] => (Array.isArray(value) ? value.filter(isRecord) : [])
const text = (value: unknown): string => (typeof value === 'string' ? value : '')
const figure = (value: unknown): number | undefined => (typeof value === 'number' ? value : undefined)
const same = (one: unknown, other: unknown): boolean => JSON.stringify(one) === JSON.stringify(other)

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

/** What a pin of this name most often is. */
export function guessUse(name: string, others: readonly string[]): PinUse {
  const plain = name.toLowerCase()
  const names = others.map((one) => one.toLowerCase())
  // SDA and SCL of a display with a select line are data and clock of SPI.
  const isSpi =
    names.some((one) => uses.cs.printed.test(one)) && names.some((one) => ['dc', 'res', 'rst'].includes(one))
  if (isSpi && plain === 'scl') return 'sck'
  if (isSpi && plain === 'sda') return 'mosi'
  return useIds.find((id) => uses[id].printed.test(plain)) ?? 'level'
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

const busIds = ['i2c', 'spi', 'uart'] as const
const isNoBus = (signal: Raw): boolean => !busIds.some((bus) => text(signal.needs).startsWith(`${bus}.`))

function signalsOf(raw: Raw): readonly Raw[] {
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

const summaryOf = (title: string): string => `${title || 'A part'}, an entry of my own`

/** A stem for references that a title gives: its first word in capitals. */
const stemOf = (title: string): string => {
  const word = title
    .toUpperCase()
    .normalize('NFKD')
    .replace(/[^A-Z0-9 ]/g, '')
    .split(' ')
    .find((one) => /^[A-Z]/.test(one))
  return (word ?? 'MINE').slice(0, 20)
}

/** The entry's keys that a form sets, beside what the entry says already. */
function keysOf(wanted: PartForm, raw: Raw, isNew: boolean): Record<string, unknown> {
  const before = formOf(raw)
  const { pins, addresses, pullUpOhms } = before
  const form = isPlain(raw) ? wanted : { ...wanted, pins, addresses, pullUpOhms }
  const keys: Record<string, unknown> = {}
  const put = (key: string, value: unknown): void => {
    if (!same(raw[key], value)) keys[key] = value
  }
  if (isNew && raw.catalog === undefined) {
    put('catalog', 1)
    put('build', raw.build ?? 'module')
    put('keywords', raw.keywords ?? [])
    put('sources', raw.sources ?? [{ title: 'Print and data sheet of the part' }])
  }
  // The id goes with the name as long as nobody has set it apart.
  if (isNew && (raw.id === undefined || raw.id === idOf(before.title))) put('id', idOf(form.title))
  if (isNew && (raw.summary === undefined || raw.summary === summaryOf(before.title)))
    put('summary', summaryOf(form.title))
  if (isNew && (raw.stem === undefined || raw.stem === stemOf(before.title))) put('stem', stemOf(form.title))
  put('title', form.title)
  put('category', form.category)
  if (!same(form.pins, before.pins) || raw.pins === undefined) {
    const old = new Map(list(raw.pins).map((pin) => [pin.id, pin]))
    put(
      'pins',
      form.pins.map(({ name, use: id }, at) => ({
        ...withoutKeys(old.get(name) ?? {}, ['id', 'role', 'number', ...(id === 'free' ? [] : ['none'])]),
        id: name,
        role: uses[id].role,
        number: at + 1,
        ...(id === 'free' && !('none' in (old.get(name) ?? {})) ? { none: 'not needed' } : {}),
      })),
    )
  }
  putSupply(form, before, raw, put)
  const kind = form.levels === 'other' ? undefined : levelKinds[form.levels]
  if (kind !== undefined) put('levels', { ...(isRecord(raw.levels) ? raw.levels : {}), logic: kind.levels })
  putSignals(form, before, raw, put)
  putBuild(form, before, raw, put)
  return keys
}

type Put = (key: string, value: unknown) => void

const fed = ({ pins }: PartForm): readonly FormPin[] => pins.filter(({ use: id }) => id === 'supply' || id === 'ground')

/** The first supply takes the pins that no other has; where nothing of it was asked for it stays as it is. */
function putSupply(form: PartForm, before: PartForm, raw: Raw, put: Put): void {
  const asked = (one: PartForm): unknown => [fed(one), one.least, one.most, one.typical, one.peak, one.levels]
  const [first, ...others] = list(raw.supplies)
  if (first !== undefined && same(asked(form), asked(before))) return
  const elsewhere = others.flatMap((one) => (Array.isArray(one.pins) ? one.pins : []))
  const named = (id: PinUse): string[] => form.pins.filter((pin) => pin.use === id).map(({ name }) => name)
  const pins = named('supply').filter((name) => !elsewhere.includes(name))
  if (pins.length === 0 && first === undefined) return
  const kind = form.levels === 'other' ? undefined : levelKinds[form.levels]
  const logicVolts = kind === undefined ? first?.logicVolts : 'logicVolts' in kind ? kind.logicVolts : undefined
  const supply = {
    ...withoutKeys(first ?? {}, ['logicVolts']),
    pins,
    ground: named('ground'),
    ...defined({ least: form.least, most: form.most, typicalMilliamps: form.typical, peakMilliamps: form.peak }),
    ...defined({ logicVolts }),
  }
  put('supplies', [supply, ...others])
}

function putSignals(form: PartForm, before: PartForm, raw: Raw, put: Put): void {
  const asked = same([form.pins, form.addresses, form.pullUpOhms], [before.pins, before.addresses, before.pullUpOhms])
  if (asked && signalsOf(raw).length > 0) return
  const known = signalsOf(raw)
  const signalOf = ({ name, use: id, optional }: FormPin): Raw | undefined => {
    const facts = uses[id].signal
    if (facts === undefined) return undefined
    const old = known.find((one) => one.pin === name)
    const was = before.pins.find((pin) => pin.name === name)
    const rest =
      old !== undefined && was?.use === id
        ? withoutKeys(old, ['required', 'open'])
        : { pin: name, ...facts, levels: 'logic' }
    return { ...rest, ...(optional ? { required: false, open: text(old?.open) || 'Not used.' } : {}) }
  }
  const signalsFor = (bus: Use['bus']): Raw[] =>
    form.pins.filter((pin) => uses[pin.use].bus === bus).flatMap((pin): Raw | readonly Raw[] => signalOf(pin) ?? [])
  put('signals', signalsFor(undefined))
  const modes: Record<string, unknown>[] = list(raw.modes).map((mode) => ({ ...mode }))
  for (const bus of busIds) {
    const signals = signalsFor(bus)
    const at = modes.findIndex((mode) => isRecord(mode[bus]) || mode.id === bus)
    if (signals.length === 0) {
      if (at >= 0) modes.splice(at, 1)
      continue
    }
    const old = modes[at] ?? {}
    const mode = {
      id: bus,
      title: busTitles[bus],
      ...old,
      signals,
      [bus]: busFacts(bus, form, before, isRecord(old[bus]) ? old[bus] : {}),
    }
    if (at >= 0) modes[at] = mode
    else modes.push(mode)
  }
  if (modes.length > 0 || raw.modes !== undefined) put('modes', modes)
  putAddresses(form, before, raw, put)
}

/** Several addresses are a choice of one, but for a part that answered to several at once before. */
const isChoice = (form: PartForm, before: PartForm, hasOption: boolean): boolean =>
  form.addresses.length > 1 && (hasOption || before.addresses.length < 2)

/** Straps keep their titles; an option goes with the last but one of its addresses. */
function putAddresses(form: PartForm, before: PartForm, raw: Raw, put: Put): void {
  const isBus = form.pins.some(({ use: id }) => uses[id].bus === 'i2c')
  const options = list(raw.options)
  const old = options.find((one) => one.kind === 'i2c-address')
  if (isBus && same(form.addresses, before.addresses)) return
  const isWanted = isBus && isChoice(form, before, old !== undefined)
  const known = list(old?.values)
  const option = {
    id: 'address',
    title: 'I2C address',
    kind: 'i2c-address',
    ...old,
    usual: form.addresses[0],
    values: form.addresses.map((value) => known.find((one) => one.value === value) ?? { value }),
  }
  if (isWanted)
    put('options', old === undefined ? [...options, option] : options.map((one) => (one === old ? option : one)))
  else if (old !== undefined)
    put(
      'options',
      options.filter((one) => one !== old),
    )
}

const busTitles = { i2c: 'Two-wire bus (I2C)', spi: 'Four-wire bus (SPI)', uart: 'Serial line (UART)' } as const

/** The option that gives the address already, whatever its name. */
const oldOption = ({ addresses }: Raw): Raw =>
  isRecord(addresses) && addresses.option !== undefined ? { option: addresses.option } : {}

function busFacts(bus: 'i2c' | 'spi' | 'uart', form: PartForm, before: PartForm, old: Raw): Raw {
  if (bus === 'spi') return { modes: [0], most: 1_000_000, ...old }
  if (bus === 'uart') return { baud: [9600], levels: 'logic', ...old }
  return {
    most: 100_000,
    ...withoutKeys(old, ['addresses', 'pullUpOhms']),
    addresses:
      isRecord(old.addresses) && same(form.addresses, before.addresses)
        ? old.addresses
        : {
            ...withoutKeys(isRecord(old.addresses) ? old.addresses : {}, ['fixed', 'option']),
            ...(isChoice(form, before, 'option' in oldOption(old))
              ? { option: 'address', ...oldOption(old) }
              : { fixed: form.addresses }),
          },
    ...(form.pullUpOhms > 0 ? { pullUpOhms: form.pullUpOhms } : {}),
  }
}

function putBuild(form: PartForm, before: PartForm, raw: Raw, put: Put): void {
  const names = form.pins.map(({ name }) => name)
  const unchanged =
    raw.footprint !== undefined &&
    same([names, form.build, form.rowsApart], [before.pins.map(({ name }) => name), before.build, before.rowsApart])
  if (unchanged) return
  const half = Math.ceil(names.length / 2)
  const kind = form.build === 'other' ? 'in-line' : form.build
  put(
    'footprint',
    kind === 'two-row'
      ? { kind, left: names.slice(0, half), right: names.slice(half).reverse(), rowsApart: form.rowsApart }
      : kind === 'leads'
        ? { kind, pins: names, ends: 'bare' }
        : { kind, pins: names },
  )
}

const withoutKeys = (from: Raw, keys: readonly string[]): Raw =>
  Object.fromEntries(Object.entries(from).filter(([key]) => !keys.includes(key)))
const defined = (from: Raw): Raw => Object.fromEntries(Object.entries(from).filter(([, value]) => value !== undefined))

/** Order of the keys in a text that the form begins. */
const order = [
  'catalog',
  'id',
  'title',
  'summary',
  'category',
  'build',
  'stem',
  'keywords',
  'sources',
  'pins',
  'supplies',
  'levels',
  'options',
  'signals',
  'modes',
  'footprint',
]

/**
 * Writes a form into an entry's text; remarks and keys that the form does not know stay.
 * @param isNew whether id and stem may follow the name
 * @returns undefined where the text is no YAML map, so that nothing of it is lost
 */
export function withForm(written: string, form: PartForm, isNew: boolean): string | undefined {
  const document = parseDocument(written.trim() === '' ? '{}' : written)
  if (document.errors.length > 0 || !isMap(document.contents)) return undefined
  if (written.trim() === '') document.contents.flow = false
  const keys = keysOf(form, document.toJS() as Raw, isNew)
  const place = (key: string): number => (order.includes(key) ? order.indexOf(key) : order.length)
  for (const key of Object.keys(keys).sort((one, other) => place(one) - place(other)))
    document.set(key, styled(document, keys[key]))
  return document.toString({ lineWidth: 0, flowCollectionPadding: true })
}

/** A value as our files write it: lists of short maps, one a line; modes with their signals one a line. */
function styled(document: Document, value: unknown): unknown {
  const node = document.createNode(value)
  const rows = isMap(node) ? node.items.map((pair) => pair.value) : isSeq(node) ? node.items : []
  if (!isCollection(node)) return node
  for (const row of rows)
    visit(row as never, {
      Pair: (_, { key, value: inner }) => void setHex(key, inner, isMap(row) && row.get('kind') === 'i2c-address'),
    })
  node.flow = !rows.some((row) => isMap(row))
  for (const row of rows) {
    if (!isMap(row) || !row.has('signals')) setFlow(row)
    else
      for (const { value: inner } of row.items)
        if (isSeq(inner) && inner.items.some((one) => isMap(one))) inner.items.forEach(setFlow)
        else setFlow(inner)
  }
  return node
}

/** Addresses are written in hexadecimal: those of a list, and the values of their option. */
function setHex(key: unknown, value: unknown, isAddress: boolean): void {
  const name = isScalar(key) ? key.value : undefined
  const isOne = isAddress && (name === 'usual' || name === 'value')
  const scalars = name === 'fixed' && isSeq(value) ? value.items : isOne ? [value] : []
  for (const one of scalars) if (isScalar(one) && typeof one.value === 'number') one.format = 'HEX'
}

function setFlow(node: unknown): void {
  if (isCollection(node)) node.flow = true
}
