import { type Document, isCollection, isMap, isScalar, isSeq, parseDocument, visit } from 'yaml'
import {
  busIds,
  type FormPin,
  formOf,
  idOf,
  isPlain,
  isRecord,
  list,
  type PartForm,
  type Raw,
  same,
  signalsOf,
  stemOf,
  summaryOf,
  text,
} from './partForm.ts'
import { levelKinds, type PinUse, type Use, uses } from './pinUses.ts'

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
