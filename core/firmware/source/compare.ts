import type { PinFacts } from '../../catalog/boardFacts.ts'
import type { Language } from '../../catalog/boardSchema.ts'
import type { BoardInstance, Bus, Wiring } from '../../wiring/model.ts'
import { readingsOf } from '../drives.ts'
import type { Line } from '../lines.ts'
import { countings, type WayOfCounting } from './boardPin.ts'
import { usesOf } from './collectUses.ts'
import { ProgramBuses } from './compareBuses.ts'
import { contradiction } from './contradiction.ts'
import { type Comparison, type Difference, differenceAt, differenceKinds } from './differences.ts'
import { followProgram } from './follow.ts'
import type { At, SourceFile, SourceLanguage } from './ir.ts'
import { askedOrders, swapIn } from './orders.ts'
import { readProgram } from './readProgram.ts'
import type { Thing } from './things.ts'
import type { PinUse } from './uses.ts'
import type { Value } from './values.ts'

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
  for (const at of followed.unread) differences.push(differenceAt(files, 'unread', at, {}, []))
  return {
    board: board.ref,
    language,
    differences,
    agrees: differences.every(({ kind }) => ['same', 'note'].includes(differenceKinds[kind].severity)),
  }
}

class Comparer extends ProgramBuses {
  run(): Difference[] {
    const things = this.things()
    this.all = things
    const way = this.mistakenWay(things)
    const { placed } = this
    for (const thing of things) {
      const line = this.lineOf(thing)
      if (line) placed.set(thing, line)
    }
    this.settle(things)
    const exchanged = this.exchanged(placed)
    for (const thing of things) if (!exchanged.has(thing)) this.thing(thing, placed.get(thing), way)
    this.orders(exchanged)
    this.buses()
    this.addresses()
    this.bauds()
    this.missing(things)
    for (const { why, call, at } of this.uses.lost) this.say('lost', at, { call: shortCall(call), why }, [])
    return this.found
  }

  /**
   * Names that could be several lines' are those of the lines that nobody else has; and a name that is nearly that of a
   * line which somebody else has rightly says nothing against the pin's own.
   */
  protected settle(things: readonly Thing[]): void {
    const isAt = (thing: Thing, line: Line): boolean => thing.meant.is === 'pin' && thing.meant.pin.id === line.host.pin
    const named = new Map(things.map((thing) => [thing, this.meantBy(thing)?.line]))
    /** Who has a line by its name: at its pin, or more plainly than all others. */
    const taken = new Map<Line, Thing>()
    for (const [thing, line] of named) {
      const could = line ? [line] : this.names.could(thing.names)
      for (const one of could) if (isAt(thing, one)) taken.set(one, thing)
    }
    for (const [thing, line] of named) {
      if (!line || taken.has(line)) continue
      const others = things.filter((one) => named.get(one) === line)
      const plainest = others.reduce(
        (a, b) => (this.names.score(line, b.names) > this.names.score(line, a.names) ? b : a),
        thing,
      )
      taken.set(line, plainest)
    }
    for (const thing of things) {
      const line = named.get(thing)
      if (!thing.sure || (line && (taken.get(line) === thing || this.names.exactly(thing.names).length > 0))) continue
      const others = new Set([...taken].filter(([, one]) => one !== thing).map(([one]) => one))
      // What a library is given beside a bus is none of the bus's own lines.
      if (thing.uses.every(({ doing }) => doing === 'given')) for (const one of this.lines) if (one.bus) others.add(one)
      const left = this.names.find(thing.names, others)
      const at = this.linesAt(thing)
      const here = at.find((one) => !others.has(one)) ?? at[0]
      if (left && !contradiction(left, thing.uses)) this.placed.set(thing, left)
      else if (here) this.placed.set(thing, here)
    }
  }

  /** A way of counting that explains the numbers of the program much better than the platform's own does. */
  protected mistakenWay(things: readonly Thing[]): WayOfCounting | undefined {
    const straight = things.filter((thing) => this.fits(thing, this.linesAt(thing))).length
    const counts = new Map<WayOfCounting, number>()
    for (const thing of things) {
      if (thing.number === undefined) continue
      for (const { way, pin } of this.finder.otherwise(thing.number)) {
        const there = this.lines.filter(({ host }) => host.pin === pin.id)
        const straightPin = thing.meant.is === 'pin' ? thing.meant.pin : undefined
        if (pin !== straightPin && this.fits(thing, there)) counts.set(way, (counts.get(way) ?? 0) + 1)
      }
    }
    const [best] = [...counts].sort(([, one], [, two]) => two - one)
    return best && best[1] >= 2 && best[1] >= straight + 2 ? best[0] : undefined
  }

  /** Pairs of which each has the other's pin. */
  protected exchanged(placed: ReadonlyMap<Thing, Line>): Set<Thing> {
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
        this.met.add(oneLine)
        this.met.add(twoLine)
        this.say(
          'exchanged',
          this.where(one),
          {
            one: this.called(one),
            two: this.called(two),
            oneEnd: oneLine.use.end,
            onePin: this.pinText(oneLine),
            twoEnd: twoLine.use.end,
            twoPin: this.pinText(twoLine),
          },
          [oneLine.use.end, twoLine.use.end],
        )
      }
    return done
  }

  /** Pins that stand in each other's place in what a library or a list takes in order. */
  protected orders(exchanged: ReadonlySet<Thing>): void {
    const orders = askedOrders(this.wiring, this.board)
    const known = new Set([...exchanged].flatMap(({ meant }) => (meant.is === 'pin' ? [meant.pin.id] : [])))
    const judge = (ids: readonly (string | undefined)[], name: string | undefined, at: At): void => {
      const pins = ids.flatMap((id) => id ?? [])
      const swap = swapIn(orders, pins, name)
      if (!swap) return
      const [one, two] = [swap.order.pins[swap.one], swap.order.pins[swap.two]]
      if (!one || !two || known.has(one.pin)) return
      this.say(
        'exchanged',
        at,
        {
          one: `${this.written(two.pin)} in place ${swap.one + 1}`,
          two: `${this.written(one.pin)} in place ${swap.two + 1}`,
          oneEnd: one.end,
          onePin: this.written(one.pin),
          twoEnd: two.end,
          twoPin: this.written(two.pin),
        },
        [one.end, two.end],
      )
    }
    const idOf = (value: Value): string | undefined => {
      const meant = this.finder.meant(value, 'pin')
      return meant.is === 'pin' ? meant.pin.id : undefined
    }
    const byCall = new Map<string, PinUse[]>()
    for (const use of this.uses.pins) {
      if (use.place === undefined) continue
      const key = `${use.at.file} ${use.at.from}`
      byCall.set(key, [...(byCall.get(key) ?? []), use])
    }
    for (const uses of byCall.values()) {
      const [first] = uses
      const here = uses.flatMap((use) => idOf(use.pin) ?? [])
      if (first && uses.every(({ own }) => own.length === 0)) judge(here, undefined, first.at)
    }
    for (const { name, value, at } of this.declared.values())
      if (value.is === 'list' && value.items.every((item) => item.is === 'number' || item.is === 'symbol'))
        judge(value.items.map(idOf), name, at)
  }

  protected thing(thing: Thing, line: Line | undefined, way: WayOfCounting | undefined): void {
    const at = this.where(thing)
    const { meant } = thing
    if (line && meant.is === 'pin' && meant.pin.id === line.host.pin) {
      const mistaken = way && thing.number !== undefined ? this.lineBy(way, thing) : undefined
      if (!mistaken || this.meantBy(thing)?.line === line) {
        this.right(thing, line)
        return
      }
    }
    const counted = this.countedOtherwise(thing, line, way)
    if (counted) {
      this.met.add(counted.line)
      this.say(
        'numbering',
        at,
        {
          written: thing.written,
          way: countings[counted.way],
          planned: counted.line.host.end,
          end: counted.line.use.end,
          right: this.pinText(counted.line),
        },
        [counted.line.use.end],
      )
      return
    }
    if (line) {
      this.met.add(line)
      this.say(
        'differs',
        at,
        { name: this.called(thing), pin: this.meantText(thing), end: line.use.end, planned: this.pinText(line) },
        [line.use.end],
      )
      return
    }
    if (meant.is === 'none') this.say('no-pin', at, { written: thing.written, board: this.board.title }, [])
    else if (meant.is === 'pin' && thing.sure && !this.isOnBoard(meant.pin))
      this.say('unknown', at, { name: this.called(thing), pin: this.meantText(thing) }, [])
  }

  protected right(thing: Thing, line: Line): void {
    for (const one of this.linesAt(thing)) this.met.add(one)
    const uses = this.usesOf(line)
    const wrong = contradiction(line, uses)
    if (wrong && !this.judged.has(line.host.pin)) {
      this.judged.add(line.host.pin)
      this.say(
        'mode',
        wrong.use.at,
        { pin: this.meantText(thing), done: wrong.done, end: line.use.end, wants: wrong.wants },
        [line.use.end],
      )
      return
    }
    const reading = readingsOf(this.wiring).find(({ use }) => use === line.use)
    const modes = uses.filter(
      (use) => use.doing === 'input' && /pinMode$|Pin$|setup$|set_mode$|switch_to_input$|direction=$/.test(use.call),
    )
    const bare = modes.find((use) => use.pull === undefined)
    if (reading?.pull && bare && !uses.some((use) => use.pull !== undefined || use.doing === 'output')) {
      this.judged.add(line.host.pin)
      this.say('pull', bare.at, { pin: this.meantText(thing), end: line.use.end, way: reading.pull }, [line.use.end])
      return
    }
    this.say('same', thing.uses[0]?.at, { name: this.called(thing), pin: this.meantText(thing), end: line.use.end }, [
      line.use.end,
    ])
  }

  /** The line whose pin a number is in another way of counting. */
  protected countedOtherwise(
    thing: Thing,
    line: Line | undefined,
    way: WayOfCounting | undefined,
  ): { way: WayOfCounting; line: Line } | undefined {
    if (thing.number === undefined) return undefined
    const others = this.finder.otherwise(thing.number)
    if (line) {
      // Numbers of ports and channels are nobody's habit: one alone agrees by chance.
      const found = others.find(
        (one) => one.pin.id === line.host.pin && (one.way === way || (one.way !== 'port' && one.way !== 'analog')),
      )
      return found && { way: found.way, line }
    }
    if (way) {
      const by = this.lineBy(way, thing)
      return by && { way, line: by }
    }
    // Alone, a number is only taken for another when it is no pin of the plan and one way explains it.
    if (!thing.sure) return undefined
    const fitting = others.flatMap((one) => {
      const there = this.lines.find(({ host }) => host.pin === one.pin.id)
      return there && !contradiction(there, thing.uses) ? [{ way: one.way, line: there }] : []
    })
    const [only] = fitting
    return only && new Set(fitting.map((one) => one.line.host)).size === 1 && thing.meant.is === 'none'
      ? only
      : undefined
  }

  protected lineBy(way: WayOfCounting, thing: Thing): Line | undefined {
    const pin = this.finder.otherwise(thing.number ?? Number.NaN).find((one) => one.way === way)?.pin
    return pin && this.lines.find((line) => line.host.pin === pin.id && !contradiction(line, thing.uses))
  }

  protected missing(things: readonly Thing[]): void {
    const pins = new Set(things.flatMap(({ meant }) => (meant.is === 'pin' ? [meant.pin.id] : [])))
    const kinds = new Set(
      [...this.uses.begins, ...this.uses.pins.flatMap(({ bus }) => bus ?? [])].map(({ kind }) => kind),
    )
    const said = new Set<Bus>()
    for (const line of this.lines) {
      if (this.met.has(line) || pins.has(line.host.pin)) continue
      const { bus } = line
      if (bus && bus.kind !== 'onewire') {
        // A library may begin the bus by itself; what is not begun at all is missing once.
        if (said.has(bus) || kinds.has(bus.kind) || this.speaks(bus)) continue
        said.add(bus)
      }
      const end = bus ? bus.parts.map(({ ref }) => ref).join(', ') : line.use.end
      const planned = bus ? `${bus.kind.toUpperCase()}` : this.pinText(line)
      this.say('missing', undefined, { end, planned }, bus ? bus.parts.map(({ ref }) => ref) : [line.use.end])
    }
  }
}

const shortCall = (call: string): string => call.split('.').slice(-2).join('.')
