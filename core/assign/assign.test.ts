import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyEdits } from '../plan/edit.ts'
import { check } from '../rules/index.ts'
import { catalog, planOf, wiringOf } from '../testing/plans.ts'
import { randomKit, randomWiring } from '../testing/randomPlans.ts'
import { times } from '../testing/times.ts'
import { resolve } from '../wiring/resolve.ts'
import { assign } from './assign.ts'
import { blockWords } from './block.ts'
import { candidates } from './candidates.ts'
import { Matching, NONE } from './matching.ts'
import { neaten } from './neatness.ts'
import { openSignals, prepare } from './preparing.ts'
import { swapPartners, swapSignals } from './rewire.ts'
import { fitAll, search } from './search.ts'
import { SearchProblem } from './searchProblem.ts'

describe('matching', () => {
  it('costs no more than any other matching, and its prices prove it', () => {
    const problem = fc
      .tuple(fc.array(fc.integer({ min: 1, max: 3 }), { minLength: 1, maxLength: 4 }), fc.nat(25))
      .chain(([capacity, none]) =>
        fc.record({
          capacity: fc.constant(capacity),
          none: fc.constant(none),
          cost: fc.array(
            fc.array(fc.oneof(fc.integer({ min: -20, max: 30 }), fc.constant(Number.POSITIVE_INFINITY)), {
              minLength: capacity.length,
              maxLength: capacity.length,
            }),
            { minLength: 1, maxLength: 5 },
          ),
        }),
      )
    fc.assert(
      fc.property(problem, ({ capacity, none, cost }) => {
        const cheapest = (row: number, room: readonly number[]): number =>
          row === cost.length
            ? 0
            : Math.min(
                none + cheapest(row + 1, room),
                ...cost[row]!.map((one, column) =>
                  room[column]! > 0
                    ? one +
                      cheapest(
                        row + 1,
                        room.map((left, at) => (at === column ? left - 1 : left)),
                      )
                    : Number.POSITIVE_INFINITY,
                ),
              )
        const matching = Matching.empty(capacity)
        for (const costs of cost) matching.add({ costs: Float64Array.from(costs), none })
        const columns = matching.columns()
        capacity.forEach((room, column) => {
          expect(columns.filter((one) => one === column).length).toBeLessThanOrEqual(room)
        })
        const sum = columns.reduce((all, column, row) => all + (column === NONE ? none : cost[row]![column]!), 0)
        expect(sum).toBe(cheapest(0, capacity))
        expect(matching.total()).toBe(sum)
        // What the rows pay at these prices, less the prices of all places, is the same sum: the dual of the problem.
        for (const prices of [matching.prices(), matching.highPrices()]) {
          const paid = cost.map((row) => Math.min(none, ...row.map((one, column) => one + prices[column]!)))
          const held = capacity.reduce((all, room, at) => all + room * prices[at]!, 0)
          expect(paid.reduce((all, one) => all + one, 0) - held).toBe(sum)
        }
      }),
      { numRuns: times(400) },
    )
  })
})

describe('candidates', () => {
  const judged = (short: Parameters<typeof wiringOf>[0], end: string) => {
    const wiring = wiringOf(short)
    return candidates(wiring, wiring.signal(end)!)
  }
  it('puts the usual bus pins first and says why', () => {
    const best = judged({ parts: { A: 'ds3231' } }, 'A.SDA')[0]!
    expect([best.host.end, best.for]).toEqual(['MCU.GPIO21', ['usual I2C 0 pin']])
  })
  it('joins a bus that is there', () => {
    const short = { parts: { A: 'ds3231', B: 'bme280' }, wires: 'A.SDA MCU.D32, A.SCL MCU.D33' }
    const list = judged(short, 'B.SDA')
    expect([list[0]!.host.end, list[0]!.for]).toEqual(['MCU.GPIO32', ['shares the bus with A']])
  })
  it.each([
    ['K.W', { parts: { K: 'potentiometer' } }, 'MCU.GPIO23', 'not analog'],
    ['K.W', { uses: ['wifi'], parts: { K: 'potentiometer' } }, 'MCU.GPIO25', 'WiFi takes it'],
    ['L.A', { parts: { L: 'led' } }, 'MCU.GPIO34', 'input only'],
    ['B.1', { parts: { B: 'button' } }, 'MCU.GPIO3', 'USB serial'],
    ['B.1', { parts: { B: 'button', C: 'button' }, wires: 'C.1 MCU.D4' }, 'MCU.GPIO4', 'C.1'],
    ['B.1', { parts: { B: 'button', X: 'mcp23017' } }, 'X.GPA7', 'output only'],
    ['H.OUT', { mcu: 'uno-r3', parts: { H: 'hall-a3144' } }, 'MCU.D7', 'no interrupt'],
    ['S.DT', { parts: { S: 'hx711' }, wires: 'S.VCC MCU.VIN' }, 'MCU.GPIO4', '5.0 V into 3.6 V'],
  ])('%s: %j blocks %s: %s', (end, short, host, reason) => {
    const block = judged(short, end).find((one) => one.host.end === host)?.blocked
    expect(block && blockWords(block)).toBe(reason)
  })
  it.each([
    [12, 'Q.S P.+', '5.0 V is a low there, 11.6 V a high'],
    [12, 'Q.S P.+, R.1 Q.G, R.2 Q.S', 'pulled up to 12.0 V, into 5.5 V'],
    [7.6, 'Q.S P.+', '5.0 V is a low there, 7.2 V a high'],
    // Between low and high: the checks speak of it.
    [7.4, 'Q.S P.+', undefined],
    [5.5, 'Q.S P.+, R.1 Q.G, R.2 Q.S', undefined],
    [5.6, 'Q.S P.+, R.1 Q.G, R.2 Q.S', 'pulled up to 5.6 V, into 5.5 V'],
  ])('the gate of a switch in the plus at %s V, %s: %s', (at, wires, reason) => {
    const parts = { Q: 'pmos', R: { part: 'resistor', options: { ohms: 10_000 } } }
    const short = { mcu: 'uno-r3', supplies: { P: { volts: at } }, parts, wires: `${wires}, P.- MCU.GND` }
    const block = judged(short, 'Q.G').find((one) => one.host.end === 'MCU.D7')?.blocked
    expect(block && blockWords(block)).toBe(reason)
  })
  it('judges every pin of the board, and expander pins as pins', () => {
    const list = judged({ parts: { B: 'button', X: 'mcp23017' } }, 'B.1')
    expect(list.filter((one) => one.host.ref === 'X')).toHaveLength(16)
    for (const one of list) expect(one.blocked !== undefined || one.for.length + one.against.length > 0).toBe(true)
  })
  it('offers no expander pin for what must be timed to microseconds', () => {
    const wiring = wiringOf({
      parts: { MORE: 'mcp23017', PROBE: 'ds18b20-probe' },
      wires: `MORE.VDD MCU.3V3, MORE.VSS MCU.GND, MORE.SDA MCU.21, MORE.SCL MCU.22`,
    })
    const found = candidates(wiring, wiring.signal('PROBE.DQ')!).filter(({ host }) => host.provider)
    expect(found.length).toBeGreaterThan(0)
    expect(new Set(found.map(({ blocked }) => blocked?.kind))).toEqual(new Set(['slow']))
  })
})

describe('assign', () => {
  it('feeds parts whose straps lie on one wire, with a knob on it or none', () => {
    for (const knob of ['', ', K.W P.A0']) {
      const wiring = wiringOf({
        mcu: 'uno-r3',
        parts: { P: 'pcf8574', Q: 'pcf8574', K: 'potentiometer', L: 'potentiometer' },
        wires: `P.A0 Q.A0${knob}, L.W K.3`,
      })
      const done = resolve(applyEdits(wiring.plan, assign(wiring).edits), catalog)
      for (const ref of ['P', 'Q']) expect(done.netOf(`${ref}.VDD`).sources[0]?.end).toBe('MCU.5V')
    }
  })

  it('wires a kit completely: supplies, grounds, straps, buses, signals', () => {
    const plan = planOf({
      parts: { A: 'bme280', B: { part: 'bme280', options: { address: 0x77 } }, R: 'sx1276', L: 'led', S: 'button' },
      unused: ['R.DIO1'],
    })
    const result = assign(resolve(plan, catalog))
    expect(result).toMatchObject({ status: 'placed', unplaced: [] })
    expect(check(resolve(applyEdits(plan, result.edits), catalog))).toEqual([])
  })

  it('says why something finds no pin', () => {
    const plan = planOf({ mcu: 'uno-r3', parts: { A: 'hall-a3144', B: 'hall-a3144', C: 'hall-a3144' } })
    const result = assign(resolve(plan, catalog))
    expect(result.status).toBe('partial')
    expect(result.unplaced).toHaveLength(1)
    expect(result.unplaced[0]?.reasons.join()).toMatch(/no interrupt/)
  })

  it('says which voltages keep a bus from being placed', () => {
    const plan = planOf({ mcu: 'uno-r3', parts: { R: 'sx1276' }, unused: ['R.DIO1'] })
    const { unplaced } = assign(resolve(plan, catalog))
    expect(unplaced.find((one) => one.end === 'R.SCK')?.reasons).toEqual(['SPI: 5.0 V into 3.9 V'])
    expect(unplaced.find((one) => one.end === 'R.NSS')?.reasons[0]).toMatch(/^18 pins: 5.0 V into 3.9 V/)
  })

  it('says which address stands in the way', () => {
    const plan = planOf({ mcu: 'uno-r3', parts: { A: 'ds3231', B: 'ds3231' } })
    const { unplaced } = assign(resolve(plan, catalog))
    expect(unplaced.map((one) => one.end)).toEqual(['B.SCL', 'B.SDA'])
    expect(unplaced[0]?.reasons[0]).toMatch(/0x68 is taken by A|taken by another part/)
  })

  it('uses expander pins when the board has no more', () => {
    const buttons = Object.fromEntries(Array.from({ length: 20 }, (_, index) => [`B${index}`, 'button']))
    const plan = planOf({ mcu: 'uno-r3', parts: { X: 'mcp23017', ...buttons } })
    const result = assign(resolve(plan, catalog))
    expect(result.status).toBe('placed')
    expect(result.placed.some((one) => one.to.startsWith('X.GP'))).toBe(true)
  })

  it('lets two signals change places, resistors and all, and changes back', () => {
    const wiring = wiringOf({
      parts: { L: 'led', R: { part: 'resistor', options: { ohms: 330 } }, B: 'button', K: 'potentiometer' },
      wires: 'L.A R.1, R.2 MCU.25, L.K MCU.GND, B.1 MCU.26, B.2 MCU.GND, K.W MCU.34',
    })
    const [lamp, button] = [wiring.signal('L.A')!, wiring.signal('B.1')!]
    // The knob’s pin cannot drive, and the lamp’s is no pin for a knob here.
    expect(swapPartners(wiring, lamp).map((use) => use.end)).toEqual(['B.1'])
    const swapped = resolve(applyEdits(wiring.plan, swapSignals(wiring, lamp, button)!), catalog)
    expect(swapped.signal('L.A')?.hosts[0]?.host.end).toBe('MCU.GPIO26')
    expect(swapped.signal('B.1')?.hosts[0]?.host.end).toBe('MCU.GPIO25')
    expect(swapped.signal('L.A')?.hosts[0]?.via).toEqual(['R'])
    const back = swapSignals(swapped, swapped.signal('L.A')!, swapped.signal('B.1')!)!
    expect(new Set(applyEdits(swapped.plan, back).wires.map(String))).toEqual(new Set(wiring.plan.wires.map(String)))
  })

  it('pays less for being neat than it gains, and lays a part’s signals side by side where that costs nothing', () => {
    const plan = planOf({ parts: { W: 'hx711', A: 'button', B: 'button', L: 'led' } })
    const result = assign(resolve(plan, catalog))
    const wiring = resolve(applyEdits(plan, result.edits), catalog)
    const spots = ['W.DT', 'W.SCK'].map((end) => {
      const host = wiring.signal(end)!.hosts[0]!.host
      return host.board!.facts.pin(host.end.slice(4))!
    })
    expect(spots[0]!.header).toBe(spots[1]!.header)
    expect(Math.abs(spots[0]!.position - spots[1]!.position)).toBe(1)
    fc.assert(
      fc.property(randomKit, (kit) => {
        const { wiring: fed } = prepare(resolve(kit, catalog))
        const problem = new SearchProblem(fed, openSignals(fed))
        const { best } = search(problem)
        const neat = neaten(problem, best)
        const price = (arrangement: typeof best): number => {
          const paid = new Map<string, number>()
          for (const { use, host, lane } of arrangement.placed) {
            const single = problem.singles.find((one) => one.name === use.end)
            const choices = lane ? problem.choicesOn(lane, use) : (single?.choices ?? [])
            const extra = choices.find((one) => one.host === host)?.extra ?? 0
            // What the parts on a line share is paid once, as the dearest of them has it.
            const key = lane ? host.end : use.end
            paid.set(key, Math.max(paid.get(key) ?? Number.NEGATIVE_INFINITY, extra))
          }
          return [...paid.values()].reduce((sum, points) => sum + points, 0)
        }
        expect(price(neat.arrangement) - price(best)).toBeCloseTo(neat.paid, 0)
        expect(neat.after - neat.before).toBeGreaterThanOrEqual(neat.paid - 0.1)
        const hosts = neat.arrangement.placed.filter((one) => !one.lane).map((one) => one.host.end)
        expect(new Set(hosts).size).toBe(hosts.length)
      }),
      { numRuns: times(30) },
    )
  })

  it('brings no new fault, moves no wire, and gives the same answer twice', () => {
    fc.assert(
      fc.property(fc.oneof(randomKit, randomWiring), (plan) => {
        const before = resolve(plan, catalog)
        const result = assign(before)
        expect(result.edits.every((edit) => edit.do === 'connect' || edit.do === 'add-part')).toBe(true)
        const after = applyEdits(plan, result.edits)
        expect(after.wires.slice(0, plan.wires.length)).toEqual(plan.wires)
        expect(assign(resolve(plan, catalog))).toEqual(result)
        if (plan.wires.every((wire) => wire.some((end) => typeof end === 'string' && /^R\d+\./.test(end)))) {
          const known = new Set(check(before).map((one) => one.message))
          const faults = check(resolve(after, catalog)).filter(
            // What a plan's supplies can give is for the maker to say.
            (one) => one.severity === 'fault' && one.rule !== 'supply-budget' && !known.has(one.message),
          )
          const placedRefs = new Set(result.unplaced.map((one) => one.end.split('.')[0]))
          expect(
            faults.filter((one) => !one.at.some((at) => placedRefs.has(at.split('.')[0]))).map((one) => one.message),
          ).toEqual([])
        }
      }),
      { numRuns: times(60) },
    )
  })
})

it.each([...catalog.boards.keys()])('a small kit is placed on %s without a fault', (board) => {
  const plan = planOf({
    boards: { MCU: { board } },
    supplies: { PACK: { volts: 5, limitMilliamps: 3000 } },
    // The 40-pin module's posts give 50 µA: not enough for an LED.
    parts: {
      B: 'bme280',
      O: 'ssd1306',
      ...(board === 'jetson-nano-40' ? {} : { L: 'led' }),
      S: 'button',
      V: 'servo-sg90',
      P: 'hc-sr501',
    },
  })
  const result = assign(resolve(plan, catalog))
  expect(result.unplaced).toEqual([])
  const placed = resolve(applyEdits(plan, result.edits), catalog)
  expect(
    check(placed)
      // A board may bring some lines out as pads only; the pull-ups of the Mega end a little above what 3.3 V modules bear.
      .filter((one) => one.severity !== 'tip' && one.rule !== 'end-mismatch')
      .filter((one) => board !== 'mega-2560-r3' || one.rule !== 'level-damage' || one.severity === 'fault')
      .map((one) => one.message),
  ).toEqual([])
})

describe('proof', () => {
  const kit = (gps: number, oleds: number) => {
    const many = (count: number, stem: string, part: string) =>
      Object.fromEntries(Array.from({ length: count }, (_, at) => [`${stem}${at + 1}`, part]))
    const parts = {
      ...many(gps, 'GPS', 'gps-uart'),
      ...many(oleds, 'OLED', 'mlx90614'),
      ...many(6, 'THERMO', 'max31855'),
    }
    const { wiring } = prepare(resolve(planOf({ mcu: 'teensy-4-1', parts }), catalog))
    const problem = new SearchProblem(wiring, openSignals(wiring))
    return { found: search(problem), fit: fitAll(problem) }
  }
  it('is found that a bus and a UART want the same pins, so that one part stays without', () => {
    // Eight UARTs, of which one lies on the pins of the third I2C bus.
    const { found, fit } = kit(8, 3)
    expect(found.proven).toBe(true)
    expect(found.best.left.length).toBe(1)
    expect(fit.isWhole).toBe(false)
  })
  it.each([
    [7, 3],
    [8, 2],
  ])('and that all fit with one less: %i and %i', (gps, oleds) => {
    const { found, fit } = kit(gps, oleds)
    expect(found.best.left).toEqual([])
    expect(fit).toEqual({ isWhole: true, left: [] })
  })
})

describe('what a pin costs', () => {
  /** Points for single signals by the table in `docs/assignment.md`: a hundred for each that is placed, and what it spends. */
  const costOf = (short: Parameters<typeof wiringOf>[0]): number => assign(wiringOf(short)).cost

  it('is a hundred points for a signal that finds a pin with nothing against it', () => {
    const one = costOf({ mcu: 'uno-r3', parts: { B: 'button' } })
    const two = costOf({ mcu: 'uno-r3', parts: { B: 'button', C: 'button' } })
    expect([Math.floor(one / 100), Math.floor(two / 100)]).toEqual([1, 2])
    expect(two - one).toBeCloseTo(100, -1)
  })
})

describe('a card that never lets go of MISO', () => {
  const orders = [
    ['S', 'A', 'B'],
    ['A', 'S', 'B'],
    ['A', 'B', 'S'],
  ] as const
  const kinds = { S: 'microsd', A: 'sx1276', B: 'rc522' } as const
  it.each(orders)('has a controller to itself, the others share one: %s, %s, %s', (...order) => {
    const result = assign(
      wiringOf({ mcu: 'esp32-devkit-30', parts: Object.fromEntries(order.map((ref) => [ref, kinds[ref]])) }),
    )
    const at = (end: string): string | undefined => result.placed.find(({ from }) => from === end)?.to
    expect(result).toMatchObject({ unplaced: [], optimal: true })
    expect(at('A.MISO')).toBe(at('B.MISO'))
    expect(at('S.MISO')).toMatch(/^MCU\./)
    expect(at('S.MISO')).not.toBe(at('A.MISO'))
  })
  it('leaves no place for others where there is one controller, and two of them none for each other', () => {
    for (const other of ['sx1276', 'microsd']) {
      const result = assign(wiringOf({ mcu: 'uno-r3', parts: { S: 'microsd', A: other } }))
      expect(result.optimal).toBe(true)
      expect(new Set(result.unplaced.map(({ end }) => end.split('.')[0])).size, other).toBe(1)
    }
  })
})

describe('a pin that must be low while the board starts', () => {
  const blockAt = (part: string, end: string, options = {}) => {
    const wiring = wiringOf({
      mcu: 'esp8266-d1-mini',
      parts: { S: { part, options } },
      wires: 'S.VCC MCU.3V3, S.GND MCU.GND',
    })
    const use = wiring.signal(end)!
    return candidates(wiring, use).find(({ host }) => host.pin === 'GPIO15')?.blocked?.kind
  }
  it('is nothing for a line that a resistor of the module or of the answer pulls up', () => {
    expect(blockAt('dht22', 'S.DATA', { kind: 'bare' })).toBe('strap')
    expect(blockAt('dht22', 'S.DATA', { kind: 'board' })).toBe('strap')
  })
  it('will do for a line that is low at rest', () => {
    expect(blockAt('hc-sr04p', 'S.TRIG')).toBeUndefined()
  })
})
