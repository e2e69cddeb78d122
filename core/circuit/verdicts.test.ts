import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { wiringOf } from '../testing/plans.ts'
import { times } from '../testing/times.ts'
import { type Known, trueStates } from '../testing/trueStates.ts'
import { circuitOf } from './circuit.ts'
import { verdictsOf } from './verdicts.ts'

/** Parts with two legs, by what the other solver knows of them. */
const kinds = {
  resistor: (ohms: number) => ({ entry: { part: 'resistor', options: { ohms } }, legs: ['1', '2'], known: { ohms } }),
  red: () => ({ entry: { part: 'led', options: { colour: 'red' } }, legs: ['A', 'K'], known: { drop: 2 } }),
  white: () => ({ entry: { part: 'led', options: { colour: 'white' } }, legs: ['A', 'K'], known: { drop: 3.2 } }),
  // 0.7 V at a signal's current, 1 V at 0.2 A.
  diode: () => ({
    entry: { part: 'diode', options: { model: '1n4148' } },
    legs: ['A', 'K'],
    known: { drop: 0.7, slope: 0.3 / 0.2 },
  }),
  button: () => ({ entry: { part: 'button' }, legs: ['1', '2'], known: { contact: true } }),
} as const

const nodes = ['5V', '3V3', 'GND', 'D3', 'D4', 'X1', 'X2', 'X3'] as const
type Node = (typeof nodes)[number]

const part = fc.oneof(
  { weight: 4, arbitrary: fc.constantFrom(100, 330, 1000, 4700, 22_000).map(kinds.resistor) },
  { weight: 2, arbitrary: fc.constant(kinds.red()) },
  { weight: 1, arbitrary: fc.constant(kinds.white()) },
  { weight: 1, arbitrary: fc.constant(kinds.diode()) },
  { weight: 1, arbitrary: fc.constant(kinds.button()) },
)
const small = fc
  .array(fc.record({ part, a: fc.constantFrom(...nodes), b: fc.constantFrom(...nodes) }), {
    minLength: 1,
    maxLength: 6,
  })
  .map((all) => all.filter(({ a, b }) => a !== b))
  // Two rails joined by a contact are one rail, of which other rules speak.
  .filter((all) => all.length > 0 && !all.some((one) => 'contact' in one.part.known && isRail(one.a) && isRail(one.b)))

const isRail = (node: Node): boolean => node === '5V' || node === '3V3' || node === 'GND'

/** The circuit as a plan: each node of its own is the first leg that touches it. */
function planned(all: readonly { part: ReturnType<(typeof kinds)[keyof typeof kinds]>; a: Node; b: Node }[]) {
  const first = new Map<Node, string>()
  const wires: string[] = []
  const join = (node: Node, end: string): void => {
    const at = node.startsWith('X') ? first.get(node) : `MCU.${node}`
    if (at === undefined) first.set(node, end)
    else wires.push(`${end} ${at}`)
  }
  all.forEach(({ part: { legs }, a, b }, index) => {
    join(a, `T${index}.${legs[0]}`)
    join(b, `T${index}.${legs[1]}`)
  })
  return wiringOf({
    mcu: 'uno-r3',
    parts: Object.fromEntries(all.map(({ part: { entry } }, index) => [`T${index}`, entry])),
    wires: wires.join(', '),
  })
}

describe('no verdict is optimistic, and none far off', () => {
  it('on random small circuits, against a solver that tries everything', () => {
    let compared = 0
    fc.assert(
      fc.property(small, (all) => {
        const wiring = planned(all)
        const verdicts = verdictsOf(wiring)
        const circuit = circuitOf(wiring)
        const roleOf = (pin: string) => circuit.ports.get(`MCU.${pin}`)?.role
        const truth = trueStates(
          all.map(({ part: { known }, a, b }) => ({ a, b, ...(known as Known) })),
          { '5V': 5, '3V3': 3.3, GND: 0 },
          ['D3', 'D4'].flatMap((pin) => {
            const role = roleOf(pin)
            return role === undefined || role === 'in' ? [] : [{ node: pin, high: 5, ohms: 27, turns: role !== 'out' }]
          }),
        )
        for (const node of nodes) {
          const net = wiring.netOf(node.startsWith('X') ? (firstLeg(all, node) ?? 'MCU.GND') : `MCU.${node}`)
          const range = truth.volts.get(node)
          const verdict = verdicts.of(net)
          if (!range || !verdict?.verdict.enumerated) continue
          compared += 1
          expect(verdict.most?.volts).toBeCloseTo(range.most, 1)
          expect(verdict.least?.volts).toBeCloseTo(range.least, 1)
        }
        circuit.elements.forEach((element) => {
          const index = Number(element.part.ref.slice(1))
          const flow = verdicts.through(element)
          const true_ = truth.amps[index]
          if (!flow?.verdict.enumerated || !true_) return
          compared += 1
          for (const [said, is] of [
            [flow.forward, Math.max(0, true_.most * 1000)],
            [flow.back, Math.max(0, -true_.least * 1000)],
          ] as const) {
            if (is > 5000) expect(said).toBeGreaterThan(2000)
            else {
              expect(said).toBeGreaterThanOrEqual(is * 0.995 - 0.002)
              expect(said).toBeLessThanOrEqual(is * 1.02 + 0.01)
            }
          }
        })
      }),
      { numRuns: times(1500) },
    )
    expect(compared).toBeGreaterThan(1000)
  })
})

describe('islands by hand', () => {
  const most = (wires: string, parts: Record<string, string>, end: string): number | undefined => {
    const wiring = wiringOf({ mcu: 'uno-r3', parts, wires })
    return verdictsOf(wiring).of(wiring.netOf(end))?.most?.volts
  }
  it('a change-over switch brings its middle to either pin', () => {
    const wires = 'S.C MCU.3V3, S.1 MCU.3, S.3 MCU.4'
    // Either pin may drive 5 V, which then stands against the supply: 3.3 V come from the switch alone.
    expect(most(wires, { S: 'slide-switch' }, 'MCU.D3')).toBeGreaterThan(3.29)
    expect(most(wires, { S: 'slide-switch' }, 'MCU.D4')).toBeGreaterThan(3.29)
  })
  it('a lamp row floats in the middle while nothing drives it', () => {
    const wiring = wiringOf({
      mcu: 'uno-r3',
      parts: { L: 'led', R: 'resistor' },
      wires: 'L.A R.1, R.2 MCU.3, L.K MCU.GND',
    })
    const [start] = verdictsOf(wiring).of(wiring.netOf('L.A'))?.verdict.states ?? []
    expect(start?.volts(wiring.netOf('L.A').index)).toBeUndefined()
  })
})

const firstLeg = (
  all: readonly { part: { legs: readonly string[] }; a: Node; b: Node }[],
  node: Node,
): string | undefined => {
  for (const [index, one] of all.entries()) {
    if (one.a === node) return `T${index}.${one.part.legs[0]}`
    if (one.b === node) return `T${index}.${one.part.legs[1]}`
  }
  return undefined
}
