import type { PinFacts } from '../catalog/boardFacts.ts'
import type { Caution } from '../catalog/boardSchema.ts'
import { isLoad } from '../catalog/common.ts'
import type { Plan } from '../plan/planSchema.ts'
import { activeCautions, availabilityOf, servingFeature } from '../wiring/availability.ts'
import { busNeed } from '../wiring/buses.ts'
import { levelsOf } from '../wiring/levels.ts'
import type { BoardInstance, Host, PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { drives, lackWords, meets, switchesLoad } from '../wiring/needs.ts'
import { type Block, blockedBecause, plannedVolts } from './blocks.ts'
import { sameSharedBus, usesOn } from './onPin.ts'
import { weightOf } from './preferences.ts'

/** How well a host suits a signal, with what speaks for and against it. */
export interface Candidate {
  readonly host: Host
  /** Smaller is better; comparable between candidates of one signal only. */
  readonly cost: number
  readonly for: readonly string[]
  readonly against: readonly string[]
  /** Why it is out of the question; undefined for a candidate. */
  readonly blocked?: Block
}

/** What keeps a pin out, in place of a verdict. */
export interface Blocked {
  readonly blocked: Block
}

/** What a pin costs beyond need, in points. Written down with reasons in `docs/assignment.md`. */
export const costs = {
  orElse: 12,
  expander: 40,
  strap: 45,
  console: 60,
  onboard: 18,
  pulse: 14,
  fixedPull: 16,
  solder: 50,
  keepOutput: 12,
  scarce: { 'analog-in': 6, interrupt: 5, pwm: 4, 'analog-out': 4, touch: 1 } as Readonly<Record<string, number>>,
  busPin: 8,
  matrixAway: 3,
  controllerRank: 6,
  noPull: 10,
  secondBus: 25,
  softSelect: 6,
  unserved: 80,
  madeFor: 6,
} as const

/** Every pin of the signal's board, and of the expanders on it, best first, blocked ones last. */
export function candidates(wiring: Wiring, use: SignalUse): Candidate[] {
  const scarcity = scarcityOf(wiring, use)
  // Free pins of equal parts that are fed alike are one as good as the other.
  const equal = new Map<string, Map<Host['functions'], Verdict | Blocked>>()
  return hostsFor(wiring, use)
    .map((host) => {
      const { provider } = host
      if (!provider || wiring.netOf(host.end).wired) return judge(wiring, use, host, scarcity)
      const key = `${provider.part.id} ${host.logicVolts}`
      const known = equal.get(key) ?? new Map<Host['functions'], Verdict | Blocked>()
      equal.set(key, known)
      const verdict = known.get(host.functions) ?? judgePin(wiring, use, host, scarcity)
      known.set(host.functions, verdict)
      return together(host, verdict, () => judgeBus(wiring, use, host))
    })
    .sort((a, b) => Number(a.blocked !== undefined) - Number(b.blocked !== undefined) || a.cost - b.cost)
}

/** Pins that could carry the signal by place: its own board's, and those of parts that hang on that board. */
export function hostsFor(wiring: Wiring, use: SignalUse): Host[] {
  const home = use.part.home
  const switched = isLoad(use.facts.needs)
  return [...wiring.hosts.values()].filter((host) => {
    if (switchesLoad(host.functions) !== switched) return false
    if (host.provider) return host.provider !== use.part && host.provider.home === home
    return host.board === home
  })
}

/**
 * What the judgement of a signal's pins depends on beside the pins: the same text for signals that ask the same, are
 * fed alike and have no pin yet. Of parts that give pins themselves, each lacks its own.
 */
export function likenessOf(wiring: Wiring, use: SignalUse): string {
  const { part } = use
  if (placesOf(wiring, part).length > 0 || use.hosts.length > 0 || use.tail !== use.end) return use.end
  const bus = use.facts.needs.startsWith('i2c.') ? part.mode?.i2c : undefined
  const pulledTo = bus?.pullUpTo && wiring.netOf(`${part.ref}.${bus.pullUpTo}`).sources[0]?.volts
  const { pin: _, text: __, open: ___, levels: ____, ...facts } = use.facts
  const volts = part.logicVolts ?? plannedVolts(wiring, use)
  return JSON.stringify([facts, levelsOf(use), volts, part.home?.ref, bus?.pullUpOhms, bus?.pullUpTo && pulledTo])
}

/** How often each function is to be had on a board, so that rare ones are kept for those who need them. */
export class Scarcity {
  readonly #share = new Map<string, number>()
  readonly #plan: Plan
  constructor(wiring: Wiring, use: SignalUse) {
    this.#plan = wiring.plan
    const hosts = [...wiring.hosts.values()].filter((host) => host.board === use.part.home)
    for (const name of scarceNames) {
      const have = hosts.filter((host) => offers(host, name)).length
      this.#share.set(name, hosts.length === 0 ? 1 : have / hosts.length)
    }
  }
  /** Points for using up a function that is not needed: full for rare ones, none when every pin has it. */
  price(name: string): number {
    return (costs.scarce[name] ?? 0) * (1 - (this.#share.get(name) ?? 1)) * scarceWeight(this.#plan, name)
  }
}

function scarceWeight(plan: Plan, name: string): number {
  const preference = ({ 'analog-in': 'analog', interrupt: 'interrupt', pwm: 'pwm' } as const)[name]
  return preference ? weightOf(plan, preference) : 1
}

const scarcities = new WeakMap<Wiring, Map<string, Scarcity>>()

/** Scarcity on the board of a signal, worked out once. */
export function scarcityOf(wiring: Wiring, use: SignalUse): Scarcity {
  const byBoard = scarcities.get(wiring) ?? new Map<string, Scarcity>()
  scarcities.set(wiring, byBoard)
  const key = use.part.home?.ref ?? ''
  const known = byBoard.get(key) ?? new Scarcity(wiring, use)
  byBoard.set(key, known)
  return known
}

/** True when a host has a function and no feature in use takes it away. */
function offers(host: Host, name: string): boolean {
  return host.functions.has(name) && (name !== 'analog-in' || availabilityOf(host).analogTaker === undefined)
}

/** Judges one host; `controller` names the bus controller that the search has settled on. */
export function judge(wiring: Wiring, use: SignalUse, host: Host, scarcity: Scarcity, controller?: string): Candidate {
  return together(host, judgePin(wiring, use, host, scarcity), () => judgeBus(wiring, use, host, controller))
}

/** Points and words for and against, of one side of the judgement. */
export interface Verdict {
  readonly points: number
  readonly for: readonly string[]
  readonly against: readonly string[]
}

/** What the pin itself and the bus that it would join make of a candidate. */
export function together(host: Host, pin: Verdict | Blocked, bus: () => Verdict): Candidate {
  if ('blocked' in pin) return { host, cost: Number.MAX_SAFE_INTEGER, for: [], against: [], ...pin }
  const line = bus()
  const good = [...line.for, ...pin.for]
  const bad = [...line.against, ...pin.against]
  if (good.length === 0 && bad.length === 0) good.push('free')
  return { host, cost: line.points + pin.points + 100, for: good, against: bad }
}

class Tally implements Verdict {
  points = 0
  readonly for: string[] = []
  readonly against: string[] = []
  pay(points: number, why: string): void {
    this.points += points
    this.against.push(why)
  }
}

/** The part of the judgement that a bus and its controllers play. */
export function judgeBus(wiring: Wiring, use: SignalUse, host: Host, controller?: string): Verdict {
  const tally = new Tally()
  const bus = busNeed(use.facts.needs)
  if (!bus) return tally
  const sharing = bus.signal === 'cs' ? [] : sharedBus(wiring, use, host)
  if (sharing.length > 0) {
    tally.for.push(`shares the bus with ${sharing.slice(0, 2).join(', ')}${sharing.length > 2 ? ' …' : ''}`)
    return tally
  }
  const running = controller ?? wiring.buses.find((one) => one.uses.includes(use))?.controller
  const reachable = controllersFor(host, use, controller)
  const best = reachable.find((one) => one.id === running) ?? reachable[0]
  if (running !== undefined && best?.id !== running && bus.signal !== 'cs')
    tally.pay(costs.secondBus, 'another controller')
  if (controller === undefined && bus.signal !== 'cs' && joinable(wiring, use))
    tally.pay(costs.secondBus, 'starts a second bus')
  if (best) {
    if (best.preferred) tally.for.push(best.why ?? 'its fixed pin')
    else if (best.matrix) tally.pay(costs.matrixAway, 'not the usual pin')
    if (best.rank > 0) tally.pay(best.rank * costs.controllerRank, `uses ${best.id.toUpperCase()}`)
  } else if (bus.signal === 'cs') tally.pay(costs.softSelect, 'selected by software')
  return tally
}

/** The part that the pin itself plays, whatever bus runs over it, or why it is out of the question. */
export function judgePin(wiring: Wiring, use: SignalUse, host: Host, scarcity: Scarcity): Verdict | Blocked {
  const blocked = blockedBecause(wiring, use, host)
  if (blocked !== undefined) return { blocked }
  const tally = new Tally()
  if (meets(host, use) === 'orElse') tally.pay(costs.orElse, `${lackWords(use.facts.needs)}, polled`)
  const serving = servingFeature(host, use)
  if (serving && availabilityOf(host).pinTaker === serving) tally.for.push(`read by the ${serving.title}`)
  else if (serving) tally.pay(costs.unserved, `the ${serving.title} does not read it`)
  if (host.provider && isMadeFor(host, use)) {
    tally.points -= costs.madeFor
    tally.for.push('made for it')
  } else if (host.provider) tally.pay(costs.expander * weightOf(wiring.plan, 'expanders'), 'slower, over the bus')
  if (availabilityOf(host).pin?.solder) tally.pay(costs.solder, 'solder pad')
  for (const caution of activeCautions(host)) {
    const price = cautionPrice(caution, use)
    if (price) tally.pay(price.points * cautionWeight(wiring.plan, caution), price.words)
  }
  if (use.facts.pull === 'up' && !host.functions.has('pull-up')) tally.pay(costs.noPull, 'no pull-up inside')
  for (const name of scarceNames) {
    if (name === use.facts.needs || name === use.facts.orElse || !offers(host, name)) continue
    const points = scarcity.price(name)
    if (points >= 0.5) tally.pay(points, `spends ${scarceWords[name]}`)
  }
  const kept = busNeed(use.facts.needs) ? 0 : busWorth(host)
  if (kept > 0) tally.pay(costs.busPin * kept * weightOf(wiring.plan, 'buses'), 'keeps a bus pin')
  const beside = neighbour(wiring, use, host)
  if (beside) {
    tally.points -= 2
    tally.for.push(`beside ${beside}`)
  }
  return tally
}

/** A pin that gives pulses and nothing else, as on a PWM chip: servos and lamps are what it is in the kit for. */
const isMadeFor = (host: Host, { facts }: SignalUse): boolean =>
  facts.needs === 'pwm' && host.functions.has('pwm') && !host.functions.has('digital-in')

const scarceNames = Object.keys(costs.scarce)
const scarceWords: Readonly<Record<string, string>> = {
  'analog-in': 'analog',
  interrupt: 'an edge pin',
  pwm: 'PWM',
  'analog-out': 'a DAC',
  touch: 'touch',
}

/** How much a maker minds a caution. */
function cautionWeight(plan: Plan, { id }: Caution): number {
  if (id === 'boot-strap') return weightOf(plan, 'straps')
  if (id === 'usb-serial' || id === 'serial-console') return weightOf(plan, 'console')
  return id === 'onboard-led' || id === 'onboard-button' ? weightOf(plan, 'onboard') : 1
}

function cautionPrice(caution: Caution, use: SignalUse): { points: number; words: string } | undefined {
  switch (caution.id) {
    case 'boot-strap':
      return { points: costs.strap, words: `strap, ${caution.needs ?? 'read'}` }
    case 'usb-serial':
    case 'serial-console':
      return { points: costs.console, words: caution.id === 'usb-serial' ? 'USB serial' : 'serial console' }
    case 'boot-output':
    case 'reset-pulse':
    case 'reset-level':
      return use.facts.actuator
        ? { points: costs.pulse * 2, words: 'moves at reset' }
        : drives(use.facts.needs)
          ? { points: costs.pulse / 7, words: 'moves at reset' }
          : undefined
    case 'onboard-led':
    case 'onboard-button':
      return { points: costs.onboard, words: caution.id === 'onboard-led' ? 'on-board LED' : 'on-board button' }
    case 'fixed-pull-up':
    case 'fixed-pull-down':
      return use.facts.needs.startsWith('i2c.') ? undefined : { points: costs.fixedPull, words: 'fixed pull-up' }
    case 'keep-output':
      return { points: use.facts.needs.startsWith('spi.cs') ? 0 : costs.keepOutput, words: 'kept by SPI' }
    case 'debug-port':
      return { points: 2, words: 'debug pin' }
    case 'false-edge':
      return use.facts.needs === 'interrupt' ? { points: costs.pulse, words: 'edges of its own' } : undefined
    default:
      return undefined
  }
}

/** Refs of parts on the bus that already runs over this pin for the same signal; empty when none does. */
function sharedBus(wiring: Wiring, use: SignalUse, host: Host): string[] {
  return usesOn(wiring, host)
    .filter((other) => other !== use && sameSharedBus(use, other))
    .map((other) => other.part.ref)
}

/** True when the board already has a bus that this signal could share. */
function joinable(wiring: Wiring, use: SignalUse): boolean {
  return wiring.signals.some(
    (other) =>
      other.part !== use.part &&
      other.part.home === use.part.home &&
      other.state === 'placed' &&
      sameSharedBus(use, other),
  )
}

/** Controllers of the board that reach this pin with the signal, preferred first; or only the one that is asked for. */
function controllersFor(
  host: Host,
  use: SignalUse,
  only: string | undefined,
): { id: string; rank: number; preferred: boolean; matrix: boolean; why: string | undefined }[] {
  const need = busNeed(use.facts.needs)
  const board = host.board
  if (!need || !board) return []
  const pin = host.end.slice(host.ref.length + 1)
  return board.board.controllers
    .filter(
      (one) =>
        one.kind === need.kind &&
        (only === undefined || one.id === only) &&
        host.functions.has(`${one.id}.${need.signal}`),
    )
    .map((one) => {
      const fixed = one.pins?.[need.signal]?.includes(pin) ?? false
      const preferred = fixed || one.prefer?.pins[need.signal] === pin
      return {
        id: one.id,
        rank: one.rank,
        preferred,
        matrix: one.matrix !== undefined,
        why: fixed ? `${one.title} pin` : preferred ? `usual ${one.title} pin` : undefined,
      }
    })
    .sort((a, b) => Number(b.preferred) - Number(a.preferred) || a.rank - b.rank)
}

const worths = new WeakMap<object, ReadonlyMap<string, number>>()

/**
 * Share of its price that a pin is kept for buses at: the whole for the pin that a first-choice controller prefers, a
 * part where the line could go to others as well.
 */
function busWorth(host: Host): number {
  const board = host.board?.board
  if (!board) return 0
  let pins = worths.get(board)
  if (!pins) {
    const shares = new Map<string, number>()
    const keep = (pin: string, share: number): void => {
      shares.set(pin, Math.max(share, shares.get(pin) ?? 0))
    }
    for (const one of board.controllers.filter(({ rank }) => rank === 0)) {
      for (const pin of Object.values(one.prefer?.pins ?? {})) keep(pin, 1)
      for (const list of Object.values(one.pins ?? {})) for (const pin of list) keep(pin, 1 / list.length)
    }
    pins = shares
    worths.set(board, pins)
  }
  return pins.get(host.end.slice(host.ref.length + 1)) ?? 0
}

const places = new WeakMap<Wiring, Map<PartInstance, { end: string; board: BoardInstance; spot: PinFacts }[]>>()

/** Header positions on which the signals of a part lie, worked out once. */
function placesOf(wiring: Wiring, part: PartInstance) {
  let all = places.get(wiring)
  if (!all) {
    all = new Map()
    for (const use of wiring.signals)
      for (const { host } of use.hosts) {
        const spot = host.board?.facts.pin(host.end.slice(host.ref.length + 1))
        if (!spot || !host.board) continue
        const mine = all.get(use.part) ?? []
        mine.push({ end: use.end, board: host.board, spot })
        all.set(use.part, mine)
      }
    places.set(wiring, all)
  }
  return all.get(part) ?? []
}

/** A signal of the same part on a neighbouring header position. */
function neighbour(wiring: Wiring, use: SignalUse, host: Host): string | undefined {
  const near = placesOf(wiring, use.part)
  if (near.length === 0) return undefined
  const place = availabilityOf(host).pin
  if (!place) return undefined
  return near.find(
    ({ end, board, spot }) =>
      end !== use.end &&
      board === host.board &&
      spot.header === place.header &&
      Math.abs(spot.position - place.position) === place.header.columns,
  )?.end
}
