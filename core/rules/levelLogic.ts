import { type DrivenLine, linesOf } from '../circuit/lines.ts'
import { formatVolts } from '../electrical/quantity.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'
import { resupply } from '../wiring/resupply.ts'
import { shifterEdits } from '../wiring/shifterEdits.ts'
import { contactLadderMessages, sayLadders } from './contactLadder.ts'
import type { Report, Rule } from './finding.ts'
import { levelContactMessages, sayContact, sayContactsOfParts, sayReadOutputs, sayThrown } from './levelContact.ts'
import { sayRails } from './levelRail.ts'
import { saySlow } from './levelSlow.ts'
import { otherModel } from './mend.ts'
import { isOverfed, middleOf, twoDigits } from './shared.ts'
import { sayWeakPasses, weakPassesMessages } from './weakPasses.ts'

export const levelLogic: Rule = {
  meta: {
    id: 'level-logic',
    severities: ['fault', 'caution', 'tip'],
    about:
      'The high level that arrives is below what the receiver takes for high, or the low level above what it takes for low. A tip when the receiver runs at another voltage and its threshold is not known.',
    messages: {
      ...contactLadderMessages,
      ...levelContactMessages,
      ...weakPassesMessages,
      lowHigh: '{receiver} wants {vih} for a high and gets {high} from {driver}.',
      highLow: '{receiver} wants at most {vil} for a low and gets {low} from {driver}.',
      slow: '{receiver} is high only {rise} after its pin, behind {ohms}; its shortest pulse is {pulse}.',
      unknown: 'The input {thresholds} of {ends} {are} not known; {theyGet} {high} and {run} at {volts}.',
    },
    limits: ['lowHigh', 'highLow', 'between', 'slow'],
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    const unknown = new Map<PartInstance, DrivenLine[]>()
    const said = new Set<string>()
    const lines = linesOf(wiring)
    for (const line of [...lines.filter(({ use }) => use), ...deadLinks(lines)]) {
      const pair = [line.driver, line.receiver].sort().join(' ')
      if (said.has(pair)) continue
      if (line.use?.state === 'tied' || line.use?.facts.needs.startsWith('analog')) continue
      // Thresholds that come from a supply above its range are supply-range's matter.
      if (line.use && isOverfed(line.use.part)) continue
      const { low, vih, vil } = line
      // Whether a single-wire line is held up is onewire-pullup's.
      const high = line.openDrain && line.use?.facts.pullMostOhms !== undefined ? undefined : line.high
      if (high !== undefined && vih !== undefined && high < vih - 0.005) {
        const middle = middleOf(vih, vil)
        const fault = high < middle
        said.add(pair)
        report({
          severity: fault ? 'fault' : 'caution',
          at: [line.driver, line.receiver],
          message: 'lowHigh',
          data: { receiver: line.receiver, vih: formatVolts(vih), high: formatVolts(high), driver: line.driver },
          why: fault
            ? `That is below the middle of its thresholds (${formatVolts(middle)}), so it will most likely read low. The margin is ${formatVolts(high - vih)}.${line.use ? '' : ' In a divider the smaller resistor belongs to the pin that drives, the larger one to ground.'}`
            : `It will often work, since the true threshold lies somewhere between ${vil === undefined ? 'low' : formatVolts(vil)} and ${formatVolts(vih)}, but the maker of the part does not promise it, and cold or a long wire may tip it over. The margin is ${formatVolts(high - vih)}.`,
          numbers: { high: twoDigits(high), vih: twoDigits(vih), margin: twoDigits(high - vih) },
          propose: () => [
            ...otherModel(wiring, line.use, line.receiver, line.high),
            ...supplyFixes(wiring, line),
            ...(line.use ? shifterEdits(wiring, line.use) : []),
          ],
        })
      } else if (low !== undefined && vil !== undefined && low > vil + 0.005) {
        said.add(pair)
        report({
          severity: 'fault',
          at: [line.driver, line.receiver],
          message: 'highLow',
          data: { receiver: line.receiver, vil: formatVolts(vil), low: formatVolts(low), driver: line.driver },
          why: `The low level never comes down far enough to be read as low. The margin is ${formatVolts(vil - low)}.`,
          numbers: { low: twoDigits(low), vil: twoDigits(vil), margin: twoDigits(vil - low) },
          propose: () => supplyFixes(wiring, line),
        })
      } else if (
        high !== undefined &&
        vih === undefined &&
        line.receiver === line.use?.end &&
        // A line with levels of its own is no matter of thresholds.
        (line.use.part.mode?.uart?.levels ?? 'logic') === 'logic' &&
        line.receiverVolts !== undefined &&
        high < line.receiverVolts - 0.2
      )
        unknown.set(line.use.part, [...(unknown.get(line.use.part) ?? []), line])
    }
    for (const use of wiring.signals) {
      sayContact(wiring, use, report)
      sayThrown(wiring, use, report)
      saySlow(wiring, use, report)
    }
    sayContactsOfParts(wiring, report)
    sayReadOutputs(wiring, report)
    sayLadders(wiring, report)
    sayRails(wiring, report)
    sayWeakPasses(wiring, report)
    sayUnknown(unknown, report)
  },
}

/**
 * Lines between two boards over which nothing is heard. Either may drive; where a resistor to a rail takes something of one
 * way, that way is meant, and where none does both must fail.
 */
function deadLinks(lines: readonly DrivenLine[]): DrivenLine[] {
  const links = lines.filter(({ use, openDrain }) => !use && !openDrain)
  const isTaken = ({ high, low, driverVolts }: DrivenLine): boolean =>
    (high !== undefined && driverVolts !== undefined && high < driverVolts * 0.95) || (low ?? 0) > 0.05
  const isHeard = ({ high, low, vih, vil }: DrivenLine): boolean =>
    (high === undefined || vih === undefined || high >= vih - 0.005) &&
    (low === undefined || vil === undefined || low <= vil + 0.005)
  return links.filter((line) => {
    const back = links.find(({ driver, receiver }) => driver === line.receiver && receiver === line.driver)
    return !back || !isHeard(back) || (isTaken(line) && !isTaken(back))
  })
}

/** Receivers at another voltage whose threshold nobody gives. */
function sayUnknown(unknown: ReadonlyMap<PartInstance, readonly DrivenLine[]>, report: (found: Report) => void): void {
  for (const [part, lines] of unknown) {
    const high = Math.min(...lines.map((line) => line.high as number))
    const ends = [...new Set(lines.map((line) => line.receiver))]
    const one = ends.length === 1
    const volts = part.logicVolts as number
    report({
      severity: 'tip',
      at: ends,
      message: 'unknown',
      data: {
        thresholds: one ? 'threshold' : 'thresholds',
        ends,
        are: one ? 'is' : 'are',
        theyGet: one ? 'it gets' : 'they get',
        high: formatVolts(high),
        run: one ? 'runs' : 'run',
        volts: formatVolts(volts),
      },
      why: `The datasheet of ${part.ref} gives no figure for a high level, so this cannot be checked. Try it before you build on it, or drive it through a level shifter.`,
      numbers: { high: twoDigits(high), supply: volts },
    })
  }
}

function supplyFixes(wiring: Wiring, line: DrivenLine) {
  if (!line.use) return []
  const want = line.receiver === line.use.end ? line.driverVolts : line.receiverVolts
  return resupply(wiring, line.use.part, (source) => source.volts === want)
}
