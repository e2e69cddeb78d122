import type { PinFacts } from '../catalog/boardFacts.ts'
import type { Caution } from '../catalog/boardSchema.ts'
import { volts } from '../catalog/common.ts'
import { chosenFact } from '../circuit/loads.ts'
import { networkOf } from '../circuit/still.ts'
import { formatVolts } from '../electrical/quantity.ts'
import type { Plan } from '../plan/planSchema.ts'
import { entryOf } from '../text/entryOf.ts'
import { activeCautions, availabilityOf, servingFeature } from '../wiring/availability.ts'
import { busNeed } from '../wiring/buses.ts'
import { levelsOf } from '../wiring/levels.ts'
import type { BoardInstance, Host, PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { drives, isTimed, lackWords, meets, switchesLoad } from '../wiring/needs.ts'
import { clash } from '../wiring/sharing.ts'
import { weightOf } from './preferences.ts'

/** How well a host suits a signal, with what speaks for and against it. */
export interface Candidate {
  readonly host: Host
  /** Smaller is better; comparable between candidates of one signal only. */
  readonly cost: number
  readonly for: readonly string[]
  readonly against: readonly string[]
  /** Two or three words why it is out of the question; undefined for a candidate. */
  readonly blocked?: string
  /** The kind of what blocks it, where that matters to others: its volts, or another signal on the pin. */
  readonly cause?: BlockCause
}

export type BlockCause = 'level' | 'taken'

/** Why a pin is out of the question. */
export interface Block {
  readonly blocked: string
  readonly cause?: BlockCause
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
  const equal = new Map<string, Map<Host['functions'], Verdict | Block>>()
  return hostsFor(wiring, use)
    .map((host) => {
      const { provider } = host
      if (!provider || wiring.netOf(host.end).wired) return judge(wiring, use, host, scarcity)
      const key = `${provider.part.id} ${host.logicVolts}`
      const known = equal.get(key) ?? new Map<Host['functions'], Verdict | Block>()
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
  const switched = ['sink', 'source', 'bridge'].includes(use.facts.needs)
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
export function together(host: Host, pin: Verdict | Block, bus: () => Verdict): Candidate {
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
export function judgePin(wiring: Wiring, use: SignalUse, host: Host, scarcity: Scarcity): Verdict | Block {
  const blocked = blockedBecause(wiring, use, host)
  if (blocked !== undefined) return blocked
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
  if (!busNeed(use.facts.needs) && isPreferredBusPin(host))
    tally.pay(costs.busPin * weightOf(wiring.plan, 'buses'), 'keeps a bus pin')
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

function blockedBecause(wiring: Wiring, use: SignalUse, host: Host): Block | undefined {
  const pin = pinBlock(use, host)
  if (pin !== undefined) return { blocked: pin }
  const bus = busNeed(use.facts.needs)
  const net = wiring.netOf(host.end)
  if (net.ground || net.sources.length > 0) return { blocked: 'on a supply' }
  for (const other of usesOn(wiring, host)) {
    if (other === use) continue
    const why = bus && sameSharedBus(use, other) ? undefined : clash(use, other)
    if (why || exclusive(use, other)) return { blocked: other.end, cause: 'taken' }
  }
  const current = currentBlock(wiring, use, host)
  if (current !== undefined) return { blocked: current }
  const strap = strapBlock(wiring, use, host)
  if (strap !== undefined) return { blocked: strap }
  const level = levelBlock(wiring, use, host)
  return level === undefined ? undefined : { blocked: level, cause: 'level' }
}

/** What the pin itself lacks, whatever else is wired. */
function pinBlock(use: SignalUse, host: Host): string | undefined {
  const bus = busNeed(use.facts.needs)
  if (!meets(host, use)) {
    if (drives(use.facts.needs) && !host.functions.has('digital-out')) return 'input only'
    if (!drives(use.facts.needs) && !host.functions.has('digital-in') && !bus)
      return host.functions.has('digital-out') ? 'output only' : lackWords(use.facts.needs)
    return bus ? `not ${bus.kind.toUpperCase()} ${bus.signal.toUpperCase()}` : lackWords(use.facts.needs)
  }
  if (host.provider && isTimed(use)) return 'too slow over the bus'
  const kinds = host.provider?.part.provides.find((one) => one.pins.includes(pinIdOf(host)))?.for
  if (kinds && !kinds.includes(use.part.part.id)) return `made for ${kinds.join(', ')}`
  const facts = availabilityOf(host)
  if (use.facts.needs === 'analog-in' && facts.analogTaker !== undefined) return `${facts.analogTaker.title} takes it`
  if (use.facts.needs === 'pwm' && !use.facts.orElse && facts.pwmTaker !== undefined)
    return `${facts.pwmTaker.title} takes it`
  if (facts.vital) return `on-board ${facts.vital.id}`
  return facts.pinTaker === servingFeature(host, use) ? undefined : facts.pinTaker?.title
}

const pinIdOf = (host: Host): string => host.end.slice(host.ref.length + 1)

/** Blocks a pin that cannot carry the current which a signal's facts name, or an output that its load is too much for. */
function currentBlock(wiring: Wiring, use: SignalUse, host: Host): string | undefined {
  if (host.provider && switchesLoad(host.functions)) {
    const bears = chosenFact(host.provider, 'mostMilliamps') ?? host.current?.absolute
    const runs = runsOf(use.part)
    return bears !== undefined && runs !== undefined && runs > bears
      ? `${Math.round(runs)} mA, ${bears} mA at most`
      : undefined
  }
  const { milliamps, activeLevel, direction, pulledOhms } = use.facts
  const low = host.current?.sink ?? host.current?.absolute
  const fed = use.part.logicVolts ?? plannedVolts(wiring, use)
  // A line that the module holds high takes its current whenever the pin pulls it low.
  const pulled = pulledOhms === undefined || fed === undefined ? 0 : (fed / pulledOhms) * 1000
  if (low !== undefined && pulled > low && direction !== 'out' && drives(use.facts.needs))
    return `${Math.round(pulled * 100) / 100} mA, ${low} mA at most`
  const way = activeLevel === 'low' ? 'sink' : 'source'
  const most = host.current?.[way] ?? host.current?.absolute
  return milliamps !== undefined && direction === 'in' && most !== undefined && milliamps > most
    ? `${milliamps} mA, ${most} mA at most`
    : undefined
}

/** Current of a load while it runs: of its windings, or of its supply. */
const runsOf = ({ part, options, supplies }: PartInstance): number | undefined => {
  const given = part.inner.find((one) => one.kind === 'winding')?.milliamps
  const amount = typeof given === 'object' ? entryOf(options, given.option) : given
  return typeof amount === 'number' ? amount : supplies[0]?.typicalMilliamps
}

/** Signals that do not truly clash, but that no one would put on one pin unasked. */
function exclusive(use: SignalUse, other: SignalUse): boolean {
  if (use.part === other.part && use.facts.needs !== other.facts.needs) return true
  return !(busNeed(use.facts.needs) && sameSharedBus(use, other))
}

const sameSharedBus = (a: SignalUse, b: SignalUse): boolean => {
  const need = busNeed(a.facts.needs)
  return (
    need !== undefined &&
    (need.kind === 'i2c' || need.kind === 'spi') &&
    need.signal !== 'cs' &&
    a.facts.needs === b.facts.needs
  )
}

/** Blocks a pin that is read at reset and that what hangs on the signal already would bring to the wrong level. */
function strapBlock(wiring: Wiring, use: SignalUse, host: Host): string | undefined {
  const strap = activeCautions(host).find(({ id, matters }) => id === 'boot-strap' && matters === 'start')
  const top = host.logicVolts
  if (!strap?.needs || top === undefined) return undefined
  const wanted = strap.needs
  const isThrown = use.part.part.inner.some(({ kind, between }) => kind === 'switch' && between.includes(use.facts.pin))
  if (isThrown) return 'a switch may hold it either way at reset'
  const { atReset, atResetOhms } = use.facts
  const isHigh = strap.held === 'pull-up' || (strap.held === 'nothing' && wanted === 'high')
  const held = { volts: isHigh ? top : 0, ohms: strap.heldOhms ?? 45_000 }
  // The resistor that keeps a bare gate off is there in the end, also where it is not wired yet.
  const gate = use.part.part.companions.find(({ across }) => across?.includes(use.facts.pin))?.options.ohms
  const down = use.facts.actuator && typeof gate === 'number' ? gate : undefined
  const own =
    down === undefined
      ? held
      : { volts: (held.volts * down) / (down + held.ohms), ohms: (held.ohms * down) / (down + held.ohms) }
  // A part that holds its pin at reset, or what hangs on the line: each against the strap's own hold.
  const at = atReset === 'high' ? top : 0
  const ohms = atResetOhms ?? 1
  const rest =
    atReset === undefined
      ? networkOf(wiring).held(wiring.netOf(use.tail), own)
      : (at * own.ohms + own.volts * ohms) / (own.ohms + ohms)
  const isRight =
    wanted === 'high'
      ? rest >= (volts(host.levels.vih, top) ?? top * 0.7)
      : rest <= (volts(host.levels.vil, top) ?? top * 0.3)
  return isRight ? undefined : `would be ${formatVolts(rest)} at reset`
}

/** Blocks a pin that the part would damage, or that would damage the part. */
function levelBlock(wiring: Wiring, use: SignalUse, host: Host): string | undefined {
  const vdd = use.part.logicVolts ?? plannedVolts(wiring, use)
  if (use.facts.needs.startsWith('i2c.')) return pullUpBlock(wiring, use, host, vdd)
  const levels = levelsOf(use)
  const { direction } = use.facts
  const out = direction === 'out' || direction === 'both' ? (volts(levels.high, vdd) ?? vdd) : undefined
  const analog = use.facts.needs === 'analog-in' ? host.levels.mostAnalog : undefined
  const hostMost = volts(analog ?? host.levels.most, host.logicVolts)
  const near = wiring.netOf(use.end)
  // What lies on the way: a resistor alone brings nothing down, a divider, a shifter or a buffer does.
  const far = viaOf(use).length === 0 ? near : wiring.netOf(use.hosts[0] ? host.end : use.tail)
  const network = networkOf(wiring)
  const toHost = out === undefined || far === near ? out : network.driven(near, far, { high: out, low: 0 }).high
  if (toHost !== undefined && hostMost !== undefined && toHost > hostMost + 0.01)
    return `${formatVolts(toHost)} into ${formatVolts(hostMost)}`
  if (use.facts.pulledOhms !== undefined && vdd !== undefined && hostMost !== undefined && vdd > hostMost + 0.01)
    if (far === near) return `pulled up to ${formatVolts(vdd)}, into ${formatVolts(hostMost)}`
  const high = direction === 'in' || direction === 'both' ? host.logicVolts : undefined
  const most = volts(levels.most, vdd)
  const fromHost = high === undefined || far === near ? high : network.driven(far, near, { high, low: 0 }).high
  if (fromHost !== undefined && most !== undefined && fromHost > most + 0.01)
    return `${formatVolts(fromHost)} into ${formatVolts(most)}`
  return undefined
}

/** The high level of an I2C line comes from its pull-ups, not from the pins: the part's own and those on the line. */
function pullUpBlock(wiring: Wiring, use: SignalUse, host: Host, vdd: number | undefined): string | undefined {
  if (viaOf(use).length > 0) return undefined
  const bus = use.part.mode?.i2c
  const to = bus?.pullUpTo === undefined ? vdd : wiring.netOf(`${use.part.ref}.${bus.pullUpTo}`).sources[0]?.volts
  const own = bus?.pullUpOhms === undefined ? undefined : to
  const hostMost = volts(host.levels.most, host.logicVolts)
  if (own !== undefined && hostMost !== undefined && own > hostMost + 0.01)
    return `pulled up to ${formatVolts(own)}, into ${formatVolts(hostMost)}`
  const there = networkOf(wiring).pulled(wiring.netOf(host.end)) ?? (own === undefined ? host.logicVolts : undefined)
  const most = volts(levelsOf(use).most, vdd)
  if (there !== undefined && most !== undefined && there > most + 0.01)
    return `pulled up to ${formatVolts(there)}, into ${formatVolts(most)}`
  return undefined
}

const viaOf = (use: SignalUse): readonly string[] => use.hosts[0]?.via ?? (use.tail === use.end ? [] : [use.tail])

/** Volts that a part without supply wires is likely to get: its board's logic supply when that fits. */
export function plannedVolts(wiring: Wiring, use: SignalUse): number | undefined {
  const supply = use.part.part.supplies[0]
  if (!supply) return undefined
  if (supply.logicVolts !== undefined) return supply.logicVolts
  const logic = use.part.home?.board.logicVolts
  const choices = [logic, ...wiring.nets.flatMap((net) => net.sources.map((source) => source.volts))]
  return choices.find((one) => one !== undefined && one >= supply.least && one <= supply.most)
}

const usesCache = new WeakMap<Wiring, Map<Host, SignalUse[]>>()

/** Signals that reach a host, switched loads included. */
function usesOn(wiring: Wiring, host: Host): readonly SignalUse[] {
  let byHost = usesCache.get(wiring)
  if (!byHost) {
    byHost = new Map()
    for (const use of wiring.signals)
      for (const one of use.hosts) byHost.set(one.host, [...(byHost.get(one.host) ?? []), use])
    usesCache.set(wiring, byHost)
  }
  return byHost.get(host) ?? []
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

const preferred = new WeakMap<object, ReadonlySet<string>>()

/** A pin that a first-choice controller prefers is kept for buses. */
function isPreferredBusPin(host: Host): boolean {
  const board = host.board?.board
  if (!board) return false
  let pins = preferred.get(board)
  if (!pins) {
    const first = board.controllers.filter((one) => one.rank === 0)
    pins = new Set(
      first.flatMap((one) => [...Object.values(one.prefer?.pins ?? {}), ...Object.values(one.pins ?? {}).flat()]),
    )
    preferred.set(board, pins)
  }
  return pins.has(host.end.slice(host.ref.length + 1))
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
