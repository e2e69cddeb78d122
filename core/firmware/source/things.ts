import type { PinFacts } from '../../catalog/boardFacts.ts'
import type { Language } from '../../catalog/boardSchema.ts'
import type { MessageData } from '../../rules/messages.ts'
import type { BoardInstance, Wiring } from '../../wiring/model.ts'
import { type Line, linesOf, pinOf } from '../lines.ts'
import { programPin } from '../pinNames.ts'
import { type Meant, PinFinder } from './boardPin.ts'
import { valueKey } from './callArguments.ts'
import { contradiction } from './contradiction.ts'
import { type Difference, type DifferenceKind, differenceAt } from './differences.ts'
import type { At, SourceFile } from './ir.ts'
import { NameMatch } from './nameMatch.ts'
import type { PinUse, Uses } from './uses.ts'
import type { Declared } from './values.ts'

/** A pin of the program under one name. */
export interface Thing {
  readonly names: readonly string[]
  readonly meant: Meant
  readonly number: number | undefined
  readonly written: string
  readonly uses: PinUse[]
  /** Some use says for certain that it is a pin. */
  sure: boolean
}

/** A program beside the plan of a board: which pins it means, by what names, and which lines of the plan those are. */
export abstract class ProgramPins {
  protected readonly wiring: Wiring
  protected readonly board: BoardInstance
  protected readonly files: readonly SourceFile[]
  protected readonly language: Language
  protected readonly uses: Uses
  protected readonly finder: PinFinder
  protected readonly lines: readonly Line[]
  protected readonly names: NameMatch
  protected readonly declared: ReadonlyMap<string, Declared>
  protected readonly found: Difference[] = []
  #shared: ReadonlySet<string> | undefined
  protected all: readonly Thing[] = []
  /** The line of the plan that each thing is about. */
  protected readonly placed = new Map<Thing, Line>()
  /** Pins of which it was said already how they are used. */
  protected readonly judged = new Set<string>()
  /** Lines of the plan that the program has, rightly or not. */
  protected readonly met = new Set<Line>()

  constructor(
    wiring: Wiring,
    board: BoardInstance,
    files: readonly SourceFile[],
    language: Language,
    uses: Uses,
    declared: ReadonlyMap<string, Declared>,
  ) {
    this.declared = declared
    this.wiring = wiring
    this.board = board
    this.files = files
    this.language = language
    this.uses = uses
    this.finder = new PinFinder(board, language, uses.counting)
    this.lines = linesOf(wiring).filter((line) => line.host.board === board)
    this.names = new NameMatch(wiring, board.ref, this.lines)
  }

  protected say(kind: DifferenceKind, at: At | undefined, data: MessageData, ends: readonly string[]): void {
    this.found.push(differenceAt(this.files, kind, at, data, ends))
  }

  /** Where the number of a pin stands: at its name's declaration, else where it is used. */
  protected where(thing: Thing): At | undefined {
    const { names, uses } = thing
    // What the pin is given to decides: the line where it is given is the one to look at.
    const said = this.meantBy(thing)?.name
    if (said !== undefined && uses[0] && !uses[0].own.includes(said) && uses[0].own.length > 0) return uses[0].at
    const name = names[0]?.split(/[.[]/)[0] ?? ''
    return this.declared.get(name)?.at ?? uses[0]?.at
  }

  /** Names that several pins go by, such as that of a loop or of what a function takes: they tell nothing of one. */
  protected get shared(): ReadonlySet<string> {
    this.#shared ??= sharedNames(this.uses)
    return this.#shared
  }

  protected things(): Thing[] {
    const things = new Map<string, Thing>()
    for (const use of this.uses.pins) {
      if (use.bus) continue
      const meant = this.finder.meant(use.pin, use.counts)
      if (meant.is === 'other') continue
      const number = use.pin.is === 'number' ? use.pin.number : undefined
      const written =
        use.pin.is === 'number' ? String(use.pin.number) : meant.is === 'none' ? meant.written : (use.names[0] ?? '')
      const thing: Thing = { names: use.names, meant, number, written, uses: [use], sure: use.sure }
      const about = this.meantBy(thing)?.line.use.end ?? use.names[0] ?? ''
      const key = `${meant.is === 'pin' ? meant.pin.id : meant.written} ${about}`
      const known = things.get(key)
      if (known) {
        known.uses.push(use)
        known.sure ||= use.sure
      } else things.set(key, thing)
    }
    // A constant that has a name of the plan is that pin, also where its use cannot be followed.
    for (const { name, value } of this.declared.values()) {
      if (value.is !== 'number' && value.is !== 'symbol' && value.is !== 'text') continue
      if (this.names.exactly([name]).length === 0 || [...things.values()].some((thing) => thing.names.includes(name)))
        continue
      const meant = this.finder.meant(value, 'pin')
      const number = value.is === 'number' ? value.number : undefined
      const written = number === undefined ? name : String(number)
      if (meant.is !== 'other')
        things.set(`declared ${name}`, { names: [name], meant, number, written, uses: [], sure: true })
    }
    // A bare number of a library that is no pin in the plan is no pin at all.
    return [...things.values()].filter(
      (thing) =>
        thing.sure || this.linesAt(thing).length > 0 || this.names.find(thing.uses[0]?.own ?? []) !== undefined,
    )
  }

  protected linesAt(thing: Thing): Line[] {
    const { meant } = thing
    return meant.is === 'pin' ? this.lines.filter(({ host }) => host.pin === meant.pin.id) : []
  }

  /** The line that a thing is about: by its name, else by its pin. */
  protected lineOf(thing: Thing): Line | undefined {
    const here = this.linesAt(thing)
    const named = this.meantBy(thing)?.line
    // Several names fit, and the pin is one of theirs.
    if (!named) return here.find((line) => !contradiction(line, thing.uses)) ?? here[0]
    if (here.includes(named)) return named
    if (thing.sure) return named
    // A number that a library gets may be anything: it must have a name of its own that tells what it is.
    return this.names.find(thing.uses[0]?.own ?? []) ?? here[0]
  }

  /**
   * The line that a thing's names mean, and the name that says so. What the pin is given to comes before what the number
   * is called, where it says plainly something else: `roadSide.attach(FIELD_SIDE)`.
   */
  protected meantBy({ names, uses }: Thing): { line: Line; name: string } | undefined {
    const tells = (name: string): boolean => !this.shared.has(name)
    const own = (uses[0]?.own ?? names).filter(tells)
    const given = names.filter((name) => tells(name) && !own.includes(name))
    const ownLine = this.names.find(own)
    for (const name of given) {
      const line = this.names.find([name])
      if (!line || line === ownLine || !ownLine || !this.names.isCalled(line, name)) continue
      if (this.names.score(line, [name]) >= 2) return { line, name }
    }
    const line = ownLine ?? this.names.find(names.filter(tells))
    if (!line) return undefined
    const name = [...own, ...given].find((one) => this.names.find([one]) === line)
    return { line, name: name ?? names[0] ?? '' }
  }

  /** A thing could be one of these lines: by its name where that tells, and by what is done with it. */
  protected fits(thing: Thing, lines: readonly Line[]): boolean {
    const named = this.meantBy(thing)?.line
    if (named) return lines.includes(named)
    return lines.some((line) => !contradiction(line, thing.uses))
  }

  /** Everything that the program does with the pin of a line, under whatever names, but those of other lines. */
  protected usesOf(line: Line): PinUse[] {
    return this.all
      .filter((thing) => thing.meant.is === 'pin' && thing.meant.pin.id === line.host.pin)
      .filter((thing) => (this.placed.get(thing) ?? this.meantBy(thing)?.line ?? line).host === line.host)
      .flatMap(({ uses }) => uses)
  }

  protected called(thing: Thing): string {
    return this.meantBy(thing)?.name ?? thing.names[0] ?? thing.written
  }

  protected meantText({ meant, written }: Thing): string {
    return meant.is === 'pin' ? this.written(meant.pin.id) : written
  }

  protected pinText(line: Line): string {
    const pin = pinOf(line.host)
    return pin ? this.written(pin.id) : line.host.pin
  }

  /** A pin as programs of this language write it. */
  protected written(id: string): string {
    const pin = this.board.facts.pin(id)
    return (pin && programPin(this.board.board, pin, this.language)) ?? id
  }

  protected pinsText(pins: ReadonlyMap<string, PinFacts | undefined>): string {
    return [...pins].map(([signal, pin]) => `${signal.toUpperCase()} ${pin ? this.written(pin.id) : '?'}`).join(', ')
  }

  protected isOnBoard(pin: PinFacts): boolean {
    return pin.cautions.some(({ id }) => ['onboard-led', 'onboard-button', 'usb-serial', 'serial-console'].includes(id))
  }
}

function sharedNames({ pins }: Uses): Set<string> {
  const known = new Map<string, Set<string>>()
  for (const { pin, own } of pins)
    for (const name of own) known.set(name, (known.get(name) ?? new Set()).add(valueKey(pin)))
  return new Set([...known].filter(([, values]) => values.size > 1).map(([name]) => name))
}
