import { rewire } from '../assign/rewire.ts'
import { circuitOf, type Port } from '../circuit/circuit.ts'
import { verdictsOf, wayTo } from '../circuit/verdicts.ts'
import { dividerFor } from '../electrical/divider.ts'
import { formatVolts } from '../electrical/quantity.ts'
import type { Fix } from '../plan/edit.ts'
import { busNeed } from '../wiring/buses.ts'
import { dividerEdits } from '../wiring/dividerEdits.ts'
import { type Line, linesOf } from '../wiring/lines.ts'
import type { SignalUse, Wiring } from '../wiring/model.ts'
import { resupply } from '../wiring/resupply.ts'
import { shifterEdits } from '../wiring/shifterEdits.ts'
import type { Report, Rule } from './finding.ts'
import { takeOut } from './mend.ts'
import { listWords, twoDigits } from './shared.ts'

/** Volts above the limit that count as measuring noise. */
const SLACK = 0.01

export const levelDamage: Rule = {
  meta: {
    id: 'level-damage',
    severities: ['fault'],
    about:
      'A line puts more volts on a pin than the pin bears: a driver at a higher supply, a pull-up to a higher rail, a supply on a signal pin.',
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    const said = new Set<string>()
    for (const line of linesOf(wiring)) {
      const arrives = Math.max(line.high ?? 0, line.resting ?? 0)
      // Of line levels such as RS-232 uart-levels speaks.
      if (line.use && busNeed(line.use.facts.needs)?.kind === 'uart' && lineLevels(line.use)) continue
      if (line.most === undefined || arrives <= line.most + SLACK) continue
      const key = [line.driver, line.receiver].sort().join(' ')
      if (said.has(key)) continue
      said.add(key)
      const driven = (line.high ?? 0) >= (line.resting ?? 0) && !line.openDrain
      const cause = line.use?.state === 'tied' ? `the supply ${line.driver}` : driven ? line.driver : 'its pull-up'
      report({
        severity: 'fault',
        at: [line.driver, line.receiver],
        message:
          line.use?.state === 'tied'
            ? `${line.receiver} is tied to ${formatVolts(arrives)} and bears ${formatVolts(line.most)}.`
            : `${line.driver} brings ${formatVolts(arrives)} to ${line.receiver}, which bears ${formatVolts(line.most)}.`,
        why: `${cause[0]?.toUpperCase()}${cause.slice(1)} drives the line to ${formatVolts(arrives)}. Above ${formatVolts(line.most)} current flows through the protection diodes of ${line.receiver} into its supply, which heats and in the end destroys the input.`,
        numbers: { volts: twoDigits(arrives), bears: twoDigits(line.most) },
        propose: () => fixes(wiring, line),
      })
    }
    sayOthers(wiring, said, report)
  },
}

/** Pins to which resistors, lamps or contacts bring too much, whether or not a signal leads there. */
function sayOthers(wiring: Wiring, said: ReadonlySet<string>, report: (one: Report) => void): void {
  const circuit = circuitOf(wiring)
  const verdicts = verdictsOf(wiring)
  const spoken = new Set([...said].flatMap((one) => one.split(' ')))
  for (const net of wiring.nets) {
    if (!net.wired || net.ground || net.sources.length > 0) continue
    const most = verdicts.of(net)?.most
    if (!most) continue
    const all = circuit.at(net)
    if (all.some(({ terminal, host }) => spoken.has(terminal.end) || (host && spoken.has(host.end)))) continue
    const ports = all.filter((one) => one.most !== undefined && most.volts > one.most + 5 * SLACK)
    const weakest = ports.reduce<Port | undefined>(
      (least, one) => (least && (least.most as number) <= (one.most as number) ? least : one),
      undefined,
    )
    if (!weakest || ports.some(({ terminal, host }) => spoken.has(terminal.end) || (host && spoken.has(host.end))))
      continue
    const way = wayTo(circuit, most.state, verdicts.of(net)!.verdict.island, net, 'high')
    // Straight from a pin that drives: the lines have said it, or the level is that of another kind. Of a contact that
    // closes onto a rail pin-on-rail speaks, of a load on a pin driver-needed.
    if (
      !way ||
      (way.port && way.through.length === 0) ||
      way.kinds.some((kind) => kind === 'load' || kind === 'winding')
    )
      continue
    if (way.kinds.length > 0 && way.kinds.every((kind) => kind === 'contact')) continue
    // Both lines of a bus that one module pulls up are one matter.
    if (way.inside !== undefined && [...spoken].some((one) => one.startsWith(`${way.inside}.`))) continue
    const { end } = weakest.terminal
    spoken.add(end)
    if (way.inside !== undefined) spoken.add(`${way.inside}.`)
    const cause = way.inside === undefined ? way.name : `The pull-up of ${way.inside}`
    const bears = weakest.most as number
    report({
      severity: 'fault',
      at: [end, way.name, ...way.through.filter((ref) => ref !== way.name)],
      message: `${cause} brings ${formatVolts(most.volts)} to ${end}${way.through.length > 0 ? ` through ${listWords(way.through)}` : ''}, which bears ${formatVolts(bears)}.`,
      why: `Nothing on the way brings the ${formatVolts(way.volts)} down far enough. Above ${formatVolts(bears)} current flows through the protection diodes of ${end} into its supply; a resistor limits that current, but no source allows it for good.`,
      numbers: { volts: twoDigits(most.volts), bears: twoDigits(bears) },
      propose: () =>
        takeOut(wiring, (a, b) => way.through.some((ref) => [a, b].some((one) => one.startsWith(`${ref}.`)))),
    })
  }
}

const lineLevels = (use: SignalUse): boolean => (use.part.mode?.uart?.levels ?? 'logic') !== 'logic'

function fixes(wiring: Wiring, line: Line): Fix[] {
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
function dividerFix(wiring: Wiring, line: Line): Fix[] {
  const host = wiring.terminal(line.receiver)?.host
  if (line.high === undefined || line.receiverVolts === undefined || line.most === undefined || !host || !line.use)
    return []
  const values = dividerFor(line.high, line.receiverVolts, line.most)
  return values ? dividerEdits(wiring, line.use, host, values) : []
}
