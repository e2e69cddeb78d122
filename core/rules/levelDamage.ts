import { rewire } from '../assign/rewire.ts'
import { type DrivenLine, linesOf } from '../circuit/lines.ts'
import { dividerFor } from '../electrical/divider.ts'
import { formatVolts } from '../electrical/quantity.ts'
import type { Fix } from '../plan/edit.ts'
import { busNeed } from '../wiring/buses.ts'
import { dividerEdits } from '../wiring/dividerEdits.ts'
import { PROTECTION_DIODE } from '../wiring/levels.ts'
import type { SignalUse, Wiring } from '../wiring/model.ts'
import { resupply } from '../wiring/resupply.ts'
import { shifterEdits } from '../wiring/shifterEdits.ts'
import type { Report, Rule } from './finding.ts'
import {
  levelElsewhereMessages,
  sayBesideMotors,
  sayBuffers,
  sayDirect,
  sayLowSides,
  sayOthers,
} from './levelElsewhere.ts'
import { levelTurnedMessages, sayTurned } from './levelTurned.ts'
import { listWords, twoDigits } from './shared.ts'

/** Volts above the limit that count as measuring noise. */
const SLACK = 0.01

export const levelDamage: Rule = {
  meta: {
    id: 'level-damage',
    severities: ['fault', 'caution'],
    about:
      'A line puts more volts on a pin than the pin bears: a driver at a higher supply, a pull-up to a higher rail, a supply on a signal pin. A caution where pull-ups at two supplies end a little above it.',
    messages: {
      ...levelElsewhereMessages,
      ...levelTurnedMessages,
      tied: '{receivers} {are} tied to {arrives} and {bear} {bears}.',
      driven: '{drivers} {drivers:brings/bring} {arrives} to {receivers}, which {bear} {bears}.',
    },
    limits: ['driven', 'through', 'turned'],
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    const said = new Set<string>()
    const groups = new Map<string, DrivenLine[]>()
    for (const line of linesOf(wiring)) {
      const arrives = arrivesAt(line)
      // Of line levels such as RS-232 uart-levels speaks.
      if (line.use && busNeed(line.use.facts.needs)?.kind === 'uart' && lineLevels(line.use)) continue
      if (line.most === undefined || arrives <= line.most + SLACK) continue
      const key = [line.driver, line.receiver].sort().join(' ')
      if (said.has(key)) continue
      said.add(key)
      // Lines of one part that get the same for the same reason are one finding.
      const [from, to] = [line.driver, line.receiver].map((end) => wiring.terminal(end)?.ref)
      const alike = [from, to, arrives, line.most, line.use?.state].join(' ')
      groups.set(alike, [...(groups.get(alike) ?? []), line])
    }
    for (const lines of groups.values()) sayLines(wiring, lines, report)
    sayTurned(wiring, said, report)
    sayBuffers(wiring, said, report)
    sayOthers(wiring, said, report)
    sayDirect(wiring, report)
    sayLowSides(wiring, report)
    sayBesideMotors(wiring, report)
  },
}

function sayLines(wiring: Wiring, lines: readonly DrivenLine[], report: (one: Report) => void): void {
  const [line] = lines as readonly [DrivenLine, ...DrivenLine[]]
  const arrives = arrivesAt(line)
  const bears = line.most as number
  const driven = (line.high ?? 0) >= (line.resting ?? 0) && !line.openDrain
  const tied = line.use?.state === 'tied'
  const drivers = [...new Set(lines.map((one) => one.driver))]
  const receivers = [...new Set(lines.map((one) => one.receiver))]
  const cause = tied ? `the supply ${line.driver}` : driven ? listWords(drivers) : 'its pull-up'
  const several = receivers.length > 1
  // So do the pull-ups that a board of 5 V carries itself: a fraction of a milliampere, with which many builds live.
  const board = wiring.terminal(line.driver)?.host?.cautions.some(({ id }) => id === 'fixed-pull-up') === true
  const isPulled =
    !driven && !tied && line.receiverVolts !== undefined && (board || arrives < line.receiverVolts + PROTECTION_DIODE)
  report({
    severity: isPulled ? 'caution' : 'fault',
    at: [...drivers, ...receivers],
    message: tied ? 'tied' : 'driven',
    data: {
      receivers,
      are: several ? 'are' : 'is',
      arrives: formatVolts(arrives),
      bear: several ? 'bear' : 'bears',
      bears: formatVolts(bears),
      drivers,
    },
    why: `${cause[0]?.toUpperCase()}${cause.slice(1)} ${driven && drivers.length > 1 && !tied ? 'drive' : 'drives'} the line to ${formatVolts(arrives)}. Above ${formatVolts(bears)} current flows through the protection diodes of ${listWords(receivers)} into its supply, which heats and in the end destroys the input.`,
    numbers: { volts: twoDigits(arrives), bears: twoDigits(bears) },
    propose: () => (lines.length === 1 ? fixes(wiring, line) : mendsOfAll(wiring, lines)),
  })
}

/** Mends that go for all lines: another supply, or for each line its own of the same kind. */
function mendsOfAll(wiring: Wiring, lines: readonly DrivenLine[]): Fix[] {
  const each = lines.map((line) => fixes(wiring, line))
  const [first = []] = each
  const shared = first.filter(({ title }) => each.every((mends) => mends.some((one) => one.title === title)))
  return shared.length > 0 ? shared : first
}

/** Volts that arrive at the receiver at most. */
const arrivesAt = (line: DrivenLine): number => Math.max(line.high ?? 0, line.resting ?? 0)

const lineLevels = (use: SignalUse): boolean => (use.part.mode?.uart?.levels ?? 'logic') !== 'logic'

function fixes(wiring: Wiring, line: DrivenLine): Fix[] {
  const use = line.use
  if (!use) return []
  const volts = [line.receiverVolts, line.driverVolts].filter((one): one is number => one !== undefined)
  const moves = resupply(
    wiring,
    use.part,
    (source) => volts.some((one) => one === source.volts) && source.volts <= (line.most ?? 0),
  )
  const divider = use.facts.direction === 'out' && line.driver === use.end ? dividerFix(wiring, line) : []
  const others = use.state === 'tied' ? [] : rewire(wiring, use)
  const shifter = use.state === 'tied' ? [] : shifterEdits(wiring, use)
  return [...moves, ...divider, ...shifter, ...others]
}

/** Two resistors that bring an output down to what the pin bears. */
function dividerFix(wiring: Wiring, line: DrivenLine): Fix[] {
  const host = wiring.terminal(line.receiver)?.host
  if (line.high === undefined || line.receiverVolts === undefined || line.most === undefined || !host || !line.use)
    return []
  const values = dividerFor(line.high, line.receiverVolts, line.most)
  return values ? dividerEdits(wiring, line.use, host, values) : []
}
