import type { Idle } from '../idle.ts'
import type { Watch } from './arithmetic.ts'
import { type IntType, typeWords } from './types.ts'
import type { Frame, Value } from './values.ts'

/** What a running program says that it should be told. */
export interface Notice {
  readonly kind: 'overflow' | 'zero-division' | 'shift' | 'bounds' | 'null-pointer' | 'depth' | 'lost-value'
  readonly at: number
  /** Virtual time in microseconds. */
  readonly now: number
  readonly message: string
}

/** Ends a run from inside: the program cannot go on, or its time is over. */
export class Halt extends Error {
  override name = 'Halt'
  readonly at: number

  constructor(message: string, at: number) {
    super(message)
    this.at = at
  }
}

/** Calls inside calls, beyond which the stack of any small board is full. */
const MOST_DEPTH = 400

/** State of one running program: its time, its place, what a call returns. */
export class Machine implements Watch {
  readonly globals: Frame = []
  ret: Value = undefined
  /** Place that is run now. */
  at = 0
  depth = 0
  /** Statements so far, those aside that were passed over. */
  count = 0
  passed = 0
  /** Grows with all that is more than reading and reckoning: something is done, or happens outside. */
  acts = 0
  /** Microseconds for which each clock that was read shows the same, at the least. */
  slack = Number.POSITIVE_INFINITY
  /** The loop that is looked at, whether anything happens in it, and when none may be passed over. */
  idle: Idle | undefined
  passesUntil = Number.POSITIVE_INFINITY
  /** Virtual time in microseconds. */
  now = 0
  /** When the program's own clock began, and what of it that clock has not counted. */
  born = 0
  /** Places of variables that outlast a sleep. */
  readonly lasting = new Set<number>()
  /** When something is due: an event, or the end of a stretch. */
  due = Number.POSITIVE_INFINITY
  /** Microseconds that a statement takes. */
  cost = 0
  onDue: () => void = () => undefined
  readonly notices: Notice[] = []
  readonly #told = new Set<string>()

  /** Places from here on are not the program's own: they are inside a library that came along. */
  ownBelow = Number.POSITIVE_INFINITY
  /** The last place that was the program's own. */
  place = 0

  /** Whole steps of a clock that goes on each so many microseconds; it shows the same until the next one. */
  wholeSteps(since: number, each: number): number {
    const whole = Math.floor(since / each)
    this.slack = Math.min(this.slack, (whole + 1) * each - since)
    return whole
  }

  /** A place, or where the program has called what lies there. */
  own(at: number): number {
    return at < this.ownBelow ? at : this.place
  }

  /** The program begins anew: what is no lasting variable is forgotten. */
  restart(): void {
    this.depth = 0
    this.ret = undefined
    this.born = this.now
    for (const slot of this.globals.keys()) if (!this.lasting.has(slot)) this.globals[slot] = undefined
  }

  /** Each statement begins here. */
  step(at: number): void {
    this.at = at
    if (at < this.ownBelow) this.place = at
    this.count += 1
    this.now += this.cost
    if (this.now >= this.due) this.onDue()
  }

  tell(kind: Notice['kind'], at: number, message: string): void {
    // What a library that came along reckons with is not the program's to mend.
    if (at >= this.ownBelow && (kind === 'overflow' || kind === 'lost-value')) return
    const key = `${kind} ${at}`
    if (this.#told.has(key)) return
    this.#told.add(key)
    this.notices.push({ kind, at, now: this.now, message })
  }

  enter(at: number, name: string): void {
    this.depth += 1
    if (this.depth > MOST_DEPTH)
      throw new Halt(
        `${name} calls itself more than ${MOST_DEPTH} deep: on the board its stack would run into its variables`,
        at,
      )
  }

  overflowed(at: number, type: IntType, exact: number): void {
    this.tell(
      'overflow',
      at,
      `${exact} does not fit into ${typeWords(type)}, which ends at ${2 ** (type.bits - 1) - 1}; expected a wider type for this calculation`,
    )
  }

  dividedByZero(at: number): void {
    this.tell('zero-division', at, 'a division by zero')
  }

  shiftedTooFar(at: number, by: number, type: IntType): void {
    this.tell('shift', at, `${typeWords(type)} has ${type.bits} bits and cannot be shifted by ${by}`)
  }

  beyond(at: number, index: number, length: number): void {
    this.tell(
      'bounds',
      at,
      `place ${index} of an array that has ${length}: the last one is ${length - 1}. On the board another variable would be read or overwritten`,
    )
  }

  nothing(at: number): never {
    throw new Halt('a pointer that points at nothing is followed here', at)
  }

  /** A value is put where it does not fit. */
  lost(at: number, value: number, type: IntType): void {
    this.tell('lost-value', at, `${value} is put into ${typeWords(type)}, which ends at ${2 ** (type.bits - 1) - 1}`)
  }
}
