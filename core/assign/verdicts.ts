import { entryOf } from '../base/entryOf.ts'
import { memo, memoIn } from '../base/memo.ts'
import type { BoardFacts } from '../catalog/boardFacts.ts'
import type { Part } from '../catalog/partSchema.ts'
import { availabilityOf } from '../wiring/availability.ts'
import { busNeed } from '../wiring/buses.ts'
import { functionsOf } from '../wiring/givenHosts.ts'
import { lostTo } from '../wiring/libraryPulses.ts'
import type { Host, PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { isOtherwiseCalled } from './boardPins.ts'
import { type Blocked, judgePin, placesOf, type Verdict } from './judge.ts'
import { usesOn } from './onPin.ts'
import { pinsAside } from './pinsAside.ts'
import { busShare, type Scarcity, scarcityOf } from './scarcity.ts'

/** What the pins of a wiring are to one signal. Pins that it cannot tell apart are judged once. */
export class Verdicts {
  readonly #wiring: Wiring
  readonly #use: SignalUse
  readonly #scarcity: Scarcity
  /** Asks for no bus, and has nothing in place yet beside which it would like to lie. */
  readonly #isPlain: boolean
  readonly #kinds: ReadonlyMap<Host, unknown>
  readonly #known = new Map<unknown, Verdict | Blocked>()

  constructor(wiring: Wiring, use: SignalUse) {
    this.#wiring = wiring
    this.#use = use
    this.#scarcity = scarcityOf(wiring, use)
    this.#kinds = kindsOf(wiring)
    this.#isPlain = busNeed(use.facts.needs) === undefined && use.hosts.length === 0 && !placesOf(wiring).has(use.part)
  }

  of(host: Host): Verdict | Blocked {
    const key = host.provider || this.#isPlain ? this.#kinds.get(host) : host
    let verdict = this.#known.get(key)
    if (!verdict) {
      verdict = judgePin(this.#wiring, this.#use, host, this.#scarcity)
      this.#known.set(key, verdict)
    }
    return verdict
  }
}

/** What tells free pins from others, lines of buses left out; one in use is told by itself. */
const kindsOf = memo((wiring: Wiring): ReadonlyMap<Host, unknown> => {
  const kinds = new Map<PartInstance, string>()
  for (const part of wiring.parts) if (part.part.provides.length > 0) kinds.set(part, kindOf(part))
  return new Map(
    [...wiring.hosts.values()].map((host) => [host, isFree(wiring, host) ? kindOfPin(wiring, host, kinds) : host]),
  )
})

const isFree = (wiring: Wiring, host: Host): boolean => {
  const net = wiring.netOf(host.end)
  return !net.wired && !net.ground && net.sources.length === 0 && usesOn(wiring, host).length === 0
}

function kindOfPin(wiring: Wiring, host: Host, kinds: ReadonlyMap<PartInstance, string>): unknown {
  const { provider, board } = host
  if (provider) return `${kinds.get(provider) ?? provider.ref} ${rowOf(provider.part, host.pin)}`
  if (!board) return host
  const { pinTaker, analogTaker, pwmTaker } = availabilityOf(host)
  return `${board.ref} ${traitsOf(board.facts, host.pin)} ${pinTaker?.id} ${analogTaker?.id} ${pwmTaker?.id} ${lostTo(wiring, host)?.library.id}`
}

/** Parts that are alike, fed alike and set alike in what goes with figures; of a switch of lines it matters where its common line leads. */
function kindOf({ ref, part, options, logicVolts }: PartInstance): string {
  if (part.behaves?.as === 'choose') return ref
  const set = part.options.flatMap(({ id, values }) =>
    values.some(({ facts }) => Object.keys(facts ?? {}).length > 0) ? [entryOf(options, id)] : [],
  )
  return [part.id, logicVolts, ...set].join(' ')
}

/** The same for pins that a part gives in one row and that can do the same. */
const rowOf = memoIn((part: Part, pin: string): string => {
  const row = part.provides.findIndex(({ pins }) => pins.includes(pin))
  return `${row} ${[...(functionsOf(part, pin) ?? [])].join(' ')}`
})

/** The same number for pins of a board that have all in common that {@link judgePin} reads of them where no bus is asked for. */
const traitsOf = memoIn((facts: BoardFacts, pin: string): number => {
  const text = traitsAsText(facts, pin)
  const known = numbers(facts)
  const number = known.get(text) ?? known.size
  known.set(text, number)
  return number
})

const numbers = memo((_facts: BoardFacts) => new Map<string, number>())

function traitsAsText({ board, pin: pinOf }: BoardFacts, pin: string): string {
  const facts = pinOf(pin)
  if (!facts) return pin
  const plain = [...facts.functions].filter((name) => !name.includes('.'))
  const takes = board.controllers.flatMap(({ id, pins, takes = {} }) =>
    Object.entries(takes).flatMap(([signal, way]) => (pins?.[signal]?.includes(pin) ? [`${id} ${way}`] : [])),
  )
  return JSON.stringify([
    // What hardware streams its bits by hangs on the lines of controllers.
    board.streams.length > 0 ? [...facts.functions] : plain,
    facts.cautions,
    facts.levels,
    facts.current,
    facts.solder,
    pinsAside(board).has(pin),
    isOtherwiseCalled(board, pin),
    busShare(board, pin, false),
    takes,
  ])
}
