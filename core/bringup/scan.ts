import { i2cViews } from '../circuit/busView.ts'
import { hexAddress } from '../electrical/hexAddress.ts'
import { addressesOf, partsAt } from '../wiring/i2c.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'

/** Addresses that a scan found, for each bus that its text names; one without a name where it names none. */
export interface ScanPart {
  /** As the text calls it: `i2c0`, `Wire1`, `bus 1`; undefined where it does not. */
  readonly bus: string | undefined
  readonly found: readonly number[]
}

export interface ReadScan {
  readonly parts: readonly ScanPart[]
  /** Lines that could not be made sense of, for people to see. */
  readonly ignored: readonly string[]
}

const LEAST = 0x03
const MOST = 0x77

/**
 * Reads what scan programs print: a grid of sixteen columns, sentences such as “device at 0x3C”, lists of numbers in
 * either base, and the serial lines of our own test program. Undefined when no shape of a scan is recognised.
 */
export function readScan(text: string): ReadScan | undefined {
  const parts: { bus: string | undefined; found: Set<number> }[] = []
  const ignored: string[] = []
  let recognised = false
  let bus: string | undefined
  const put = (addresses: readonly number[]): void => {
    recognised = true
    let part = parts.find((one) => one.bus === bus)
    if (!part) {
      part = { bus, found: new Set() }
      parts.push(part)
    }
    for (const address of addresses) if (address >= LEAST && address <= MOST) part.found.add(address)
  }
  for (const raw of text.split(/\r?\n/)) {
    const line = raw.trim()
    if (line === '') continue
    const own = ownLine(line)
    if (own) {
      bus = own.bus ?? bus
      put(own.found)
      continue
    }
    const named = busName(line)
    if (named !== undefined) bus = named
    const row = gridRow(line)
    if (row) {
      put(row)
      continue
    }
    if (/^(?:\d[\s]*){8,}/.test(line) && /\b[a-f]\b/.test(line)) {
      // The head of a grid.
      put([])
      continue
    }
    const found = addressesIn(line)
    if (found.length > 0 || /\b(?:no|none|0)\b.*\bdevices?\b.*(?:found)?|\bnothing\b.*\bfound\b|^\[\s*\]$/i.test(line))
      put(found)
    else if (
      named === undefined &&
      !/^(?:scanning|i2c scan\w*|done|scan (?:done|complete)|found \d+ device|\d+ devices?)/i.test(line)
    )
      ignored.push(line)
  }
  if (!recognised) return undefined
  return { parts: parts.map((one) => ({ bus: one.bus, found: [...one.found].sort((a, b) => a - b) })), ignored }
}

/** `{"step":"i2c:i2c0","found":[32,87]}`. */
function ownLine(line: string): { bus: string | undefined; found: number[] } | undefined {
  if (!line.startsWith('{')) return undefined
  try {
    const value = JSON.parse(line) as { step?: unknown; found?: unknown }
    if (!Array.isArray(value.found) || !value.found.every((one) => typeof one === 'number')) return undefined
    const bus = typeof value.step === 'string' ? /^i2c:(.+)$/.exec(value.step)?.[1] : undefined
    return { bus, found: value.found as number[] }
  } catch {
    return undefined
  }
}

/** The bus that a line names: `i2c-1`, `I2C0:`, `Wire1`, `bus 2`. */
function busName(line: string): string | undefined {
  const found = /\b(?:i2c[-\s_]?(\d)|(Wire\d?)|bus[\s:#]*(\d))\b(?!\s*(?:device|scan))/i.exec(line)
  if (!found) return undefined
  return found[1] !== undefined ? `i2c${found[1]}` : found[2] !== undefined ? found[2] : `i2c${found[3]}`
}

/** `70: 70 -- UU -- …`: a row of the grid that a scan of a single-board computer prints; UU is an address in use. */
function gridRow(line: string): number[] | undefined {
  const found = /^([0-7]0):((?:\s+(?:--|UU|[0-9a-f]{2}))*)\s*$/i.exec(line)
  if (!found) return undefined
  const base = Number.parseInt(found[1] as string, 16)
  const cells = (found[2] as string).trim().split(/\s+/)
  // The first row begins at 0x03 or 0x08, its first places left blank.
  const skipped = base === 0 ? 16 - cells.length : 0
  return cells.flatMap((cell, at) => {
    if (/^UU$/i.test(cell)) return [base + skipped + at]
    return /^[0-9a-f]{2}$/i.test(cell) ? [Number.parseInt(cell, 16)] : []
  })
}

/** Addresses in a sentence or a list. Decimal numbers count only in a list and after “address” or “at”. */
function addressesIn(line: string): number[] {
  const list = /\[([^\]]*)\]/.exec(line)
  if (list) {
    const items = (list[1] as string).split(/[\s,]+/).map((item) => item.replace(/['"]/g, ''))
    if (items.every((item) => item === '' || /^(?:0x[0-9a-f]+|\d+)$/i.test(item)))
      return items.filter((item) => item !== '').map(Number)
  }
  const hex = [...line.matchAll(/\b0x([0-9a-f]{1,2})\b/gi)].map((one) => Number.parseInt(one[1] as string, 16))
  if (hex.length > 0) return hex
  const decimal = /\b(?:address|addr|at)\b[\s:=#]*(\d{1,3})\b(?!\s*(?:ms|s|khz|hz|baud))/i.exec(line)
  if (decimal) return [Number(decimal[1])]
  // A line of bare numbers: `60, 118` or `3C 76`.
  return /^(?:\d{1,3}[\s,]+)+\d{1,3}$/.test(line) ? line.split(/[\s,]+/).map(Number) : []
}

/** One bus of the plan against what was found on it. */
export interface SegmentScan {
  readonly title: string
  readonly expected: readonly { readonly part: string; readonly address: number }[]
  readonly present: readonly number[]
  readonly missing: readonly MissingDevice[]
  readonly unexpected: readonly UnexpectedDevice[]
}

export interface MissingDevice {
  readonly part: string
  readonly address: number
  /** What it comes from, the likeliest first. */
  readonly causes: readonly string[]
}

export interface UnexpectedDevice {
  readonly address: number
  /** Parts of the catalogue that answer there. */
  readonly could: readonly string[]
  readonly causes: readonly string[]
}

export interface ScanComparison {
  readonly segments: readonly SegmentScan[]
  readonly agrees: boolean
  readonly ignored: readonly string[]
}

/** Compares a scan with the plan, segment by segment. A text that names no bus is held against the bus that it fits best. */
export function compareScan(wiring: Wiring, scan: ReadScan): ScanComparison {
  const views = i2cViews(wiring).filter(({ devices }) => devices.length > 0)
  const foundFor = new Map<number, Set<number>>()
  const give = (index: number, found: readonly number[]): void => {
    const known = foundFor.get(index) ?? new Set<number>()
    for (const one of found) known.add(one)
    foundFor.set(index, known)
  }
  const expected = views.map(({ devices }) =>
    devices.flatMap(({ part }) =>
      addressesOf(part)
        .filter(({ shared }) => !shared)
        .map(({ address }) => ({ part, address })),
    ),
  )
  for (const { bus, found } of scan.parts) {
    const named = views.findIndex((view) => bus !== undefined && isCalled(view, bus))
    const fitting = (index: number): number =>
      (expected[index] ?? []).filter(({ address }) => found.includes(address)).length
    const best = views.map((_, index) => index).sort((a, b) => fitting(b) - fitting(a) || a - b)[0]
    const index = named >= 0 ? named : best
    if (index !== undefined) give(index, found)
  }
  const segments = views.flatMap((view, index): SegmentScan[] => {
    const found = foundFor.get(index)
    // A bus of which the text says nothing was not scanned.
    if (!found) return []
    return [segmentOf(wiring, view.title, expected[index] ?? [], found, expected.flat())]
  })
  return {
    segments,
    agrees: segments.every(({ missing, unexpected }) => missing.length === 0 && unexpected.length === 0),
    ignored: scan.ignored,
  }
}

/** `Wire` is the first I2C of a board, `Wire1` the second; `i2c1` is the controller of that name. */
function isCalled(view: ReturnType<typeof i2cViews>[number], name: string): boolean {
  const { bus } = view
  const controller = bus?.controller
  const wire = /^Wire(\d?)$/i.exec(name)
  if (!wire) return controller?.toLowerCase() === name.toLowerCase()
  const all = bus?.board?.board.controllers.filter((one) => one.kind === 'i2c') ?? []
  return all[Number(wire[1] || 0)]?.id === controller
}

function segmentOf(
  wiring: Wiring,
  title: string,
  expected: readonly { readonly part: PartInstance; readonly address: number }[],
  found: ReadonlySet<number>,
  everywhere: readonly { readonly part: PartInstance; readonly address: number }[],
): SegmentScan {
  const wanted = new Set(expected.map(({ address }) => address))
  const gone = expected.filter(({ address }) => !found.has(address))
  const odd = [...found].filter((address) => !wanted.has(address))
  const nobody = found.size === 0
  return {
    title,
    expected: expected.map(({ part, address }) => ({ part: part.ref, address })),
    present: [...found].filter((address) => wanted.has(address)),
    missing: gone.map(
      ({ part, address }): MissingDevice => ({
        part: part.ref,
        address,
        causes: causesOfMissing(part, address, odd, nobody, expected.length),
      }),
    ),
    unexpected: odd.map(
      (address): UnexpectedDevice => ({
        address,
        could: partsAt(wiring.catalog, address)
          .slice(0, 6)
          .map(({ title }) => title),
        causes: causesOfOdd(address, gone, everywhere),
      }),
    ),
  }
}

function causesOfMissing(
  part: PartInstance,
  address: number,
  odd: readonly number[],
  nobody: boolean,
  of: number,
): string[] {
  const causes: string[] = []
  const option = part.part.options.find((one) => one.id === part.mode?.i2c?.addresses.option)
  const strapped = odd.find((one) => option?.values.some(({ value }) => value === one))
  if (strapped !== undefined)
    causes.push(`its strap says ${hexAddress(strapped)}, not ${hexAddress(address)}: look at the address pins`)
  if (nobody && of > 1) {
    causes.push('nobody answers: SDA and SCL are exchanged, or one of them is open at the board')
    causes.push('no pull-up on the lines, or the bus is begun on other pins')
    causes.push('the supply or the ground of the whole bus is missing')
    return causes
  }
  causes.push(`its supply or ground is missing: measure at ${part.ref}`)
  causes.push(`its SDA and SCL are exchanged, or one is a row off`)
  if (part.mode?.i2c?.off !== undefined) causes.push(`its ${part.mode.i2c.off} holds it off`)
  if (part.part.modes.length > 1) causes.push('it is set to another interface than I2C')
  causes.push('the module is of another kind or broken: try it alone')
  return causes
}

function causesOfOdd(
  address: number,
  gone: readonly { readonly part: PartInstance; readonly address: number }[],
  everywhere: readonly { readonly part: PartInstance; readonly address: number }[],
): string[] {
  const causes: string[] = []
  for (const { part, address: own } of gone) {
    const option = part.part.options.find((one) => one.id === part.mode?.i2c?.addresses.option)
    if (option?.values.some(({ value }) => value === address))
      causes.push(`${part.ref} answers here instead of at ${hexAddress(own)}`)
  }
  const elsewhere = everywhere.find((one) => one.address === address)
  if (elsewhere) causes.push(`${elsewhere.part.ref} belongs on another bus`)
  if (causes.length === 0) causes.push('a part that the plan does not have, or one that came with a module')
  return causes
}
