import { describe, expect, it } from 'vitest'
import { metalOf } from '../bringup/metal.ts'
import type { Bench, Breadboard } from '../plan/planSchema.ts'
import { benchPicture } from '../sheets/benchPicture.ts'
import { writeBenchSvg } from '../sheets/benchSvg.ts'
import { drawnSteps } from '../sheets/pages.ts'
import { makeSheet } from '../sheets/sheet.ts'
import { wiringOf } from '../testing/plans.ts'
import type { Wiring } from '../wiring/model.ts'
import { columnOf, rowOf } from './grid.ts'
import { layOut } from './layout.ts'
import { Hand, mayLieBeside, turnedPlace } from './moving.ts'
import { railWords } from './overRails.ts'
import { placeOf } from './seats.ts'
import type { Layout } from './workbench.ts'

const full: Breadboard = { kind: 'full' }
const bench = (places: Bench['places'] = {}, breadboards: Bench['breadboards'] = { BB1: full }): Partial<Bench> => ({
  places,
  breadboards,
})

/** A climate sensor on 3.3 V of the module, a servo on its 5 V; `more` are wires besides. */
const laid = (more = '', own: Partial<Bench> = bench(), mcu = 'pico'): { wiring: Wiring; layout: Layout } => {
  const wiring = wiringOf({
    mcu,
    parts: { S: 'breadboard-supply', B: 'bme280', M: 'servo-sg90' },
    wires: `B.GND S.GND, MCU.GND S.GND, M.GND S.GND${more ? `, ${more}` : ''}`,
    bench: own,
  })
  return { wiring, layout: layOut(wiring) }
}
const both = 'B.VCC S.3V3, M.VCC S.5V'
const seatOf = ({ layout }: { layout: Layout }) => layout.seats.get('S')
const legsOf = ({ layout }: { layout: Layout }): string[] =>
  (layout.seats.get('S')?.legs ?? []).map(({ pin, hole }) => `${pin} ${layout.grid.name(hole)}`)

describe('a supply module over the rails', () => {
  it('changes nothing for a board that feeds: its wire comes last', () => {
    const wiring = wiringOf({
      mcu: 'pico',
      parts: { B: 'bme280', C: 'bme280' },
      wires: 'B.VCC MCU.3V3, C.VCC MCU.3V3, B.GND MCU.GND, C.GND MCU.GND',
      bench: bench(),
    })
    const { steps } = makeSheet(wiring, layOut(wiring))
    expect(steps.find(({ title }) => title.startsWith('Supply'))?.text).toContain('that wire comes last')
  })
  it('feeds each plus rail with the output whose net it carries, and both minus rails', () => {
    const one = laid(both)
    expect(legsOf(one).map((leg) => leg.replace(/\d+$/, ''))).toEqual([
      expect.stringMatching(/BB1\.L\+$/),
      'GND BB1.L-',
      expect.stringMatching(/BB1\.R\+$/),
      'GND BB1.R-',
    ])
    expect(railWords(seatOf(one)!)).toMatch(/^left plus rail (5V|3V3), right plus rail (5V|3V3)$/)
    expect(new Set(legsOf(one).map((leg) => leg.split(' ')[0]))).toEqual(new Set(['5V', '3V3', 'GND']))
  })
  it('has the same output on both sides where only one is used', () => {
    const one = laid('B.VCC S.3V3')
    expect(legsOf(one).map((leg) => leg.split(' ')[0])).toEqual(['3V3', 'GND', '3V3', 'GND'])
    expect(railWords(seatOf(one)!)).toBe('left plus rail 3V3, right plus rail 3V3')
  })
  it('is off on the side where a board feeds the rail', () => {
    const wiring = wiringOf({
      mcu: 'pico',
      parts: { S: 'breadboard-supply', B: 'bme280', C: 'bme280', D: 'bme280', M: 'servo-sg90' },
      wires:
        'B.GND S.GND, MCU.GND S.GND, M.GND S.GND, M.VCC S.5V, B.VCC MCU.3V3, C.VCC MCU.3V3, D.VCC MCU.3V3, C.GND S.GND, D.GND S.GND',
      bench: bench(),
    })
    const layout = layOut(wiring)
    expect(railWords(layout.seats.get('S')!)).toBe('left plus rail 5V, right plus rail off')
    expect(layout.seats.get('S')!.legs).toHaveLength(3)
  })
  it.each([
    ['feeds nothing', '', bench()],
    ['there are no rails', both, bench({}, { BB1: { kind: 'mini' }, BB2: { kind: 'mini' } })],
    ['each breadboard has rails on one side only', both, bench({}, { BB1: full, BB2: { ...full, joined: true } })],
    ['the maker laid it beside', both, bench({ S: { beside: true } })],
    ['the maker gave it a place beside', both, bench({ S: { side: 'right', row: 20 } })],
  ])('lies beside, on wires, where %s', (_, wires, own) => {
    const one = laid(wires, own)
    expect(seatOf(one)).toBeUndefined()
    expect(one.layout.clashes).toEqual([])
  })
  it('lies beside where its room is needed', () => {
    const cramped = bench({}, { BB1: { kind: 'half' } })
    const parts = { S: 'breadboard-supply', X1: '74hc595' }
    const wires = 'MCU.GND S.GND, X1.GND S.GND, X1.VCC S.5V'
    const layout = layOut(wiringOf({ mcu: 'nano-v3', parts, wires, bench: cramped }))
    expect(layout.stray).toEqual([])
    expect(layout.asides.has('S')).toBe(true)
    // With more room it goes on.
    expect(layOut(wiringOf({ mcu: 'nano-v3', parts, wires, bench: bench() })).seats.has('S')).toBe(true)
  })
  it('leaves the rows alone that the maker keeps free', () => {
    const kept = (reserved: [number, number][]) =>
      seatOf(laid(both, bench({}, { BB1: { ...full, reserved } }), 'esp8266-d1-mini'))
    expect(kept([])!.turned).toBe(false)
    expect(kept([[1, 8]])!.turned).toBe(true)
    expect(kept([[10, 12]])!.turned).toBe(false)
  })
  it('stands at the end at which no board has its cable, and the board at the other', () => {
    const pico = laid(both)
    expect(seatOf(pico)!.turned).toBe(true)
    expect(rowOf(pico.layout.seats.get('MCU')!.at!)).toBe(1)
    const c3 = laid(both, bench(), 'esp8266-d1-mini')
    expect(seatOf(c3)!.turned).toBe(false)
    expect(Math.max(...c3.layout.seats.get('MCU')!.legs.map(({ hole }) => rowOf(hole)))).toBe(63)
  })
  it('covers the holes under its body, and nothing stands there', () => {
    const { layout } = laid(both)
    const seat = layout.seats.get('S')!
    const under = new Set([...seat.covers, ...seat.shades])
    const taken = [
      ...[...layout.seats.values()]
        .filter(({ ref }) => ref !== 'S')
        .flatMap(({ legs }) => legs.map(({ hole }) => hole)),
      ...layout.wires.flatMap(({ holeA, holeB }) => [holeA, holeB]),
    ]
    expect(taken.filter((hole) => hole !== undefined && under.has(hole))).toEqual([])
    expect([...under].some((hole) => columnOf(hole) === 4)).toBe(true)
  })
  it('goes on in the last step, its jumpers told; no wire feeds what it feeds', () => {
    const { wiring, layout } = laid(both)
    const { steps, wiring: rows } = makeSheet(wiring, layout)
    expect(steps.at(-1)).toMatchObject({ title: 'S over the rails', places: ['S'], wires: [] })
    expect(steps.at(-1)!.text).toContain(railWords(layout.seats.get('S')!))
    expect(steps.slice(0, -1).some(({ places }) => places?.includes('S'))).toBe(false)
    expect(steps.some(({ title }) => title.startsWith('Feed'))).toBe(false)
    expect(steps.find(({ title }) => title.startsWith('Supply'))!.text).toBe(
      'Not yet joined with S.5V; that comes last.',
    )
    expect(rows.some(({ from, to }) => from.ref === 'S' || to.ref === 'S')).toBe(false)
  })
  it('is metal in every rail that it stands in', () => {
    const { wiring, layout } = laid(both)
    const { joints } = metalOf(wiring, layout)
    const words = joints.filter(({ kind }) => kind === 'leg').map((joint) => joint.words)
    expect(words.filter((one) => one.startsWith('S.GND in'))).toHaveLength(2)
  })
  it('has the names of its legs apart from each other in the drawing', () => {
    const { wiring, layout } = laid(both)
    const body = benchPicture(wiring, layout, makeSheet(wiring, layout)).bodies.find(({ ref }) => ref === 'S')!
    const names = body.ink.flatMap((ink) => (ink.is === 'text' && ink.role === 'pin' ? [ink] : []))
    expect(names).toHaveLength(4)
    for (const [at, one] of names.entries())
      for (const two of names.slice(at + 1))
        expect(Math.abs(one.x - two.x) > 3 || Math.abs(one.y - two.y) > 0.5).toBe(true)
    // Its body lies over the end of the breadboard.
    expect(body.top + body.height).toBeGreaterThan(64)
  })
  it('is on the printed drawings from its own step on, and what is only said has none', () => {
    const { wiring, layout } = laid(both)
    const sheet = makeSheet(wiring, layout)
    const picture = benchPicture(wiring, layout, sheet)
    const shows = (step: number | undefined): boolean =>
      />S<\/text>/.test(writeBenchSvg(picture, { title: 'x', ...(step ? { step } : {}) }).text)
    expect(shows(undefined)).toBe(true)
    expect(sheet.steps.map(({ number }) => shows(number))).toEqual([...sheet.steps.slice(1).map(() => false), true])
    expect(drawnSteps(sheet).map(({ title }) => title)).toEqual(
      sheet.steps.map(({ title }) => title).filter((title) => title !== 'Look at these first'),
    )
  })
  it('stays where the maker put it, and says why it cannot', () => {
    const top = laid(both, bench({ S: { at: 'BB1.L+3' } }))
    expect(seatOf(top)!.turned).toBe(false)
    expect(top.layout.kept.has('S')).toBe(true)
    const clash = (at: string) => laid(both, bench({ S: { at } })).layout.clashes.map(({ text }) => text)
    expect(clash('BB1.a5')).toEqual(['there is no rail hole BB1.a5'])
    expect(laid('', bench({ S: { at: 'BB1.L+3' } })).layout.clashes.map(({ text }) => text)).toEqual([
      'the rails there are not those that it would feed',
    ])
  })
  it('is moved by hand to the other end, and may lie beside', () => {
    const { wiring, layout } = laid(both, bench({}, { BB1: full, BB2: full }))
    const hand = new Hand(wiring, layout, 'S')
    expect(hand.canStand).toBe(true)
    expect(mayLieBeside(layout, 'S')).toBe(true)
    const x = layout.grid.boards[1]!.x
    const upper = hand.seatNear(x, 4)!
    expect(placeOf(layout.grid, upper)).toEqual({ at: 'BB2.L+3' })
    expect(hand.seatNear(x, 50)!.turned).toBe(true)
    expect(turnedPlace(wiring, layout, 'S')).toMatch(/^S cannot be turned there: /)
    const other = laid(both, bench({ MCU: { at: 'BB1.c30' }, B: { at: 'BB1.a20' } }))
    expect(turnedPlace(other.wiring, other.layout, 'S')).toEqual({ at: 'BB1.L+3' })
  })
})
