import { entryOf } from '../base/entryOf.ts'
import { memo, memoIn } from '../base/memo.ts'
import type { Controller } from '../catalog/boardControllers.ts'
import type { BoardFacts } from '../catalog/boardFacts.ts'
import type { Board } from '../catalog/boardSchema.ts'
import { busNeed } from '../wiring/buses.ts'
import type { Host, SignalUse } from '../wiring/model.ts'
import { costs } from './costs.ts'

/** The pin is the one that programs take for this line of a controller of its kind, unless told otherwise. */
export const isUsualFor = (
  { board, pin }: Host,
  { kind, signal }: { readonly kind: string; readonly signal: string },
): boolean =>
  board?.board.controllers.some((one) => one.kind === kind && usualPins(board.board, one)?.[signal] === pin) ?? false

/** Programs take the pin for another line than the select of a first-choice controller of this kind. */
export const isLineOf = ({ board, pin }: Host, kind: string): boolean =>
  board?.board.controllers.some(
    (one) =>
      one.kind === kind &&
      one.rank === 0 &&
      Object.entries(usualPins(board.board, one) ?? {}).some(([signal, usual]) => signal !== 'cs' && usual === pin),
  ) ?? false

/** A controller that reaches a pin. */
interface Reached {
  readonly id: string
  readonly rank: number
  readonly preferred: boolean
  /** Of the pins that it could take, this one stands out. */
  readonly only: boolean
  readonly away: number
  /** How many select lines of the controller come before this one. */
  readonly later: number
  readonly why: string | undefined
}

/** Controllers of the board that reach this pin with the signal, preferred first; or only the one that is asked for. */
export const controllersFor = ({ board, pin }: Host, use: SignalUse, only: string | undefined): readonly Reached[] =>
  board && busNeed(use.facts.needs) ? reaching(board.facts, `${pin} ${use.facts.needs} ${only ?? ''}`) : []

/** Controllers by pin, need and the one that is asked for, such as `GP4 i2c.sda i2c0`; the same for every plan. */
const reaching = memoIn((facts: BoardFacts, asked: string): readonly Reached[] => {
  const [pin = '', needs = '', only = ''] = asked.split(' ')
  const need = busNeed(needs)
  if (!need) return []
  const { board } = facts
  const functions = facts.pin(pin)?.functions
  return board.controllers
    .filter(
      (one) => one.kind === need.kind && (only === '' || one.id === only) && functions?.has(`${one.id}.${need.signal}`),
    )
    .map((one) => {
      const fixed = one.pins?.[need.signal]?.includes(pin) ?? false
      const usual = usualPins(board, one)?.[need.signal]
      const preferred = usual === undefined ? fixed : usual === pin
      return {
        id: one.id,
        rank: one.rank,
        preferred,
        only: usual !== undefined || one.pins?.[need.signal]?.length === 1 || standsBeside(facts, pin, one),
        later: need.signal === 'cs' && usual === undefined ? Math.max(0, one.pins?.cs?.indexOf(pin) ?? 0) : 0,
        away: preferred ? 0 : one.matrix !== undefined ? costs.away : usual !== undefined ? costs.unusual : 0,
        why: preferred
          ? `${usual === undefined ? '' : 'usual '}${one.title} pin`
          : fixed
            ? `${one.title} pin`
            : undefined,
      }
    })
    .sort((a, b) => Number(b.preferred) - Number(a.preferred) || a.rank - b.rank)
})

/** A post beside those that programs take for the lines of a controller. */
function standsBeside(facts: BoardFacts, pin: string, controller: Controller): boolean {
  const own = facts.pin(pin)
  return Object.values(usualPins(facts.board, controller) ?? {}).some((line) => {
    const other = facts.pin(line)
    return (
      own !== undefined &&
      other?.header === own.header &&
      Math.abs(other.position - own.position) === own.header.columns
    )
  })
}

/** A pin that reads volts and is printed with its number alone, where others of the board are printed `A0` and so on. */
export const isOtherwiseCalled = (board: Board, pin: string): boolean => {
  const printed = printedAsAnalog(board)
  return printed.size > 0 && !printed.has(pin)
}

/** `A0` is an analog input of a board, unless it is the name of a port, bit 0 of port A. */
const printedAsAnalog = memo(
  ({ pins }: Board): ReadonlySet<string> =>
    new Set(
      pins
        .filter(({ label, firmware, port }) =>
          [label, firmware].some((name) => name !== undefined && /^A\d+$/.test(name) && port !== `P${name}`),
        )
        .map(({ id }) => id),
    ),
)

/** Pins that programs take for a controller unless told otherwise: as the board prefers, or as its platform begins it. */
export const usualPins = memoIn(
  (
    board: Board,
    controller: Pick<Controller, 'prefer' | 'pins' | 'groups'>,
  ): Readonly<Record<string, string>> | undefined => {
    const { prefer, pins = {}, groups } = controller
    if (prefer) return prefer.pins
    const choices: readonly Readonly<Record<string, string | readonly string[]>>[] = groups ?? [pins]
    return board.programs
      .flatMap(({ begins }) => Object.values(begins))
      .find((begun) =>
        choices.some((choice) =>
          Object.entries(begun).every(([signal, pin]) => [entryOf(choice, signal)].flat().includes(pin)),
        ),
      )
  },
)
