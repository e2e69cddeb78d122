import type { PinFacts } from '../../catalog/boardFacts.ts'
import type { Language } from '../../catalog/boardSchema.ts'
import { hexAddress } from '../../electrical/hexAddress.ts'
import { fillMessage, type MessageData } from '../../rules/messages.ts'
import { busPins } from '../../wiring/buses.ts'
import { addressesOf } from '../../wiring/i2c.ts'
import type { BoardInstance, Bus, Wiring } from '../../wiring/model.ts'
import { readingsOf } from '../drives.ts'
import { type Line, linesOf, pinOf } from '../lines.ts'
import { programPin } from '../pinNames.ts'
import { countings, type Meant, PinFinder, type WayOfCounting } from './boardPin.ts'
import { contradiction } from './contradiction.ts'
import { followProgram } from './follow.ts'
import type { At, SourceFile, SourceLanguage } from './ir.ts'
import { NameMatch } from './nameMatch.ts'
import { askedOrders, swapIn } from './orders.ts'
import { readProgram } from './readProgram.ts'
import { type PinUse, type Uses, usesOf } from './uses.ts'
import type { Declared, Value } from './values.ts'

/** Kinds of what a comparison says, with what they look for and their message. */
export const differenceKinds = {
  same: {
    about: 'The program has the pin that the plan has.',
    severity: 'same',
    message: '{name} is {pin}, as {end} is wired.',
  },
  differs: {
    about: 'The program has another pin for a signal than the plan.',
    severity: 'fault',
    message: '{name} is {pin} here; the plan has {end} on {planned}.',
  },
  exchanged: {
    about: 'Two signals have each other’s pin.',
    severity: 'fault',
    message: '{one} and {two} are exchanged: the plan has {oneEnd} on {onePin} and {twoEnd} on {twoPin}.',
  },
  numbering: {
    about: 'A number counts pins otherwise than this platform does: the commonest mistake of all.',
    severity: 'fault',
    message: '{written} is the {way} of {planned}, where {end} is wired; programs of this board call that pin {right}.',
  },
  'no-pin': {
    about: 'The board has no such pin.',
    severity: 'fault',
    message: '{written} is no pin of {board}.',
  },
  unknown: {
    about: 'The program uses a pin on which the plan has nothing.',
    severity: 'caution',
    message: '{name} is {pin}, and the plan has nothing there.',
  },
  missing: {
    about: 'A wired signal does not appear in the program.',
    severity: 'caution',
    message: '{end} on {planned} does not appear in the program.',
  },
  mode: {
    about: 'The program drives what the plan lets talk, or reads what it should drive.',
    severity: 'fault',
    message: '{pin} is {done}, and {end} there {wants}.',
  },
  pull: {
    about: 'A contact needs a pull that nothing outside gives, and the program does not switch it on.',
    severity: 'fault',
    message: '{pin} is read without a pull, and nothing outside holds the line of {end}: switch the pull-{way} on.',
  },
  bus: {
    about: 'A bus lies on other pins than in the plan.',
    severity: 'fault',
    message: '{object} takes {pins}; the plan has {parts} on {planned}.',
  },
  address: {
    about: 'The program speaks to an address that nobody has in the plan.',
    severity: 'fault',
    message: '{address} is the address of nobody in the plan{hint}.',
  },
  baud: {
    about: 'A serial line runs at another rate than its part does as delivered.',
    severity: 'caution',
    message: '{object} runs at {baud}; {part} speaks at {rates} as delivered.',
  },
  lost: {
    about: 'The pin of a call cannot be followed without running the program.',
    severity: 'note',
    message: 'the pin of {call} cannot be followed: {why}.',
  },
  unread: {
    about: 'A place that the parser could not read.',
    severity: 'note',
    message: 'this line could not be read.',
  },
} as const
export type DifferenceKind = keyof typeof differenceKinds

/** One thing that a comparison says, at its place in the program; `missing` has none. */
export interface Difference {
  readonly kind: DifferenceKind
  readonly message: string
  readonly data: MessageData
  /** Ends of the plan that it is about. */
  readonly ends: readonly string[]
  readonly place: SourcePlace | undefined
}

export interface SourcePlace {
  readonly file: string
  /** From 1. */
  readonly line: number
  readonly column: number
  /** The line itself. */
  readonly text: string
}

export interface Comparison {
  readonly board: string
  readonly language: Language
  readonly differences: readonly Difference[]
  /** True when the program does what the plan says, as far as it could be followed. */
  readonly agrees: boolean
}

/** Addresses at one place of a program above which it asks them all. */
const SCANNED = 4

/** A pin of the program under one name. */
interface Thing {
  readonly names: readonly string[]
  readonly meant: Meant
  readonly number: number | undefined
  readonly written: string
  readonly uses: PinUse[]
  /** Some use says for certain that it is a pin. */
  sure: boolean
}

/**
 * Compares a program with the plan of a board: pins by their names and numbers, what is done with them, buses, addresses
 * and rates. The program is read and followed, never run.
 */
export function compareSource(
  wiring: Wiring,
  board: BoardInstance,
  files: readonly SourceFile[],
  language: Language,
): Comparison {
  const source: SourceLanguage = language === 'cpp' ? 'cpp' : 'python'
  const followed = followProgram(readProgram(files, source, board.board), source)
  const uses = usesOf(followed, source)
  const declared = new Map(followed.declared.map((one) => [one.name, one]))
  const comparer = new Comparer(wiring, board, files, language, uses, declared)
  const differences = comparer.run()
  for (const at of followed.unread) differences.push(comparer.at('unread', at, {}, []))
  return {
    board: board.ref,
    language,
    differences,
    agrees: differences.every(({ kind }) => ['same', 'note'].includes(differenceKinds[kind].severity)),
  }
}

class Comparer {
  readonly #wiring: Wiring
  readonly #board: BoardInstance
  readonly #files: readonly SourceFile[]
  readonly #language: Language
  readonly #uses: Uses
  readonly #finder: PinFinder
  readonly #lines: readonly Line[]
  readonly #names: NameMatch
  readonly #declared: ReadonlyMap<string, Declared>
  readonly #found: Difference[] = []
  #all: readonly Thing[] = []
  /** Pins of which it was said already how they are used. */
  readonly #judged = new Set<string>()
  /** Lines of the plan that the program has, rightly or not. */
  readonly #met = new Set<Line>()

  constructor(
    wiring: Wiring,
    board: BoardInstance,
    files: readonly SourceFile[],
    language: Language,
    uses: Uses,
    declared: ReadonlyMap<string, Declared>,
  ) {
    this.#declared = declared
    this.#wiring = wiring
    this.#board = board
    this.#files = files
    this.#language = language
    this.#uses = uses
    this.#finder = new PinFinder(board, language, uses.counting)
    this.#lines = linesOf(wiring).filter((line) => line.host.board === board)
    this.#names = new NameMatch(wiring, board.ref, this.#lines)
  }

  run(): Difference[] {
    const things = this.#things()
    this.#all = things
    const way = this.#mistakenWay(things)
    const placed = new Map<Thing, Line>()
    for (const thing of things) {
      const line = this.#lineOf(thing)
      if (line) placed.set(thing, line)
    }
    const exchanged = this.#exchanged(placed)
    for (const thing of things) if (!exchanged.has(thing)) this.#thing(thing, placed.get(thing), way)
    this.#orders(exchanged)
    this.#buses()
    this.#addresses()
    this.#bauds()
    this.#missing(things)
    for (const { why, call, at } of this.#uses.lost) this.#say('lost', at, { call: shortCall(call), why }, [])
    return this.#found
  }

  at(kind: DifferenceKind, at: At | undefined, data: MessageData, ends: readonly string[]): Difference {
    const file = at && this.#files[at.file]
    const message = fillMessage(differenceKinds[kind].message, data)
    return { kind, message, data, ends, place: file && at ? placeIn(file, at.from) : undefined }
  }

  #say(kind: DifferenceKind, at: At | undefined, data: MessageData, ends: readonly string[]): void {
    this.#found.push(this.at(kind, at, data, ends))
  }

  /** Where the number of a pin stands: at its name's declaration, else where it is used. */
  #where(thing: Thing): At | undefined {
    const { names, uses } = thing
    // What the pin is given to decides: the line where it is given is the one to look at.
    const said = this.#meantBy(thing)?.name
    if (said !== undefined && uses[0] && !uses[0].own.includes(said) && uses[0].own.length > 0) return uses[0].at
    const name = names[0]?.split(/[.[]/)[0] ?? ''
    return this.#declared.get(name)?.at ?? uses[0]?.at
  }

  #things(): Thing[] {
    const things = new Map<string, Thing>()
    for (const use of this.#uses.pins) {
      if (use.bus) continue
      const meant = this.#finder.meant(use.pin, use.counts)
      if (meant.is === 'other') continue
      const number = use.pin.is === 'number' ? use.pin.number : undefined
      const written =
        use.pin.is === 'number' ? String(use.pin.number) : meant.is === 'none' ? meant.written : (use.names[0] ?? '')
      const thing: Thing = { names: use.names, meant, number, written, uses: [use], sure: use.sure }
      const about = this.#meantBy(thing)?.line.use.end ?? use.names[0] ?? ''
      const key = `${meant.is === 'pin' ? meant.pin.id : meant.written} ${about}`
      const known = things.get(key)
      if (known) {
        known.uses.push(use)
        known.sure ||= use.sure
      } else things.set(key, thing)
    }
    // A constant that has a name of the plan is that pin, also where its use cannot be followed.
    for (const { name, value } of this.#declared.values()) {
      if (value.is !== 'number' && value.is !== 'symbol' && value.is !== 'text') continue
      if (this.#names.exactly([name]).length === 0 || [...things.values()].some((thing) => thing.names.includes(name)))
        continue
      const meant = this.#finder.meant(value, 'pin')
      const number = value.is === 'number' ? value.number : undefined
      const written = number === undefined ? name : String(number)
      if (meant.is !== 'other')
        things.set(`declared ${name}`, { names: [name], meant, number, written, uses: [], sure: true })
    }
    // A bare number of a library that is no pin in the plan is no pin at all.
    return [...things.values()].filter(
      (thing) =>
        thing.sure || this.#linesAt(thing).length > 0 || this.#names.find(thing.uses[0]?.own ?? []) !== undefined,
    )
  }

  #linesAt(thing: Thing): Line[] {
    const { meant } = thing
    return meant.is === 'pin' ? this.#lines.filter(({ host }) => host.pin === meant.pin.id) : []
  }

  /** The line that a thing is about: by its name, else by its pin. */
  #lineOf(thing: Thing): Line | undefined {
    const here = this.#linesAt(thing)
    const named = this.#meantBy(thing)?.line
    // Several names fit, and the pin is one of theirs.
    if (!named) return here.find((line) => !contradiction(line, thing.uses)) ?? here[0]
    if (here.includes(named)) return named
    if (thing.sure) return named
    // A number that a library gets may be anything: it must have a name of its own that tells what it is.
    return this.#names.find(thing.uses[0]?.own ?? []) ?? here[0]
  }

  /**
   * The line that a thing's names mean, and the name that says so. What the pin is given to comes before what the number
   * is called, where it says plainly something else: `roadSide.attach(FIELD_SIDE)`.
   */
  #meantBy({ names, uses }: Thing): { line: Line; name: string } | undefined {
    const own = uses[0]?.own ?? names
    const given = names.filter((name) => !own.includes(name))
    const ownLine = this.#names.find(own)
    for (const name of given) {
      const line = this.#names.find([name])
      if (line && line !== ownLine && ownLine && this.#names.isCalled(line, name)) return { line, name }
    }
    const line = ownLine ?? this.#names.find(names)
    if (!line) return undefined
    const name = [...own, ...given].find((one) => this.#names.find([one]) === line)
    return { line, name: name ?? names[0] ?? '' }
  }

  /** A way of counting that explains the numbers of the program much better than the platform's own does. */
  #mistakenWay(things: readonly Thing[]): WayOfCounting | undefined {
    const straight = things.filter((thing) => this.#fits(thing, this.#linesAt(thing))).length
    const counts = new Map<WayOfCounting, number>()
    for (const thing of things) {
      if (thing.number === undefined) continue
      for (const { way, pin } of this.#finder.otherwise(thing.number)) {
        const there = this.#lines.filter(({ host }) => host.pin === pin.id)
        const straightPin = thing.meant.is === 'pin' ? thing.meant.pin : undefined
        if (pin !== straightPin && this.#fits(thing, there)) counts.set(way, (counts.get(way) ?? 0) + 1)
      }
    }
    const [best] = [...counts].sort(([, one], [, two]) => two - one)
    return best && best[1] >= 2 && best[1] >= straight + 2 ? best[0] : undefined
  }

  /** A thing could be one of these lines: by its name where that tells, and by what is done with it. */
  #fits(thing: Thing, lines: readonly Line[]): boolean {
    const named = this.#meantBy(thing)?.line
    if (named) return lines.includes(named)
    return lines.some((line) => !contradiction(line, thing.uses))
  }

  /** Pairs of which each has the other's pin. */
  #exchanged(placed: ReadonlyMap<Thing, Line>): Set<Thing> {
    const done = new Set<Thing>()
    const all = [...placed]
    const pin = ({ meant }: Thing): PinFacts | undefined => (meant.is === 'pin' ? meant.pin : undefined)
    for (const [one, oneLine] of all)
      for (const [two, twoLine] of all) {
        if (one === two || done.has(one) || done.has(two)) continue
        const [a, b] = [pin(one), pin(two)]
        if (!a || !b || a === b) continue
        if (a.id !== twoLine.host.pin || b.id !== oneLine.host.pin || oneLine.host.pin === twoLine.host.pin) continue
        done.add(one)
        done.add(two)
        this.#met.add(oneLine)
        this.#met.add(twoLine)
        this.#say(
          'exchanged',
          this.#where(one),
          {
            one: this.#called(one),
            two: this.#called(two),
            oneEnd: oneLine.use.end,
            onePin: this.#pinText(oneLine),
            twoEnd: twoLine.use.end,
            twoPin: this.#pinText(twoLine),
          },
          [oneLine.use.end, twoLine.use.end],
        )
      }
    return done
  }

  /** Pins that stand in each other's place in what a library or a list takes in order. */
  #orders(exchanged: ReadonlySet<Thing>): void {
    const orders = askedOrders(this.#wiring, this.#board)
    const known = new Set([...exchanged].flatMap(({ meant }) => (meant.is === 'pin' ? [meant.pin.id] : [])))
    const judge = (ids: readonly (string | undefined)[], name: string | undefined, at: At): void => {
      const pins = ids.flatMap((id) => id ?? [])
      const swap = swapIn(orders, pins, name)
      if (!swap) return
      const [one, two] = [swap.order.pins[swap.one], swap.order.pins[swap.two]]
      if (!one || !two || known.has(one.pin)) return
      this.#say(
        'exchanged',
        at,
        {
          one: `${this.#written(two.pin)} in place ${swap.one + 1}`,
          two: `${this.#written(one.pin)} in place ${swap.two + 1}`,
          oneEnd: one.end,
          onePin: this.#written(one.pin),
          twoEnd: two.end,
          twoPin: this.#written(two.pin),
        },
        [one.end, two.end],
      )
    }
    const idOf = (value: Value): string | undefined => {
      const meant = this.#finder.meant(value, 'pin')
      return meant.is === 'pin' ? meant.pin.id : undefined
    }
    const byCall = new Map<string, PinUse[]>()
    for (const use of this.#uses.pins) {
      if (use.place === undefined) continue
      const key = `${use.at.file} ${use.at.from}`
      byCall.set(key, [...(byCall.get(key) ?? []), use])
    }
    for (const uses of byCall.values()) {
      const [first] = uses
      const here = uses.flatMap((use) => idOf(use.pin) ?? [])
      if (first && uses.every(({ own }) => own.length === 0)) judge(here, undefined, first.at)
    }
    for (const { name, value, at } of this.#declared.values())
      if (value.is === 'list' && value.items.every((item) => item.is === 'number' || item.is === 'symbol'))
        judge(value.items.map(idOf), name, at)
  }

  #thing(thing: Thing, line: Line | undefined, way: WayOfCounting | undefined): void {
    const at = this.#where(thing)
    const { meant } = thing
    if (line && meant.is === 'pin' && meant.pin.id === line.host.pin) {
      const mistaken = way && thing.number !== undefined ? this.#lineBy(way, thing) : undefined
      if (!mistaken || this.#meantBy(thing)?.line === line) {
        this.#right(thing, line)
        return
      }
    }
    const counted = this.#countedOtherwise(thing, line, way)
    if (counted) {
      this.#met.add(counted.line)
      this.#say(
        'numbering',
        at,
        {
          written: thing.written,
          way: countings[counted.way],
          planned: counted.line.host.end,
          end: counted.line.use.end,
          right: this.#pinText(counted.line),
        },
        [counted.line.use.end],
      )
      return
    }
    if (line) {
      this.#met.add(line)
      this.#say(
        'differs',
        at,
        { name: this.#called(thing), pin: this.#meantText(thing), end: line.use.end, planned: this.#pinText(line) },
        [line.use.end],
      )
      return
    }
    if (meant.is === 'none') this.#say('no-pin', at, { written: thing.written, board: this.#board.title }, [])
    else if (meant.is === 'pin' && thing.sure && !this.#isOnBoard(meant.pin))
      this.#say('unknown', at, { name: this.#called(thing), pin: this.#meantText(thing) }, [])
  }

  #right(thing: Thing, line: Line): void {
    for (const one of this.#linesAt(thing)) this.#met.add(one)
    const uses = this.#usesOf(line)
    const wrong = contradiction(line, uses)
    if (wrong && !this.#judged.has(line.host.pin)) {
      this.#judged.add(line.host.pin)
      this.#say(
        'mode',
        wrong.use.at,
        { pin: this.#meantText(thing), done: wrong.done, end: line.use.end, wants: wrong.wants },
        [line.use.end],
      )
      return
    }
    const reading = readingsOf(this.#wiring).find(({ use }) => use === line.use)
    const modes = uses.filter((use) => use.doing === 'input' && /pinMode$|Pin$|setup$/.test(use.call))
    const bare = modes.find((use) => use.pull === undefined)
    if (reading?.pull && bare && !uses.some((use) => use.pull !== undefined || use.doing === 'output')) {
      this.#judged.add(line.host.pin)
      this.#say('pull', bare.at, { pin: this.#meantText(thing), end: line.use.end, way: reading.pull }, [line.use.end])
      return
    }
    this.#say(
      'same',
      thing.uses[0]?.at,
      { name: this.#called(thing), pin: this.#meantText(thing), end: line.use.end },
      [line.use.end],
    )
  }

  /** Everything that the program does with the pin of a line, under whatever names, but those of other lines. */
  #usesOf(line: Line): PinUse[] {
    return this.#all
      .filter((thing) => thing.meant.is === 'pin' && thing.meant.pin.id === line.host.pin)
      .filter((thing) => (this.#meantBy(thing)?.line.host ?? line.host) === line.host)
      .flatMap(({ uses }) => uses)
  }

  /** The line whose pin a number is in another way of counting. */
  #countedOtherwise(
    thing: Thing,
    line: Line | undefined,
    way: WayOfCounting | undefined,
  ): { way: WayOfCounting; line: Line } | undefined {
    if (thing.number === undefined) return undefined
    const others = this.#finder.otherwise(thing.number)
    if (line) {
      const found = others.find(({ pin }) => pin.id === line.host.pin)
      return found && { way: found.way, line }
    }
    if (way) {
      const by = this.#lineBy(way, thing)
      return by && { way, line: by }
    }
    // Alone, a number is only taken for another when it is no pin of the plan and one way explains it.
    if (!thing.sure) return undefined
    const fitting = others.flatMap((one) => {
      const there = this.#lines.find(({ host }) => host.pin === one.pin.id)
      return there && !contradiction(there, thing.uses) ? [{ way: one.way, line: there }] : []
    })
    const [only] = fitting
    return only && new Set(fitting.map((one) => one.line.host)).size === 1 && thing.meant.is === 'none'
      ? only
      : undefined
  }

  #lineBy(way: WayOfCounting, thing: Thing): Line | undefined {
    const pin = this.#finder.otherwise(thing.number ?? Number.NaN).find((one) => one.way === way)?.pin
    return pin && this.#lines.find((line) => line.host.pin === pin.id && !contradiction(line, thing.uses))
  }

  #buses(): void {
    const buses = this.#wiring.buses.filter((bus) => bus.board === this.#board)
    const program = this.#board.board.programs.find((one) => one.as === this.#language)
    const objects = new Map<string, { kind: Bus['kind']; at: At; pins: Map<string, PinFacts | undefined> }>()
    for (const use of this.#uses.pins) {
      if (!use.bus) continue
      const meant = this.#finder.meant(use.pin, 'pin')
      const known = objects.get(use.bus.object) ?? { kind: use.bus.kind, at: use.at, pins: new Map() }
      known.pins.set(use.bus.signal, meant.is === 'pin' ? meant.pin : undefined)
      objects.set(use.bus.object, known)
      if (meant.is === 'none') this.#say('no-pin', use.at, { written: meant.written, board: this.#board.title }, [])
    }
    for (const begin of this.#uses.begins) {
      const pins = program?.begins[begin.object]
      if (!pins || objects.has(begin.object)) continue
      const facts = Object.entries(pins).map(([signal, id]) => [signal, this.#board.facts.pin(id)] as const)
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
      this.#busMet(bus)
      const text = this.#pinsText(one.pins)
      this.#say(
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
        open.find((two) => this.#swapped(two, one.pins)) ??
        (open.length === 1 || one.kind !== 'uart' ? open[0] : undefined)
      if (!bus || (one.kind === 'uart' && object === 'Serial')) continue
      taken.add(bus)
      this.#busMet(bus)
      const planned = [...wired(bus)]
        .map(([signal, on]) => `${signal.toUpperCase()} ${[...on].map((id) => this.#written(id)).join('/')}`)
        .join(', ')
      const parts = bus.parts.map(({ ref }) => ref)
      const [first, second] = [...wired(bus).keys()]
      if (this.#swapped(bus, one.pins) && first !== undefined && second !== undefined)
        this.#say(
          'exchanged',
          one.at,
          {
            one: `${first.toUpperCase()} of ${object}`,
            two: second.toUpperCase(),
            oneEnd: first.toUpperCase(),
            onePin: this.#written([...(wired(bus).get(first) ?? [])][0] ?? ''),
            twoEnd: second.toUpperCase(),
            twoPin: this.#written([...(wired(bus).get(second) ?? [])][0] ?? ''),
          },
          parts,
        )
      else this.#say('bus', one.at, { object, pins: this.#pinsText(one.pins), parts: parts.join(', '), planned }, parts)
    }
  }

  /** Two lines of a bus have each other's pin. */
  #swapped(bus: Bus, pins: ReadonlyMap<string, PinFacts | undefined>): boolean {
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

  #busMet(bus: Bus): void {
    for (const line of this.#lines) if (line.bus === bus) this.#met.add(line)
  }

  #addresses(): void {
    const parts = this.#wiring.parts.filter((part) => part.mode?.i2c && part.home === this.#board)
    const has = new Set(parts.flatMap((part) => addressesOf(part).map(({ address }) => address)))
    const spoken = new Set(this.#uses.addresses.map((one) => one.address))
    const possible = new Set(
      parts.flatMap((part) => {
        const { option } = addressesOf(part)[0] ?? {}
        return part.part.options.find((one) => one.id === option)?.values.map(({ value }) => value) ?? []
      }),
    )
    // A place that speaks to address after address looks who is there.
    const perPlace = new Map<number, number>()
    for (const { at } of this.#uses.addresses) perPlace.set(at.from, (perPlace.get(at.from) ?? 0) + 1)
    for (const { address, at, sure } of this.#uses.addresses) {
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
      this.#say('address', at, { address: hexAddress(address), hint }, only && could.length === 1 ? [only.ref] : [])
    }
  }

  #bauds(): void {
    for (const { object, baud, at } of this.#uses.bauds) {
      const pins = this.#uses.pins.filter((use) => use.bus?.object === object)
      const ids = pins.flatMap((use) => {
        const meant = this.#finder.meant(use.pin, 'pin')
        return meant.is === 'pin' ? [meant.pin.id] : []
      })
      const program = this.#board.board.programs.find((one) => one.as === this.#language)
      const own = ids.length > 0 ? ids : Object.values(program?.begins[object] ?? {})
      const line = this.#lines.find((one) => one.bus?.kind === 'uart' && own.includes(one.host.pin))
      const rates = line?.use.part.mode?.uart?.baud ?? []
      if (!line || rates.length === 0 || rates.includes(baud)) continue
      this.#say('baud', at, { object, baud, part: line.use.part.ref, rates: rates.join(' or ') }, [line.use.part.ref])
    }
  }

  #missing(things: readonly Thing[]): void {
    const pins = new Set(things.flatMap(({ meant }) => (meant.is === 'pin' ? [meant.pin.id] : [])))
    const kinds = new Set(
      [...this.#uses.begins, ...this.#uses.pins.flatMap(({ bus }) => bus ?? [])].map(({ kind }) => kind),
    )
    const said = new Set<Bus>()
    for (const line of this.#lines) {
      if (this.#met.has(line) || pins.has(line.host.pin)) continue
      const { bus } = line
      if (bus && bus.kind !== 'onewire') {
        // A library may begin the bus by itself; what is not begun at all is missing once.
        if (said.has(bus) || kinds.has(bus.kind) || this.#speaks(bus)) continue
        said.add(bus)
      }
      const end = bus ? bus.parts.map(({ ref }) => ref).join(', ') : line.use.end
      const planned = bus ? `${bus.kind.toUpperCase()}` : this.#pinText(line)
      this.#say('missing', undefined, { end, planned }, bus ? bus.parts.map(({ ref }) => ref) : [line.use.end])
    }
  }

  /** Some object of the program is called like a part of this bus, or speaks to its address. */
  #speaks(bus: Bus): boolean {
    const addresses = new Set(bus.parts.flatMap((part) => addressesOf(part).map(({ address }) => address)))
    return this.#uses.addresses.some(({ address }) => addresses.has(address))
  }

  #isOnBoard(pin: PinFacts): boolean {
    return pin.cautions.some(({ id }) => ['onboard-led', 'onboard-button', 'usb-serial', 'serial-console'].includes(id))
  }

  #called(thing: Thing): string {
    return this.#meantBy(thing)?.name ?? thing.names[0] ?? thing.written
  }

  #meantText({ meant, written }: Thing): string {
    return meant.is === 'pin' ? this.#written(meant.pin.id) : written
  }

  #pinText(line: Line): string {
    const pin = pinOf(line.host)
    return pin ? this.#written(pin.id) : line.host.pin
  }

  /** A pin as programs of this language write it. */
  #written(id: string): string {
    const pin = this.#board.facts.pin(id)
    return (pin && programPin(this.#board.board, pin, this.#language)) ?? id
  }

  #pinsText(pins: ReadonlyMap<string, PinFacts | undefined>): string {
    return [...pins].map(([signal, pin]) => `${signal.toUpperCase()} ${pin ? this.#written(pin.id) : '?'}`).join(', ')
  }
}

const shortCall = (call: string): string => call.split('.').slice(-2).join('.')

function placeIn({ name, text }: SourceFile, offset: number): SourcePlace {
  const before = text.slice(0, offset)
  const start = before.lastIndexOf('\n') + 1
  const end = text.indexOf('\n', offset)
  return {
    file: name,
    line: before.split('\n').length,
    column: offset - start + 1,
    text: text.slice(start, end < 0 ? undefined : end).trim(),
  }
}
