import { BUS_PULL_OHMS } from '../assign/pullUps.ts'
import { areOfOne, joinedLines } from '../circuit/boardLines.ts'
import { DEVICE, type I2cLine, i2cLines, LEAD, USUAL_CLOCK } from '../circuit/i2cLines.ts'
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
      const same = twin !== undefined && sidesOf(twin) === sidesOf(line)
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
      sayStrength(report, { ...line, ohms: line.ohms }, { signals, names, at, formerly, propose })
    }
  },
}

/** Ohms on all sides of a line, to tell two lines apart. */
const sidesOf = ({ ohms, beyond }: I2cLine): string =>
  [ohms ?? 0, ...beyond.map((one) => one.ohms)].map(Math.round).join(' ')

/** How a finding calls the lines of which it speaks. */
interface Called extends Pick<Report, 'at' | 'formerly' | 'propose'> {
  readonly signals: string
  readonly names: string
}

/** Pull-ups that are stronger than a device need pull low, or weaker than the clock allows, on any side of the line. */
function sayStrength(
  report: (one: Report) => void,
  line: { ohms: number; volts: number; farads: number; hertz: number; beyond: I2cLine['beyond'] },
  { signals, names, propose, ...places }: Called,
): void {
  const isStrong = ({ ohms, volts }: I2cLine['beyond'][number]): boolean => ohms < leastPullUp(volts) * 0.99
  const limit = riseLimit(line.hertz)
  const rises = ({ ohms, farads }: I2cLine['beyond'][number]): number => riseNanoseconds(ohms, farads)
  const side =
    [line, ...line.beyond].find(isStrong) ??
    (rises(line) > limit ? line : line.beyond.find((one) => rises(one) > 2 * limit))
  if (!side) return
  const sum = `${formatQuantity(side.ohms, 'Ω')} to ${formatVolts(side.volts)}`
  const least = leastPullUp(side.volts)
  if (isStrong(side))
    report({
      ...places,
      severity: 'caution',
      message: 'strong',
      data: { signals, names, sum, least: formatQuantity(least, 'Ω') },
      why: `A device must pull the line under 0.4 V and need not take more than 3 mA for it (UM10204, table 10): at ${formatVolts(side.volts)} that allows ${formatQuantity(least, 'Ω')} and more. Every module that brings its own pair makes it stronger; cut the pair of one or two of them loose.`,
      numbers: { ohms: Math.round(side.ohms), leastOhms: Math.round(least), volts: twoDigits(side.volts) },
    })
  else
    report({
      ...places,
      severity: 'caution',
      message: 'slow',
      data: {
        signals,
        names,
        rise: signals.includes(' ') ? 'rise' : 'rises',
        nanoseconds: Math.round(rises(side)),
        hertz: formatQuantity(line.hertz, 'Hz'),
        limit,
      },
      why: `The pull-ups are together ${sum} and the line is taken as ${formatQuantity(side.farads, 'F')} (10 pF a device, 20 pF a lead): t = 0.8473 · R · C. A slower clock or a stronger pair of resistors helps.`,
      numbers: { riseNanoseconds: Math.round(rises(side)), limitNanoseconds: limit, ohms: Math.round(side.ohms) },
      propose,
    })
}

/** Volts to which resistors must bring a line at least to be pull-ups at all, and none that hold it down. */
const LEAST_VOLTS = 1

/** Two boards on one bus by pins that are there for it, and nothing on it that pulls its lines up. */
function sayBoards(wiring: Wiring, report: (one: Report) => void): void {
  const all = joinedLines(wiring, 'i2c').filter(({ mine, theirs }) => mine.isOnly && theirs.isOnly)
  for (const sda of all) {
    const scl = all.find(({ mine, theirs }) => mine.line === 'scl' && theirs.line === 'scl')
    if (sda.mine.line !== 'sda' || sda.theirs.line !== 'sda' || !scl || !areOfOne(sda, scl)) continue
    const ends = [sda.mine.host.end, scl.mine.host.end]
    if (wiring.signals.some(({ hosts }) => hosts.some(({ host }) => ends.includes(host.end)))) continue
    const held = ends.map((end) => networkOf(wiring).thevenin(wiring.netOf(end)))
    const bare = ends.filter((_, index) => (held[index]?.volts ?? 0) < LEAST_VOLTS)
    const at = [...ends, sda.theirs.host.end, scl.theirs.host.end]
    const [one, two] = [sda.mine.host.ref, sda.theirs.host.ref]
    if (bare.length > 0)
      report({
        severity: 'caution',
        at,
        message: 'boards',
        data: { ends: bare, one, two },
        why: `If the two boards are to speak over I2C there: either only ever pulls the lines low, and what a program can switch on inside a pin is ten times too weak. ${formatQuantity(BUS_PULL_OHMS, 'Ω')} from each line to the lower of the two logic supplies suits short wires.`,
        numbers: {},
      })
    const [first, second] = held
    const pair =
      first && second && Math.round(first.ohms) !== Math.round(second.ohms) ? ['SDA', 'SCL'] : ['SDA and SCL']
    for (const [index, signals] of pair.entries()) {
      const line = held[index]
      if (line && bare.length === 0)
        sayStrength(
          report,
          { ...line, farads: DEVICE + 2 * (DEVICE + LEAD), hertz: USUAL_CLOCK, beyond: [] },
          { signals, names: listWords([one, two]), at },
        )
    }
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
