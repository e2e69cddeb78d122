import { describe, expect, it } from 'vitest'
import { applyEdits } from '../plan/edit.ts'
import { catalog, planOf, wiringOf } from '../testing/plans.ts'
import { sound } from '../testing/wiringSuite.ts'
import type { Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'
import { handRows, removal, wireByHand } from './byHand.ts'
import { wireTable } from './wireTable.ts'

const parts = { S: 'hc-sr04', L: 'led', R: 'resistor', M: 'servo-sg90' }
const wiringFrom = (wires: string): Wiring => wiringOf({ mcu: 'uno-r3', parts, wires })
const wired = (wiring: Wiring): string[] => wiring.plan.wires.map(([a, b]) => `${a} ${b}`)
/** The wires after a pin was taken where the words say, or what is wrong with them. */
const said = (wires: string, end: string, words: string): string[] | string => {
  const wiring = wiringFrom(wires)
  const answer = wireByHand(wiring, end, words)
  return answer.ok ? wired(resolve(applyEdits(wiring.plan, answer.edits), catalog)) : answer.message
}

describe('a pin goes where the maker says', () => {
  it.each([
    ['', 'S.TRIG', '10', ['S.TRIG MCU.D10']],
    ['', 'S.TRIG', 'd10', ['S.TRIG MCU.D10']],
    ['', 'S.TRIG', 'PB2', ['S.TRIG MCU.D10']],
    ['', 'S.TRIG', 'MCU.10', ['S.TRIG MCU.D10']],
    ['', 'S.VCC', '5V', ['S.VCC MCU.5V']],
    ['', 'S.GND', 'gnd', ['S.GND MCU.GND']],
    ['', 'S.TRIG', 'L A', ['S.TRIG L.A']],
    ['', 'S.TRIG', 'l.a', ['S.TRIG L.A']],
    // What was there before goes, and what hangs on the pin stays.
    ['S.TRIG MCU.D9', 'S.TRIG', '10', ['S.TRIG MCU.D10']],
    ['S.VCC MCU.3V3', 'S.VCC', '5V', ['S.VCC MCU.5V']],
    ['S.TRIG MCU.D9, R.1 S.TRIG, R.2 MCU.5V', 'S.TRIG', '10', ['R.1 S.TRIG', 'R.2 MCU.5V', 'S.TRIG MCU.D10']],
    // Beyond a resistor in series it is the resistor that moves.
    ['L.A R.1, R.2 MCU.D3', 'L.A', '6', ['L.A R.1', 'R.2 MCU.D6']],
    ['L.A R.1', 'L.A', '6', ['L.A R.1', 'R.2 MCU.D6']],
    // What is so already, and nothing said, change nothing.
    ['S.TRIG MCU.D9', 'S.TRIG', '9', ['S.TRIG MCU.D9']],
    ['S.TRIG MCU.D9', 'S.TRIG', '  ', ['S.TRIG MCU.D9']],
    ['S.GND MCU.GND.2', 'S.GND', 'GND', ['S.GND MCU.GND.2']],
    ['', 'S.TRIG', '99', '"MCU.99": uno-r3 has no pin "99"'],
    ['', 'S.TRIG', 'S.TRIG', 'S.TRIG is the pin itself; say where its wire goes'],
  ])('%s | %s: %s', (wires, end, words, result) => {
    const got = said(wires, end, words)
    if (typeof result === 'string') expect(got).toContain(result)
    else expect(got).toEqual(result)
  })

  it('a supply by its name is its plus; a hyphen leaves a pin open, and a wire takes that back', () => {
    const plan = planOf({ mcu: 'uno-r3', parts, supplies: { PACK: { volts: 6 } } })
    const wiring = resolve(plan, catalog)
    const wiredBy = (answer: ReturnType<typeof wireByHand>, from = plan) =>
      answer.ok ? applyEdits(from, answer.edits) : from
    expect(wiredBy(wireByHand(wiring, 'S.VCC', 'pack')).wires).toEqual([['S.VCC', 'PACK.+']])
    expect(wiredBy(wireByHand(wiring, 'S.GND', 'PACK.-')).wires).toEqual([['S.GND', 'PACK.-']])
    const open = wiredBy(wireByHand(wiring, 'S.ECHO', '-'))
    expect(open.unused).toEqual(['S.ECHO'])
    expect(wiredBy(wireByHand(resolve(open, catalog), 'S.ECHO', '7'), open).unused).toEqual([])
  })

  it('a locked wire is not touched, of a signal or of a supply', () => {
    const locked = wiringFrom('!S.TRIG MCU.D9, !S.VCC MCU.5V')
    for (const [end, words] of [
      ['S.TRIG', '10'],
      ['S.VCC', '3V3'],
    ] as const)
      expect(wireByHand(locked, end, words)).toEqual({
        ok: false,
        message: `the wire of ${end} is locked; unlock it first`,
      })
  })
})

describe('a table of wires is pasted', () => {
  const enter = (text: string, part?: string, wires = '') => {
    const wiring = wiringFrom(wires)
    const { edits, lines } = wireTable(wiring, text, part)
    return {
      wires: wired(resolve(applyEdits(wiring.plan, edits), catalog)),
      taken: lines.filter(({ is }) => is !== 'wrong').length,
      problems: lines.flatMap(({ is, line, message }) => (is === 'wrong' ? [`${line}: ${message}`] : [])),
    }
  }
  const sonar = ['S.VCC MCU.5V', 'S.TRIG MCU.D10', 'S.ECHO MCU.D9', 'S.GND MCU.GND']
  it.each([
    ['VCC 5V\nTRIG 10\nECHO 9\nGND GND'],
    ['VCC\t5V\nTRIG\t10\nECHO\t9\nGND\tGND'],
    ['VCC -> 5V\nTrig → D10\necho = 9\ngnd: GND'],
    ['Pin,Goes to\nVCC,5V\nTRIG,10\n\nECHO,9\nGND,GND'],
    ['5V VCC\nD10 TRIG\n9 ECHO\nGND GND'],
    ['VCC to 5V\nTRIG on 10\nECHO in 9\nGND to GND'],
  ])('%j for the part at hand', (text) => {
    expect(enter(text, 'S')).toEqual({ wires: sonar, taken: 4, problems: [] })
  })
  it.each([
    ['part,pin,to\nS,VCC,5V\nS,TRIG,10\nS,ECHO,9\nS,GND,GND'],
    ['S.VCC 5V\nS.TRIG 10\nS.ECHO 9\nS.GND GND'],
    ['5V S.VCC\nMCU.10 S.TRIG\nMCU.9 S.ECHO\nMCU.GND S.GND'],
    ['5V;S;VCC\n10;S;TRIG\n9;S;ECHO\nGND;S;GND'],
  ])('%j of a whole table', (text) => {
    expect(enter(text)).toEqual({ wires: sonar, taken: 4, problems: [] })
  })
  it('what does not fit is said by its line, and the rest is taken', () => {
    expect(enter('TRIG 10\nHUM 4\nECHO 99\nGND', 'S')).toEqual({
      wires: ['S.TRIG MCU.D10'],
      taken: 1,
      problems: [
        '2: neither "HUM" nor "4" is a pin of S',
        expect.stringContaining('3: "MCU.99": uno-r3 has no pin "99"'),
        '4: expected a pin and where it goes, such as "TRIG 10"',
      ],
    })
  })
})

it('every sound wiring can be entered pin by pin, down its parts, and comes out the same', () => {
  for (const short of sound) {
    const plan = planOf(short)
    const given = resolve(plan, catalog)
    let now = resolve({ ...plan, wires: [] }, catalog)
    for (const part of given.parts)
      for (const row of handRows(given, part))
        for (const to of plan.wires.flatMap(([a, b]) => (a === row.end ? [b] : b === row.end ? [a] : []))) {
          // A second wire of a pin that has one to a board is no change of mind here.
          if (now.netOf(row.end).wired && now.netOf(to).wired) continue
          const answer = wireByHand(now, row.end, to)
          expect(answer, `${short.title}: ${row.end} to ${to}`).toMatchObject({ ok: true })
          if (answer.ok) now = resolve(applyEdits(now.plan, answer.edits), catalog)
        }
    for (const { end, state } of given.parts.flatMap((part) => handRows(given, part)))
      if (state === 'wired') expect(now.netOf(end).wired, `${short.title}: ${end}`).toBe(true)
  }
})

describe('rows of a part', () => {
  it('stand in its own order with supplies and grounds, and lead to the pin beyond a resistor', () => {
    const wiring = wiringFrom('S.TRIG MCU.D9, S.VCC MCU.5V, L.A R.1, R.2 MCU.D3')
    const rows = (ref: string) =>
      handRows(wiring, wiring.parts.find((one) => one.ref === ref)!).map(
        ({ pin, role, to, state }) => `${pin} ${role} ${state} ${to.join(' ')}`,
      )
    expect(rows('S')).toEqual([
      'VCC supply wired MCU.5V',
      'TRIG signal wired MCU.D9',
      'ECHO signal open ',
      'GND ground open ',
    ])
    expect(rows('L')).toEqual(['A signal wired MCU.D3', 'K other open '])
  })
})

describe('a part that is taken away', () => {
  const without = (wires: string, ref: string): string[] => {
    const wiring = wiringFrom(wires)
    return wired(resolve(applyEdits(wiring.plan, removal(wiring, ref)), catalog))
  }
  it('leaves a wire where it lay in series', () => {
    expect(without('L.A R.1, R.2 MCU.D3, L.K MCU.GND', 'R')).toEqual(['L.K MCU.GND', 'L.A MCU.D3'])
  })
  it('leaves none at a rail, at one end only, or where it bridged a wire', () => {
    expect(without('R.1 S.ECHO, R.2 MCU.5V, S.ECHO MCU.D9', 'R')).toEqual(['S.ECHO MCU.D9'])
    expect(without('L.A R.1', 'R')).toEqual([])
    expect(without('L.A R.1, R.2 L.A', 'R')).toEqual([])
    expect(without('L.A MCU.D3, L.K MCU.GND', 'L')).toEqual([])
  })
})
