import { BUS_PULL_OHMS } from '../assign/pullUps.ts'
import { areOfOne, joinedLines } from '../circuit/boardLines.ts'
import { i2cLines } from '../circuit/i2cLines.ts'
import { networkOf } from '../circuit/still.ts'
import { leastPullUp, riseLimit, riseNanoseconds } from '../electrical/i2c.ts'
import { formatQuantity, formatVolts } from '../electrical/quantity.ts'
import { applyEdits, type Fix } from '../plan/edit.ts'
import type { SignalUse, Wiring } from '../wiring/model.ts'
import type { Report, Rule } from './finding.ts'
import { addPull } from './mend.ts'
import { listWords, twoDigits } from './shared.ts'

export const i2cPullup: Rule = {
  meta: {
    id: 'i2c-pullup',
    severities: ['fault', 'caution'],
    about:
      'An I2C line without pull-up resistors is a fault; all of them together too strong to be pulled low, or too weak to rise in time, is a caution.',
    messages: {
      none: '{signals} of {names} {have} no pull-up resistor.',
      boards: 'Nothing pulls {ends} up, where I2C of {one} and {two} is joined.',
      strong: 'The pull-ups on {signals} of {names} are together {sum}, stronger than {least}.',
      slow: '{signals} of {names} {rise} in about {nanoseconds} ns, and {hertz} allow {limit} ns.',
    },
    limits: ['strong', 'slow'],
    lacking: ['none'],
    fixable: true,
  },
  check(wiring, report) {
    sayBoards(wiring, report)
    const lines = i2cLines(wiring)
    for (const line of lines) {
      const twin = lines.find((one) => one !== line && one.parts === line.parts)
      const same = twin !== undefined && Math.round(twin.ohms ?? 0) === Math.round(line.ohms ?? 0)
      if (same && line.signal === 'SCL') continue
      const signals = same ? 'SDA and SCL' : line.signal
      const refs = line.parts.map((part) => part.ref)
      const names = listWords(refs)
      const both = same && twin ? [line, twin] : [line]
      const at = [...both.map(({ host }) => host.end), ...refs]
      const formerly = [...(same ? ['SDA', 'SCL'] : [line.signal]), ...refs]
      const propose = (): readonly Fix[] =>
        addPulls(
          wiring,
          both.map(({ use }) => use),
        )
      // A module that has no supply yet brings its pull-ups along when it has; of the supply another rule speaks.
      if (line.ohms === undefined) {
        if (line.parts.some(({ mode, logicVolts }) => mode?.i2c?.pullUpOhms && logicVolts === undefined)) continue
        report({
          severity: 'fault',
          at,
          formerly,
          message: 'none',
          data: { signals, names, have: same ? 'have' : 'has' },
          why: `Devices on an I2C bus only ever pull the lines low; a resistor to the supply brings them back up. None of the modules here carries one, and the pull-up inside a pin is ten times too weak. ${formatQuantity(BUS_PULL_OHMS, 'Ω')} suits short wires.`,
          numbers: { devices: line.parts.length },
          propose,
        })
        continue
      }
      const least = leastPullUp(line.volts)
      const rise = riseNanoseconds(line.ohms, line.farads)
      const limit = riseLimit(line.hertz)
      const sum = `${formatQuantity(line.ohms, 'Ω')} to ${formatVolts(line.volts)}`
      if (line.ohms < least * 0.99)
        report({
          severity: 'caution',
          at,
          formerly,
          message: 'strong',
          data: { signals, names, sum, least: formatQuantity(least, 'Ω') },
          why: `A device must pull the line under 0.4 V and need not take more than 3 mA for it (UM10204, table 10): at ${formatVolts(line.volts)} that allows ${formatQuantity(least, 'Ω')} and more. Every module that brings its own pair makes it stronger; cut the pair of one or two of them loose.`,
          numbers: { ohms: Math.round(line.ohms), leastOhms: Math.round(least), volts: twoDigits(line.volts) },
        })
      else if (rise > limit)
        report({
          severity: 'caution',
          at,
          formerly,
          message: 'slow',
          data: {
            signals,
            names,
            rise: same ? 'rise' : 'rises',
            nanoseconds: Math.round(rise),
            hertz: formatQuantity(line.hertz, 'Hz'),
            limit,
          },
          why: `The pull-ups are together ${sum} and the line is taken as ${formatQuantity(line.farads, 'F')} (10 pF a device, 20 pF a lead): t = 0.8473 · R · C. A slower clock or a stronger pair of resistors helps.`,
          numbers: { riseNanoseconds: Math.round(rise), limitNanoseconds: limit, ohms: Math.round(line.ohms) },
          propose,
        })
    }
  },
}

/** Two boards on one bus by pins that are there for it, and nothing on it that pulls its lines up. */
function sayBoards(wiring: Wiring, report: (one: Report) => void): void {
  const all = joinedLines(wiring, 'i2c').filter(({ mine, theirs }) => mine.isOnly && theirs.isOnly)
  for (const sda of all) {
    const scl = all.find(({ mine, theirs }) => mine.line === 'scl' && theirs.line === 'scl')
    if (sda.mine.line !== 'sda' || sda.theirs.line !== 'sda' || !scl || !areOfOne(sda, scl)) continue
    const ends = [sda.mine.host.end, scl.mine.host.end]
    const bare = ends.filter((end) => networkOf(wiring).pulled(wiring.netOf(end)) === undefined)
    const isSpoken = wiring.signals.some(({ hosts }) => hosts.some(({ host }) => ends.includes(host.end)))
    if (bare.length === 0 || isSpoken) continue
    report({
      severity: 'caution',
      at: [...ends, sda.theirs.host.end, scl.theirs.host.end],
      message: 'boards',
      data: { ends: bare, one: sda.mine.host.ref, two: sda.theirs.host.ref },
      why: `If the two boards are to speak over I2C there: either only ever pulls the lines low, and what a program can switch on inside a pin is ten times too weak. ${formatQuantity(BUS_PULL_OHMS, 'Ω')} from each line to the lower of the two logic supplies suits short wires.`,
      numbers: {},
    })
  }
}

/** One fix that gives each of the lines a resistor. */
function addPulls(wiring: Wiring, uses: readonly SignalUse[]): Fix[] {
  let now = wiring
  const fixes: Fix[] = []
  for (const use of uses) {
    const [fix] = addPull(now, use, 'up', BUS_PULL_OHMS)
    if (!fix) return []
    fixes.push(fix)
    now = { ...now, plan: applyEdits(now.plan, fix.edits) }
  }
  const [first] = fixes
  if (!first) return []
  return [
    {
      title:
        fixes.length > 1 ? `Add two resistors of ${formatQuantity(BUS_PULL_OHMS, 'Ω')} to the supply` : first.title,
      edits: fixes.flatMap((fix) => fix.edits),
    },
  ]
}
