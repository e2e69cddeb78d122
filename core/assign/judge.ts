import { memo } from '../base/memo.ts'
import type { PinFacts } from '../catalog/boardFacts.ts'
import type { Caution } from '../catalog/boardSchema.ts'
import { isLoad, volts } from '../catalog/common.ts'
import type { Plan } from '../plan/planSchema.ts'
import { activeCautions, availabilityOf, servingFeature } from '../wiring/availability.ts'
import { busNeed } from '../wiring/buses.ts'
import { levelsOf } from '../wiring/levels.ts'
import { isGradual, libraryFor, lostTo } from '../wiring/libraryPulses.ts'
import type { BoardInstance, Host, PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { drives, isStreamed, lackWords, meets } from '../wiring/needs.ts'
import { takerOf } from '../wiring/takes.ts'
import type { Block } from './block.ts'
import { blockedBecause } from './blocks.ts'
import { controllersFor, isLineOf, isOtherwiseCalled, isUsualFor } from './boardPins.ts'
import { costs } from './costs.ts'
import { carriesSpeed, strainOf } from './judgeLoads.ts'
import { isMadeFor } from './madeFor.ts'
import { sameSharedBus, usesOn } from './onPin.ts'
import { pinsAside } from './pinsAside.ts'
import { weightOf } from './preferences.ts'
import { busWorth, offers, type Scarcity, scarceNames } from './scarcity.ts'

/** What keeps a pin out, in place of a verdict. */
export interface Blocked {
  readonly blocked: Block
}

/** Points and words for and against, of one side of the judgement. */
export interface Verdict {
  readonly points: number
  readonly for: readonly string[]
  readonly against: readonly string[]
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

const NOTHING: Verdict = { points: 0, for: [], against: [] }

/** The part of the judgement that a bus and its controllers play. */
export function judgeBus(wiring: Wiring, use: SignalUse, host: Host, controller?: string): Verdict {
  const bus = busNeed(use.facts.needs)
  // Of a bus switch or a bridge the lane pays, once.
  if (!bus || (host.provider && bus.signal !== 'cs')) return NOTHING
  const tally = new Tally()
  const sharing = bus.signal === 'cs' ? [] : sharedBus(wiring, use, host)
  if (sharing.length > 0) {
    tally.for.push(`shares the bus with ${sharing.slice(0, 2).join(', ')}${sharing.length > 2 ? ' …' : ''}`)
    return tally
  }
  const running = controller ?? wiring.buses.find((one) => one.uses.includes(use))?.controller
  const reachable = controllersFor(host, use, controller)
  const [found] = [...reachable.filter((one) => one.id === running), ...reachable]
  // Programs move a select line themselves, on whatever pin, unless an operating system's driver does: of many that the
  // controller could move, the one beside its other lines is as good as any.
  const isPlainSelect =
    bus.signal === 'cs' && !(found?.preferred && found.only) && host.board?.board.noTimeBase === undefined
  const best = isPlainSelect ? undefined : found
  if (running !== undefined && best?.id !== running && bus.signal !== 'cs')
    tally.pay(costs.secondBus, 'another controller')
  if (controller === undefined && bus.signal !== 'cs' && bus.kind !== 'i2s' && joinable(wiring, use))
    tally.pay(costs.secondBus, 'starts a second bus')
  if (best) {
    if (best.why !== undefined) tally.for.push(best.why)
    if (best.away > 0) tally.pay(best.away, 'not the usual pin')
    if (best.later > 0) tally.pay(best.later * costs.laterSelect, 'a later select of the controller')
    if (best.rank > 0) tally.pay(best.rank * costs.controllerRank, `uses ${best.id.toUpperCase()}`)
  } else if (bus.signal === 'cs') tally.pay(costs.softSelect, 'selected by software')
  return tally
}

/** The part that the pin itself plays, whatever bus runs over it, or why it is out of the question. */
export function judgePin(wiring: Wiring, use: SignalUse, host: Host, scarcity: Scarcity): Verdict | Blocked {
  const blocked = blockedBecause(wiring, use, host)
  if (blocked !== undefined) return { blocked }
  const tally = new Tally()
  const library = libraryFor(host.board, use)
  if (meets(host, use) === 'orElse' && !library) {
    // Pulses of a set length that a program of a large computer makes itself tremble.
    const trembles = use.facts.hertz !== undefined && host.board?.board.noTimeBase !== undefined
    tally.pay(trembles ? costs.softPulse : costs.orElse, `${lackWords(use.facts.needs)}, polled`)
  }
  if (use.facts.stream && host.board?.board.noTimeBase !== undefined) {
    if (isStreamed(host, use)) tally.for.push('sent by hardware')
    else tally.pay(costs.unserved, 'no hardware sends its bits')
  }
  if (use.facts.timing && use.facts.needs === 'digital-in' && !host.functions.has('interrupt'))
    tally.pay(costs.noEdge, 'wakes no handler')
  const serving = servingFeature(host, use)
  if (serving && availabilityOf(host).pinTaker === serving) tally.for.push(`read by the ${serving.title}`)
  else if (serving) tally.pay(costs.unserved, `the ${serving.title} does not read it`)
  const bus = busNeed(use.facts.needs)
  const isSecondName = host.board !== undefined && isOtherwiseCalled(host.board.board, host.pin)
  if (use.facts.needs === 'analog-in' && isSecondName) tally.pay(costs.otherName, 'not printed as analog')
  if (isMadeFor(wiring, host, use)) {
    tally.points -= costs.madeFor
    tally.for.push('made for it')
  } else if (isLoad(use.facts.needs)) tally.for.push(loadWords[use.facts.needs] as string)
  else if (host.provider && (!bus || bus.signal === 'cs'))
    tally.pay(costs.expander * weightOf(wiring.plan, 'expanders'), 'slower, over the bus')
  if (isHardlyHeard(use, host)) tally.pay(costs.shyHigh, 'its high does not reach the threshold')
  if (availabilityOf(host).vitalElsewhere) tally.pay(costs.elsewhere, 'memory of other modules')
  if (!bus && host.board && pinsAside(host.board.board).has(host.pin))
    tally.pay(costs.aside, 'on a block apart from the rows')
  if (availabilityOf(host).pin?.solder) tally.pay(costs.solder, 'solder pad')
  for (const caution of activeCautions(host)) {
    const price = cautionPrice(caution, use)
    if (price) tally.pay(price.points * cautionWeight(wiring.plan, caution), price.words)
  }
  const spared = host.cautions.find((one) => one.feature !== undefined && !activeCautions(host).includes(one))
  const asleep = host.board?.board.features.find(({ id }) => id === spared?.feature)
  if (asleep) tally.pay(costs.asleep, `free without ${asleep.title}`)
  if (use.facts.pull === 'up' && !host.functions.has('pull-up')) tally.pay(costs.noPull, 'no pull-up inside')
  const strained = strainOf(wiring, use, host)
  if (strained) tally.pay(strained.points, strained.words)
  const bearsSpeed = carriesSpeed(wiring, use)
  if (bearsSpeed && !host.functions.has('pwm')) tally.pay(costs.noSpeed, 'full speed only')
  const lost = lostTo(wiring, host)
  if (lost && (bearsSpeed || isGradual(use)))
    tally.pay(bearsSpeed ? costs.noSpeed : costs.orElse, `its PWM goes to the ${lost.library.title}`)
  // What a line of a bus takes on the pin that is there for it is no waste.
  const isUsual = bus !== undefined && isUsualFor(host, bus)
  for (const name of scarceNames) {
    if (
      isUsual ||
      ((bearsSpeed || lost) && name === 'pwm') ||
      (name === use.facts.needs && !library) ||
      name === use.facts.orElse ||
      !offers(host, name)
    )
      continue
    // Nobody looks for a knob's pin among those that are printed as something else.
    if (name === 'analog-in' && isSecondName) continue
    const points = scarcity.price(name)
    if (points >= 0.5) tally.pay(points, `spends ${scarceWords[name]}`)
  }
  const taker = takerOf(wiring, use, host)
  if (taker) tally.pay(costs.taken, `taken by ${taker.title}`)
  const kept = bus && bus.signal !== 'cs' ? 0 : busWorth(host, bus !== undefined)
  if (kept > 0) tally.pay(costs.busPin * kept * weightOf(wiring.plan, 'buses'), 'keeps a bus pin')
  if (bus?.signal === 'cs' && isLineOf(host, bus.kind))
    tally.pay(costs.busPin, `a line of ${bus.kind.toUpperCase()} itself`)
  const beside = neighbour(wiring, use, host)
  if (beside) {
    tally.points -= 2
    tally.for.push(`beside ${beside}`)
  }
  return tally
}

const loadWords: Readonly<Record<string, string>> = {
  sink: 'switches it to ground',
  source: 'switches its supply',
  bridge: 'turns it both ways',
}

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

/** The pull with which an input is on. */
const onBy = ({ facts }: SignalUse): 'pull-up' | 'pull-down' => (facts.activeLevel === 'low' ? 'pull-down' : 'pull-up')

/** A high that the part gives, and that the pin need not take for one. */
function isHardlyHeard(use: SignalUse, host: Host): boolean {
  if (use.facts.needs !== 'digital-in' || use.facts.direction !== 'out' || use.tail !== use.end) return false
  const high = volts(levelsOf(use).high, use.part.logicVolts)
  const least = volts(host.levels.vih, host.logicVolts)
  return high !== undefined && least !== undefined && high < least
}

function cautionPrice(caution: Caution, use: SignalUse): { points: number; words: string } | undefined {
  switch (caution.id) {
    case 'boot-strap':
      return {
        // What the strap itself switches on moves until the program has set its pin.
        points: costs.strap + (use.facts.actuator && caution.held === onBy(use) ? costs.pulse * 2 : 0),
        words: `strap, ${caution.needs ?? 'read'}`,
      }
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
      return use.facts.needs.startsWith('i2c.') || use.facts.needs === 'analog-in'
        ? undefined
        : { points: costs.fixedPull, words: 'fixed pull-up' }
    case 'keep-output':
      return { points: use.facts.needs.startsWith('spi.cs') ? 0 : costs.keepOutput, words: 'kept by SPI' }
    case 'slow':
      return use.facts.timing && drives(use.facts.needs) ? { points: costs.pulse, words: 'a slow pin' } : undefined
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

/** Header positions on which the signals of each part lie. */
export const placesOf = memo((wiring: Wiring) => {
  const all = new Map<PartInstance, { end: string; board: BoardInstance; spot: PinFacts }[]>()
  for (const use of wiring.signals)
    for (const { host } of use.hosts) {
      const spot = host.board?.facts.pin(host.pin)
      if (!spot || !host.board) continue
      const mine = all.get(use.part) ?? []
      mine.push({ end: use.end, board: host.board, spot })
      all.set(use.part, mine)
    }
  return all
})

/** A signal of the same part on a neighbouring header position. */
function neighbour(wiring: Wiring, use: SignalUse, host: Host): string | undefined {
  const near = placesOf(wiring).get(use.part) ?? []
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
