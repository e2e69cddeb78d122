import { rewire } from '../assign/rewire.ts'
import type { PinCurrent } from '../catalog/common.ts'
import { bareBases } from '../circuit/bases.ts'
import { litDiodes } from '../circuit/lit.ts'
import { pinLoads, RECOMMENDED_SLACK, unlimitedPins } from '../circuit/pinLoads.ts'
import type { Fix } from '../plan/edit.ts'
import type { Host, Wiring } from '../wiring/model.ts'
import type { Report, Rule } from './finding.ts'
import { companionOffers, setOhms } from './mend.ts'
import { pinTotalsMessages, sayTotals, shown } from './pinTotals.ts'
import { listWords, twoDigits, usesByHost } from './shared.ts'

export const pinCurrent: Rule = {
  meta: {
    id: 'pin-current',
    severities: ['fault', 'caution'],
    about:
      'Current through a pin, a group of pins or the whole chip: a fault above the absolute limit, a caution above what is recommended.',
    messages: {
      ...pinTotalsMessages,
      pin: '{pins} {gives} {milliamps} mA for {names}; {limit}.',
      unlimited: '{pin} {gives} {names} all that it can: nothing between them limits the current.',
      alike: '{pins} {gives} {milliamps} mA each for {names}; {limit}.',
    },
    limits: ['pin', 'board', 'outputs'],
    fixable: true,
  },
  check(wiring, report) {
    // Pins of one chip that all carry the same are said together.
    const alike = new Map<string, Over[]>()
    for (const one of oversOf(wiring)) {
      const { host, way, milliamps, isFault } = one
      const key = `${host.ref} ${way} ${shown(milliamps)} ${limitOf(one)} ${isFault}`
      alike.set(key, [...(alike.get(key) ?? []), one])
    }
    for (const overs of alike.values()) sayOver(wiring, overs, report)
    sayUnlimited(wiring, report)
    sayBareBases(wiring, report)
    sayTotals(wiring, report)
  },
}

/** A pin that carries more than it should. */
interface Over {
  readonly host: Host
  readonly limits: PinCurrent
  readonly way: 'source' | 'sink'
  readonly milliamps: number
  /** Above the limit, not only above what is recommended. */
  readonly isFault: boolean
  readonly parts: readonly string[]
}

const limitOf = ({ isFault, limits, way }: Over): string =>
  isFault ? `${limits[way] ?? limits.absolute} mA is the limit` : `${limits.recommended} mA is recommended`

function oversOf(wiring: Wiring): Over[] {
  // Asked for only where a pin is over its limit.
  const isTooBright = (ref: string): boolean =>
    litDiodes(wiring).some((one) => one.milliamps > one.most * 1.001 && one.row.some(({ part }) => part.ref === ref))
  return pinLoads(wiring).flatMap((load): Over[] => {
    const limits = load.host.current
    if (!limits) return []
    const overs = (['source', 'sink'] as const).flatMap((way) => {
      const milliamps = load[way]
      const absolute = limits[way] ?? limits.absolute
      const isFault = absolute !== undefined && milliamps > absolute * 1.001
      const much = limits.recommended !== undefined && milliamps > limits.recommended * RECOMMENDED_SLACK
      return isFault || much ? [{ way, milliamps, isFault }] : []
    })
    // Where both ways are too much the worse is said; a lamp that itself gets too much is led-resistor's.
    const worst = overs.find(({ isFault }) => isFault) ?? overs[0]
    if (!worst || (load.parts.length > 0 && load.parts.every(isTooBright))) return []
    return [{ ...worst, host: load.host, limits, parts: load.parts }]
  })
}

function sayOver(wiring: Wiring, overs: readonly Over[], report: (one: Report) => void): void {
  const [first] = overs
  if (!first) return
  const { way, milliamps, limits, isFault } = first
  const parts = [...new Set(overs.flatMap((one) => one.parts))]
  // Where no load takes it, a pull-up does: that of what hangs on the pin.
  const on = overs.flatMap(({ host }) => usesByHost(wiring).get(host) ?? [])
  const several = overs.length > 1
  const gives = way === 'source' ? 'give' : 'take'
  report({
    severity: isFault ? 'fault' : 'caution',
    at: [...overs.map(({ host }) => host.end), ...parts.filter((one) => one !== 'a resistor')],
    message: several ? 'alike' : 'pin',
    data: {
      pins: overs.map(({ host }) => host.end),
      gives: several ? gives : `${gives}s`,
      milliamps: shown(milliamps),
      names: listWords(parts.length > 0 ? parts : on.map((use) => use.end)),
      limit: limitOf(first),
    },
    why: `${limitWords(limits)} ${isFault ? 'Above the limit the output stage is destroyed, at once or after some weeks.' : 'It will live, but its levels sag and the chip grows warm.'}`,
    numbers: { milliamps: twoDigits(milliamps), ...numbersOf(limits) },
    propose: () => (several ? lighterAll(wiring, overs) : lighter(wiring, first.host, limits)),
  })
}

/** A junction straight on a pin of which nobody says what it gives at most: more than it bears, whatever that is. */
function sayUnlimited(wiring: Wiring, report: (one: Report) => void): void {
  for (const { host, way, parts } of unlimitedPins(wiring)) {
    const { recommended, absolute } = host.current ?? {}
    report({
      severity: 'fault',
      at: [host.end, ...parts],
      message: 'unlimited',
      data: { pin: host.end, gives: way === 'source' ? 'gives' : 'takes', names: listWords(parts) },
      why: `A junction conducts as soon as it has its few tenths of a volt, and takes whatever comes. ${host.current ? limitWords(host.current) : ''} A resistor in series sets the current: for the base of a small transistor 1 kΩ is usual.`,
      numbers: {
        ...(recommended === undefined ? {} : { recommended }),
        ...(absolute === undefined ? {} : { absolute }),
      },
    })
  }
}

/** A base without a resistor on a supply, at a contact or at the output of a part. */
function sayBareBases(wiring: Wiring, report: (one: Report) => void): void {
  for (const { part, base, from } of bareBases(wiring))
    report({
      severity: 'fault',
      at: [base, from],
      message: 'unlimited',
      data: { pin: from, gives: 'gives', names: base },
      why: 'A junction conducts as soon as it has its few tenths of a volt, and takes whatever comes: the transistor is destroyed, or what feeds it. A resistor in series sets the current: for the base of a small transistor 1 kΩ is usual.',
      numbers: {},
      propose: () => companionOffers(wiring, part, ({ series }) => series !== undefined && base.endsWith(`.${series}`)),
    })
}

/** Larger resistors on all the pins in one step. */
function lighterAll(wiring: Wiring, overs: readonly Over[]): Fix[] {
  const each = overs.map(({ host, limits }) => lighter(wiring, host, limits)[0])
  const mends = each.flatMap((one) => one ?? [])
  return mends.length < overs.length
    ? mends.slice(0, 1)
    : [{ title: `${mends[0]?.title}, and so on the other pins`, edits: mends.flatMap(({ edits }) => edits) }]
}

const limitWords = (limits: PinCurrent): string =>
  [
    limits.recommended === undefined ? '' : `${limits.recommended} mA is recommended`,
    limits.absolute === undefined ? '' : `${limits.absolute} mA must not be passed`,
  ]
    .filter((one) => one !== '')
    .join(', ')
    .concat('.')

const numbersOf = ({ recommended, absolute }: PinCurrent): Record<string, number> => ({
  ...(recommended === undefined ? {} : { recommended }),
  ...(absolute === undefined ? {} : { absolute }),
})

/** Larger resistors for what lights on this pin, or other pins for the rest. */
function lighter(wiring: Wiring, host: Host, limits: PinCurrent) {
  const wanted = limits.recommended ?? limits.absolute
  const lights = litDiodes(wiring).filter((one) => one.host === host)
  const share = wanted === undefined ? undefined : wanted / Math.max(1, lights.length)
  return [
    ...lights.flatMap((one) =>
      one.resistor && share !== undefined && one.milliamps > share
        ? setOhms(wiring, one.resistor, ((one.volts - one.forward) / share) * 1000)
        : [],
    ),
    ...wiring.signals.flatMap((use) => {
      const series = wiring.parts.find(
        (part) => part.part.helper === 'resistor' && use.hosts[0]?.via.includes(part.ref),
      )
      const volts = host.logicVolts
      return series && volts !== undefined && wanted !== undefined && use.hosts[0]?.host === host && lights.length === 0
        ? setOhms(wiring, series, (volts / wanted) * 1000)
        : []
    }),
    ...wiring.signals
      .filter((use) => use.hosts.some((one) => one.host === host))
      .slice(1)
      .flatMap((use) => rewire(wiring, use)),
  ]
}
