import { type Circuit, circuitOf, type DriverChannel, type Element, railOf, railWords } from '../circuit/circuit.ts'
import { isTurned } from '../circuit/lit.ts'
import { drivenLoads } from '../circuit/loads.ts'
import { deadLegs } from '../circuit/reach.ts'
import { verdictsOf } from '../circuit/verdicts.ts'
import type { Net, PartInstance, Wiring } from '../wiring/model.ts'
import { UnionFind } from '../wiring/unionFind.ts'
import type { Report, Rule } from './finding.ts'
import { takeOut } from './mend.ts'
import { listWords } from './shared.ts'

const names: Readonly<Record<Element['kind'], string>> = {
  resistor: 'a resistor',
  diode: 'a diode',
  contact: 'a contact',
  shunt: 'a shunt',
  winding: 'a winding',
  load: 'a load',
  capacitor: 'a capacitor',
}

export const loadReturn: Rule = {
  meta: {
    id: 'load-return',
    severities: ['fault'],
    about:
      'Both legs of a load, a lamp or a contact lie on one piece of metal, or a leg leads nowhere: nothing flows through it, or it changes nothing.',
    fixable: true,
  },
  check(wiring, report) {
    const circuit = circuitOf(wiring)
    let outside: ((end: string) => string) | undefined
    const wired = new Set(wiring.plan.wires.flatMap(([from, to]) => [from, to]))
    for (const part of wiring.parts) {
      if (part.part.build !== 'component') continue
      const bridged = part.part.inner.filter(
        (inner) => inner.kind === 'join' && inner.between.every((pin) => wired.has(`${part.ref}.${pin}`)),
      )
      for (const inner of bridged) {
        const [a, b] = inner.between.map((pin) => `${part.ref}.${pin}`) as [string, string]
        outside ??= byWires(wiring)
        const net = wiring.netOf(a)
        // Two legs of one piece may carry a wire on; here they join what must stay apart, or leave the contact out.
        const other = part.part.inner.find((one) => one.kind === 'contact' || one.kind === 'switch')
        const left = other?.between.map((pin) => wiring.netOf(`${part.ref}.${pin}`)).find((one) => one !== net)
        if (outside(a) === outside(b) || !other || left?.wired || !meets(wiring, net.ends)) continue
        report({
          severity: 'fault',
          at: [a, b, part.ref],
          message: `${a} and ${b} are two legs of one piece: ${part.ref} joins them for good, pressed or not.`,
          why: 'Legs on one side of such a part belong together; the contact lies between the two sides. Take a leg of the other side, or two that lie across.',
          numbers: {},
          propose: () => takeOut(wiring, (one, two) => one === b || two === b),
        })
      }
    }
    const dead = new Map<string, Element>()
    for (const one of circuit.elements) {
      if (one.netA !== one.netB) {
        for (const leg of deadLegs(circuit, one)) dead.set(leg, one)
        continue
      }
      if (!one.netA.wired) continue
      // Channels of one chip side by side, or a capacitor inside a module, are no mistake of the maker's.
      if ((one.part.part.build !== 'component' && one.kind !== 'shunt') || one.kind === 'capacitor') continue
      const rail = railOf(one.netA)
      report({
        severity: 'fault',
        at: [one.a, one.b],
        message: `Both legs of ${one.part.ref} are joined, so that ${one.kind === 'contact' ? 'closing it changes nothing' : 'nothing flows through it'}.`,
        why: `${one.part.ref} is ${names[one.kind]} between ${one.a} and ${one.b}; both lie on ${rail ? (rail.source ? rail.source.end : 'ground') : 'one piece of wire'}.`,
        numbers: {},
        propose: () => [one.b, one.a].flatMap((end) => takeOut(wiring, (x, y) => x === end || y === end)).slice(0, 2),
      })
    }
    sayDeadEnds(wiring, dead, report)
    sayCrossedCoils(circuit, report)
    for (const { element, channels, source } of drivenLoads(circuit)) {
      if (source || channels.length < 2 || channels.some(({ facts }) => facts.supply !== undefined)) continue
      report({
        severity: 'fault',
        at: [element.a, element.b, ...channels.map(({ output }) => output)],
        message: `${element.part.ref} lies between ${listWords(channels.map(({ output }) => output))}, which only pull to ground: no current ever flows.`,
        why: 'Outputs of this kind are switches to ground. The other lead of the load goes to its supply; to turn round, a bridge is needed.',
        numbers: {},
      })
    }
  },
}

/** Windings across two bridges of which each has a coil of its own; one finding a motor. */
function sayCrossedCoils(circuit: Circuit, report: (one: Report) => void): void {
  const byPart = new Map<PartInstance, string[]>()
  for (const { element, channels } of drivenLoads(circuit)) {
    const [one, two] = channels
    if (one?.facts.pair === undefined) continue
    if (!two) {
      sayHalf(element, one, report)
      continue
    }
    if (one.part !== two.part || one.facts.pair === two.facts.output) continue
    byPart.set(element.part, [...(byPart.get(element.part) ?? []), one.output, two.output])
  }
  for (const [part, outputs] of byPart) {
    const [one, two] = outputs as [string, string]
    const driver = circuit.channels.find(({ output }) => output === one) as DriverChannel
    report({
      severity: 'fault',
      at: [part.ref, ...outputs],
      message: `A winding of ${part.ref} lies between ${one} and ${two}, which belong to two coils.`,
      why: `Each coil needs the two outputs of one bridge, such as ${one} and ${driver.part.ref}.${driver.facts.pair}. Across two of them the currents of both are wrong, and the motor hums instead of turning.`,
      numbers: {},
    })
  }
}

/** A load on one of two outputs that belong together, its other leg on a rail. */
function sayHalf(element: Element, { output, part, facts }: DriverChannel, report: (one: Report) => void): void {
  const other = element.a === output || element.netA.ends.includes(output) ? element.netB : element.netA
  const rail = railOf(other)
  if (!rail) return
  const pair = `${part.ref}.${facts.pair}`
  report({
    severity: 'fault',
    at: [output, pair, element.a, element.b],
    message: `${element.part.ref} lies between ${output} and ${railWords(rail)}; it belongs between ${output} and ${pair}.`,
    why: 'The two outputs work against each other, and both rest at half the supply. A load from one of them to a rail gets a steady current that it does not bear.',
    numbers: {},
  })
}

/** Legs that have a wire and lead nowhere, one finding for each piece of metal. */
function sayDeadEnds(wiring: Wiring, dead: ReadonlyMap<string, Element>, report: (one: Report) => void): void {
  const byNet = new Map<Net, string[]>()
  for (const [leg, { part, kind }] of dead) {
    if (part.part.build !== 'component' || kind === 'capacitor') continue
    const net = wiring.netOf(leg)
    // Of a lamp that is turned round polarity speaks.
    const turned = circuitOf(wiring)
      .on(net)
      .some((one) => {
        const flow = one.lights ? verdictsOf(wiring).through(one) : undefined
        return flow !== undefined && isTurned(flow)
      })
    if (turned) continue
    byNet.set(net, [...(byNet.get(net) ?? []), leg])
  }
  for (const [net, legs] of byNet) {
    const refs = [...new Set(legs.map((leg) => leg.split('.')[0] as string))]
    const others = net.ends.filter((end) => !legs.includes(end))
    report({
      severity: 'fault',
      at: [...legs, ...others],
      message: `The current of ${listWords(refs)} finds no way back: ${listWords(legs)} ${others.length > 0 ? `${legs.length === 1 ? 'is' : 'are'} joined with ${listWords(others)}, which leads` : 'lead'} to no supply, no ground and no pin that drives.`,
      why: 'A current flows in a circle only. A wire that ends at a part, and from there leads nowhere, is as good as none.',
      numbers: {},
    })
  }
}

/** Which ends hang together by wires and boards alone, without what parts join inside. */
function byWires(wiring: Wiring): (end: string) => string {
  const sets = new UnionFind()
  for (const board of wiring.boards)
    for (const pin of board.facts.pins) sets.join(`${board.ref}.${pin.id}`, `${board.ref}.${pin.net}`)
  for (const wire of wiring.plan.wires) sets.join(wire[0], wire[1])
  return (end) => {
    sets.add(end)
    return sets.find(end)
  }
}

/** More than the part itself hangs on these ends: a pin of a board, a supply, another part. */
const meets = (wiring: Wiring, ends: readonly string[]): boolean =>
  ends.some((end) => wiring.terminal(end)?.owner.kind !== 'part')
