import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { reserveOf } from '../circuit/reserve.ts'
import { dividerFor } from '../electrical/divider.ts'
import { solve } from '../electrical/network.ts'
import { preferredValue } from '../electrical/preferred.ts'
import { formatQuantity, formatVolts } from '../electrical/quantity.ts'
import { catalog, wiringOf } from '../testing/plans.ts'
import { plainWiring } from '../testing/randomPlans.ts'
import { times } from '../testing/times.ts'
import { resolve } from './resolve.ts'

describe('resolve', () => {
  it('puts every end into exactly one net, and joined ends into the same', () => {
    fc.assert(
      fc.property(plainWiring, (plan) => {
        const wiring = resolve(plan, catalog)
        const ends = wiring.nets.flatMap((net) => net.all)
        expect(new Set(ends).size).toBe(ends.length)
        for (const wire of plan.wires) expect(wiring.netOf(wire[0])).toBe(wiring.netOf(wire[1]))
        // Independent reader: flood from each end over wires and inner joins.
        const links = [...plan.wires.map((wire) => [wire[0], wire[1]] as const), ...innerJoins(plan)]
        for (const net of wiring.nets.slice(0, 12)) {
          const seen = new Set([net.all[0]!])
          for (let grown = true; grown; ) {
            grown = false
            for (const [a, b] of links) {
              if (seen.has(a) === seen.has(b)) continue
              seen.add(a).add(b)
              grown = true
            }
          }
          expect([...seen].sort()).toEqual([...net.all].sort())
        }
      }),
      { numRuns: times(60) },
    )
  })

  it('knows what feeds a board, and which rails come alive', () => {
    const usb = wiringOf({})
    expect(usb.boards[0]?.feed).toBe('usb')
    expect(usb.netOf('MCU.VIN').sources.map((source) => source.end)).toEqual(['MCU.VIN'])
    const packed = wiringOf({ supplies: { PACK: { volts: 5 } }, wires: 'PACK.+ MCU.VIN' })
    expect(packed.boards[0]?.feed).toBe('VIN')
    expect(packed.netOf('MCU.VIN').sources.map((source) => source.end)).toEqual(['PACK.+'])
    expect(packed.netOf('MCU.3V3').sources[0]?.volts).toBe(3.3)
  })

  it('lets a first board feed a second', () => {
    const wiring = wiringOf({
      boards: { A: { board: 'uno-r3' }, B: { board: 'esp32-devkit-30' } },
      wires: 'A.5V B.VIN, A.GND B.GND',
    })
    expect(wiring.boards.map((board) => board.feed)).toEqual(['usb', 'VIN'])
  })

  it('follows a supply through contacts in rows and columns, each once', () => {
    const all = Array.from({ length: 49 }, (_, at) => `K${Math.floor(at / 7)}${at % 7}`)
    const rows = all.filter((ref) => !ref.endsWith('0')).map((ref) => `${ref}.1 ${ref.slice(0, 2)}0.1`)
    const columns = all.filter((ref) => ref[1] !== '0').map((ref) => `${ref}.2 K0${ref[2]}.2`)
    const wiring = (more: string) =>
      wiringOf({
        parts: { ...Object.fromEntries(all.map((ref) => [ref, 'reed-switch'])), B: 'bme280' },
        wires: ['K00.1 MCU.3V3', ...rows, ...columns, more].join(', '),
      })
    expect(wiring('B.GND MCU.GND').netOf('K66.1').sources).toEqual([])
    const fed = wiring('B.GND MCU.GND, K60.1 B.VCC')
    expect(fed.netOf('B.VCC').sources.map(({ end }) => end)).toEqual(['MCU.3V3'])
  })
  it('follows a signal through its resistor', () => {
    const wiring = wiringOf({ parts: { L: 'led', R: 'resistor' }, wires: 'L.A R.1, R.2 MCU.D4' })
    expect(wiring.signal('L.A')).toMatchObject({ state: 'placed', hosts: [{ host: { end: 'MCU.GPIO4' }, via: ['R'] }] })
    expect(wiringOf({ parts: { L: 'led', R: 'resistor' }, wires: 'L.A R.1' }).signal('L.A')).toMatchObject({
      state: 'open',
      tail: 'R.2',
      lacksSeries: false,
    })
    expect(wiringOf({ parts: { L: 'led' } }).signal('L.A')).toMatchObject({ state: 'open', lacksSeries: true })
  })

  it('finds buses and their controllers', () => {
    const wiring = wiringOf({
      parts: { A: 'sx1276', P: 'epaper-2in9' },
      wires: 'A.SCK MCU.18, P.CLK MCU.18, A.MOSI MCU.23, P.DIN MCU.23, A.MISO MCU.19',
    })
    expect(wiring.buses.map((bus) => [bus.kind, bus.controller, bus.parts.map((part) => part.ref)])).toEqual([
      ['spi', 'spi3', ['A', 'P']],
    ])
  })

  it('counts what is left', () => {
    const wiring = wiringOf({
      mcu: 'uno-r3',
      parts: { B: 'button', H: 'hall-a3144' },
      wires: 'B.1 MCU.2, H.VCC MCU.5V',
    })
    const reserve = reserveOf(wiring, wiring.boards[0])
    expect(reserve.kinds.find((kind) => kind.id === 'interrupt')).toMatchObject({ have: 2, free: 1, waiting: 1 })
    expect(reserve.supplies[0]).toMatchObject({
      typicalMilliamps: 4.4,
      peakMilliamps: 9,
      source: { end: 'MCU.5V', limitMilliamps: 400 },
    })
  })
})

function innerJoins(plan: Parameters<typeof resolve>[0]): (readonly [string, string])[] {
  const boards = Object.entries(plan.boards).flatMap(([ref, { board }]) =>
    catalog.boards
      .get(board)!
      .pins.filter((pin) => pin.joins)
      .map((pin) => [`${ref}.${pin.id}`, `${ref}.${pin.joins}`] as const),
  )
  const parts = Object.entries(plan.parts).flatMap(([ref, { part }]) =>
    catalog.parts
      .get(part)!
      .inner.filter((inner) => inner.kind === 'join')
      .map(({ between }) => [`${ref}.${between[0]}`, `${ref}.${between[1]}`] as const),
  )
  return [...boards, ...parts]
}

describe('arithmetic', () => {
  it('solves dividers of any size', () => {
    const ohms = fc.integer({ min: 1, max: 1_000_000 })
    fc.assert(
      fc.property(ohms, ohms, fc.double({ min: 0.5, max: 24, noNaN: true }), (top, bottom, volts) => {
        const solved = solve(
          [
            { a: 0, b: 1, ohms: top },
            { a: 1, b: 2, ohms: bottom },
            { a: 3, b: 4, ohms: 5 },
          ],
          new Map([
            [0, volts],
            [2, 0],
          ]),
        ).volts
        expect(solved.get(1)).toBeCloseTo((volts * bottom) / (top + bottom), 6)
        expect(solved.has(3)).toBe(false)
      }),
    )
  })
  it('balances a bridge', () => {
    const solved = solve(
      [
        { a: 0, b: 1, ohms: 100 },
        { a: 0, b: 2, ohms: 200 },
        { a: 1, b: 3, ohms: 100 },
        { a: 2, b: 3, ohms: 200 },
        { a: 1, b: 2, ohms: 50 },
      ],
      new Map([
        [0, 5],
        [3, 0],
      ]),
    ).volts
    expect(solved.get(1)).toBeCloseTo(2.5)
    expect(solved.get(2)).toBeCloseTo(2.5)
  })
  it('divides to preferred values that never bring too much', () => {
    fc.assert(
      fc.property(fc.double({ min: 3.4, max: 24, noNaN: true }), (from) => {
        const divider = dividerFor(from, 3.3, 3.6)!
        expect(divider.volts).toBeLessThanOrEqual(3.6)
        expect(divider.volts).toBeGreaterThan(2.6)
        expect(preferredValue(divider.top, 'up')).toBe(divider.top)
      }),
    )
  })
  it('shows engineering form', () => {
    expect([formatQuantity(4700, 'Ω'), formatQuantity(1e-7, 'F'), formatVolts(3.3), formatVolts(2.475)]).toEqual([
      '4.7 kΩ',
      '100 nF',
      '3.3 V',
      '2.48 V',
    ])
  })
})
