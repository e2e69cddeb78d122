import type { PinFacts } from '../../catalog/boardFacts.ts'
import { hexAddress } from '../../electrical/hexAddress.ts'
import { busPins } from '../../wiring/buses.ts'
import { addressesOf } from '../../wiring/i2c.ts'
import type { Bus } from '../../wiring/model.ts'
import type { At } from './ir.ts'
import { ProgramPins } from './things.ts'

/** Addresses at one place of a program above which it asks them all. */
const SCANNED = 4

/** Buses, addresses and rates of a program against the plan. */
export abstract class ProgramBuses extends ProgramPins {
  protected buses(): void {
    const buses = this.wiring.buses.filter((bus) => bus.board === this.board)
    const program = this.board.board.programs.find((one) => one.as === this.language)
    const objects = new Map<string, { kind: Bus['kind']; at: At; pins: Map<string, PinFacts | undefined> }>()
    for (const use of this.uses.pins) {
      if (!use.bus) continue
      const meant = this.finder.meant(use.pin, 'pin')
      const known = objects.get(use.bus.object) ?? { kind: use.bus.kind, at: use.at, pins: new Map() }
      known.pins.set(use.bus.signal, meant.is === 'pin' ? meant.pin : undefined)
      objects.set(use.bus.object, known)
      if (meant.is === 'none') this.say('no-pin', use.at, { written: meant.written, board: this.board.title }, [])
    }
    for (const begin of this.uses.begins) {
      const pins = program?.begins[begin.object]
      if (!pins || objects.has(begin.object)) continue
      const facts = Object.entries(pins).map(([signal, id]) => [signal, this.board.facts.pin(id)] as const)
      // Selects are pins of their own.
      objects.set(begin.object, {
        kind: begin.kind,
        at: begin.at,
        pins: new Map(facts.filter(([signal]) => signal !== 'cs')),
      })
    }
    const taken = new Set<Bus>()
    const wired = (bus: Bus): ReadonlyMap<string, ReadonlySet<string>> => busPins(bus)
    const fits = (bus: Bus, pins: ReadonlyMap<string, PinFacts | undefined>): boolean =>
      [...wired(bus)].every(([signal, on]) => on.has(pins.get(signal)?.id ?? ''))
    const rest: [string, { kind: Bus['kind']; at: At; pins: Map<string, PinFacts | undefined> }][] = []
    for (const [object, one] of objects) {
      const bus = buses.find(
        (two) => two.kind === one.kind && !taken.has(two) && wired(two).size > 0 && fits(two, one.pins),
      )
      if (!bus) {
        rest.push([object, one])
        continue
      }
      taken.add(bus)
      this.busMet(bus)
      const text = this.pinsText(one.pins)
      this.say(
        'same',
        one.at,
        { name: object, pin: text, end: bus.parts.map(({ ref }) => ref).join(', ') },
        bus.parts.map(({ ref }) => ref),
      )
    }
    for (const [object, one] of rest) {
      // The monitor over USB is no line of the plan.
      const open = buses.filter((bus) => bus.kind === one.kind && !taken.has(bus) && wired(bus).size > 0)
      const bus =
        open.find((two) => this.swapped(two, one.pins)) ??
        (open.length === 1 || one.kind !== 'uart' ? open[0] : undefined)
      if (!bus || (one.kind === 'uart' && object === 'Serial')) continue
      taken.add(bus)
      this.busMet(bus)
      const planned = [...wired(bus)]
        .map(([signal, on]) => `${signal.toUpperCase()} ${[...on].map((id) => this.written(id)).join('/')}`)
        .join(', ')
      const parts = bus.parts.map(({ ref }) => ref)
      const [first, second] = [...wired(bus).keys()]
      if (this.swapped(bus, one.pins) && first !== undefined && second !== undefined)
        this.say(
          'exchanged',
          one.at,
          {
            one: `${first.toUpperCase()} of ${object}`,
            two: second.toUpperCase(),
            oneEnd: first.toUpperCase(),
            onePin: this.written([...(wired(bus).get(first) ?? [])][0] ?? ''),
            twoEnd: second.toUpperCase(),
            twoPin: this.written([...(wired(bus).get(second) ?? [])][0] ?? ''),
          },
          parts,
        )
      else this.say('bus', one.at, { object, pins: this.pinsText(one.pins), parts: parts.join(', '), planned }, parts)
    }
  }

  /** Two lines of a bus have each other's pin. */
  protected swapped(bus: Bus, pins: ReadonlyMap<string, PinFacts | undefined>): boolean {
    const planned = busPins(bus)
    const signals = [...planned.keys()]
    return signals.some((a) =>
      signals.some(
        (b) =>
          a < b &&
          planned.get(a)?.has(pins.get(b)?.id ?? '') === true &&
          planned.get(b)?.has(pins.get(a)?.id ?? '') === true,
      ),
    )
  }

  protected busMet(bus: Bus): void {
    for (const line of this.lines) if (line.bus === bus) this.met.add(line)
  }

  protected addresses(): void {
    const parts = this.wiring.parts.filter((part) => part.mode?.i2c && part.home === this.board)
    const has = new Set(parts.flatMap((part) => addressesOf(part).map(({ address }) => address)))
    const spoken = new Set(this.uses.addresses.map((one) => one.address))
    const possible = new Set(
      parts.flatMap((part) => {
        const { option } = addressesOf(part)[0] ?? {}
        return part.part.options.find((one) => one.id === option)?.values.map(({ value }) => value) ?? []
      }),
    )
    // A place that speaks to address after address looks who is there.
    const perPlace = new Map<number, number>()
    for (const { at } of this.uses.addresses) perPlace.set(at.from, (perPlace.get(at.from) ?? 0) + 1)
    for (const { address, at, sure } of this.uses.addresses) {
      if ((perPlace.get(at.from) ?? 0) > SCANNED) continue
      // A number of a library is an address for certain only where a part of the plan could have it.
      if (has.has(address) || (!sure && !possible.has(address))) continue
      // Whose straps could be set so, and to whose own address nobody speaks.
      const could = parts.filter((part) => {
        const { option } = addressesOf(part)[0] ?? {}
        const values = part.part.options.find((one) => one.id === option)?.values ?? []
        return (
          values.some(({ value }) => value === address) && !addressesOf(part).some((one) => spoken.has(one.address))
        )
      })
      const [only] = could
      const own = only && addressesOf(only)[0]
      const hint = only && own && could.length === 1 ? `; ${only.ref} has ${hexAddress(own.address)}` : ''
      this.say('address', at, { address: hexAddress(address), hint }, only && could.length === 1 ? [only.ref] : [])
    }
  }

  protected bauds(): void {
    for (const { object, baud, at } of this.uses.bauds) {
      const pins = this.uses.pins.filter((use) => use.bus?.object === object)
      const ids = pins.flatMap((use) => {
        const meant = this.finder.meant(use.pin, 'pin')
        return meant.is === 'pin' ? [meant.pin.id] : []
      })
      const program = this.board.board.programs.find((one) => one.as === this.language)
      const own = ids.length > 0 ? ids : Object.values(program?.begins[object] ?? {})
      const line = this.lines.find((one) => one.bus?.kind === 'uart' && own.includes(one.host.pin))
      const rates = line?.use.part.mode?.uart?.baud ?? []
      if (!line || rates.length === 0 || rates.includes(baud)) continue
      this.say('baud', at, { object, baud, part: line.use.part.ref, rates: rates.join(' or ') }, [line.use.part.ref])
    }
  }

  /** Some object of the program is called like a part of this bus, or speaks to its address. */
  protected speaks(bus: Bus): boolean {
    const addresses = new Set(bus.parts.flatMap((part) => addressesOf(part).map(({ address }) => address)))
    return this.uses.addresses.some(({ address }) => addresses.has(address))
  }
}
