import type { Part } from '../../catalog/partSchema.ts'
import { lastOf } from '../source/callArguments.ts'
import type { At, SourceFile } from '../source/ir.ts'
import { wordsOf } from '../source/nameMatch.ts'
import { isListOf } from '../source/orders.ts'
import type { Doing } from '../source/uses.ts'
import { type Fit, fitPins, mayBe, namedFor, type Wants, wantsOf } from './fitPins.ts'
import type { Device, Gathered } from './gather.ts'
import type { GivenPin, Reason } from './given.ts'
import { wordOfCall } from './partWords.ts'
import { isLoadPart, type PartGuess, Scoring, weights } from './scoring.ts'

/** Parts that a pin is likely to be when nothing is said of it, by what is done with it. */
const usualFor: Readonly<Record<Doing, readonly string[]>> = {
  output: ['led', 'relay-1', 'buzzer-active', 'nmos'],
  pwm: ['led', 'servo-sg90', 'nmos', 'buzzer-passive'],
  input: ['button', 'hc-sr501', 'reed-switch', 'slide-switch'],
  interrupt: ['button', 'hc-sr501', 'hall-a3144'],
  'analog-in': ['potentiometer', 'ldr', 'soil-capacitive', 'ntc'],
  'analog-out': ['speaker'],
  touch: [],
  bus: [],
  given: [],
}

/** What a program's pins and buses may be, each group with the parts that its names and calls speak for. */
export function guessParts(gathered: Gathered, files: readonly SourceFile[]): PartGuess[] {
  return new Guesser(gathered, files).run()
}

/** How a part of the maker's choice takes the pins of a group, in the mode in which most of them find a place. */
export function fitOf(gathered: Gathered, { pins }: PartGuess, part: Part): { mode: string | undefined; fit: Fit } {
  const modes = part.modes.length > 0 ? part.modes.map(({ id }) => id) : [undefined]
  const tries = modes.map((mode) => ({ mode, fit: fitPins(wantsOf(gathered, part, mode), pins) }))
  return tries.reduce((best, one) => (one.fit.score > best.fit.score ? one : best))
}

class Guesser extends Scoring {
  run(): PartGuess[] {
    const { devices, pins, addresses } = this.gathered
    for (const device of devices) this.#device(device)
    const rest = this.#bundles(this.#selected(this.#lists(pins)))
    for (const pin of rest) this.#single(pin)
    for (const { address, at } of addresses) this.#address(address, at)
    this.#openBuses()
    return this.found.sort((a, b) => Number(b.sure) - Number(a.sure))
  }

  #device(device: Device): void {
    const reasons: Reason[] = []
    const points = new Map<Part, number>()
    for (const path of device.classes) {
      const name = lastOf(path)
      // Of a module all names count: `dht.DHT22`.
      if (this.add(points, path, weights.class)) reasons.push({ kind: 'class', name })
    }
    const strong = Math.max(0, ...points.values()) >= weights.class * 0.4
    for (const name of device.names)
      if (this.add(points, name, weights.name, strong)) reasons.push({ kind: 'name', name })
    for (const kind of device.kinds)
      if (this.add(points, kind, weights.name, strong)) reasons.push({ kind: 'class', name: kind })
    this.comments(points, reasons, device.at, strong)
    for (const address of device.addresses) this.speaksFor(points, reasons, address)
    // What has no pin, no bus and no address of a part is no part.
    if (!strong && device.pins.length === 0 && device.addresses.length === 0) return
    const title = device.names[0] ?? lastOf(device.classes[0] ?? '')
    this.guess(title, device.pins, device.addresses, points, reasons, device.at, device.buses)
  }

  /** Lists of pins that are one part: as many as a library takes of it, and called as it is. */
  #lists(pins: readonly GivenPin[]): GivenPin[] {
    const lists = new Map<string, GivenPin[]>()
    for (const pin of pins) {
      const name = pin.names.map((one) => /^(.*)\[\d+\]$/.exec(one)?.[1]).find((one) => one !== undefined)
      if (name !== undefined) lists.set(name, [...(lists.get(name) ?? []), pin])
    }
    // Rows and columns are of one matrix.
    const side = (word: string) => [...lists].filter(([name]) => wordsOf(name).includes(word))
    const [[rows, ...moreRows], [columns, ...moreColumns]] = [side('row'), side('column')]
    if (rows && columns && rows !== columns && moreRows.length + moreColumns.length === 0) {
      for (const [name] of [rows, columns]) lists.delete(name)
      lists.set(`${rows[0]}, ${columns[0]}`, [...rows[1], ...columns[1]])
    }
    const taken = new Set<GivenPin>()
    for (const [name, members] of lists) {
      const [first] = members
      if (!first || members.length < 2) continue
      const points = new Map<Part, number>()
      const reasons: Reason[] = [{ kind: 'name', name }]
      this.add(points, name, weights.name)
      for (const other of new Set(members.flatMap(({ names }) => names)))
        if (!other.includes('[') && this.add(points, other, weights.name)) reasons.push({ kind: 'name', name: other })
      this.comments(points, reasons, first.at, false)
      for (const part of this.catalog.parts.values())
        if (part.asks.some(({ list }) => list !== undefined && isListOf(list, name)))
          points.set(part, (points.get(part) ?? 0) + 1)
      const whole = new Map([...points].filter(([part]) => this.#takesList(part, members.length)))
      const placed = members.map((pin, place) => ({ ...pin, place }))
      if (whole.size === 0 || !this.guess(name, placed, [], whole, reasons, first.at)) continue
      for (const pin of members) taken.add(pin)
    }
    return pins.filter((pin) => !taken.has(pin))
  }

  /** A part takes so many pins in a row: a list that libraries ask for, or all that it has, at least three. */
  #takesList(part: Part, length: number): boolean {
    const { plain, bus, orders } = wantsOf(this.gathered, part)
    const listed = part.asks.some(({ list, pins }) => list !== undefined && pins?.length === length)
    const all = orders.some((order) => order.length === length) || plain.length === length
    return !bus && plain.length > 1 && (listed || (length > 2 && all))
  }

  /** Parts on an SPI bus that are spoken to without a library: each by the pin that selects it. */
  #selected(pins: readonly GivenPin[]): GivenPin[] {
    const bus = this.gathered.buses.find((one) => one.kind === 'spi' && one.begun)
    if (!bus) return [...pins]
    const has = ({ names }: GivenPin, ...words: readonly string[]): boolean =>
      names.some((name) => wordsOf(name).some((word) => words.includes(word)))
    const selects = pins.filter((pin) => has(pin, 'cs'))
    const beside = selects.length === 1 ? pins.filter((pin) => !has(pin, 'cs') && has(pin, 'dc', 'reset')) : []
    for (const select of selects) {
      const all = [select, ...beside]
      const points = new Map<Part, number>()
      const reasons: Reason[] = []
      for (const name of all.flatMap(({ names }) => names))
        if (this.add(points, name, weights.name)) reasons.push({ kind: 'name', name })
      for (const part of this.catalog.parts.values())
        if (part.usual && part.modes.some(({ spi }) => spi !== undefined))
          points.set(part, (points.get(part) ?? 0) + 0.4)
      const onBus = [...points].filter(([part]) => wantsOf(this.gathered, part).bus?.kind === 'spi')
      this.guess(called(all), all, [], new Map(onBus), reasons, select.at, [bus.object])
    }
    return pins.filter((pin) => !selects.includes(pin) && !beside.includes(pin))
  }

  /** Pins whose names are those of several signals of one part: `trigPin` and `echoPin`. */
  #bundles(pins: readonly GivenPin[]): GivenPin[] {
    let rest = [...pins]
    for (;;) {
      const best = this.#bestBundle(rest)
      if (!best) return rest
      const points = new Map<Part, number>()
      const reasons: Reason[] = []
      for (const { names } of best.pins) {
        const [name] = names
        if (name !== undefined) reasons.push({ kind: 'name', name })
        for (const one of new Set(names)) this.add(points, one, 0.5)
      }
      // Its signals are called so, whatever else the names say.
      for (const [part, named] of best.parts) points.set(part, (points.get(part) ?? 0) + 0.9 * named)
      const at = best.pins[0]?.at ?? { file: 0, from: 0, to: 0 }
      this.guess(called(best.pins), best.pins, [], keepOf(points, best.parts), reasons, at)
      rest = rest.filter((pin) => !best.pins.includes(pin))
    }
  }

  #bestBundle(pins: readonly GivenPin[]): { pins: GivenPin[]; parts: Map<Part, number>; worth: number } | undefined {
    const bundles = new Map<string, { pins: GivenPin[]; parts: Map<Part, number>; worth: number }>()
    for (const part of this.catalog.parts.values()) {
      if (part.signals.length + part.modes.length < 2 && part.modes.length === 0) continue
      const { plain, bus } = wantsOf(this.gathered, part)
      if (plain.length < 2 || bus) continue
      const byRest = new Map<string, Map<string, GivenPin>>()
      for (const pin of pins)
        for (const use of plain) {
          if (namedFor(use, pin.names) < 2 || !mayBe(use, pin)) continue
          const key = restOf(pin, use.facts.pin, wantsOf(this.gathered, part))
          const group = byRest.get(key) ?? new Map<string, GivenPin>()
          if (!group.has(use.facts.pin) && ![...group.values()].includes(pin)) group.set(use.facts.pin, pin)
          byRest.set(key, group)
        }
      for (const group of byRest.values()) {
        const required = plain.filter(({ facts }) => facts.required)
        const covered = required.filter(({ facts }) => group.has(facts.pin)).length
        if (group.size < 2 || covered < Math.max(2, required.length * 0.7)) continue
        const members = [...group.values()].sort((a, b) => pins.indexOf(a) - pins.indexOf(b))
        const key = members.map(({ pin }) => pin.id).join('+')
        const known = bundles.get(key) ?? { pins: members, parts: new Map<Part, number>(), worth: 0 }
        known.parts.set(part, group.size)
        known.worth = Math.max(
          known.worth,
          group.size + covered / Math.max(1, required.length) + (part.usual ? 0.2 : 0),
        )
        bundles.set(key, known)
      }
    }
    const [best] = [...bundles.values()].sort((a, b) => b.worth - a.worth)
    return best
  }

  #single(pin: GivenPin): void {
    const points = new Map<Part, number>()
    const reasons: Reason[] = []
    for (const name of pin.names) if (this.add(points, name, weights.name)) reasons.push({ kind: 'name', name })
    for (const call of new Set(pin.uses.map((use) => lastOf(use.call)))) {
      const word = wordOfCall(call)
      if (word !== undefined && this.add(points, word, weights.name)) reasons.push({ kind: 'call', name: call })
    }
    this.comments(points, reasons, pin.at, false)
    const doing = pin.uses.find((use) => use.doing !== 'given')?.doing ?? 'given'
    const pulled = pin.uses.some(({ pull }) => pull !== undefined)
    for (const [at, id] of usualFor[doing].entries()) {
      const part = this.catalog.parts.get(id)
      if (part) points.set(part, (points.get(part) ?? 0) + 0.5 - 0.1 * at + (pulled && id === 'button' ? 0.6 : 0))
    }
    this.guess(called([pin]), [pin], [], this.#alone(points), reasons, pin.at)
  }

  /** Points of parts that have no bus: a pin that the program moves by itself is hardly one beside a bus. */
  #alone(points: ReadonlyMap<Part, number>): Map<Part, number> {
    return new Map([...points].filter(([part]) => isLoadPart(part) || wantsOf(this.gathered, part).bus === undefined))
  }

  #address(address: number, at: At): void {
    const points = new Map<Part, number>()
    const reasons: Reason[] = []
    this.speaksFor(points, reasons, address)
    this.comments(points, reasons, at, true)
    this.guess(`0x${address.toString(16).toUpperCase().padStart(2, '0')}`, [], [address], points, reasons, at)
  }

  /** Buses that are begun and on which nothing was found; the serial line of the USB port is for the monitor. */
  #openBuses(): void {
    const known = new Set(this.found.map(({ bus }) => bus?.object))
    for (const bus of this.gathered.buses) {
      if (known.has(bus.object) || bus.object === 'Serial' || bus.pins.size === 0 || !bus.begun) continue
      const points = new Map<Part, number>()
      const reasons: Reason[] = []
      if (this.add(points, bus.object, weights.name)) reasons.push({ kind: 'name', name: bus.object })
      this.comments(points, reasons, bus.at, false)
      for (const part of this.catalog.parts.values()) {
        if (wantsOf(this.gathered, part).bus?.kind !== bus.kind) points.delete(part)
        else if (part.usual) points.set(part, (points.get(part) ?? 0) + 0.4)
      }
      this.guess(bus.object, [], [], points, reasons, bus.at, [bus.object])
    }
  }
}

/** Words that are left of a pin's names beside those of its signal: which of several parts it is. */
function restOf({ names }: GivenPin, signal: string, { plain, part }: Wants): string {
  const own = new Set(
    plain
      .filter(({ facts }) => facts.pin === signal)
      .flatMap(() => {
        const pin = part.part.pins.find(({ id }) => id === signal)
        return [signal, ...(pin?.aliases ?? [])].flatMap(wordsOf)
      }),
  )
  const of = new Set([...part.part.keywords, part.part.id, part.part.title].flatMap(wordsOf))
  return [...new Set(wordsOf(names[0] ?? ''))].filter((word) => !own.has(word) && !of.has(word)).join(' ')
}

/** Pins as the program calls them, by name where that is more than a letter. */
const called = (pins: readonly GivenPin[]): string =>
  pins
    .map(({ names, written }) => names.find((name) => name.length > 1 && !/^pins?$/i.test(name)) ?? written)
    .join(', ')

/** Points of the parts among some. */
const keepOf = (points: ReadonlyMap<Part, number>, parts: ReadonlyMap<Part, number>): Map<Part, number> =>
  new Map([...points].filter(([part]) => parts.has(part)))
