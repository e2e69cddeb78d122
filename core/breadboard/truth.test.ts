import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { assign } from '../assign/assign.ts'
import { applyEdits } from '../plan/edit.ts'
import { splitEnd } from '../plan/ends.ts'
import type { Bench, Breadboard, Plan } from '../plan/planSchema.ts'
import { writeCsv } from '../sheets/csv.ts'
import type { Sheet } from '../sheets/rows.ts'
import { makeSheet } from '../sheets/sheet.ts'
import { catalog, planOf } from '../testing/plans.ts'
import { randomKit, randomWiring } from '../testing/randomPlans.ts'
import { samplePlans } from '../testing/samples.ts'
import { times } from '../testing/times.ts'
import { metalOf, Pieces, readLegs, readWires } from '../testing/wiringTable.ts'
import type { Wiring } from '../wiring/model.ts'
import { resolve } from '../wiring/resolve.ts'
import { layOut } from './layout.ts'
import { Placement, type Placer } from './placing.ts'
import { suggestBreadboards } from './suggest.ts'

const breadboard: fc.Arbitrary<Breadboard> = fc.record(
  {
    kind: fc.constantFrom('full', 'half', 'mini'),
    rails: fc.constantFrom('continuous', 'split'),
    plus: fc.constantFrom('left', 'right', 'outer', 'inner'),
    joined: fc.boolean(),
  },
  { requiredKeys: ['kind'] },
)
const bench: fc.Arbitrary<Bench> = fc
  .record({ boards: fc.array(breadboard, { minLength: 1, maxLength: 3 }), spareRows: fc.nat({ max: 2 }) })
  .map(({ boards, spareRows }) => ({
    breadboards: Object.fromEntries(boards.map((entry, index) => [`BB${index + 1}`, entry])),
    places: {},
    spareRows,
    done: [],
  }))

/** First row of the second half of a cut rail, as it lies on such breadboards. */
const cutOf =
  (plan: Plan) =>
  (ref: string): number | undefined => {
    const entry = plan.bench!.breadboards[ref]
    return entry?.rails === 'split' ? (entry.kind === 'full' ? 33 : 13) : undefined
  }

/** Joins that are there before any wire: holes of one net inside a board, pins joined inside a part. */
function joinInside(pieces: Pieces, wiring: Wiring): void {
  for (const board of wiring.boards)
    for (const pin of board.facts.pins) pieces.join(`${board.ref}.${pin.id}`, `${board.ref} inside ${pin.net}`)
  for (const part of wiring.parts)
    for (const inner of part.part.inner)
      if (inner.kind === 'join') pieces.join(`${part.ref}.${inner.between[0]}`, `${part.ref}.${inner.between[1]}`)
}

/** Placed and settled once, so that many plans can be tried. */
const once: Placer = (room) => {
  const placement = new Placement(room, 0)
  placement.settle(0, undefined)
  return placement.placeIn(room)
}

/** What is wrong with the printed table of a plan; nothing when it builds exactly the plan's nets. */
function untruths(plan: Plan, placer?: Placer): string[] {
  const wiring = resolve(plan, catalog)
  const layout = layOut(wiring, placer)
  const sheet = makeSheet(wiring, layout)
  const cut = cutOf(plan)
  const wires = readWires(writeCsv(sheet, 'wiring'), cut)
  const legs = readLegs(writeCsv(sheet, 'legs'))
  const wrong: string[] = []

  const holes = [...legs.map(({ hole }) => hole), ...wires.flatMap((wire) => wire.holes)].filter((hole) =>
    /\.(?:[a-j]|[LR][+-])\d+$/.test(hole),
  )
  for (const hole of new Set(holes.filter((one, at) => holes.indexOf(one) !== at))) wrong.push(`twice in ${hole}`)

  const pieces = new Pieces()
  joinInside(pieces, wiring)
  for (const { end, hole } of legs) pieces.join(end, metalOf(hole, cut))
  for (const { a, b } of wires) pieces.join(a, b)
  for (const { ref, onto, pins } of sheet.plugs)
    for (const { pin, post } of pins) pieces.join(`${ref}.${pin}`, `${onto}.${post}`)

  const out = new Set([
    ...layout.blocked.map(({ end }) => end),
    ...layout.units
      .filter(({ ref }) => layout.stray.some((one) => one.ref === ref))
      .flatMap(({ ref }) => wiring.nets.flatMap((net) => net.ends.filter((end) => end.startsWith(`${ref}.`)))),
  ])
  const byPiece = new Map<string, number>()
  for (const net of wiring.nets) {
    const ends = net.ends.filter((end) => !out.has(end))
    const roots = new Set(ends.map((end) => pieces.find(end)))
    if (roots.size > 1 && !layout.gaps.some((gap) => gap.net === net.index))
      wrong.push(`${ends.join(', ')} are in ${roots.size} pieces`)
    for (const root of roots) {
      const other = byPiece.get(root)
      if (other !== undefined && other !== net.index)
        wrong.push(`${net.ends[0]} hangs together with ${wiring.nets[other]!.ends[0]}`)
      byPiece.set(root, net.index)
    }
  }
  return [...wrong, ...liveTooEarly(wiring, sheet, wires, legs, cut, out)]
}

/** Sources that reach anything of their net before the step in which that net is finished. */
function liveTooEarly(
  wiring: Wiring,
  sheet: Sheet,
  wires: ReturnType<typeof readWires>,
  legs: ReturnType<typeof readLegs>,
  cut: (ref: string) => number | undefined,
  out: ReadonlySet<string>,
): string[] {
  const wrong: string[] = []
  const isOverHeader = (ref: string): boolean =>
    wiring.parts.some((part) => part.ref === ref && part.part.plugsOn.length > 0)
  const pieces = new Pieces()
  joinInside(pieces, wiring)
  for (let step = 1; step <= sheet.steps.length; step += 1) {
    const { title, places = [] } = sheet.steps[step - 1]!
    for (const { end, hole } of legs) if (places.includes(splitEnd(end).ref)) pieces.join(end, metalOf(hole, cut))
    for (const wire of wires) if (wire.step === step) pieces.join(wire.a, wire.b)
    for (const { ref, onto, pins } of sheet.plugs)
      for (const { pin, post } of pins)
        if (title === (isOverHeader(ref) ? 'Over the header' : 'Plugs')) pieces.join(`${ref}.${pin}`, `${onto}.${post}`)
    for (const net of wiring.nets) {
      if (!net.wired) continue
      const ends = net.ends.filter((end) => !out.has(end))
      const complete = new Set(ends.map((end) => pieces.find(end))).size === 1
      if (complete) continue
      for (const { ref, end: pin } of net.sources) {
        if (out.has(pin)) continue
        const early = ends.find((end) => !end.startsWith(`${ref}.`) && pieces.find(end) === pieces.find(pin))
        if (early) wrong.push(`after step ${step} ${pin} feeds ${early} while its net is unfinished`)
      }
    }
  }
  return wrong
}

describe('the printed tables rebuild the plan', () => {
  it.each(['t6', 'screw', 'unknown'])('with a breakout over the header of a computer, built as %s', (kind) => {
    const plan = planOf({
      mcu: 'pi-40',
      parts: { X: { part: 'breakout-40', options: { kind } }, B: 'bme280', S: 'button', D: 'pca9685', M: 'servo-sg90' },
      supplies: { PACK: { volts: 5 } },
      wires:
        'B.VCC MCU.3V3, B.GND X.GND, B.SDA X.GPIO2, B.SCL MCU.GPIO3, B.CSB B.VCC, S.1 X.GPIO17, S.2 MCU.GND, D.VCC X.3V3, D.GND X.GND, D.SDA X.SDA, D.SCL X.SCL, D.V+ PACK.+, PACK.- MCU.GND, M.SIG D.PWM3, M.VCC PACK.+, M.GND D.GND',
    })
    const laid = applyEdits(plan, suggestBreadboards(plan, catalog))
    expect(untruths(laid)).toEqual([])
    const wiring = resolve(laid, catalog)
    const sheet = makeSheet(wiring, layOut(wiring))
    // The posts are covered by the breakout, and the servo has a plug of its own.
    const ends = sheet.wiring.flatMap(({ from, to }) => [from.ref, to.ref])
    expect(ends).not.toContain('MCU')
    expect(ends).not.toContain('M')
    expect(sheet.plugs.map(({ ref, onto }) => [ref, onto])).toEqual([
      ['X', 'MCU'],
      ['M', 'D'],
    ])
  })
  it.each([
    ['one output', 'half', 'B.VCC S.3V3'],
    ['both outputs', 'half', 'B.VCC S.3V3, M.VCC S.5V, MCU.VIN S.5V'],
    ['both outputs over cut rails', 'split', 'B.VCC S.3V3, M.VCC S.5V, MCU.VIN S.5V'],
    ['no rails', 'mini', 'B.VCC S.3V3, M.VCC S.5V'],
  ])('with a supply module over the rails: %s', (_, kind, fed) => {
    const plan = planOf({
      mcu: 'esp32-devkit-30',
      parts: { S: 'breadboard-supply', B: 'bme280', M: 'servo-sg90' },
      wires: `${fed}, B.GND S.GND, MCU.GND S.GND, M.GND S.GND, B.SDA MCU.GPIO21, B.SCL MCU.GPIO22, B.CSB B.VCC, B.SDO B.GND, M.SIG MCU.GPIO13`,
    })
    const entry: Breadboard = kind === 'split' ? { kind: 'full', rails: 'split' } : { kind: kind as 'half' | 'mini' }
    const laid: Plan = { ...plan, bench: { breadboards: { BB1: entry, BB2: entry }, places: {}, done: [] } }
    expect(untruths(laid)).toEqual([])
    const layout = layOut(resolve(laid, catalog))
    const stands = kind !== 'mini'
    expect(layout.seats.has('S')).toBe(stands)
    expect(layout.wires.some(({ a, b }) => [a.end, b.end].some((end) => end?.startsWith('S.')))).toBe(!stands)
  })
  it.each(samplePlans.map(({ plan }) => [plan.title, plan] as const))('%s', (_, plan) => {
    const laid = applyEdits(plan, suggestBreadboards(plan, catalog))
    expect(untruths(laid)).toEqual([])
  })
  it('for kits that the search has wired, on any board and breadboards', () => {
    fc.assert(
      fc.property(randomKit, bench, (kit, breadboards) => {
        const answer = assign(resolve(kit, catalog))
        const plan = { ...applyEdits(kit, answer.edits), bench: breadboards }
        expect(untruths(plan, once)).toEqual([])
      }),
      { numRuns: times(80) },
    )
  }, 120_000)
  it('for wires between any two ends, sensible or not', () => {
    fc.assert(
      fc.property(randomWiring, bench, (wired, breadboards) => {
        expect(untruths({ ...wired, bench: breadboards }, once)).toEqual([])
      }),
      { numRuns: times(400) },
    )
  }, 120_000)
})
