import { entryOf } from '../base/entryOf.ts'
import { memo } from '../base/memo.ts'
import type { AnalogUnit, Controller } from './boardControllers.ts'
import type { Rail } from './boardPower.ts'
import type { Board, BoardPin, Caution, Header } from './boardSchema.ts'
import { busSignals, type Levels, type PinCurrent } from './common.ts'
import { bareNumber, buildNameIndex, type NameIndex, normaliseName } from './names.ts'

/** A board's facts worked out for use: functions expanded, positions and nets known, names indexed. */
export interface BoardFacts {
  readonly board: Board
  readonly pins: readonly PinFacts[]
  readonly pin: (id: string) => PinFacts | undefined
  readonly names: NameIndex
}

export interface PinFacts {
  readonly id: string
  readonly kind: BoardPin['kind']
  readonly control: BoardPin['control']
  readonly acts: BoardPin['acts']
  readonly header: Header
  /** Along its header, from the header's first number. */
  readonly position: number
  /** Id of the first hole of the same net inside the board. */
  readonly net: string
  /** Functions of the net's first hole, controllers expanded: `digital-in`, `i2c0.sda` … */
  readonly functions: ReadonlySet<string>
  readonly cautions: readonly Caution[]
  readonly levels: Levels
  readonly current: PinCurrent
  readonly rail: Rail | undefined
  readonly analogUnit: AnalogUnit | undefined
  /** Id, printed label, firmware name, port, analog channel, aliases and positions; the id first. */
  readonly allNames: readonly string[]
  readonly label: string | undefined
  readonly firmware: string | undefined
  readonly port: string | undefined
  readonly analog: string | undefined
  readonly note: string | undefined
  readonly solder: boolean
}

/** Where a pin's post stands, in pitches of 2.54 mm from the board's top left corner. */
export function postPlace({ header, position }: PinFacts): { readonly x: number; readonly y: number } {
  const index = position - header.numberedFrom
  const along = header.columns === 2 ? Math.floor(index / 2) : index
  const aside = header.columns === 2 ? index % 2 : 0
  const ways = { down: [aside, along], up: [aside, -along], right: [along, aside], left: [-along, aside] } as const
  const [dx, dy] = ways[header.step]
  return { x: header.at.x + dx, y: header.at.y + dy }
}

/** Works out a board's facts; the same board gives the same object. */
export const boardFacts = memo(compile)

function compile(board: Board): BoardFacts {
  const declared = new Map(board.pins.map((pin) => [pin.id, pin]))
  const pins: PinFacts[] = []
  const byId = new Map<string, PinFacts>()
  const functions = new Map<string, ReadonlySet<string>>()
  for (const header of board.headers) {
    header.pins.forEach((id, index) => {
      const own = declared.get(id)
      if (!own) return
      const first = own.joins === undefined ? own : (declared.get(own.joins) ?? own)
      let does = functions.get(first.id)
      if (!does) {
        does = expandFunctions(board, first)
        functions.set(first.id, does)
      }
      const position = header.numberedFrom + index
      const printed = [own.label, own.firmware, own.port, own.analog].filter((name) => name !== undefined)
      const names = [...new Set([id, ...printed, ...own.aliases])]
      const facts: PinFacts = {
        id,
        kind: own.kind,
        control: own.control,
        acts: own.acts,
        header,
        position,
        net: first.id,
        functions: does,
        cautions: first.cautions,
        levels: entryOf(board.levels, first.levels ?? 'default') ?? {},
        current: first.current ?? board.current.pin,
        rail: board.rails.find((rail) => rail.pins.includes(id) || rail.pins.includes(first.id)),
        analogUnit: board.analog.find((unit) => unit.pins.includes(first.id)),
        allNames: [...names, `${header.id}#${position}`],
        label: own.label,
        firmware: own.firmware,
        port: own.port,
        analog: own.analog,
        note: own.note,
        solder: own.solder,
      }
      pins.push(facts)
      byId.set(id, facts)
    })
  }
  // A bare number is short for GPIO4 or D4, unless some pin carries it as its own name.
  const own = new Set(pins.flatMap((pin) => pin.allNames.map(normaliseName)))
  const names = buildNameIndex(
    pins.map((pin) => ({
      id: pin.id,
      net: pin.net,
      names: [
        ...pin.allNames,
        `#${pin.position}`,
        ...pin.allNames.map(bareNumber).filter((number) => number !== undefined && !own.has(number)),
      ] as string[],
    })),
  )
  return { board, pins, pin: (id) => byId.get(id), names }
}

function expandFunctions(board: Board, pin: BoardPin): ReadonlySet<string> {
  const does = new Set<string>()
  for (const name of pin.does) for (const one of entryOf(board.functionSets, name) ?? [name]) does.add(one)
  for (const controller of board.controllers) {
    for (const signal of busSignals[controller.kind]) {
      if (reaches(controller, signal, pin.id, does)) does.add(`${controller.id}.${signal}`)
    }
  }
  return does
}

/** True when a controller can take a signal to a pin with these plain functions. */
export function reaches(controller: Controller, signal: string, pin: string, does: ReadonlySet<string>): boolean {
  if (controller.pins?.[signal]?.includes(pin)) return true
  if (controller.groups?.some((group) => group[signal] === pin)) return true
  const way = controller.matrix?.[signal]
  if (way === undefined) return false
  return (way === 'out' || does.has('digital-in')) && (way === 'in' || does.has('digital-out'))
}

/** True when a controller that has moved to a set of pins takes a signal to this one; what is in no set moves freely. */
export function takesInGroup(
  controller: Pick<Controller, 'pins'>,
  group: Readonly<Record<string, string>>,
  signal: string,
  pin: string,
): boolean {
  return group[signal] === undefined ? (controller.pins?.[signal]?.includes(pin) ?? false) : group[signal] === pin
}

/** How to find a hole by counting: `left row, 4th from the antenna end`, or `row 4, left column`. */
export function countingHint(pin: Pick<PinFacts, 'header' | 'position'>): string {
  const { header } = pin
  const position = pin.position - header.numberedFrom + 1
  if (header.columns === 2) {
    const row = Math.ceil(position / 2)
    return `row ${row}, ${position % 2 === 1 ? 'left' : 'right'} column, counted from ${header.first}`
  }
  const fromLast = header.pins.length - position + 1
  const near = position <= fromLast
  return `${header.title}, ${ordinal(near ? position : fromLast)} from ${near ? header.first : header.last}`
}

export function ordinal(number: number): string {
  const tens = number % 100
  const end = tens >= 11 && tens <= 13 ? 'th' : (['th', 'st', 'nd', 'rd'][number % 10] ?? 'th')
  return `${number}${end}`
}
