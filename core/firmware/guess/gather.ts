import type { Board, Language } from '../../catalog/boardSchema.ts'
import type { Catalog } from '../../catalog/catalog.ts'
import type { BusKind } from '../../catalog/common.ts'
import { emptyPlan } from '../../plan/planSchema.ts'
import type { BoardInstance } from '../../wiring/model.ts'
import { resolve } from '../../wiring/resolve.ts'
import { PinFinder } from '../source/boardPin.ts'
import { cppBus, lastOf, pythonPath } from '../source/callArguments.ts'
import { usesOf } from '../source/collectUses.ts'
import { followProgram } from '../source/follow.ts'
import type { At, SourceFile, SourceLanguage } from '../source/ir.ts'
import { pythonBuses, pythonFunctions } from '../source/platformCalls.ts'
import { readProgram } from '../source/readProgram.ts'
import type { PinUse, Uses } from '../source/uses.ts'
import type { Call, Made, Value } from '../source/values.ts'
import type { GivenPin } from './given.ts'

/** Something that a program speaks to through a library: what it is called, and what it is given. */
export interface Device {
  readonly classes: readonly string[]
  readonly names: readonly string[]
  /** Words of the library that it is given: `DHT22`. */
  readonly kinds: readonly string[]
  readonly pins: readonly GivenPin[]
  /** Names of bus objects that it is given. */
  readonly buses: readonly string[]
  readonly addresses: readonly number[]
  readonly at: At
}

/** A bus that a program begins, with the pins that it has there. */
export interface GivenBus {
  readonly object: string
  readonly kind: BusKind
  /** Ids of board pins by the signal of the bus. */
  readonly pins: ReadonlyMap<string, string>
  /** False for one that the program does not begin itself: a library may. */
  readonly begun: boolean
  readonly at: At
}

/** A program in its parts, before it is known what those are. */
export interface Gathered {
  readonly catalog: Catalog
  readonly board: BoardInstance
  readonly devices: readonly Device[]
  /** Pins that the program moves by itself. */
  readonly pins: readonly GivenPin[]
  readonly buses: readonly GivenBus[]
  /** Addresses that no device has. */
  readonly addresses: readonly { readonly address: number; readonly at: At }[]
  /** Pins that the board does not have, as they are written. */
  readonly none: readonly string[]
  /** Names of constants, each of one value, and where they stand. */
  readonly declared: ReadonlyMap<string, At>
}

/** Addresses at one place of a program above which it asks them all. */
const SCANNED = 4

/** Numbers that libraries are given and that are none of a pin. */
const noPin =
  /num|count|leds|pixels|width|height|baud|freq|chan|max|min|rows?$|cols?$|size|steps|addr|type|timeout|distance|range|speed|rate|volume|brightness|length/i

/** Which arguments of a library are its pins, where pins are not all that it takes: by how the path of its class ends. */
const pinPlaces: readonly (readonly [RegExp, readonly number[]])[] = [
  [/_NeoPixel$/, [1]],
  [/(?:^|\.)(?:Accel)?Stepper$/, [1, 2, 3, 4]],
]

/** The board alone, as it stands before anything is wired to it. */
export const bareBoard = (catalog: Catalog, { id }: Board): BoardInstance =>
  resolve({ ...emptyPlan('a board'), boards: { MCU: { board: id } } }, catalog).boards[0] as BoardInstance

/** Reads and follows a program for a board: its pins, buses and devices. */
export function gather(catalog: Catalog, board: Board, files: readonly SourceFile[], language: Language): Gathered {
  const source: SourceLanguage = language === 'cpp' ? 'cpp' : 'python'
  const followed = followProgram(readProgram(files, source, board), source)
  const declared = new Map(followed.declared.map(({ name, at }) => [name, at]))
  const gatherer = new Gatherer(bareBoard(catalog, board), language, usesOf(followed, source), followed.calls, declared)
  return { catalog, ...gatherer.gathered(), declared }
}

/** True for an object of the platform itself: a pin, a bus. */
function isPlatform(made: Made): boolean {
  const path = pythonPath(made.of)
  return (
    path in pythonFunctions ||
    path in pythonBuses ||
    cppBus(made, '') !== undefined ||
    /^(?:SoftwareSerial|SMBus|SpiDev|Serial|(?:PWM|Digital)?(?:Smoothed)?(?:Output|Input)Device)$/.test(lastOf(path)) ||
    path === 'pigpio.pi'
  )
}

class Gatherer {
  readonly #board: BoardInstance
  readonly #language: Language
  readonly #uses: Uses
  readonly #calls: readonly Call[]
  readonly #finder: PinFinder
  readonly #none = new Set<string>()
  readonly #declared: ReadonlyMap<string, At>

  constructor(
    board: BoardInstance,
    language: Language,
    uses: Uses,
    calls: readonly Call[],
    declared: ReadonlyMap<string, At>,
  ) {
    this.#declared = declared
    this.#board = board
    this.#language = language
    this.#uses = uses
    this.#calls = calls
    this.#finder = new PinFinder(board, language, uses.counting)
  }

  gathered(): Omit<Gathered, 'catalog' | 'declared'> {
    const { devices, claimed } = this.#devices()
    const pins = this.#plain(claimed)
    const known = new Set(devices.flatMap(({ addresses }) => addresses))
    const places = new Map<string, Set<number>>()
    for (const { address, at } of this.#uses.addresses) {
      const key = `${at.file} ${at.from}`
      places.set(key, (places.get(key) ?? new Set()).add(address))
    }
    const addresses = new Map<number, At>()
    for (const { address, at } of this.#uses.addresses)
      if (!known.has(address) && (places.get(`${at.file} ${at.from}`)?.size ?? 0) <= SCANNED)
        addresses.set(address, addresses.get(address) ?? at)
    return {
      board: this.#board,
      devices,
      pins,
      buses: this.#buses(),
      addresses: [...addresses].map(([address, at]) => ({ address, at })),
      none: [...this.#none],
    }
  }

  /** Objects of libraries, those that are given to one another as one. */
  #devices(): { devices: Device[]; claimed: Set<PinUse> } {
    const claimed = new Set<PinUse>()
    /** What an object is a part of, and itself where it is part of none. */
    const whole = new Map<Made, Made>()
    const wholeOf = (made: Made): Made => {
      const above = whole.get(made)
      return above === undefined || above === made ? made : wholeOf(above)
    }
    const calls = this.#calls.filter(({ made }) => made && !made.own && !isPlatform(made))
    for (const { made, args } of calls)
      for (const { value } of args)
        if (made && value.is === 'object' && !value.made.own && !isPlatform(value.made)) whole.set(value.made, made)
    const groups = new Map<Made | string, { made: Set<Made>; uses: PinUse[]; at: At }>()
    const groupOf = (key: Made | string, at: At): { made: Set<Made>; uses: PinUse[]; at: At } => {
      const group = groups.get(key) ?? { made: new Set(), uses: [], at }
      groups.set(key, group)
      return group
    }
    for (const { made, at } of calls) if (made) groupOf(wholeOf(made), at).made.add(made)
    for (const use of this.#uses.pins) {
      const isLibrary = use.doing === 'given' || (use.made !== undefined && !isPlatform(use.made))
      if (!isLibrary || use.bus) continue
      const owner = use.owner && !use.owner.own && !isPlatform(use.owner) ? wholeOf(use.owner) : undefined
      const path = use.call.split('.').slice(0, -1).join('.')
      if (owner === undefined && (path === '' || use.owner !== undefined)) continue
      const group = groupOf(owner ?? path, use.at)
      if (use.owner && owner) group.made.add(use.owner)
      group.uses.push(use)
      claimed.add(use)
    }
    const devices = [...groups].map(([key, { made, uses, at }]): Device => {
      const objects = [...made]
      const names = [
        ...new Set([...objects.flatMap(({ name }) => name ?? []), ...(typeof key === 'string' ? [key] : [])]),
      ]
      const classes = [
        ...new Set([...objects.map(({ of }) => pythonPath(of)), ...(typeof key === 'string' ? [key] : [])]),
      ]
      return {
        classes,
        names,
        kinds: objects.flatMap(({ args }) =>
          args.flatMap(({ value }) =>
            value.is === 'symbol' && this.#finder.meant(value, 'pin').is === 'other' ? [lastOf(value.path)] : [],
          ),
        ),
        pins: this.#pinsOf(uses, classes, names),
        buses: objects.flatMap(({ args }) => args.flatMap(({ value }) => busNames(value))),
        addresses: [
          ...new Set(
            this.#uses.addresses
              .filter((one) => one.names.some((name) => names.includes(name)))
              .map(({ address }) => address),
          ),
        ],
        at,
      }
    })
    return { devices, claimed }
  }

  /** The pins among what a library is given. */
  #pinsOf(uses: readonly PinUse[], classes: readonly string[], names: readonly string[]): GivenPin[] {
    const sure = uses.filter((one) => one.sure)
    // What a maker of an object or a list is given are its pins; what its methods take afterwards are other numbers.
    const lists = uses.filter(({ own }) => own.some((name) => name.includes('[')))
    const making = uses.filter(({ call }) => classes.includes(pythonPath(call)))
    const all = [lists, sure, making].find((some) => some.length > 0) ?? uses
    const places = pinPlaces.flatMap(([end, at]) => (classes.some((one) => end.test(one)) ? at : []))
    const told = (use: PinUse): boolean =>
      places.length > 0 && use.place !== undefined
        ? places.includes(use.place)
        : use.own.length === 0 || use.own.some((name) => /pin/i.test(name)) || !use.own.some((name) => noPin.test(name))
    const found: GivenPin[] = []
    for (const use of all === making || all === uses ? all.filter(told) : all) {
      const given = this.#given(use, [...use.own, ...use.names.filter((name) => !names.includes(name))], found.length)
      if (given && !found.some(({ pin }) => pin === given.pin)) found.push(given)
    }
    return found
  }

  #given(use: PinUse, names: readonly string[], place: number | undefined): GivenPin | undefined {
    const meant = this.#finder.meant(use.pin, use.counts)
    if (meant.is === 'none' && use.sure) this.#none.add(meant.written)
    if (meant.is !== 'pin' || meant.pin.kind !== 'io') return undefined
    const written = use.pin.is === 'number' ? String(use.pin.number) : (writtenOf(use.pin) ?? meant.pin.id)
    // What a pin is for stands where it is named.
    const at = use.own.map((name) => this.#declared.get(name)).find((one) => one !== undefined) ?? use.at
    return { pin: meant.pin, written, names: [...new Set(names)], uses: [use], place, at }
  }

  /** Pins that the program itself sets and reads, each once with all that is done with it. */
  #plain(claimed: ReadonlySet<PinUse>): GivenPin[] {
    const found = new Map<string, GivenPin>()
    for (const use of this.#uses.pins) {
      if (use.bus || claimed.has(use) || (use.doing === 'given' && !use.sure)) continue
      const given = this.#given(use, use.names, undefined)
      if (!given) continue
      const known = found.get(given.pin.id)
      found.set(
        given.pin.id,
        known ? { ...known, names: [...new Set([...known.names, ...given.names])], uses: [...known.uses, use] } : given,
      )
    }
    return [...found.values()]
  }

  #buses(): GivenBus[] {
    const buses = new Map<string, { kind: BusKind; pins: Map<string, string>; at: At }>()
    for (const use of this.#uses.pins) {
      if (!use.bus) continue
      const meant = this.#finder.meant(use.pin, 'pin')
      const known = buses.get(use.bus.object) ?? { kind: use.bus.kind, pins: new Map<string, string>(), at: use.at }
      if (meant.is === 'pin') known.pins.set(use.bus.signal, meant.pin.id)
      else if (meant.is === 'none') this.#none.add(meant.written)
      buses.set(use.bus.object, known)
    }
    const begins = this.#board.board.programs.find((one) => one.as === this.#language)?.begins ?? {}
    for (const { object, kind, at } of this.#uses.begins)
      if (!buses.has(object))
        buses.set(object, { kind, at, pins: new Map(Object.entries(begins[object] ?? this.#first(kind))) })
    // Libraries begin the usual ones by themselves.
    for (const [object, kind] of [
      ['Wire', 'i2c'],
      ['SPI', 'spi'],
    ] as const) {
      const usual = begins[object]
      if (usual && ![...buses.values()].some((bus) => bus.kind === kind))
        buses.set(object, { kind, at: { file: 0, from: 0, to: 0 }, pins: new Map(Object.entries(usual)) })
    }
    return [...buses].map(([object, { kind, pins, at }]) => ({ object, kind, at, pins, begun: at.to > 0 }))
  }

  /** Pins of the bus that a system gives by itself, where programs open it by a number and name no pins. */
  #first(kind: BusKind): Readonly<Record<string, string>> {
    if (this.#board.board.system === undefined || kind === 'uart') return {}
    const [first] = this.#board.board.controllers.filter((one) => one.kind === kind).sort((a, b) => a.rank - b.rank)
    const group = first?.groups?.[0]
    if (group) return group
    return Object.fromEntries(
      Object.entries(first?.pins ?? {}).flatMap(([signal, [pin]]) => (pin === undefined ? [] : [[signal, pin]])),
    )
  }
}

const writtenOf = (value: Value): string | undefined =>
  value.is === 'symbol' ? lastOf(value.path) : value.is === 'text' ? value.text : undefined

function busNames(value: Value): string[] {
  if (value.is === 'object' && isPlatform(value.made)) return value.made.name === undefined ? [] : [value.made.name]
  if (value.is === 'symbol') return [lastOf(value.path)]
  return []
}
