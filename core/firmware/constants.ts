import { entryOf } from '../base/entryOf.ts'
import { memoIn } from '../base/memo.ts'
import { countingHint, type PinFacts } from '../catalog/boardFacts.ts'
import type { Language } from '../catalog/boardSchema.ts'
import { holds } from '../catalog/when.ts'
import { USUAL_CLOCK } from '../circuit/i2cLines.ts'
import { addressesOf } from '../wiring/i2c.ts'
import type { BoardInstance, Bus, Host, PartInstance, Wiring } from '../wiring/model.ts'
import { holesOf, type Line, linesOf, movers, partsOf, pinOf } from './lines.ts'
import { languageTitles, programPin } from './pinNames.ts'

/** What a constant stands for, before any language writes it. */
export type ConstantValue =
  | { readonly is: 'pin'; readonly pin: PinFacts }
  /** A pin of something that gives pins, as programs count them from 0. */
  | { readonly is: 'given'; readonly index: number; readonly by: PartInstance }
  | { readonly is: 'amount'; readonly amount: number; readonly as: 'hexadecimal' | 'whole' | 'real' }
  /** Names of other constants, in order. */
  | { readonly is: 'list'; readonly names: readonly string[] }

export interface Constant {
  readonly name: string
  /** True for a name of the maker's own. */
  readonly own: boolean
  /** End under which the maker can name it; undefined for what has no pin. */
  readonly end: string | undefined
  readonly value: ConstantValue
  readonly host: Host | undefined
  /** Part and signal, and where fingers find the pin. */
  readonly about: string
}

/** Constants that belong together: a bus, a part. */
export interface ConstantGroup {
  readonly title: string
  readonly ref: string | undefined
  readonly constants: readonly Constant[]
}

/** `LAMP_A`: a name that every language takes, made of a reference and what it is about. */
export const madeName = (...parts: readonly string[]): string =>
  parts
    .map((part) => part.replace(/\+/g, 'P').replace(/[^A-Za-z0-9]+/g, '_'))
    .join('_')
    .replace(/^_+|_+$/g, '')
    .toUpperCase()
    .replace(/^(?=\d)/, 'PIN_')

/**
 * All constants of one board's program, buses first, then the parts in plan order. A name is the maker's own where the
 * plan holds one, else made of part and signal; lines of a bus are named after its controller, so that they keep their
 * names when parts come and go.
 */
export const constantsOf = memoIn((wiring: Wiring, ref: string): readonly ConstantGroup[] => {
  const board = wiring.boards.find((one) => one.ref === ref)
  return board ? new Collector(wiring, board).groups() : []
})

class Collector {
  readonly #wiring: Wiring
  readonly #board: BoardInstance
  readonly #lines: readonly Line[]
  readonly #taken = new Set<string>()
  readonly #byHost = new Map<Host, string>()
  /** Names of the maker's own that are used, with their pins. */
  readonly #given = new Map<string, Host>()

  constructor(wiring: Wiring, board: BoardInstance) {
    this.#wiring = wiring
    this.#board = board
    this.#lines = linesOf(wiring).filter((line) => line.board === board)
    // A name of the maker's own is kept for it, whatever comes before it.
    for (const line of this.#lines) {
      const own = this.#ownName([line.use.end])
      if (own !== undefined) this.#taken.add(own)
    }
  }

  groups(): ConstantGroup[] {
    const shared = this.#lines.filter((line) => line.bus && line.bus.kind !== 'uart' && line.bus.board === this.#board)
    const buses = [...new Set(shared.flatMap(({ bus }) => bus ?? []))].map((bus) =>
      this.#bus(
        bus,
        shared.filter((line) => line.bus === bus),
      ),
    )
    const rest = this.#lines.filter((line) => !shared.includes(line))
    const singles = new Map(
      partsOf(this.#wiring, this.#board).map((part) => {
        const lines = rest.filter((line) => line.use.part === part)
        return [part, lines.flatMap((line) => this.#line(line) ?? [])]
      }),
    )
    const parts = [...singles].map(
      ([part, constants]): ConstantGroup => ({
        title: part.title === part.ref ? `${part.ref}: ${part.part.title}` : `${part.ref}: ${part.title}`,
        ref: part.ref,
        constants: [...constants, ...this.#figures(part)],
      }),
    )
    // Lists name pins of other parts as well, such as those of a driver, so they come when all have their names.
    const lists = [...singles.keys()].flatMap((part) => this.#lists(part))
    const orders: ConstantGroup = { title: 'In the order that programs ask for', ref: undefined, constants: lists }
    return [...buses, ...parts, orders].filter(({ constants }) => constants.length > 0)
  }

  #bus(bus: Bus, lines: readonly Line[]): ConstantGroup {
    const controller = bus.controller
    const stem = controller ?? `${bus.parts[0]?.ref ?? ''} ${bus.kind}`
    const bySignal = new Map<string, Line[]>()
    for (const line of lines) {
      const key = `${line.busSignal} ${line.host.end}`
      bySignal.set(key, [...(bySignal.get(key) ?? []), line])
    }
    const constants = [...bySignal.values()].flatMap((same) => {
      const [line] = same as [Line, ...Line[]]
      const who = [...new Set(same.map(({ use }) => use.part.ref))].join(', ')
      return (
        this.#pin(
          line,
          same.map(({ use }) => use.end),
          madeName(stem, line.busSignal ?? ''),
          `${line.busSignal?.toUpperCase()} of ${who}`,
        ) ?? []
      )
    })
    const entry = entryOf(this.#wiring.plan.boards, this.#board.ref)
    const clock = controller === undefined ? undefined : entryOf(entry?.clocks, controller)
    if (bus.kind === 'i2c')
      constants.push(
        this.#amount(
          madeName(stem, 'hertz'),
          clock ?? USUAL_CLOCK,
          clock === undefined ? 'clock of the bus as platforms start it' : 'clock of the bus, from the plan',
        ),
      )
    const facts = this.#board.board.controllers.find((one) => one.id === controller)
    const title = facts?.title ?? `${bus.kind.toUpperCase()} by software`
    return { title: `${title}: ${bus.parts.map((part) => part.ref).join(', ')}`, ref: undefined, constants }
  }

  #line(line: Line): Constant | undefined {
    const { use, host, bus, busSignal } = line
    const { ref } = use.part
    const made = host.provider ? madeName(ref, use.facts.pin, 'on', host.ref) : madeName(ref, use.facts.pin)
    const facts = this.#board.board.controllers.find((one) => one.id === bus?.controller)
    const way =
      busSignal === undefined
        ? ''
        : `, ${busSignal.toUpperCase()} of ${facts ? `the board's ${facts.title}` : bus?.provider ? `${bus.provider.ref} (${bus.controller ?? bus.kind})` : `a ${bus?.kind.toUpperCase()} by software`}`
    return this.#pin(line, [use.end], made, `${use.end}${way}`)
  }

  #pin(line: Line, ends: readonly string[], made: string, about: string): Constant | undefined {
    const { host, counted } = line
    const facts = pinOf(host)
    const given = this.#ownName(ends)
    const known = given === undefined ? undefined : this.#given.get(given)
    // One name for two pins would be a fault of the program: the second gets a number.
    const own = given === undefined || known === undefined || known === host ? given : this.#free(given)
    if (own !== undefined) this.#given.set(own, host)
    const before = this.#byHost.get(host)
    const value: ConstantValue | undefined = host.provider
      ? counted === undefined
        ? undefined
        : { is: 'given', index: counted, by: host.provider }
      : facts && { is: 'pin', pin: facts }
    if (!value) return undefined
    const name = own ?? this.#free(made)
    if (before === name) return undefined
    if (before === undefined) this.#byHost.set(host, name)
    const place = host.provider ? givenPlace(host) : placeOf(this.#wiring, host)
    return {
      name,
      own: own !== undefined,
      end: ends[0],
      value,
      host,
      about: `${about}: ${place}${before === undefined ? '' : `; the same pin as ${before}`}`,
    }
  }

  #figures(part: PartInstance): Constant[] {
    const { ref, mode } = part
    const figures: Constant[] = []
    const add = (what: string, amount: number, about: string, as?: 'hexadecimal' | 'whole' | 'real'): void => {
      figures.push(this.#amount(madeName(ref, what), amount, about, as))
    }
    const addresses = addressesOf(part).filter((one) => !one.shared)
    const reached = this.#lines.some(({ use, busSignal }) => use.part === part && busSignal === 'sda')
    if (reached)
      addresses.forEach(({ address, option }, index) => {
        const id = option ?? (addresses.length > 1 && index > 0 ? `address${index + 1}` : 'address')
        add(id.includes('address') ? id : `${id} address`, address, 'address on the bus, seven bits', 'hexadecimal')
      })
    const [baud] = mode?.uart?.baud ?? []
    if (baud !== undefined && this.#lines.some(({ use, bus }) => use.part === part && bus?.kind === 'uart'))
      add('baud', baud, 'rate of its serial line as delivered')
    const shunt = shuntOf(part)
    if (shunt !== undefined) add('shunt ohms', shunt, 'shunt through which the current goes', 'real')
    for (const ask of part.part.asks) {
      if (!holds(ask.when, part.options)) continue
      const amount = typeof ask.amount === 'object' ? Number(entryOf(part.options, ask.amount.option)) : ask.amount
      if (ask.name !== undefined && amount !== undefined && Number.isFinite(amount))
        add(ask.name, amount, ask.unit === undefined ? ask.what : `${ask.what}, in ${ask.unit}`)
    }
    return figures
  }

  #lists({ ref, part, options }: PartInstance): Constant[] {
    return part.asks.flatMap((ask): Constant[] => {
      if (ask.list === undefined || !holds(ask.when, options)) return []
      const names = (ask.pins ?? []).flatMap((pin) => this.#nameOf(`${ref}.${pin}`) ?? [])
      if (names.length === 0) return []
      const name = this.#free(madeName(ref, ask.list))
      const about = `${ref}: ${ask.what}`
      return [{ name, own: false, end: undefined, host: undefined, value: { is: 'list', names }, about }]
    })
  }

  /** Name of the constant for the pin that moves an end, when one alone does. */
  #nameOf(end: string): string | undefined {
    const hosts = movers(this.#wiring, end)
    return hosts.length === 1 ? this.#byHost.get(hosts[0] as Host) : undefined
  }

  #amount(made: string, amount: number, about: string, as?: 'hexadecimal' | 'whole' | 'real'): Constant {
    const kind = as ?? (Number.isInteger(amount) ? 'whole' : 'real')
    const value: ConstantValue = { is: 'amount', amount, as: kind }
    return { name: this.#free(made), own: false, end: undefined, host: undefined, value, about }
  }

  #ownName(ends: readonly string[]): string | undefined {
    const { names } = this.#wiring.plan
    for (const end of ends) {
      const name = entryOf(names, end)
      if (name !== undefined) return name
    }
    return undefined
  }

  #free(made: string): string {
    let name = made
    for (let number = 2; this.#taken.has(name); number += 1) name = `${made}_${number}`
    this.#taken.add(name)
    return name
  }
}

const givenPlace = ({ provider, pin }: Host): string => `pin ${pin} of ${provider?.ref} (${provider?.part.title})`

/** Ohms of the shunt of a part that measures the volts over it and tells them over a bus; all its shunts are alike. */
export const shuntOf = ({ part, mode }: PartInstance): number | undefined => {
  const shunt = mode?.i2c || mode?.spi ? part.inner.find(({ kind }) => kind === 'shunt') : undefined
  return typeof shunt?.amount === 'number' ? shunt.amount : undefined
}

/** Where fingers find a board pin: what is printed there, and how to count to it. */
export function placeOf(wiring: Wiring, host: Host): string {
  return holesOf(wiring, host)
    .map((pin) => `printed ${pin.label ?? pin.id}, ${pin.header.id}#${pin.position} (${countingHint(pin)})`)
    .join(' and ')
}

/** The value of a constant as a language writes it; undefined for a pin that the language cannot name. */
export function valueText(board: BoardInstance, value: ConstantValue, language: Language): string | undefined {
  switch (value.is) {
    case 'pin':
      return programPin(board.board, value.pin, language)
    case 'given':
      return String(value.index)
    case 'amount':
      if (value.as === 'hexadecimal') return `0x${value.amount.toString(16).toUpperCase().padStart(2, '0')}`
      return value.as === 'real' && language === 'cpp' ? `${realText(value.amount)}f` : realText(value.amount)
    case 'list':
      return language === 'cpp'
        ? `{ ${value.names.join(', ')} }`
        : `(${value.names.join(', ')}${value.names.length === 1 ? ',' : ''})`
  }
}

const realText = (amount: number): string => String(Number(amount.toPrecision(9)))

/** A pin fits a byte on the small chips alone. */
const pinType = (board: BoardInstance): string => (board.board.family === 'avr' ? 'uint8_t' : 'int')

function cppLine(board: BoardInstance, { name, value }: Constant, text: string): string {
  switch (value.is) {
    case 'list':
      return `constexpr ${pinType(board)} ${name}[] = ${text};`
    case 'amount': {
      if (value.as === 'real') return `constexpr float ${name} = ${text};`
      const type = value.as === 'hexadecimal' ? 'uint8_t' : Math.abs(value.amount) > 32767 ? 'uint32_t' : 'int'
      return `constexpr ${type} ${name} = ${text};`
    }
    case 'given':
      return `constexpr uint8_t ${name} = ${text};`
    case 'pin':
      return `constexpr ${pinType(board)} ${name} = ${text};`
  }
}

/** The file of constants of one board's program. Throws {@link RangeError} for a language that the board does not speak. */
export function writeConstants(wiring: Wiring, ref: string, language: Language): string {
  const board = wiring.boards.find((one) => one.ref === ref)
  const program = board?.board.programs.find((one) => one.as === language)
  if (!board || !program) throw new RangeError(`${ref} has no programs in ${languageTitles[language]}`)
  const mark = language === 'cpp' ? '//' : '#'
  const said = (text: string): string => `${mark} ${oneLine(text)}`
  const head = [
    said(`Pins of "${wiring.plan.title}", as board ${board.ref} (${board.title}) is wired.`),
    said('Written from the plan: give names there, and write this file anew when wires change.'),
    ...(program.text === undefined ? [] : [said(program.text)]),
    ...(language === 'cpp' ? ['#pragma once', '#include <Arduino.h>'] : []),
    ...(program.needs === undefined ? [] : [program.needs]),
  ]
  const groups = constantsOf(wiring, ref).map(({ title, constants }) => {
    const rows = constants.map((constant): readonly [string, string] => {
      const text = valueText(board, constant.value, language)
      if (text === undefined) return [said(`${constant.name}: no name in ${languageTitles[language]}`), constant.about]
      return [language === 'cpp' ? cppLine(board, constant, text) : `${constant.name} = ${text}`, constant.about]
    })
    const width = Math.min(46, Math.max(...rows.map(([code]) => code.length)))
    return [said(title), ...rows.map(([code, about]) => `${code.padEnd(width)}  ${said(about)}`)].join('\n')
  })
  const none = said('No signal of this plan reaches a pin of this board yet.')
  return `${[head.join('\n'), ...(groups.length > 0 ? groups : [none])].join('\n\n')}\n`
}

/** Text of a maker in a comment: one line, and nothing that would end or carry on the comment. */
const oneLine = (text: string): string =>
  text
    .replace(/[\r\n\u2028\u2029]+/g, ' ')
    .replace(/\?\?\//g, '? ?/')
    .replace(/\\+$/, '')
