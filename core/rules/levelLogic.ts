import { volts } from '../catalog/common.ts'
import { contactLevels } from '../circuit/contactLevels.ts'
import { formatVolts } from '../electrical/quantity.ts'
import { entryOf } from '../text/entryOf.ts'
import { activeCautions } from '../wiring/availability.ts'
import { type Line, linesOf } from '../wiring/lines.ts'
import type { PartInstance, SignalUse, Wiring } from '../wiring/model.ts'
import { resupply } from '../wiring/resupply.ts'
import { shifterEdits } from '../wiring/shifterEdits.ts'
import type { Report, Rule } from './finding.ts'
import { listWords, twoDigits } from './shared.ts'

export const levelLogic: Rule = {
  meta: {
    id: 'level-logic',
    severities: ['fault', 'caution', 'tip'],
    about:
      'The high level that arrives is below what the receiver takes for high, or the low level above what it takes for low. A tip when the receiver runs at another voltage and its threshold is not known.',
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    const unknown = new Map<PartInstance, Line[]>()
    const said = new Set<string>()
    for (const line of linesOf(wiring)) {
      const pair = [line.driver, line.receiver].sort().join(' ')
      if (said.has(pair)) continue
      if (!line.use || line.use.state === 'tied' || line.use.facts.needs.startsWith('analog')) continue
      // Whether a one-wire line is held up is onewire-pullup's.
      if (line.openDrain && line.use.facts.pullMostOhms !== undefined) continue
      const { high, low, vih, vil } = line
      if (high !== undefined && vih !== undefined && high < vih - 0.005) {
        const middle = vil === undefined ? vih / 2 : (vih + vil) / 2
        const fault = high < middle
        said.add(pair)
        report({
          severity: fault ? 'fault' : 'caution',
          at: [line.driver, line.receiver],
          message: `${line.receiver} wants ${formatVolts(vih)} for a high and gets ${formatVolts(high)} from ${line.driver}.`,
          why: fault
            ? `That is below the middle of its thresholds (${formatVolts(middle)}), so it will most likely read low. The margin is ${formatVolts(high - vih)}.`
            : `It will often work, since the true threshold lies somewhere between ${vil === undefined ? 'low' : formatVolts(vil)} and ${formatVolts(vih)}, but the maker of the part does not promise it, and cold or a long wire may tip it over. The margin is ${formatVolts(high - vih)}.`,
          numbers: { high: twoDigits(high), vih: twoDigits(vih), margin: twoDigits(high - vih) },
          propose: () => [
            ...otherModel(wiring, line),
            ...supplyFixes(wiring, line),
            ...(line.use ? shifterEdits(wiring, line.use) : []),
          ],
        })
      } else if (low !== undefined && vil !== undefined && low > vil + 0.005) {
        said.add(pair)
        report({
          severity: 'fault',
          at: [line.driver, line.receiver],
          message: `${line.receiver} wants at most ${formatVolts(vil)} for a low and gets ${formatVolts(low)} from ${line.driver}.`,
          why: `The low level never comes down far enough to be read as low. The margin is ${formatVolts(vil - low)}.`,
          numbers: { low: twoDigits(low), vil: twoDigits(vil), margin: twoDigits(vil - low) },
          propose: () => supplyFixes(wiring, line),
        })
      } else if (
        high !== undefined &&
        vih === undefined &&
        line.receiver === line.use.end &&
        line.receiverVolts !== undefined &&
        high < line.receiverVolts - 0.2
      )
        unknown.set(line.use.part, [...(unknown.get(line.use.part) ?? []), line])
    }
    for (const use of wiring.signals) sayContact(wiring, use, report)
    sayLinks(wiring, report)
    for (const [part, lines] of unknown) {
      const high = Math.min(...lines.map((line) => line.high as number))
      const ends = [...new Set(lines.map((line) => line.receiver))]
      const one = ends.length === 1
      const volts = part.logicVolts as number
      report({
        severity: 'tip',
        at: ends,
        message: `The input ${one ? 'threshold' : 'thresholds'} of ${listWords(ends)} ${one ? 'is' : 'are'} not known; ${one ? 'it gets' : 'they get'} ${formatVolts(high)} and ${one ? 'runs' : 'run'} at ${formatVolts(volts)}.`,
        why: `The datasheet of ${part.ref} gives no figure for a high level, so this cannot be checked. Try it before you build on it, or drive it through a level shifter.`,
        numbers: { high: twoDigits(high), supply: volts },
      })
    }
  },
}

/** A contact that reads the same open and closed, or whose closed level is none. */
function sayContact(wiring: Wiring, use: SignalUse, report: (one: Report) => void): void {
  if (use.facts.direction !== 'passive' || use.facts.needs.startsWith('analog')) return
  const levels = contactLevels(wiring, use)
  const [first] = levels
  if (!first) return
  const { host } = first
  const vih = volts(host.levels.vih, host.logicVolts)
  const vil = volts(host.levels.vil, host.logicVolts)
  if (vih === undefined || vil === undefined) return
  const read = (at: number): 'high' | 'low' | 'neither' =>
    at >= vih - 0.005 ? 'high' : at <= vil + 0.005 ? 'low' : 'neither'
  const known = levels.flatMap(({ open, closed }) =>
    open === undefined || closed === undefined ? [] : [{ open, closed, was: read(open), is: read(closed) }],
  )
  const works = ({ was, is }: (typeof known)[number]): boolean => was !== is && was !== 'neither' && is !== 'neither'
  const [best] = known.toSorted((a, b) => Number(a.was === a.is) - Number(b.was === b.is))
  if (known.length < levels.length || !best || known.some(works)) return
  const { open, closed, was, is } = best
  // Held at the wrong level for a start: boot-strap says so.
  if (activeCautions(host).some(({ id, needs }) => id === 'boot-strap' && (needs === 'high') === open <= vil)) return
  const at = [use.end, host.end]
  const numbers = { open: twoDigits(open), closed: twoDigits(closed), vih: twoDigits(vih), vil: twoDigits(vil) }
  if (was === is && was !== 'neither')
    report({
      severity: 'fault',
      at,
      message: `${host.end} reads ${was} whether ${use.part.ref} is open or closed.`,
      why: `Open it lies at ${formatVolts(open)}, closed at ${formatVolts(closed)}. The contact has to lead to one side, and the resistor that holds the line meanwhile to the other.`,
      numbers,
    })
  else if (was === 'neither' || is === 'neither')
    report({
      severity: is === 'neither' ? 'fault' : 'caution',
      at,
      message: `${host.end} gets ${formatVolts(is === 'neither' ? closed : open)} while ${use.part.ref} is ${is === 'neither' ? 'closed' : 'open'}, neither high nor low.`,
      why: `It takes at least ${formatVolts(vih)} for high and at most ${formatVolts(vil)} for low. The resistors around the contact divide the supply; one of them is too large or too small.`,
      numbers,
    })
}

/** Pins of two boards joined through resistors, of which neither gets a level that it can read. */
function sayLinks(wiring: Wiring, report: (one: Report) => void): void {
  const byPair = new Map<string, Line[]>()
  for (const line of linesOf(wiring)) {
    if (line.use) continue
    const key = [line.driver, line.receiver].sort().join(' ')
    byPair.set(key, [...(byPair.get(key) ?? []), line])
  }
  for (const lines of byPair.values()) {
    const arrives = ({ high, vih }: Line): boolean => high === undefined || vih === undefined || high >= vih - 0.005
    const [first, second] = lines
    if (!first || !second || lines.some(arrives)) continue
    const best = (first.high ?? 0) - (first.vih ?? 0) >= (second.high ?? 0) - (second.vih ?? 0) ? first : second
    report({
      severity: 'fault',
      at: [best.driver, best.receiver],
      message: `${best.receiver} wants ${formatVolts(best.vih as number)} for a high and gets ${formatVolts(best.high as number)} from ${best.driver}.`,
      why: 'Whichever of the two pins drives, what arrives at the other is too low to be read. In a divider the smaller resistor belongs to the pin that drives, the larger one to ground.',
      numbers: { high: twoDigits(best.high as number), vih: twoDigits(best.vih as number) },
    })
  }
}

function supplyFixes(wiring: Wiring, line: Line) {
  if (!line.use) return []
  const want = line.receiver === line.use.end ? line.driverVolts : line.receiverVolts
  return resupply(wiring, line.use.part, (source) => source.volts === want)
}

/** Another value of the option that chooses the level set, where one fits. */
function otherModel(wiring: Wiring, line: Line) {
  const use = line.use
  const named = use?.facts.levels
  const entry = use && entryOf(wiring.plan.parts, use.part.ref)
  if (!use || !entry || typeof named !== 'object' || line.receiver !== use.end || line.high === undefined) return []
  const high = line.high
  return Object.entries(named.sets)
    .filter(([, set]) => {
      const vih = entryOf(use.part.part.levels, set)?.vih
      return vih !== undefined && vih.factor === 0 && vih.offset <= high
    })
    .map(([value]) => ({
      title: `Take ${use.part.part.options.find((one) => one.id === named.option)?.values.find((one) => String(one.value) === value)?.title ?? value} for ${use.part.ref}`,
      edits: [
        {
          do: 'change-part' as const,
          ref: use.part.ref,
          entry: { options: { ...entry.options, [named.option]: value } },
        },
      ],
    }))
}
