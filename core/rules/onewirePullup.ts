import { BUS_PULL_OHMS } from '../assign/pullUps.ts'
import { volts } from '../catalog/common.ts'
import { networkOf } from '../circuit/still.ts'
import { formatQuantity, formatVolts } from '../electrical/quantity.ts'
import type { Host, SignalUse, Wiring } from '../wiring/model.ts'
import type { Report, Rule } from './finding.ts'
import { addPull } from './mend.ts'
import { listWords, twoDigits, usesByHost } from './shared.ts'

export const onewirePullup: Rule = {
  meta: {
    id: 'onewire-pullup',
    severities: ['fault', 'caution'],
    about:
      'A single-wire line, such as 1-Wire, has no pull-up resistor, one too weak or too strong for it, or one to another voltage than its logic.',
    messages: {
      strong: 'The pull-up of {signals} is {ohms}, and {least} is the least at {volts}.',
      none: 'The line of {names} on {pin} has no pull-up resistor.',
      lowVolts: 'The line of {names} on {pin} is pulled to {volts} only.',
      weak: 'The pull-up of {names} on {pin} is {ohms}, and {most} is the most.',
    },
    limits: ['strong', 'weak'],
    lacking: ['none'],
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    for (const [host, all] of usesByHost(wiring)) {
      sayStrong(wiring, host, all, report)
      const uses = all.filter((use) => use.facts.pullMostOhms !== undefined)
      const first = uses[0]
      if (!first) continue
      const most = Math.min(...uses.map((use) => use.facts.pullMostOhms as number))
      const held = networkOf(wiring).thevenin(wiring.netOf(host.end))
      const vih = volts(host.levels.vih, host.logicVolts)
      const low = held !== undefined && vih !== undefined && held.volts < vih
      if (held && !low && held.ohms <= most * TOLERANCE) continue
      const names = listWords(uses.map((use) => use.end))
      report({
        severity: 'fault',
        at: [host.end, ...uses.map((use) => use.end)],
        message: !held ? 'none' : low ? 'lowVolts' : 'weak',
        data: {
          names,
          pin: host.end,
          volts: held && formatVolts(held.volts),
          ohms: held && formatQuantity(held.ohms, 'Ω'),
          most: formatQuantity(most, 'Ω'),
        },
        why: `Every device on such a line only pulls it low; the resistor brings it back up within a few microseconds. ${low ? `${host.end} takes ${formatVolts(vih ?? 0)} and more as high.` : `The pull-up inside a pin is ${insideWords(host.board?.board.pulls)}, too weak for that.`} ${formatQuantity(BUS_PULL_OHMS, 'Ω')} to the logic supply is usual for short leads.`,
        numbers: held
          ? { ohms: Math.round(held.ohms), volts: twoDigits(held.volts), mostOhms: most }
          : { mostOhms: most },
        propose: () => addPull(wiring, first, 'up', BUS_PULL_OHMS),
      })
    }
  },
}

/** Resistors of 5 % are what a kit holds. */
const TOLERANCE = 1.05

/** A pull-up that takes more than an open drain on the line sinks when it pulls low. */
function sayStrong(wiring: Wiring, host: Host, all: readonly SignalUse[], report: (one: Report) => void): void {
  const uses = all.filter(({ facts }) => facts.sinkMilliamps !== undefined && !facts.needs.startsWith('i2c.'))
  const [first] = uses
  const held = first && networkOf(wiring).thevenin(wiring.netOf(first.end))
  // Through a lamp the line has no resistance of its own.
  if (!held || held.ohms <= 0) return
  const sinks = Math.min(...uses.map(({ facts }) => facts.sinkMilliamps as number))
  // To be pulled under 0.4 V the line may take no more than the weakest output sinks.
  const least = ((held.volts - 0.4) / sinks) * 1000
  if (held.ohms >= least * 0.99) return
  report({
    severity: 'caution',
    at: [host.end, ...uses.map((use) => use.end)],
    message: 'strong',
    data: {
      signals: uses.map((use) => use.end),
      ohms: formatQuantity(held.ohms, 'Ω'),
      least: formatQuantity(least, 'Ω'),
      volts: formatVolts(held.volts),
    },
    why: `Whoever speaks on the line pulls it to ground against this resistor; it would have to sink ${Math.round(((held.volts - 0.4) / held.ohms) * 1000)} mA and is good for ${sinks} mA. The low level becomes too high to be read.`,
    numbers: { ohms: Math.round(held.ohms), leastOhms: Math.round(least), sinkMilliamps: sinks },
  })
}

const insideWords = (pulls: { upLeast: number; upMost: number } | undefined): string =>
  pulls ? `${formatQuantity(pulls.upLeast, 'Ω')} to ${formatQuantity(pulls.upMost, 'Ω')}` : 'tens of kilohms'
